import type { UnitSystem } from '../units/length'

/** Where on the wall a fact belongs. Station in m along the face. */
export interface Where {
  readonly stage?: string | undefined
  readonly section?: string | undefined
  readonly course?: number | undefined
  readonly station?: number | undefined
  /** Distance from the face of course 1 into the fill, m; the front of the pad is negative. */
  readonly offset?: number | undefined
}

/** What a reading was taken with, as its maker's plate and papers say. */
export interface Instrument {
  readonly name: string
  readonly serial: string
  /** Last day of its calibration, as 2026-05-31. */
  readonly calibratedUntil: string
}

/** The person who recorded, as the server knows them; never taken from the device. */
export interface Author {
  readonly id: string
  readonly name: string
  readonly role: string
}

/**
 * A frozen fact about a wall. `id` (UUID v7) is made on the device and makes sending twice harmless;
 * `at` is when it was observed.
 */
export interface Entry<K extends string = string, D = unknown> {
  readonly id: string
  readonly wall: string
  readonly revision: number
  readonly at: string
  readonly by: Author
  readonly kind: K
  readonly where: Where
  readonly data: D
  /** The entry this one corrects; the original stays. */
  readonly supersedes?: string | undefined
  /** Why it corrects the other; a strike says so in its data. */
  readonly reason?: string | undefined
  /** The out-of-tolerance entry this one re-checks. */
  readonly recheckOf?: string | undefined
  readonly instrument?: Instrument | undefined
  /** How far the clock of the device was ahead of the house's when they last spoke, s; negative where it was behind. */
  readonly clock?: number | undefined
}

/** An entry as the record keeps it: in order, with the time it came in. */
export interface RecordedEntry {
  readonly seq: number
  readonly receivedAt: string
  readonly entry: Entry
  /** Kept on this device and not in the record yet; its number only says that it comes after everything that is. */
  readonly waiting?: true
}

/** An entry with its link of the chain, as exported. */
export interface ChainedEntry extends RecordedEntry {
  readonly hash: string
}

/** How an entry is judged against plan and limits. */
export interface Verdict {
  readonly verdict: 'ok' | 'out'
  /** The judgement in words with the limit. */
  readonly text: string
  /** Signed deviation, m, where there is one. */
  readonly deviation?: number
  /** People leave: nothing on the wall goes on until somebody answers it by name. */
  readonly stop?: true
}

/** How a reader of the diary wants lengths written. */
export interface Reader {
  readonly units: UnitSystem
}
