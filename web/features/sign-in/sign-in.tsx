'use client'

import type { Problem } from '@stone-tally/core'
import { useEffect, useState } from 'react'
import styled from 'styled-components'
import { send } from '@/device/send'
import { enterByPasskey, hasPasskeys } from '@/features/people/passkey'
import { Bar } from '@/ui/bar'
import { Button, Field, MAIN, NowButton, Problems, Stack } from '@/ui/controls'

export const Narrow = styled.main.attrs(MAIN)`max-width: 460px; margin: 8vh auto 0; padding: 20px; display: grid; gap: 20px;`

export function SignIn() {
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  const [busy, setBusy] = useState(false)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  // Known only in the browser: the page looks the same to begin with.
  const [passkeys, setPasskeys] = useState(false)
  useEffect(() => setPasskeys(hasPasskeys()), [])
  const byPasskey = async () => {
    setBusy(true)
    const answer = await enterByPasskey()
    if (answer.ok) window.location.assign('/')
    else {
      setProblems(answer.problems.map((p) => ({ field: '', message: p.message })))
      setBusy(false)
    }
  }
  const go = async () => {
    setBusy(true)
    const answer = await send('POST', '/api/sign-in', { email, password })
    if (answer.ok) window.location.assign('/')
    else {
      setProblems(answer.problems.map((p) => ({ field: '', message: p.message })))
      setBusy(false)
    }
  }
  return (
    <>
      <Bar />
      <Narrow>
        <h1>Sign in</h1>
        <form
          onSubmit={(e) => {
            e.preventDefault()
            go()
          }}
        >
          <Stack>
            <Field label="E-mail" type="email" name="email" autoComplete="username" value={email} onChange={setEmail} autoFocus />
            <Field label="Password" type="password" name="password" autoComplete="current-password" value={password} onChange={setPassword} />
            <NowButton type="submit" isDisabled={busy || !email || !password}>
              Sign in
            </NowButton>
            {passkeys ? (
              <Button isDisabled={busy} onPress={byPasskey}>
                Sign in with a passkey
              </Button>
            ) : null}
            <Problems list={problems} />
          </Stack>
        </form>
        <p style={{ color: 'var(--soft)', fontSize: 15 }}>
          No account, or your password is lost? The office of your company gives you a link, the foreman where there is no office.
        </p>
      </Narrow>
    </>
  )
}
