'use client'

import type { Problem } from '@stone-tally/core'
import { useState } from 'react'
import { send } from '@/device/send'
import { Bar } from '@/ui/bar'
import { Choice, Field, NowButton, Problems, Stack } from '@/ui/controls'
import { Narrow } from './sign-in'

/** First run without demo data: the first company and its owner. */
export function Welcome() {
  const [v, setV] = useState({ code: '', company: '', name: '', email: '', password: '' })
  const [role, setRole] = useState<'foreman' | 'office'>('foreman')
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  const set = (k: keyof typeof v) => (value: string) => setV({ ...v, [k]: value })
  const go = async () => {
    setBusy(true)
    const made = await send('POST', '/api/first-company', { ...v, role })
    const signed = made.ok ? await send('POST', '/api/sign-in', { email: v.email, password: v.password }) : made
    if (signed.ok) window.location.assign('/')
    else {
      setProblems(signed.problems)
      setBusy(false)
    }
  }
  const wrong = (k: string) => problems.find((p) => p.field === k)?.message
  return (
    <>
      <Bar />
      <Narrow>
        <h1>Set up your company</h1>
        <p>Nobody uses this installation yet. Make the company and your own account; you add the crew afterwards.</p>
        <form
          onSubmit={(e) => {
            e.preventDefault()
            go()
          }}
        >
          <Stack>
            <Field
              label="Set-up code, printed where the application was started"
              name="code"
              value={v.code}
              onChange={set('code')}
              error={wrong('code')}
              autoComplete="one-time-code"
            />
            <Field label="Company" name="company" value={v.company} onChange={set('company')} error={wrong('company')} />
            <Field label="Your name" name="name" value={v.name} onChange={set('name')} error={wrong('name')} autoComplete="name" />
            <Field label="E-mail" name="email" type="email" value={v.email} onChange={set('email')} error={wrong('email')} autoComplete="username" />
            <Field
              label="Password, at least 12 characters"
              name="password"
              type="password"
              value={v.password}
              onChange={set('password')}
              error={wrong('password')}
              autoComplete="new-password"
            />
            <Choice
              label="What you do"
              value={role}
              options={[
                ['foreman', 'Foreman: plan and record'],
                ['office', 'Office: plan and order'],
              ]}
              onChange={setRole}
            />
            <NowButton type="submit" isDisabled={busy}>
              Start
            </NowButton>
            <Problems list={problems.filter((p) => !['code', 'company', 'name', 'email', 'password'].includes(p.field))} />
          </Stack>
        </form>
      </Narrow>
    </>
  )
}
