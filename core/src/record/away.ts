import type { RecordedEntry } from './entry'
import { statusOf } from './fold'
import { barriers } from './gate'
import { kindOf } from './kinds'
import type { RevisionData } from './kinds/revision'
import { live, type WallState } from './state'
import { stepKey } from './step'
import { whenOf } from './time'

/** An entry that was made without knowing what others recorded meanwhile. */
export interface Apart {
  readonly id: string
  /** Number of the last entry its author had seen. */
  readonly knew: number
}

/** What a person has to look at, since it may be judged differently by what others recorded meanwhile. */
export interface AwayItem {
  readonly id: string
  readonly recorded: RecordedEntry
  readonly about: 'revised' | 'decided-twice' | 'recorded-twice' | 'no-longer-open'
  /** In words, with who and what. */
  readonly message: string
  /** The entries of others that it meets. */
  readonly others: readonly RecordedEntry[]
}

const NEAR = 0.05

/** Both speak of one place. */
const meets = (a: RecordedEntry, b: RecordedEntry) => {
  const near = (x: number | undefined, y: number | undefined) => x === y || Math.abs((x ?? -9) - (y ?? -9)) <= NEAR
  return (
    stepKey(a.entry.where) === stepKey(b.entry.where) &&
    near(a.entry.where.station, b.entry.where.station) &&
    near(a.entry.where.offset, b.entry.where.offset)
  )
}
const names = (list: readonly RecordedEntry[]) => [...new Set(list.map((e) => e.entry.by.name))].join(' and ')
const decisionOf = (e: RecordedEntry) => (e.entry.data as { decision?: string }).decision ?? 'decided'

/**
 * What was recorded on both sides of a time without signal and does not simply add up. The record keeps everything as it came; a person
 * decides about each, never a clock.
 *
 * @param apart - entries of this device that were made without knowing the record up to their own number
 * @returns in the order of the record
 * @example whileAway(state, [{ id, knew: 40 }])[0]?.message // 'Released by Ida Brenn meanwhile, rejected by you: ...'
 */
export function whileAway(state: WallState, apart: readonly Apart[]): AwayItem[] {
  return apart
    .flatMap((a) => {
      const recorded = state.byId.get(a.id)
      // Not in the record yet, or put right since: there is nothing to decide.
      if (!recorded || recorded.waiting || !live(state, a.id)) return []
      const meanwhile = between(state, a.knew, recorded)
      const item = meanwhile.length > 0 ? lookAt(state, recorded, meanwhile) : undefined
      return item ? [item] : []
    })
    .sort((a, b) => a.recorded.seq - b.recorded.seq)
}

/** Entries of others that came into the record before this one and were not known to its author. */
function between(state: WallState, knew: number, recorded: RecordedEntry): RecordedEntry[] {
  const list: RecordedEntry[] = []
  for (let i = state.entries.length - 1; i >= 0; i--) {
    const e = state.entries[i] as RecordedEntry
    if (e.seq <= knew) break
    if (e.seq < recorded.seq && e.entry.by.id !== recorded.entry.by.id) list.push(e)
  }
  return list.reverse()
}

function lookAt(state: WallState, recorded: RecordedEntry, meanwhile: readonly RecordedEntry[]): AwayItem | undefined {
  const { entry } = recorded
  const item = (about: AwayItem['about'], others: readonly RecordedEntry[], message: string): AwayItem => ({
    id: entry.id,
    recorded,
    about,
    message,
    others,
  })
  const kind = kindOf(entry.kind)
  const step = state.byKey.get(stepKey(entry.where))

  const revised = meanwhile.filter((e) => e.entry.kind === 'revision' && (e.entry.data as RevisionData).number > entry.revision)
  const newest = revised[revised.length - 1]
  if (newest && kind?.work) {
    const { number } = newest.entry.data as RevisionData
    const lost = step && statusOf(state, step).unmatched.find((u) => u.recorded.entry.id === entry.id)
    return item(
      'revised',
      revised,
      `recorded under revision ${entry.revision}; ${newest.entry.by.name} had issued revision ${number}. ${lost ? `It does not count there: ${lost.message}` : 'It counts there as well'}`,
    )
  }
  const same = meanwhile.filter((e) => live(state, e.entry.id) && meets(e, recorded))
  if (kind?.effect?.is === 'decision') {
    const decided = same.filter((e) => kindOf(e.entry.kind)?.effect?.is === 'decision')
    const last = decided[decided.length - 1]
    if (last)
      return item(
        'decided-twice',
        decided,
        `${decisionOf(last)} by ${last.entry.by.name} meanwhile, ${decisionOf(recorded)} here; the later one in the record stands`,
      )
  } else if (kind?.work) {
    const twice = same.filter((e) => e.entry.kind === entry.kind && !e.entry.supersedes && !e.entry.recheckOf)
    if (twice.length > 0 && !entry.supersedes && !entry.recheckOf)
      return item('recorded-twice', twice, `${names(twice)} recorded the same place meanwhile; strike out the one that is wrong, or let both stand`)
    const undone = meanwhile.filter((e) => e.entry.supersedes !== undefined || decisionOf(e) === 'rejected')
    const closed = step && undone.length > 0 ? barriers(state, step, new Date(whenOf(state, recorded).earliest).toISOString()) : []
    const first = closed[0]
    if (first) return item('no-longer-open', undone, `${names(undone)} took back what it stands on: ${first.message}`)
  }
  return undefined
}
