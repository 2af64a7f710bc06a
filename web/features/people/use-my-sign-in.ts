'use client'

import type { Problem } from '@stone-tally/core'
import { useCallback, useEffect, useState } from 'react'
import { ask, send } from '@/device/send'
import { addPasskey, hasPasskeys } from './passkey'

export interface Key {
  readonly id: string
  readonly name: string
  readonly madeAt: string
  readonly usedAt?: string
}
export interface Session {
  readonly id: string
  readonly began: string
  readonly used: string
  readonly device: string
  readonly network: string
  readonly here: boolean
}

/** A list of mine at the house: read anew after whatever was done to it, and what could not be done is said. */
function useMine<T>(path: string) {
  const [list, setList] = useState<readonly T[]>()
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const load = useCallback(async () => {
    const found = await ask<{ list: T[] }>(path)
    if (found) setList(found.list)
  }, [path])
  useEffect(() => {
    load()
  }, [load])
  const did = async (answer: { readonly ok: true } | { readonly ok: false; readonly problems: readonly Problem[] }) => {
    setProblems(answer.ok ? [] : answer.problems)
    await load()
    return answer.ok
  }
  /** @param id - all but what is in use here where left out */
  const remove = async (id?: string) => did(await send('DELETE', `${path}${id === undefined ? '' : `?id=${encodeURIComponent(id)}`}`))
  return { list, problems, did, remove }
}

/** Where I am signed in. */
export const useSessions = () => useMine<Session>('/api/me/sessions')

/** Passkeys of mine, and one more for this device. */
export function usePasskeys() {
  const mine = useMine<Key>('/api/me/passkeys')
  const [name, setName] = useState('')
  const [current, setCurrent] = useState('')
  // Known only in the browser.
  const [can, setCan] = useState(false)
  useEffect(() => setCan(hasPasskeys()), [])
  const add = async () => {
    if (await mine.did(await addPasskey(name, current))) setName('')
    setCurrent('')
  }
  return { ...mine, name, setName, current, setCurrent, can, add }
}

/** A new password in place of the one I have. */
export function usePassword() {
  const [typed, setTyped] = useState({ current: '', password: '' })
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [done, setDone] = useState(false)
  const set = (k: keyof typeof typed) => (value: string) => {
    setDone(false)
    setTyped({ ...typed, [k]: value })
  }
  const change = async () => {
    const answer = await send('POST', '/api/me/password', typed)
    setProblems(answer.ok ? [] : answer.problems)
    setDone(answer.ok)
    if (answer.ok) setTyped({ current: '', password: '' })
  }
  return { typed, set, problems, done, change }
}
