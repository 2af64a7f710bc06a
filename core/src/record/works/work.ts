import type { Result } from '../../base/result'
import { said } from '../../base/said'
import type { Cell, Layout } from '../../layout'
import type { Plan } from '../../plan'
import type { Work } from '../../systems'
import type { Entry, RecordedEntry, Where } from '../entry'
import type { StepStatus, WallState } from '../state'
import type { Step } from '../step'

/** How far a step is, from what was recorded for it. */
export type Progress = Pick<StepStatus, 'done' | 'total' | 'missing' | 'conflicts' | 'read' | 'deviations' | 'along'>
/** Where nothing is read. */
export const UNREAD = new Float64Array(0)
/** Progress of a step that is not read. */
export const NOT_READ = { conflicts: [], read: [], deviations: UNREAD, along: undefined } as const satisfies Partial<Progress>

/** A step of one type of work. */
export type StepOf<T extends Work['type']> = Step & { readonly stage: { readonly work: Extract<Work, { type: T }> } }
/** What a type of work adds to its step: units, lifts, the layer, the stretches to cover. */
export type Planned = Partial<Pick<Step, 'planned' | 'lifts' | 'grid' | 'over'>>

/** Something to be recorded, before it has a person and a time. */
export interface SheetFact {
  readonly kind: string
  readonly where: Where
  readonly data: unknown
}
/** What a step brings to the course in one go. */
export interface SheetPart {
  /** What will be recorded, in words. */
  readonly words: string
  /** It wants the largest deviation met, which nobody can know beforehand. */
  readonly wantsLevel?: true
  /** The course below it is done like. */
  readonly like?: number | undefined
  /** @param worst - largest deviation of level met, m; @param station - where, m */
  facts(worst: number | undefined, station: number | undefined): SheetFact[]
}

/**
 * A type of work: what it plans, what it takes to be done, what it admits, how it goes into the course in one go, and when work of an
 * earlier revision no longer says that it is done. A new one is a file here and its line in the index.
 */
export interface WorkType<T extends Work['type'] = Work['type']> {
  readonly type: T
  /** It stands where it stands: counted whatever the plan in force asks for there now. */
  readonly stands?: true
  /** What a step of it plans here; undefined where there is nothing of it to do. */
  plan(
    layout: Layout,
    step: StepOf<T>,
    at: { readonly section?: Plan['sections'][number] | undefined; readonly cell?: Cell | undefined },
  ): Planned | undefined
  /**
   * @param work - entries of this type of work in force, oldest first, those of other targets left out
   * @param all - whatever was recorded at the step
   */
  progress(state: WallState, step: StepOf<T>, work: readonly RecordedEntry[], all: readonly RecordedEntry[]): Progress
  /** Is the place an entry names one of this step? Looked at before anything else. */
  place?(state: WallState, step: StepOf<T>, entry: Entry): Result<true>
  /**
   * May it go in, once every gate is open?
   *
   * @param times - when it was done, by the house; more than one where the device's clock is not known
   */
  admit?(state: WallState, step: StepOf<T>, entry: Entry, status: () => StepStatus, times: readonly string[]): Result<true>
  /** What a crew needs to know before it begins: targets, amounts, how; in words. */
  wants(state: WallState, step: StepOf<T>): readonly string[]
  /** Its part of a course recorded in one go; undefined where it is recorded by itself, and all that follows with it. */
  sheet?(state: WallState, step: StepOf<T>, status: StepStatus): SheetPart | undefined
  /** Why an entry made under an earlier revision no longer does what the plan in force asks; undefined where it does. */
  changed(before: Layout, after: Layout, step: StepOf<T>, entry: Entry): string | undefined
}
export const defineWork = <T extends Work['type']>(work: WorkType<T>): WorkType<T> => work

/** Where a step is, as its entries say it. */
export const whereOf = (step: Step): Where => ({ stage: step.stage.id, section: step.section, course: step.course })

/** @example gapWords([{ from: 0, to: 4 }]) // '0.00 to 4.00' */
export const gapWords = (gaps: readonly { from: number; to: number }[]) =>
  gaps.map((g) => `${said.station(g.from)} to ${said.station(g.to)}`).join(' and ')
