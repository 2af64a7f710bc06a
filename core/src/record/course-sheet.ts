import { cellKey } from '../layout'
import { limitsOf } from '../rules'
import type { Verdict } from './entry'
import { statusOf } from './fold'
import { type Barrier, barriers } from './gate'
import type { WallState } from './state'
import { settled } from './status'
import type { Step } from './step'
import { limitAt } from './target'
import { type SheetFact, type SheetPart, workOf } from './works'

export type { SheetFact } from './works'

/** One line of the sheet: what will be recorded for a step. */
export interface SheetLine {
  readonly step: Step
  readonly words: string
}

/**
 * A whole course in one go, the same way as the one below: what is left to record of it, and the one number that nobody can know
 * beforehand, the largest deviation of its level.
 */
export interface CourseSheet {
  readonly section: string
  readonly course: number
  /** The course it is done like. */
  readonly like: number | undefined
  readonly lines: readonly SheetLine[]
  /** Is the level still to be read? */
  readonly wantsLevel: boolean
  /** Limit of the level here, m. */
  readonly limit: number
  readonly barriers: readonly Barrier[]
  /**
   * The entries in the order in which they belong. Where the level is beyond its limit they end with it: nothing is put on top of a
   * course that is out.
   *
   * @param worst - largest deviation of level met, m, + is high; needed where `wantsLevel`
   * @param station - where it was met, m; needed where the level is beyond its limit, and never made up
   */
  facts(worst?: number, station?: number): SheetFact[]
}

/**
 * The sheet of a course above the first; undefined for the first one, which is recorded unit by unit and point by point, and where
 * nothing of it is left.
 *
 * @example courseSheet(state, 'B', 8)?.facts(0.003)
 */
export function courseSheet(state: WallState, section: string, course: number): CourseSheet | undefined {
  const key = cellKey(section, course)
  const cell = state.layout.cells.get(key)
  if (!cell || cell.pad === 'whole') return undefined
  const mine = (state.byCell.get(key) ?? []).filter((s) => !settled(statusOf(state, s)))
  const lines: SheetLine[] = []
  const parts: SheetPart[] = []
  let levelStep: Step | undefined
  for (const step of mine) {
    const status = statusOf(state, step)
    const { stage } = step
    // What lies on the pad, what is glued and what holds is recorded by itself; so is what its type of work says.
    if (status.open.length > 0 || stage.hold || stage.when === 'last' || stage.when === 'first') break
    const part = workOf(stage.work.type).sheet?.(state, step, status)
    if (!part) break
    if (part.wantsLevel) levelStep = step
    lines.push({ step, words: part.words })
    parts.push(part)
  }
  if (lines.length === 0) return undefined
  const limit = levelStep
    ? limitAt(state.layout, levelStep.stage, { section, course, station: levelStep.points[0] }).value
    : limitsOf(state.layout.plan).courseLevel.value
  return {
    section,
    course,
    like: parts.reduce<number | undefined>((like, p) => p.like ?? like, undefined) ?? (course > 1 ? course - 1 : undefined),
    lines,
    wantsLevel: levelStep !== undefined,
    limit,
    barriers: lines[0] ? barriers(state, lines[0].step) : [],
    facts(worst, station) {
      const facts: SheetFact[] = []
      for (const [i, part] of parts.entries()) {
        facts.push(...part.facts(worst, station))
        if (lines[i]?.step === levelStep && worst !== undefined && Math.abs(worst) > limit + 0.0001) break
      }
      return facts
    },
  }
}

/** What the sheet's number comes to: within the limit or not. */
export const judgeSheet = (sheet: CourseSheet, worst: number): Verdict['verdict'] => (Math.abs(worst) <= sheet.limit + 0.0001 ? 'ok' : 'out')
