import { fail, ok, type Result } from '../base/result'
import type { Entry, Verdict } from './entry'
import { contextOf } from './fold'
import { kindOf } from './kinds'
import type { WallState } from './state'
import { type FromDevice, keptBack, observedAt } from './time'

/** An entry made under a revision while a newer one was in force. */
export interface UnderOlder {
  /** The revision in force when it was made. */
  readonly inForce: number
  /** When that was issued, ms since 1970. */
  readonly since: number
  /** How it would be judged by that one, where that differs from how it is judged by its own. */
  readonly otherwise: Verdict | undefined
}

/**
 * Was this entry made under an older revision while a newer one was in force? It stays what it is and is judged by its own revision; whoever
 * reads it is told, and told how the newer one would judge it where that differs.
 *
 * @example underOlder(state, entry)?.inForce // 2
 */
export function underOlder(state: WallState, entry: Entry): UnderOlder | undefined {
  if (entry.revision >= state.layouts.length) return undefined
  const at = observedAt(entry)
  let inForce = entry.revision
  for (let n = entry.revision + 1; n <= state.layouts.length; n++) if ((state.revisions.get(n) ?? Number.POSITIVE_INFINITY) <= at) inForce = n
  if (inForce === entry.revision) return undefined
  const judge = kindOf(entry.kind)?.judge
  const own = judge?.(entry, contextOf(state, entry))
  const newer = judge?.(entry, contextOf(state, { ...entry, revision: inForce }))
  const otherwise = newer && newer.verdict !== own?.verdict ? newer : undefined
  return { inForce, since: state.revisions.get(inForce) as number, otherwise }
}

/**
 * May an entry be made under the revision it names? A device without a signal records under what it has, and that is kept. One that had a newer
 * revision cannot go back to an older one, whose limits may be wider.
 *
 * @param now - by the house, ms since 1970
 * @param from - what its device is known to have had, each since its own moment
 * @example mayBeUnder(entry, now, { revisions: [{ revision: 2, since: Date.parse('2026-05-04T08:00:00Z') }] }).ok
 */
export function mayBeUnder(entry: Entry, now: number, from: FromDevice): Result<true> {
  // What was kept back is no older for being said to be.
  const at = keptBack(entry, from) ? now : observedAt(entry, from)
  const had = from.revisions.filter((k) => k.revision > entry.revision && k.since < at).map((k) => k.revision)
  if (had.length === 0) return ok(true)
  return fail(
    'revision',
    `this device had revision ${Math.max(...had)} when it was observed, so it is recorded under that one and judged by its limits, not under revision ${entry.revision}; record it again`,
  )
}
