import { since } from '../rules'
import type { Entry, RecordedEntry } from './entry'
import type { WallState } from './state'

const HOUR = 3_600_000

/** When it was observed by the clock of the house, ms since 1970: what the device's clock was ahead by is taken off. */
export const observedAt = (entry: Entry): number => Date.parse(entry.at) - (entry.clock ?? 0) * 1000

/** Between which moments of the house's clock something was done, ms since 1970. */
export interface Moments {
  readonly earliest: number
  readonly latest: number
}

/**
 * When something in the record was done. Where device and house had compared their clocks it is one moment; where they had not, anything
 * from what the device says up to when it came in: whoever judges takes the end that is stricter for them. Before rule table 3 it is
 * what the device says.
 *
 * @example whenOf(state, recorded).latest
 */
export function whenOf(state: WallState, { entry, receivedAt }: RecordedEntry): Moments {
  const said = Date.parse(entry.at)
  if (!since(state.layout.plan, 3)) return { earliest: said, latest: said }
  const came = Date.parse(receivedAt)
  const last = Number.isNaN(came) ? Number.POSITIVE_INFINITY : came
  const earliest = Math.min(observedAt(entry), last)
  // Between the press and the house lie moments, with an honest clock.
  const near = entry.clock !== undefined || !Number.isFinite(last) || last - earliest < HOUR
  return { earliest, latest: near ? earliest : last }
}

/**
 * The times at which an entry that comes in is judged, ISO 8601: one where the clocks were compared; the device's and the house's own where
 * they were not, and each gate asks both. Nothing is done after it came in.
 *
 * @param now - by the house, ms since 1970
 * @example timesOf(state, entry, now).flatMap((at) => dailyNeeds(state, step, at))
 */
export function timesOf(state: WallState, entry: Entry, now: number): readonly string[] {
  const iso = (ms: number) => new Date(ms).toISOString()
  const said = Date.parse(entry.at)
  // Before rule table 3 a clock that runs ahead of the house cured nothing, and one that is behind was believed.
  if (!since(state.layout.plan, 3)) return [said > now ? iso(now) : entry.at]
  const at = Math.min(observedAt(entry), now)
  return entry.clock === undefined && now - at >= HOUR ? [iso(at), iso(now)] : [iso(at)]
}

/** What gates ask at several times, each thing once. @example atAll(times, (at) => barriers(state, step, at), (b) => b.message) */
export function atAll<T>(times: readonly string[], ask: (at: string) => readonly T[], key: (t: T) => string): T[] {
  return [...new Map(times.flatMap(ask).map((t) => [key(t), t])).values()]
}
