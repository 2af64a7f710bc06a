import { since } from '../rules'
import type { Entry, RecordedEntry } from './entry'
import type { WallState } from './state'

const HOUR = 3_600_000
/** Clocks are compared to the minute at best, and entries of one press come in any order: so much apart is the same, ms. */
const NEAR = 600_000
/** What is further ahead of the house is no moment of its calendar, days: seen at a contact, or by a device on its own. */
const AHEAD = { seen: 1, alone: 400 }

/** A revision a device is known to have, and since when, ms since 1970. */
export interface KnownRevision {
  readonly revision: number
  readonly since: number
}
/** What the house knows of the device an entry comes from. */
export interface FromDevice {
  readonly revisions: readonly KnownRevision[]
  /** The latest moment it has recorded of, by the house, ms since 1970: a device sends what it keeps in the order it was made. */
  readonly newest?: number | undefined
  /** How far its clock is ahead of the house's at the moment it sends, s. */
  readonly ahead?: number | undefined
  /** It comes in to the house over a line, which sees its clock or is told nothing of it. */
  readonly seen?: true
}

/**
 * When it was observed by the clock of the house, ms since 1970: what the device's clock was ahead by is taken off.
 *
 * @param from - where the entry does not say how far that was, it is what the house sees as it comes in
 */
export const observedAt = (entry: Entry, from: FromDevice = { revisions: [] }): number =>
  Date.parse(entry.at) - (entry.clock ?? from.ahead ?? 0) * 1000

/** Is it said to be observed later than it can have been? @returns by how many days at least; undefined where it is not */
export function daysTooFar(entry: Entry, now: number, from: FromDevice): number | undefined {
  const most = from.seen ? AHEAD.seen : AHEAD.alone
  return observedAt(entry, from) > now + most * 86_400_000 ? most : undefined
}

/**
 * Was it kept back? A device that has recorded of a later moment sent all it had by then: what comes after that and is said to be older may have
 * been made at any time up to now.
 */
export const keptBack = (entry: Entry, from: FromDevice): boolean => from.newest !== undefined && observedAt(entry, from) < from.newest - NEAR

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
 * @param from - what the house knows of its device
 * @example timesOf(state, entry, now).flatMap((at) => dailyNeeds(state, step, at))
 */
export function timesOf(state: WallState, entry: Entry, now: number, from: FromDevice = { revisions: [] }): readonly string[] {
  const iso = (ms: number) => new Date(ms).toISOString()
  const said = Date.parse(entry.at)
  // Before rule table 3 a clock that runs ahead of the house cured nothing, and one that is behind was believed.
  if (!since(state.layout.plan, 3)) return [said > now ? iso(now) : entry.at]
  const at = Math.min(observedAt(entry, from), now)
  const { ahead } = from
  const uncompared = entry.clock === undefined && ahead === undefined && now - at >= HOUR
  // The clock was set since, or what is said of it is not so: by the one and by the other.
  const other = entry.clock !== undefined && ahead !== undefined ? Math.min(Date.parse(entry.at) - ahead * 1000, now) : at
  const moments = [at, ...(Math.abs(other - at) > NEAR ? [other] : []), ...(uncompared || keptBack(entry, from) ? [now] : [])]
  return [...new Set(moments.map(iso))]
}

/** What gates ask at several times, each thing once. @example atAll(times, (at) => barriers(state, step, at), (b) => b.message) */
export function atAll<T>(times: readonly string[], ask: (at: string) => readonly T[], key: (t: T) => string): T[] {
  return [...new Map(times.flatMap(ask).map((t) => [key(t), t])).values()]
}
