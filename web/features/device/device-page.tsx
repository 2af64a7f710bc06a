'use client'

import { useState } from 'react'
import styled from 'styled-components'
import type { Me } from '@/device/recording'
import { nearlyFull } from '@/device/room'
import { PIN_TRIES } from '@/device/session'
import { Bar } from '@/ui/bar'
import { Button, Caution, Check, Field, Page, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { Link } from '@/ui/link'
import { counted } from '@/ui/sentence'
import { Install } from './install'
import { Kept, KeptLine, sizeWords } from './kept-lines'
import { type OnDevice, useDevice } from './use-device'

const Lines = styled.ul`
  margin: 0; padding: 0; list-style: none; border-top: 1px solid var(--line);
  > li { border-bottom: 1px solid var(--line); padding: 10px 0; display: flex; flex-wrap: wrap; gap: 8px 18px; justify-content: space-between; align-items: center; }
  a { font-weight: 600; display: inline-flex; min-height: 48px; align-items: center; }
`

/** What this device keeps, how old it is, how much waits and how large it is. */
export function DevicePage({ me }: { me: Me }) {
  const { view, keep, remove, pin, save, drop } = useDevice(me.id)
  return (
    <>
      <Bar person={me} />
      <Page>
        <h1>This device</h1>
        {view ? (
          <>
            <Waits view={view} />
            <Install />
            <section aria-label="Walls kept here">
              <h2>Walls kept here</h2>
              {view.walls.length === 0 ? <p>None yet. A wall that is opened where there is a signal stays here, and opens without one.</p> : null}
              <Lines>
                {view.walls.map((held) => (
                  <li key={held.wall.id}>
                    <div>
                      <Link href={`/walls/${held.wall.id}`}>{held.wall.desk.name}</Link>
                      <Kept held={held} />
                    </div>
                    <Row style={{ alignItems: 'center' }}>
                      <Check checked={held.wall.keep} onChange={(k) => keep(held.wall.id, k)}>
                        Keep on this device
                      </Check>
                      <Quiet
                        isDisabled={held.waiting > 0}
                        onPress={() => remove(held.wall.id)}
                        aria-label={`Take ${held.wall.desk.name} off this device`}
                      >
                        Take off
                      </Quiet>
                    </Row>
                  </li>
                ))}
              </Lines>
            </section>
            <Aside view={view} onSave={save} onDrop={drop} />
            <Room view={view} />
            <Unlock me={me} has={view.pin} days={view.days} onSet={pin} />
          </>
        ) : (
          <p role="status">Looking …</p>
        )}
      </Page>
    </>
  )
}

/** What clearing the browser would lose, by wall. */
function lost({ waiting, photos, walls }: OnDevice): string {
  const of = new Map<string, number>()
  for (const e of waiting) of.set(e.wall, (of.get(e.wall) ?? 0) + 1)
  const nameOf = (id: string) => walls.find((w) => w.wall.id === id)?.wall.desk.name ?? 'another wall'
  const parts = [...of].map(([id, n]) => `${counted(n, 'entry', 'entries')} of ${nameOf(id)}`)
  return new Intl.ListFormat('en').format([...parts, ...(photos > 0 ? [counted(photos, 'photo')] : [])]) || 'what was refused'
}

function Waits({ view }: { view: OnDevice }) {
  const { waiting, photos, refused } = view
  const aside = refused.filter((r) => r.aside === 1)
  const open = refused.length - aside.length
  if (waiting.length + photos + open === 0)
    return <KeptLine>Everything recorded here is in the house.{aside.length > 0 ? ` ${aside.length} refused and put aside stay here.` : ''}</KeptLine>
  const oldest = waiting[0]
  return (
    <KeptLine role="status">
      <strong>
        ◌ {waiting.length} {waiting.length === 1 ? 'entry' : 'entries'}
        {photos > 0 ? ` and ${photos} ${photos === 1 ? 'photo' : 'photos'}` : ''} on this device alone.
      </strong>{' '}
      {oldest ? `The oldest is of ${dayWords(oldest.at.slice(0, 10))}. ` : ''}They are sent as soon as there is a connection. Until then do not clear
      this browser: {lost(view)} would be gone for good.
      {open > 0 ? ` ${open} were refused and wait for you on their wall.` : ''}
    </KeptLine>
  )
}

/** Records this device had and the house has not; perhaps all that is left of them. */
function Aside({ view, onSave, onDrop }: { view: OnDevice; onSave(id: string): Promise<void>; onDrop(id: string): Promise<void> }) {
  const [sure, setSure] = useState<string>()
  if (view.aside.length === 0) return null
  return (
    <section aria-label="Records put aside">
      <h2>Records put aside</h2>
      <Caution>
        The house had another record than this device. What was here may be all that is left of it: save it and show it to whoever looks after the
        house before it is removed.
      </Caution>
      <Lines>
        {view.aside.map((a) => (
          <li key={a.id}>
            <span>
              {view.walls.find((w) => w.wall.id === a.wall)?.wall.desk.name ?? 'A wall'}: {a.entries} {a.entries === 1 ? 'entry' : 'entries'}, put
              aside on {dayWords(a.at)}
            </span>
            <Row>
              <Button onPress={() => onSave(a.id)}>Save</Button>
              {sure === a.id ? (
                <Button onPress={() => onDrop(a.id)}>Remove it for good</Button>
              ) : (
                <Quiet onPress={() => setSure(a.id)}>Remove …</Quiet>
              )}
            </Row>
          </li>
        ))}
      </Lines>
    </section>
  )
}

function Room({ view }: { view: OnDevice }) {
  const { space, persisted } = view
  return (
    <section aria-label="Room">
      <h2>Room</h2>
      {space ? (
        <>
          <p>
            {sizeWords(space.used)} of {sizeWords(space.quota)} are used.
          </p>
          {nearlyFull(space) ? (
            <Caution>▲ This device is nearly full: take walls off it, or free room, before it cannot record any more.</Caution>
          ) : null}
        </>
      ) : (
        <p>This browser does not say how much room there is.</p>
      )}
      <p>
        {persisted
          ? 'The browser has agreed not to take it away.'
          : 'The browser may take it away when the device runs full. Install the application, or mark a wall to be kept, and it is asked not to.'}
      </p>
    </section>
  )
}

function Unlock({ me, has, days, onSet }: { me: Me; has: boolean; days: number; onSet(pin: string | undefined): Promise<void> }) {
  const [pin, setPin] = useState('')
  const [busy, setBusy] = useState(false)
  const good = /^\d{4,12}$/.test(pin)
  const put = async (value: string | undefined) => {
    setBusy(true)
    await onSet(value)
    setBusy(false)
    setPin('')
  }
  return (
    <section aria-label="PIN">
      <h2>PIN</h2>
      <Stack style={{ maxWidth: 520 }}>
        <p>
          {has
            ? `Without a signal this device asks for the PIN of ${me.name}; after ${PIN_TRIES} wrong ones only signing in helps.`
            : `Without a signal whoever holds this device goes on as ${me.name}. A PIN of 4 digits or more stops that.`}{' '}
          It ends by itself after {days} {days === 1 ? 'day' : 'days'} without a word of the house, as the rule book says.
        </p>
        <Row style={{ alignItems: 'end' }}>
          <Field label={has ? 'Another PIN' : 'PIN'} type="password" inputMode="numeric" autoComplete="off" value={pin} onChange={setPin} />
          <Button isDisabled={busy || !good} onPress={() => put(pin)}>
            Set the PIN
          </Button>
          {has ? <Quiet onPress={() => put(undefined)}>Take it away</Quiet> : null}
        </Row>
        <Problems list={pin !== '' && !good && pin.length >= 4 ? [{ field: 'PIN', message: 'is made of 4 to 12 digits' }] : []} />
      </Stack>
    </section>
  )
}
