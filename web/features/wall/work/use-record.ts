'use client'

import type { Problem } from '@stone-tally/core'
import { useState } from 'react'
import type { Fact, RecordResult } from '../use-wall'

/** Sending from a panel: busy while it runs, problems to show after. */
export function useRecord(record: (facts: readonly Fact[]) => Promise<RecordResult>) {
  const [busy, setBusy] = useState(false)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const send = async (facts: readonly Fact[]): Promise<RecordResult | undefined> => {
    if (busy) return undefined
    setBusy(true)
    const result = await record(facts)
    setBusy(false)
    setProblems(result.ok ? [] : result.problems)
    return result
  }
  const go = async (facts: readonly Fact[]): Promise<boolean> => (await send(facts))?.ok === true
  return { busy, problems, setProblems, send, go }
}
