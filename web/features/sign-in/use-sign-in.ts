'use client'

import type { Problem, Result } from '@stone-tally/core'
import { useEffect, useState } from 'react'
import { send } from '@/device/send'
import { enterByPasskey, hasPasskeys } from '@/features/people/passkey'

/** State of signing in, by password or by passkey. */
export function useSignIn() {
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  const [busy, setBusy] = useState(false)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  // Known only in the browser: the page looks the same to begin with.
  const [passkeys, setPasskeys] = useState(false)
  useEffect(() => setPasskeys(hasPasskeys()), [])
  const enter = async (ask: () => Promise<Result<unknown>>) => {
    setBusy(true)
    const answer = await ask()
    if (answer.ok) window.location.assign('/')
    else {
      setProblems(answer.problems.map((p) => ({ field: '', message: p.message })))
      setBusy(false)
    }
  }
  return {
    email,
    setEmail,
    password,
    setPassword,
    busy,
    problems,
    passkeys,
    go: () => enter(() => send('POST', '/api/sign-in', { email, password })),
    byPasskey: () => enter(enterByPasskey),
  }
}
