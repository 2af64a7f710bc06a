import type { Scatter } from '../forecast'
import type { Layout } from '../layout'
import type { Stage } from '../systems'
import type { RecordedEntry, Verdict, Where } from './entry'
import type { Step } from './step'

/** Is the entry still in force, that is, not corrected or struck out? @example live(state, entry.id) */
export const live = (state: Pick<WallState, 'superseded'>, id: string): boolean => !state.superseded.has(id)

/** Two people, two values, one place. */
export interface Conflict {
  readonly first: RecordedEntry
  readonly second: RecordedEntry
}

/** How a step stands. */
export interface StepStatus {
  readonly state: 'todo' | 'partial' | 'done'
  /** Parts done and parts in all: points, units, lifts or items. */
  readonly done: number
  readonly total: number
  /** What is still missing, in words. */
  readonly missing: readonly string[]
  /** Open nonconformances: out of tolerance, without action and a good re-check. */
  readonly open: readonly RecordedEntry[]
  readonly conflicts: readonly Conflict[]
  /** Work recorded under an earlier revision that the plan in force no longer asks for as it was done; it does not count as done. */
  readonly unmatched: readonly { readonly recorded: RecordedEntry; readonly message: string }[]
  readonly hold: 'none' | 'waiting' | 'released' | 'rejected'
  /** The decision that stands, with who gave it and what they saw; undefined while the point waits. */
  readonly decision: RecordedEntry | undefined
  readonly override: RecordedEntry | undefined
  /** The reason given stands for the work itself. Where it only lets the work begin (adhesive on a wet day) it does not. */
  readonly passed: boolean
  /** Stations read so far with the reading that counts there. */
  readonly read: readonly { readonly station: number; readonly offset?: number; readonly entry: RecordedEntry | undefined }[]
  /** Deviations of the readings of a course, aligned with `read`; NaN where none was taken there, m. Empty for other steps. */
  readonly deviations: Float64Array
  /** The course run along: the largest deviation and its station, m. */
  readonly along: { readonly station: number; readonly worst: number } | undefined
}

/** What has been recorded at one step. */
export interface StepLog {
  readonly work: RecordedEntry[]
  readonly releases: RecordedEntry[]
  /** Who from outside was asked to decide. */
  readonly requests: RecordedEntry[]
  readonly overrides: RecordedEntry[]
  /** Status as of the last change here; undefined when something changed since. */
  status: StepStatus | undefined
}

/**
 * The record of a wall, indexed. It is advanced in place and handed on (`advance` returns a new handle on the same
 * indexes and the old handle must not be used again), so that adding one entry never re-reads the rest.
 */
export interface WallState {
  readonly layout: Layout
  readonly layouts: readonly Layout[]
  readonly steps: readonly Step[]
  readonly byKey: ReadonlyMap<string, Step>
  readonly byStage: ReadonlyMap<string, Stage>
  readonly entries: RecordedEntry[]
  readonly byId: Map<string, RecordedEntry>
  readonly logs: Map<string, StepLog>
  /** Corrected entry → the entry that corrects it. */
  readonly superseded: Map<string, string>
  /** Out-of-tolerance entries with their verdict. */
  readonly outs: Map<string, Verdict>
  readonly actions: Map<string, RecordedEntry>
  readonly rechecks: Map<string, RecordedEntry[]>
  /** Steps of a course in a section, in working order, by `section/course`. */
  readonly byCell: ReadonlyMap<string, readonly Step[]>
  /** Where something changed, in the order in which it was taken in. */
  readonly touched: Where[]
  /** Steps that hold, in working order. */
  readonly holds: readonly Step[]
  /** When each plan revision was issued, by the clock of the house; ms since 1970. */
  readonly revisions: Map<number, number>
  /** What courses of this company scatter by, where its walls say so, m a course. */
  readonly scatter: Scatter
  /** Highest sequence number seen. */
  readonly seq: number
}
