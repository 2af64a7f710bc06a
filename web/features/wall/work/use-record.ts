'use client'

import type { Problem } from '@stone-tally/core'
import { useState } from 'react'
import type { Fact, RecordResult } from '../use-wall'

/** Sending from a panel: busy while it runs, problems to show after. */
export function useRecord(record: (facts: readonly Fact[]) => Promise<RecordResult>) {
  const [busy, setBusy] = useState(false)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const go = async (facts: readonly Fact[]): Promise<boolean> => {
    if (busy) return false
    setBusy(true)
    const result = await record(facts)
    setBusy(false)
    setProblems(result.ok ? [] : result.problems)
    return result.ok
  }
  return { busy, problems, setProblems, go }
}
