'use client'

import type { Problem } from '@stone-tally/core'
import { useRef, useState } from 'react'
import type { Fact, RecordResult } from '../use-wall'

/** Sending from a panel: busy while it runs, problems to show after. */
export function useRecord(record: (facts: readonly Fact[]) => Promise<RecordResult>) {
  const [busy, setBusy] = useState(false)
  // A second press comes before the first is drawn.
  const going = useRef(false)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const send = async (facts: readonly Fact[]): Promise<RecordResult | undefined> => {
    if (going.current) return undefined
    going.current = true
    setBusy(true)
    const result = await record(facts).finally(() => {
      going.current = false
    })
    setBusy(false)
    setProblems(result.ok ? [] : result.problems)
    return result
  }
  const go = async (facts: readonly Fact[]): Promise<boolean> => (await send(facts))?.ok === true
  return { busy, problems, setProblems, send, go }
}
