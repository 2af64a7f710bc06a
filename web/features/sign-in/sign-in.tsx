'use client'

import styled from 'styled-components'
import { Bar } from '@/ui/bar'
import { Button, Field, MAIN, NowButton, Problems, Stack } from '@/ui/controls'
import { useSignIn } from './use-sign-in'

export const Narrow = styled.main.attrs(MAIN)`max-width: 460px; margin: 8vh auto 0; padding: 20px; display: grid; gap: 20px;`

export function SignIn() {
  const { email, setEmail, password, setPassword, busy, problems, passkeys, go, byPasskey } = useSignIn()
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
