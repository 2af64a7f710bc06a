'use client'

import { type Problem, ROLE_NAMES, type Role } from '@stone-tally/core'
import { useEffect, useState } from 'react'
import { send } from '@/device/send'
import { Bar } from '@/ui/bar'
import { Field, NowButton, Problems, Stack } from '@/ui/controls'
import { Link } from '@/ui/link'
import { Narrow } from './sign-in'

interface For {
  readonly what: 'invite' | 'reset'
  readonly name: string
  readonly role: string
  readonly company: string
  readonly by: string
}

/** Where a one-time link leads: an account for who was invited, a new password for who lost theirs. */
export function Join() {
  const [token, setToken] = useState('')
  const [link, setLink] = useState<For>()
  const [over, setOver] = useState<string>()
  const [v, setV] = useState({ name: '', email: '', password: '' })
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  useEffect(() => {
    const given = window.location.hash.slice(1)
    setToken(given)
    send<For>('PUT', '/api/join', { token: given }).then((answer) => {
      if (answer.ok) {
        setLink(answer.value)
        setV((x) => ({ ...x, name: answer.value.name }))
      } else setOver(answer.problems[0]?.message ?? 'this link cannot be looked at just now; open it again')
    })
  }, [])
  const set = (k: keyof typeof v) => (value: string) => setV({ ...v, [k]: value })
  const wrong = (k: string) => problems.find((p) => p.field === k)?.message
  const go = async () => {
    setBusy(true)
    const answer = await send('POST', '/api/join', link?.what === 'invite' ? { token, ...v } : { token, password: v.password })
    // The link is used up: it is not left in the address.
    if (answer.ok) window.location.replace('/')
    else {
      setProblems(answer.problems)
      setBusy(false)
    }
  }
  const invited = link?.what === 'invite'
  return (
    <>
      <Bar />
      <Narrow>
        <h1>{link === undefined ? 'Link' : invited ? `Join ${link.company}` : 'A new password'}</h1>
        {over ? (
          <p role="alert">
            {over.replace(/^./, (c) => c.toUpperCase())}. <Link href="/sign-in">Sign in</Link>
          </p>
        ) : null}
        {link ? (
          <form
            onSubmit={(e) => {
              e.preventDefault()
              go()
            }}
          >
            <Stack>
              <p style={{ margin: 0 }}>
                {invited
                  ? `${link.by} invites you as ${ROLE_NAMES[link.role as Role].toLowerCase()}.`
                  : `${link.name} sets a new password. Every device signed in before is out then.`}
              </p>
              {invited ? (
                <>
                  <Field label="Your name" name="name" autoComplete="name" value={v.name} onChange={set('name')} error={wrong('name')} />
                  <Field
                    label="E-mail"
                    type="email"
                    name="email"
                    autoComplete="username"
                    value={v.email}
                    onChange={set('email')}
                    error={wrong('email')}
                  />
                </>
              ) : null}
              <Field
                label="Password, at least 12 characters"
                type="password"
                name="password"
                autoComplete="new-password"
                value={v.password}
                onChange={set('password')}
                error={wrong('password')}
                hint="Four words that do not belong together are easy to keep and hard to guess"
              />
              <NowButton type="submit" isDisabled={busy || v.password === ''}>
                {invited ? 'Join' : 'Set it and sign in'}
              </NowButton>
              <Problems list={problems.filter((p) => !['name', 'email', 'password'].includes(p.field))} />
            </Stack>
          </form>
        ) : null}
      </Narrow>
    </>
  )
}
