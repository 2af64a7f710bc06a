'use client'

import { admit, type Entry, type Problem, readEntry, say, type Verdict, verdictOf, type WallState } from '@stone-tally/core'
import { houseNow } from '@/device/clock'
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

/** A made-up id, for what is only tried. */
const TRIED = '00000000-0000-7000-8000-000000000000'
/** What the house would say of a fact now: how it is judged, or why it does not go in. */
export interface Foreseen {
  readonly verdict?: Verdict | undefined
  readonly refused?: Problem | undefined
}

/**
 * What would come of a fact if it were recorded now, by the very rules that judge it then; said while it is typed.
 *
 * @example foreseen(state, me, { kind: 'cut', where, data }).refused?.message // 'is missing; …'
 */
export function foreseen(state: WallState, me: Me, fact: Fact): Foreseen {
  const at = new Date(houseNow()).toISOString()
  const entry = readEntry({ ...fact, id: TRIED, wall: TRIED, revision: state.layouts.length, at, by: me })
  if (!entry.ok) return { refused: entry.problems[0] }
  const admitted = admit(state, entry.value, houseNow())
  // That it is out of a person's role or of its order is said by the card.
  return admitted.ok ? { verdict: admitted.value } : { refused: admitted.problems[0], verdict: judge(state, me, fact) }
}

/** A field of an entry as somebody reads it. */
const plainField = (field: string) => field.replace(/^data\./, '')

/** What would come of what is typed, beside it. */
export function Foretold({ of, otherwise }: { of: Foreseen | undefined; otherwise: string }) {
  const { units } = usePreferences()
  const { refused } = of ?? {}
  return refused?.field.startsWith('data.') ? (
    <Judgement $out={false} aria-live="polite">
      <span>
        Missing or not possible yet: {plainField(refused.field)} {say(refused.message, units)}
      </span>
    </Judgement>
  ) : (
    <Judged verdict={of?.verdict} otherwise={otherwise} />
  )
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
