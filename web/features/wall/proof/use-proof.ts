'use client'

import type { Problem } from '@stone-tally/core'
import { useCallback, useEffect, useState } from 'react'
import { ask, send } from '@/device/send'
import type { Code } from './code-block'

/** Something that was found wrong with a record, and who looked at it. */
export interface Fault {
  readonly number: number
  /** What it is; `mended` where the record verifies again. */
  readonly fault: string
  readonly message: string
  readonly foundAt: string
  readonly look?: { readonly name: string; readonly role: string; readonly words: string; readonly at: string }
}
export interface ProofShown {
  readonly lookedAt?: string
  readonly faults: readonly Fault[]
  readonly code?: Code
  readonly mayLook: boolean
}

/** What the house says of a wall's record, and what can be asked of it; nothing while it does not answer. */
export function useProof(wall: string, wanted: boolean) {
  const [proof, setProof] = useState<ProofShown>()
  const [said, setSaid] = useState<{ good: boolean; message: string }>()
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  const load = useCallback(async () => {
    const shown = await ask<ProofShown>(`/api/walls/${wall}/proof`)
    if (shown) setProof(shown)
  }, [wall])
  useEffect(() => {
    if (wanted) load()
  }, [wanted, load])
  const say = async (what: object): Promise<boolean> => {
    setBusy(true)
    const answer = await send<{ message?: string; intact?: boolean }>('POST', `/api/walls/${wall}/proof`, what)
    setBusy(false)
    setProblems(answer.ok ? [] : answer.problems)
    setSaid(answer.ok && answer.value.message ? { good: answer.value.intact ?? true, message: answer.value.message } : undefined)
    // Refused it may have found something as well: a code that does not fit.
    if (answer.ok || answer.status === 422) await load()
    return answer.ok
  }
  return { proof, said, problems, busy, say }
}
