'use client'

import type { Problem } from '@stone-tally/core'
import { useRef, useState } from 'react'
import { announce } from '@/ui/announce'
import type { Fact, RecordResult } from '../use-wall'

/** What became of what was sent, for who does not see the card go on. */
function becameOf(facts: readonly Fact[]): string {
  const decisions = facts.flatMap((f) => (f.kind === 'release' ? [(f.data as { decision?: string }).decision] : []))
  if (decisions.includes('rejected')) return 'Rejected; the decision is kept.'
  if (decisions.length > 0) return decisions.length === 1 ? 'Released.' : `${decisions.length} released.`
  return facts.length === 1 ? 'Saved.' : `${facts.length} saved.`
}

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
    announce(result.ok ? becameOf(facts) : 'Refused; what is wrong stands below the button.')
    return result
  }
  const go = async (facts: readonly Fact[]): Promise<boolean> => (await send(facts))?.ok === true
  return { busy, problems, setProblems, send, go }
}
