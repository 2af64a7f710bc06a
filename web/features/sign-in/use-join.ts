'use client'

import type { Problem } from '@stone-tally/core'
import { useEffect, useState } from 'react'
import { send } from '@/device/send'

interface For {
  readonly what: 'invite' | 'reset'
  readonly name: string
  readonly role: string
  readonly company: string
  readonly by: string
  /** Ways in besides the password, where a new one is set. */
  readonly passkeys: readonly { readonly name: string; readonly madeAt: string }[]
}

const FIELDS = ['name', 'email', 'password']

/** State of a one-time link: what it is for, and what is typed to it. */
export function useJoin() {
  const [token, setToken] = useState('')
  const [link, setLink] = useState<For>()
  const [over, setOver] = useState<string>()
  const [v, setV] = useState({ name: '', email: '', password: '' })
  const [passkeys, setPasskeys] = useState<'keep' | 'remove'>()
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
    const answer = await send(
      'POST',
      '/api/join',
      link?.what === 'invite' ? { token, ...v } : { token, password: v.password, ...(passkeys ? { passkeys } : {}) },
    )
    // The link is used up: it is not left in the address.
    if (answer.ok) window.location.replace('/')
    else {
      setProblems(answer.problems)
      setBusy(false)
    }
  }
  return {
    link,
    invited: link?.what === 'invite',
    over,
    typed: v,
    set,
    wrong,
    /** What is wrong and is no field of the form. */
    elsewhere: problems.filter((p) => !FIELDS.includes(p.field)),
    busy,
    passkeys,
    setPasskeys,
    /** Passkeys nobody has decided about yet. */
    undecided: (link?.passkeys.length ?? 0) > 0 && passkeys === undefined,
    go,
  }
}
