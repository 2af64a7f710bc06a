'use client'

import type { Problem } from '@stone-tally/core'
import { useCallback, useEffect, useState } from 'react'
import styled from 'styled-components'
import { ask, send } from '@/device/send'
import type { Me } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Button, Field, NowButton, Page, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { Table } from '@/ui/table'
import { addPasskey, hasPasskeys } from './passkey'

/** A part of the page: heading, words and fields with room between. */
export const Part = styled.section`display: grid; gap: 12px; grid-template-columns: minmax(0, 1fr); h2 { margin: 0; } ul { margin: 0; }`

const day = (at: string) => at.slice(0, 10)

function Password() {
  const [v, setV] = useState({ current: '', password: '' })
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [done, setDone] = useState(false)
  const set = (k: keyof typeof v) => (value: string) => {
    setDone(false)
    setV({ ...v, [k]: value })
  }
  const wrong = (k: string) => problems.find((p) => p.field === k)?.message
  const go = async () => {
    const answer = await send('POST', '/api/me/password', v)
    setProblems(answer.ok ? [] : answer.problems)
    setDone(answer.ok)
    if (answer.ok) setV({ current: '', password: '' })
  }
  return (
    <Part aria-label="Password">
      <h2>Password</h2>
      <form
        onSubmit={(e) => {
          e.preventDefault()
          go()
        }}
      >
        <Stack>
          <Row style={{ alignItems: 'start' }}>
            <Field
              label="The one you have"
              name="current"
              type="password"
              autoComplete="current-password"
              value={v.current}
              onChange={set('current')}
              error={wrong('current')}
            />
            <Field
              label="A new one, at least 12 characters"
              name="password"
              type="password"
              autoComplete="new-password"
              value={v.password}
              onChange={set('password')}
              error={wrong('password')}
            />
          </Row>
          <Row>
            <NowButton type="submit" isDisabled={!v.current || !v.password}>
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

interface Key {
  readonly id: string
  readonly name: string
  readonly madeAt: string
  readonly usedAt?: string
}

function Passkeys() {
  const [list, setList] = useState<readonly Key[]>()
  const [name, setName] = useState('')
  // Known only in the browser.
  const [can, setCan] = useState(false)
  useEffect(() => setCan(hasPasskeys()), [])
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const load = useCallback(async () => {
    const found = await ask<{ list: Key[] }>('/api/me/passkeys')
    if (found) setList(found.list)
  }, [])
  useEffect(() => {
    load()
  }, [load])
  const add = async () => {
    const answer = await addPasskey(name)
    setProblems(answer.ok ? [] : answer.problems)
    if (answer.ok) setName('')
    await load()
  }
  const remove = async (id: string) => {
    await send('DELETE', `/api/me/passkeys?id=${encodeURIComponent(id)}`)
    await load()
  }
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
              {k.usedAt ? ` · used ${day(k.usedAt)}` : ' · not used yet'} <Quiet onPress={() => remove(k.id)}>Take out</Quiet>
            </li>
          ))}
        </ul>
      ) : null}
      <Row>
        <Field label="What you call this device" value={name} onChange={setName} />
        <Button onPress={add} isDisabled={!can}>
          Add a passkey
        </Button>
      </Row>
      <Problems list={problems} />
    </Part>
  )
}

interface Session {
  readonly id: string
  readonly began: string
  readonly used: string
  readonly device: string
  readonly network: string
  readonly here: boolean
}

function Sessions() {
  const [list, setList] = useState<readonly Session[]>([])
  const load = useCallback(async () => {
    const found = await ask<{ list: Session[] }>('/api/me/sessions')
    if (found) setList(found.list)
  }, [])
  useEffect(() => {
    load()
  }, [load])
  const end = async (id?: string) => {
    await send('DELETE', `/api/me/sessions${id === undefined ? '' : `?id=${encodeURIComponent(id)}`}`)
    await load()
  }
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
                {s.here ? null : <Quiet onPress={() => end(s.id)}>Sign out</Quiet>}
              </>
            ),
          },
          { head: 'Last used', cell: (s) => <>{s.used.slice(0, 16).replace('T', ' ')} UTC</> },
          { head: 'Since', cell: (s) => day(s.began) },
          { head: 'Network', cell: (s) => s.network },
        ]}
      />
      {list.length > 1 ? (
        <Row>
          <Button onPress={() => end()}>Sign out everywhere else</Button>
        </Row>
      ) : null}
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
