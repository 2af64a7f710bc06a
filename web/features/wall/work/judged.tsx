'use client'

import { type Entry, say, type Verdict, verdictOf, type WallState } from '@stone-tally/core'
import { Judgement } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import type { Fact, Me } from '../use-wall'

/** How a fact would be judged if it were recorded now, by the very judgement that stands in the record afterwards. */
export function judge(state: WallState, me: Me, fact: Fact): Verdict | undefined {
  const entry = { ...fact, id: '', wall: '', revision: state.layouts.length, at: new Date(0).toISOString(), by: me } as Entry
  try {
    return verdictOf(state, entry)
  } catch {
    // Half typed it may be nothing that can be judged.
    return undefined
  }
}

/** The judgement beside what is typed; what is out is said before it is recorded. */
export function Judged({ verdict, otherwise }: { verdict: Verdict | undefined; otherwise: string }) {
  const { units } = usePreferences()
  const out = verdict?.verdict === 'out'
  return (
    <Judgement $out={out} aria-live="polite">
      {verdict ? (
        <>
          <b>{out ? '▲ Out' : '✓ Good'}</b>
          <span>
            {say(verdict.text, units)}
            {out ? '. Recorded like this it is a finding.' : ''}
          </span>
        </>
      ) : (
        <span>{otherwise}</span>
      )}
    </Judgement>
  )
}
