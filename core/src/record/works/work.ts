import { said } from '../../base/said'
import type { Layout } from '../../layout'
import type { Work } from '../../systems'
import type { Entry, RecordedEntry } from '../entry'
import type { StepStatus, WallState } from '../state'
import type { Step } from '../steps'

/** How far a step is, from what was recorded for it. */
export type Progress = Pick<StepStatus, 'done' | 'total' | 'missing' | 'conflicts' | 'read' | 'deviations' | 'along'>
/** Where nothing is read. */
export const UNREAD = new Float64Array(0)
/** Progress of a step that is not read. */
export const NOT_READ = { conflicts: [], read: [], deviations: UNREAD, along: undefined } as const satisfies Partial<Progress>

/** A type of work: what it takes to be done, and when work of an earlier revision no longer says that it is. A new one is a file here and its line in the index. */
export interface WorkType<T extends Work['type'] = Work['type']> {
  readonly type: T
  /** It stands where it stands: counted whatever the plan in force asks for there now. */
  readonly stands?: true
  /**
   * @param work - entries of this type of work in force, oldest first, those of other targets left out
   * @param all - whatever was recorded at the step
   */
  progress(
    state: WallState,
    step: Step & { readonly stage: { readonly work: Extract<Work, { type: T }> } },
    work: readonly RecordedEntry[],
    all: readonly RecordedEntry[],
  ): Progress
  /** Why an entry made under an earlier revision no longer does what the plan in force asks; undefined where it does. */
  changed(
    before: Layout,
    after: Layout,
    step: Step & { readonly stage: { readonly work: Extract<Work, { type: T }> } },
    entry: Entry,
  ): string | undefined
}
export const defineWork = <T extends Work['type']>(work: WorkType<T>): WorkType<T> => work

/** @example gapWords([{ from: 0, to: 4 }]) // '0.00 to 4.00' */
export const gapWords = (gaps: readonly { from: number; to: number }[]) =>
  gaps.map((g) => `${said.station(g.from)} to ${said.station(g.to)}`).join(' and ')
