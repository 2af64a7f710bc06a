'use client'

import { type Problem, ROLE_NAMES, ROLES, type Role } from '@stone-tally/core'
import { useState } from 'react'
import { send } from '@/device/send'
import type { Me } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Choice, Field, NowButton, Page, Problems, Quiet, Row, Stack } from '@/ui/controls'

interface Member {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly role: string
  readonly devices: string
}

/** People of the company: who, in which role, on how many devices; sign out at once when a phone is lost. */
export function People({ me, people }: { me: Me; people: readonly Member[] }) {
  const [v, setV] = useState({ name: '', email: '', password: '' })
  const [role, setRole] = useState<Role>('crew')
  const [problems, setProblems] = useState<readonly Problem[]>([])
  // A foreman adds the people of the site, and the office while there is none.
  const office = people.some((p) => p.role === 'office')
  const adds = ROLES.filter((r) => me.role === 'office' || (me.role === 'foreman' && (r !== 'office' || !office)))
  const set = (k: keyof typeof v) => (value: string) => setV({ ...v, [k]: value })
  const add = async () => {
    const answer = await send('POST', '/api/people', { ...v, role })
    if (answer.ok) window.location.reload()
    else setProblems(answer.problems)
  }
  const end = async (id: string) => {
    const answer = await send('DELETE', `/api/people?id=${encodeURIComponent(id)}`)
    if (answer.ok) window.location.reload()
    else setProblems(answer.problems)
  }
  return (
    <>
      <Bar person={me} />
      <Page>
        <h1>People</h1>
        <table aria-label="People">
          <thead>
            <tr>
              <th>Name</th>
              <th>Role</th>
              <th>E-mail</th>
              <th>Signed in on</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {people.map((p) => (
              <tr key={p.id}>
                <td>{p.name}</td>
                <td>{ROLE_NAMES[p.role as Role]}</td>
                <td>{p.email}</td>
                <td>{p.devices} devices</td>
                <td>
                  {Number(p.devices) > 0 && (me.role === 'office' || p.id === me.id) ? (
                    <Quiet onPress={() => end(p.id)}>Sign out everywhere</Quiet>
                  ) : null}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <Problems list={problems} />
        {adds.length > 0 ? (
          <Stack>
            <h2>Add a person</h2>
            <Row>
              <Field label="Name" name="name" value={v.name} onChange={set('name')} />
              <Field label="E-mail" name="email" value={v.email} onChange={set('email')} />
              <Field
                label="First password, at least 10 characters"
                name="password"
                type="password"
                autoComplete="new-password"
                value={v.password}
                onChange={set('password')}
              />
            </Row>
            <Choice label="Role" value={role} options={adds.map((r) => [r, ROLE_NAMES[r]] as const)} onChange={setRole} />
            <Row>
              <NowButton onPress={add}>Add</NowButton>
            </Row>
          </Stack>
        ) : null}
      </Page>
    </>
  )
}
