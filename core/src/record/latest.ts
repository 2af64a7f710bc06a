import type { Entry, RecordedEntry } from './entry'
import { live, type WallState } from './state'

/** The newest entry in force for which `is` holds. */
export function latestOf(state: WallState, is: (e: Entry) => boolean): RecordedEntry | undefined {
  for (let i = state.entries.length - 1; i >= 0; i--) {
    const e = state.entries[i] as RecordedEntry
    if (live(state, e.entry.id) && is(e.entry)) return e
  }
  return undefined
}

/** Did the instrument's calibration run out before the reading was taken? Accepted, and shown as such. */
export const outOfCalibration = (e: Pick<Entry, 'at' | 'instrument'>): boolean => !!e.instrument && e.at.slice(0, 10) > e.instrument.calibratedUntil
