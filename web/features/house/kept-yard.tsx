'use client'

import { overviewOf, type WallOverview } from '@stone-tally/core'
import { useEffect, useState } from 'react'
import { houseNow } from '@/device/clock'
import { Folded } from '@/device/folded'
import { type Held, plansOf, wallsHere } from '@/device/kept'
import { readLog } from '@/device/log'
import { outbox } from '@/device/outbox'
import type { Me } from '@/device/recording'
import type { DeviceSession } from '@/device/session'
import { Kept, KeptLine } from '@/features/device'
import { YardRow } from '@/features/yard/yard-row'
import { Ago } from '@/ui/ago'
import { Bar } from '@/ui/bar'
import { LinkButton, Page, Problems, Row } from '@/ui/controls'
import { laidFor } from '@/ui/laid'

/** The Yard without a signal: the walls this device keeps for the person at it. */
export function KeptYard({ session }: { session: DeviceSession }) {
  const [walls, setWalls] = useState<readonly Held[]>()
  useEffect(() => {
    wallsHere(session.me.id)
      .then(setWalls)
      .catch(() => setWalls([]))
  }, [session.me.id])
  return (
    <>
      <Bar person={session.me} />
      <Page>
        <Row style={{ justifyContent: 'space-between' }}>
          <h1>Yard</h1>
          <Row>
            <LinkButton href="/bench/rod">Bench</LinkButton>
            <LinkButton href="/device">This device</LinkButton>
          </Row>
        </Row>
        <KeptLine>
          No connection: these are the walls this device keeps. {session.me.name} may go on here; the house last knew of it <Ago at={session.at} />.
        </KeptLine>
        {walls?.length === 0 ? <p>No wall was opened on this device yet. Open one where there is a signal, and it stays.</p> : null}
        {walls?.map((held) => (
          <KeptWallRow key={held.wall.id} held={held} me={session.me} />
        ))}
      </Page>
    </>
  )
}

/** The record that is kept here with what waits on it, folded once for the list. */
async function overviewHere({ wall }: Held, me: Me): Promise<WallOverview | undefined> {
  const layouts = plansOf(wall).flatMap((p) => {
    const laid = laidFor(p)
    return laid.ok ? [laid.value] : []
  })
  if (layouts.length !== wall.desk.revisions.length) return undefined
  const folded = new Folded(layouts, (w) => ({ id: me.id, name: w.ownerName ?? me.name, role: me.role }))
  await readLog(wall.id, 0, async (entries) => {
    folded.take(entries)
    await new Promise((done) => setTimeout(done, 0))
  })
  const mine = (await outbox(wall.id).all()).filter((w) => w.owner === undefined || w.owner === me.id)
  folded.wait(mine, houseNow())
  return overviewOf(folded.state, new Date(houseNow()).toISOString())
}

function KeptWallRow({ held, me }: { held: Held; me: Me }) {
  const [seen, setSeen] = useState<WallOverview>()
  const { wall } = held
  const plan = plansOf(wall)[wall.desk.revisions.length - 1]
  const laid = plan && laidFor(plan)
  useEffect(() => {
    let over = false
    overviewHere(held, me)
      .then((o) => over || setSeen(o))
      .catch((error) => console.error(error))
    return () => {
      over = true
    }
  }, [held, me])
  if (!plan || !laid?.ok) return <Problems list={laid && !laid.ok ? laid.problems : []} />
  const none: WallOverview = { cells: {}, set: 0, total: 0, next: [], holds: [], findings: 0, due: [], last: undefined }
  return (
    <YardRow wall={{ id: wall.id, name: wall.desk.name, site: wall.desk.site, plan, madeUp: false, ...(seen ?? none) }}>
      <Kept held={held} />
    </YardRow>
  )
}
