'use client'

import type { AwayItem, Problem, Verdict, WallState } from '@stone-tally/core'
import type { Refused } from './db'
import type { Doubtful } from './folded'

/** Recorded with its verdict, or kept on this device until it can be sent: both are good news. Or refused. */
export type RecordResult =
  | { ok: true; waiting?: true; verdict: Verdict | undefined }
  | { ok: false; waiting?: undefined; problems: readonly Problem[] }

/** What is known of a wall at this moment. */
export interface WallView {
  readonly state: WallState
  /** How the house sees it, until the record is here: to be looked at where steps are shown, never worked on. */
  readonly glimpse: WallState | undefined
  /** Has the record up to now come in, or all this device has of it? */
  readonly loaded: boolean
  readonly live: 'connecting' | 'live' | 'lost'
  /** When the house last answered about this wall, ms by the device. */
  readonly asOf: number | undefined
  /** Entries not acknowledged yet: kept on this device and sent again when there is a connection. */
  readonly waiting: number
  /** Of those, what does not fit what is known by now. */
  readonly doubtful: readonly Doubtful[]
  /** What others recorded while this device was away, and meets what was recorded here; undecided. */
  readonly away: readonly AwayItem[]
  /** Names of people whose entries wait here and go when they sign in on this device. */
  readonly others: readonly string[]
  /** Entries that were kept here and then not accepted: nothing is thrown away unseen. */
  readonly refused: readonly Refused[]
  /** The house had another record than this device, which was asked for anew. */
  readonly anew: boolean
}

/** What is done when something happens to the wall as a whole. */
export interface Events {
  /** A revision came into force: everything is judged anew. */
  revised(number: number, byMe: boolean): void
  signedOut(): void
}
