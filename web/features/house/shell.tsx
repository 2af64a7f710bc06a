'use client'

import { calculatorOf } from '@stone-tally/core'
import { usePathname } from 'next/navigation'
import { type ReactNode, useCallback, useEffect, useState } from 'react'
import type { KeptWall } from '@/device/db'
import { plansOf, wallHere } from '@/device/kept'
import { type DeviceSession, hasPin, sessionHere } from '@/device/session'
import { DevicePage } from '@/features/device'
import { FaultBar } from '@/features/wall/fault-bar'
import { WallProvider } from '@/features/wall/provider'
import { Bar } from '@/ui/bar'
import { Caution, LinkButton, Page, Row } from '@/ui/controls'
import { type Going, GoingProvider } from '@/ui/link'
import { KeptYard } from './kept-yard'
import { Locked } from './locked'
import { placeAt, show } from './outlet'
import { Bench, OWN, WITH_DESK } from './pages'

/** The calculator of an address of the Bench. @example benchAt('/bench/rod') // 'rod' */
const benchAt = (pathname: string): string | undefined => {
  const [, bench, name = 'rod', more] = pathname.split('/')
  return bench === 'bench' && more === undefined && calculatorOf(name) ? name : undefined
}

/** Something that stands alone on a page when nobody answers. */
const Said = ({ title, children }: { title: string; children: ReactNode }) => (
  <>
    <Bar />
    <Page>
      <h1>{title}</h1>
      {children}
    </Page>
  </>
)

/** The application without a signal: whatever this device keeps, at the address one asked for. */
export function Shell() {
  const pathname = usePathname()
  const [known, setKnown] = useState<{ is: 'open' | 'over' | 'nobody' | 'locked'; session?: DeviceSession }>()
  useEffect(() => {
    sessionHere().then(async (s) => {
      if (!s) setKnown({ is: 'nobody' })
      else if (s.is === 'open' && (await hasPin(s.session.me.id))) setKnown({ is: 'locked', session: s.session })
      else setKnown(s)
    })
  }, [])
  const going = useCallback<Going>((href) => {
    const url = new URL(href, window.location.href)
    if (url.origin !== window.location.origin) return false
    const to = placeAt(url.pathname)
    if ((to && (OWN[to.place] || WITH_DESK[to.place])) || benchAt(url.pathname) || ['/', '/device'].includes(url.pathname)) show(url)
    else window.location.assign(href)
    return true
  }, [])
  if (!known) return null
  const { session } = known
  if (known.is === 'nobody' || !session)
    return (
      <Said title="No connection">
        <p>Nobody is signed in on this device, and the house does not answer. Sign in once where there is a signal; from then on it works without.</p>
        <p>What was recorded here and not sent is still here, and goes when the person who recorded it signs in.</p>
      </Said>
    )
  if (known.is === 'over')
    return (
      <Said title="Sign in again">
        <p>
          This device has not spoken with the house for longer than the rule book lets it go on without. {session.me.name} signs in again where there
          is a signal. What waits here is kept and goes then.
        </p>
      </Said>
    )
  if (known.is === 'locked') return <Locked session={session} onOpen={() => setKnown({ is: 'open', session })} />
  return (
    <GoingProvider value={going}>
      <Kept pathname={pathname} session={session} />
    </GoingProvider>
  )
}

function Kept({ pathname, session }: { pathname: string; session: DeviceSession }) {
  const { me } = session
  const at = placeAt(pathname)
  const [wall, setWall] = useState<KeptWall | 'none'>()
  const id = at?.wall
  useEffect(() => {
    setWall(undefined)
    if (id)
      wallHere(id, me.id)
        .then((w) => setWall(w ?? 'none'))
        .catch(() => setWall('none'))
  }, [id, me.id])
  if (pathname === '/') return <KeptYard session={session} />
  if (pathname === '/device') return <DevicePage me={me} />
  const calculator = benchAt(pathname)
  if (calculator) return <Bench key={calculator} me={me} calculator={calculator} />
  if (at && wall === undefined) return null
  if (!at || wall === 'none' || !wall || wall.id !== at.wall)
    return (
      <Said title="Not on this device">
        <p>{at ? 'This wall was not opened on this device before, or not by you.' : 'This page needs the house.'} The house does not answer now.</p>
        <Row>
          <LinkButton href="/">Walls on this device</LinkButton>
        </Row>
      </Said>
    )
  return <KeptPlace key={wall.mark} kept={wall} me={me} pathname={pathname} />
}

function KeptPlace({ kept, me, pathname }: { kept: KeptWall; me: DeviceSession['me']; pathname: string }) {
  const [plans] = useState(() => plansOf(kept))
  const place = placeAt(pathname)?.place ?? ''
  const Own = OWN[place]
  const Desked = WITH_DESK[place]
  return (
    <WallProvider key={`${kept.id} ${plans.length} ${me.id}`} wall={kept.id} name={kept.desk.name} me={me} plans={plans}>
      {kept.desk.fault ? <FaultBar wall={kept.id} message={kept.desk.fault.message} looked={kept.desk.fault.looked} /> : null}
      {Own ? (
        <Own />
      ) : Desked ? (
        <Desked desk={kept.desk} />
      ) : (
        <Said title="Not on this device">
          <Caution>This place needs the house, and it does not answer now.</Caution>
        </Said>
      )}
    </WallProvider>
  )
}
