'use client'

import styled from 'styled-components'
import type { Me } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Button, Field, NowButton, Page, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { fullDay, momentWords } from '@/ui/day-words'
import { Table } from '@/ui/table'
import { usePasskeys, usePassword, useSessions } from './use-my-sign-in'

/** A part of the page: heading, words and fields with room between. */
export const Part = styled.section`display: grid; gap: 12px; grid-template-columns: minmax(0, 1fr); h2 { margin: 0; } ul { margin: 0; }`

const day = fullDay

function Password() {
  const { typed, set, problems, done, change } = usePassword()
  const wrong = (k: string) => problems.find((p) => p.field === k)?.message
  return (
    <Part aria-label="Password">
      <h2>Password</h2>
      <form
        onSubmit={(e) => {
          e.preventDefault()
          change()
        }}
      >
        <Stack>
          <Row style={{ alignItems: 'start' }}>
            <Field
              label="The one you have"
              name="current"
              type="password"
              autoComplete="current-password"
              value={typed.current}
              onChange={set('current')}
              error={wrong('current')}
            />
            <Field
              label="A new one, at least 12 characters"
              name="password"
              type="password"
              autoComplete="new-password"
              value={typed.password}
              onChange={set('password')}
              error={wrong('password')}
            />
          </Row>
          <Row>
            <NowButton type="submit" isDisabled={!typed.current || !typed.password}>
              Change it
            </NowButton>
            {done ? <span role="status">✓ Changed. Every other device is signed out.</span> : null}
          </Row>
          <Problems list={problems.filter((p) => !['current', 'password'].includes(p.field))} />
        </Stack>
      </form>
    </Part>
  )
}

function Passkeys() {
  const { list, problems, remove, name, setName, current, setCurrent, can, add } = usePasskeys()
  return (
    <Part aria-label="Passkeys">
      <h2>Passkeys</h2>
      <p style={{ margin: 0 }}>
        Sign in with what unlocks this device, no password to type with gloves on. It works for this address of Stone Tally and no other.
      </p>
      {list && list.length > 0 ? (
        <ul>
          {list.map((k) => (
            <li key={k.id}>
              {k.name} · made {day(k.madeAt)}
              {k.usedAt ? ` · used ${day(k.usedAt)}` : ' · not used yet'}{' '}
              <Quiet aria-label={`Take out ${k.name}`} onPress={() => remove(k.id)}>
                Take out
              </Quiet>
            </li>
          ))}
        </ul>
      ) : null}
      <Row>
        <Field label="What you call this device" value={name} onChange={setName} />
        <Field
          label="Your password, to add one"
          type="password"
          autoComplete="current-password"
          value={current}
          onChange={setCurrent}
          error={problems.find((p) => p.field === 'current')?.message}
        />
        <Button onPress={add} isDisabled={!can || current === ''}>
          Add a passkey
        </Button>
      </Row>
      <Problems list={problems.filter((p) => p.field !== 'current')} />
    </Part>
  )
}

function Sessions() {
  const { list = [], problems, remove } = useSessions()
  return (
    <Part aria-label="Where you are signed in">
      <h2>Where you are signed in</h2>
      <Table
        label="Devices you are signed in on"
        rows={list}
        id={(s) => s.id}
        middle
        columns={[
          {
            head: 'Device',
            cell: (s) => (
              <>
                {s.device}
                {s.here ? ' · this one' : ' '}
                {s.here ? null : (
                  <Quiet aria-label={`Sign out ${s.device}`} onPress={() => remove(s.id)}>
                    Sign out
                  </Quiet>
                )}
              </>
            ),
          },
          { head: 'Last used', cell: (s) => momentWords(s.used) },
          { head: 'Since', cell: (s) => day(s.began) },
          { head: 'Network', cell: (s) => s.network },
        ]}
      />
      {list.length > 1 ? (
        <Row>
          <Button onPress={() => remove()}>Sign out everywhere else</Button>
        </Row>
      ) : null}
      <Problems list={problems} />
    </Part>
  )
}

/** What one signs in with, and where one is signed in. */
export function MyPage({ me, email }: { me: Me; email: string }) {
  return (
    <>
      <Bar person={me} />
      <Page>
        <h1>Your sign-in</h1>
        <p style={{ margin: 0 }}>
          {me.name} · {email}
        </p>
        <Passkeys />
        <Password />
        <Sessions />
      </Page>
    </>
  )
}
