'use client'

import type { Problem } from '@stone-tally/core'
import { useEffect, useState } from 'react'
import { send } from '@/device/send'
import type { OutsideShown } from '@/server/outside'
import { usePreferences } from '@/ui/preferences'

export const FIELDS = ['name', 'licence', 'reason']

/** State of a link to somebody outside: what it opens, what is typed to it, what became of it. */
export function useOutside() {
  const { units } = usePreferences()
  const [token, setToken] = useState('')
  const [shown, setShown] = useState<OutsideShown>()
  const [over, setOver] = useState<string>()
  const [v, setV] = useState({ name: '', licence: '', reason: '' })
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  const [done, setDone] = useState<'released' | 'rejected'>()
  useEffect(() => {
    const given = window.location.hash.slice(1)
    setToken(given)
    send<OutsideShown>('PUT', '/api/outside', { token: given, units }).then((answer) => {
      if (!answer.ok) return setOver(answer.problems[0]?.message ?? 'this link cannot be looked at just now; open it again')
      setShown(answer.value)
      setV((x) => (x.name === '' ? { ...x, name: answer.value.name } : x))
    })
  }, [units])
  const decide = async (decision: 'released' | 'rejected') => {
    setBusy(true)
    const answer = await send('POST', '/api/outside', { token, decision, ...v })
    setBusy(false)
    setProblems(answer.ok ? [] : answer.problems)
    if (answer.ok) setDone(decision)
  }
  const missing = [
    v.name.trim().length < 2 ? 'your name' : '',
    v.licence.trim().length < 3 ? 'licence number' : '',
    v.reason.trim().length < 3 ? 'what you saw' : '',
  ].filter(Boolean)
  return {
    token,
    shown,
    over,
    typed: v,
    set: (k: keyof typeof v) => (value: string) => setV((x) => ({ ...x, [k]: value })),
    wrong: (k: string) => problems.find((p) => p.field === k)?.message,
    elsewhere: problems.filter((p) => !FIELDS.includes(p.field)),
    missing,
    busy,
    done,
    decide,
  }
}

/** A photo of what is asked about, as an address a page can show; it goes when the page goes. */
export function useOutsidePhoto(token: string, file: string): string | undefined {
  const [url, setUrl] = useState<string>()
  useEffect(() => {
    let made: string | undefined
    let gone = false
    fetch('/api/outside/photo', { method: 'POST', body: JSON.stringify({ token, file }), headers: { 'content-type': 'application/json' } })
      .then((r) => (r.ok ? r.blob() : undefined))
      .then((blob) => {
        if (!blob || gone) return
        made = URL.createObjectURL(blob)
        setUrl(made)
      })
      .catch(() => undefined)
    return () => {
      gone = true
      if (made) URL.revokeObjectURL(made)
    }
  }, [token, file])
  return url
}
