import { said } from '../base/said'
import { cellKey } from '../layout'
import { limitsOf, tableOf } from '../rules'
import type { Verdict, Where } from './entry'
import { live, statusOf } from './fold'
import { type Barrier, barriers } from './gate'
import { type LiftData, measuresOf } from './kinds'
import type { WallState } from './state'
import { settled } from './status'
import { type Step, stepKey } from './steps'
import { limitAt, readPointByPoint } from './target'

/** Something to be recorded, before it has a person and a time. */
export interface SheetFact {
  readonly kind: string
  readonly where: Where
  readonly data: unknown
}

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

/** Lifts of the newest course below that has any, by number. */
function liftsBelow(state: WallState, step: Step): { course: number; lifts: LiftData[] } | undefined {
  for (let course = (step.course ?? 1) - 1; course > 0; course--) {
    const log = state.logs.get(stepKey({ stage: step.stage.id, section: step.section, course }))
    const lifts = (log?.work ?? []).filter((e) => e.entry.kind === 'lift' && live(state, e.entry.id)).map((e) => e.entry.data as LiftData)
    if (lifts.length > 0) return { course, lifts }
  }
  return undefined
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
  const makers: ((worst: number | undefined, station: number | undefined) => SheetFact[])[] = []
  let wantsLevel = false
  let like: number | undefined
  let levelStep: Step | undefined
  for (const step of mine) {
    const where: Where = { stage: step.stage.id, section, course }
    const status = statusOf(state, step)
    if (status.open.length > 0) break
    const { work } = step.stage
    // What is placed once and buried, what lies on the pad, what is glued and what holds is recorded by itself.
    if (work.type === 'grid' || work.type === 'pipe' || step.stage.hold || step.stage.when === 'last' || step.stage.when === 'first') break
    if (work.type === 'units') {
      const left = step.planned - status.done
      lines.push({ step, words: `${left} set` })
      makers.push(() => [{ kind: 'units', where, data: { set: left } }])
    } else if (work.type === 'readings' && work.sense === 'level') {
      // Where part of it lies on the pad its points are read, and the rest of the course waits for them.
      if (readPointByPoint(state.layout, step.stage, section, course)) break
      wantsLevel = true
      levelStep = step
      lines.push({ step, words: 'run along: the largest deviation' })
      makers.push((worst, station) => [{ kind: 'sighting', where: { ...where, ...(station === undefined ? {} : { station }) }, data: { worst } }])
    } else if (work.type === 'readings') {
      const limit = limitAt(state.layout, step.stage, { ...where, station: step.points[0] })
      lines.push({ step, words: `sighted along, nothing over ±${said.small(limit.value)}` })
      makers.push(() => [{ kind: 'sighting', where, data: {} }])
    } else if (work.type === 'check') {
      const measures = measuresOf(work, state.layout.plan).length
      if (measures > 0) break
      lines.push({ step, words: `all ${work.items.length}: ${work.items.map((i) => i.text.toLowerCase()).join(', ')}` })
      makers.push(() => [{ kind: 'check', where, data: { confirmed: work.items.map((i) => i.id) } }])
    } else if (work.type === 'lifts') {
      const before = liftsBelow(state, step)
      // Plant and passes nobody has recorded are not made up: the first lifts are recorded by themselves.
      if (!before && tableOf(state.layout.plan) > 1) break
      like = before?.course
      const count = step.lifts?.count ?? 1
      const as = (i: number): LiftData => {
        const model = before?.lifts.find((l) => l.lift === i) ?? before?.lifts[before.lifts.length - 1]
        const { plant, passes, soil, near, loose } = model ?? { plant: 'light-plate' as const, passes: limitsOf(state.layout.plan).passes.value }
        return {
          lift: i,
          thickness: step.lifts?.compacted ?? model?.thickness ?? 0.1,
          passes,
          plant,
          ...(soil === undefined ? {} : { soil }),
          ...(near === undefined ? {} : { near }),
          ...(loose === undefined ? {} : { loose }),
        } as LiftData
      }
      const first = as(1)
      const taken = status.done
      lines.push({
        step,
        words: `${count - taken} lifts, ${first.plant.replace('-', ' ')}, ${first.passes} passes${before ? `, as course ${before.course}` : ''}`,
      })
      makers.push(() => Array.from({ length: count - taken }, (_, i) => ({ kind: 'lift', where, data: as(taken + i + 1) })))
    }
  }
  if (lines.length === 0) return undefined
  const limit = levelStep
    ? limitAt(state.layout, levelStep.stage, { section, course, station: levelStep.points[0] }).value
    : limitsOf(state.layout.plan).courseLevel.value
  return {
    section,
    course,
    like: like ?? (course > 1 ? course - 1 : undefined),
    lines,
    wantsLevel,
    limit,
    barriers: lines[0] ? barriers(state, lines[0].step) : [],
    facts(worst, station) {
      const facts: SheetFact[] = []
      for (const [i, make] of makers.entries()) {
        facts.push(...make(worst, station))
        if (lines[i]?.step === levelStep && worst !== undefined && Math.abs(worst) > limit + 0.0001) break
      }
      return facts
    },
  }
}

/** What the sheet's number comes to: within the limit or not. */
export const judgeSheet = (sheet: CourseSheet, worst: number): Verdict['verdict'] => (Math.abs(worst) <= sheet.limit + 0.0001 ? 'ok' : 'out')
