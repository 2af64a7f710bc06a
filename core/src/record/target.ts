import { cellKey, invertAt, type Layout, onPad, pointsOver, type Stretch, stepAt } from '../layout'
import { type LimitName, limitsOf } from '../rules'
import type { ReadingTarget, Stage } from '../systems'
import type { Where } from './entry'

/** Elevation (m) a reading of this stage aims at; 0 for readings across the wall, which are deviations already. */
export function targetAt(layout: Layout, target: ReadingTarget, where: Where): number {
  const station = where.station ?? 0
  switch (target) {
    case 'dig':
      return stepAt(layout.steps, station) - layout.building.foundation.thickness
    case 'pad':
      // A tilted base is read where it is read across: lower behind, higher in front of the face.
      return stepAt(layout.steps, station) - (where.offset ?? 0) * (layout.building.tilt ?? 0)
    case 'course-top':
      return layout.courses.find((c) => c.course === where.course)?.top ?? Number.NaN
    case 'invert':
      return invertAt(layout, station) ?? Number.NaN
    case 'alignment':
    case 'setback':
      return 0
  }
}

/** The limit (m, either way) for a reading here; courses that lie on the pad have the stricter one. */
export function limitAt(layout: Layout, stage: Stage, where: Where): { value: number; reason: string } {
  if (stage.work.type !== 'readings') throw new TypeError(`${stage.id} has no readings`)
  // Units that only a machine can move want their pad right first time; baskets follow what they lie on.
  const { mass } = layout.building.course(where.course ?? 1)
  const limits = limitsOf(layout.plan)
  if (stage.work.target === 'pad' && mass > limits.preciseUnits.value && !layout.system.traits.flexible) return limits.padPrecise
  const course = layout.courses.find((c) => c.course === where.course)
  // What is said of a whole course is said of its own section, not of where the wall begins.
  const at = where.station ?? pointsOf(layout, stage, where.section ?? '', where.course)[0] ?? 0
  const strict = stage.work.firstLimit && course && onPad(layout, course, at)
  return limits[(strict ? stage.work.firstLimit : stage.work.limit) as LimitName]
}

/** Is a course level here where the stricter limit of the pad holds at any of its points? Then each point is read by itself. */
export function readPointByPoint(layout: Layout, stage: Stage, section: string, course: number): boolean {
  if (layout.cells.get(cellKey(section, course))?.pad === 'whole') return true
  const row = layout.courses.find((c) => c.course === course)
  if (stage.work.type !== 'readings' || !stage.work.firstLimit || !row) return false
  return pointsOf(layout, stage, section, course).some((s) => onPad(layout, row, s))
}

/** The stretches a stage of this place covers. */
export function stretchesOf(layout: Layout, stage: Stage, section: string, course?: number): readonly Stretch[] {
  const own = layout.plan.sections.find((s) => s.id === section)
  if (!own) return []
  const cut = (list: readonly Stretch[]) =>
    list.flatMap((s) => {
      const one = { from: Math.max(s.from, own.from), to: Math.min(s.to, own.to) }
      return one.to - one.from > 0.01 ? [one] : []
    })
  if (stage.work.type === 'readings') {
    if (stage.work.target === 'dig' || stage.work.target === 'pad') return cut(layout.steps.map((s) => ({ from: s.start, to: s.end })))
    if (stage.work.target === 'invert') return [{ from: own.from, to: own.to }]
  }
  return course === undefined ? [{ from: own.from, to: own.to }] : (layout.cells.get(cellKey(section, course))?.stretches ?? [])
}

/** Distances from the face at which the pad is read across, m: a tenth of its width inside its edges. */
export function linesOf(layout: Layout, stage: Stage): number[] {
  if (stage.work.type !== 'readings' || stage.work.target !== 'pad') return []
  const { foundation, course } = layout.building
  const front = -(foundation.width - course(1).depth) / 2
  return [front + 0.1 * foundation.width, front + 0.9 * foundation.width].map((v) => Math.round(v * 1000) / 1000)
}

/** Stations at which a reading stage wants a reading (m). */
export function pointsOf(layout: Layout, stage: Stage, section: string, course?: number): number[] {
  if (stage.work.type !== 'readings') return []
  const spacing = layout.plan.rules?.pointSpacing ?? limitsOf(layout.plan).pointSpacing.value
  const points = stretchesOf(layout, stage, section, course).flatMap((s) => pointsOver(s, spacing))
  const { target } = stage.work
  if (target !== 'setback' && target !== 'alignment') return points
  const row = layout.courses.find((c) => c.course === course)
  if (!row) return []
  if (target === 'setback') return points.filter((s) => !onPad(layout, row, s))
  // The string is stretched along what lies on the pad; a short piece of it has no point of the course, so its middle is read.
  const own = points.filter((s) => onPad(layout, row, s))
  const middle = (s: Stretch) => Math.round(((s.from + s.to) / 2) * 100) / 100
  const short = layout.steps
    .filter((p) => Math.abs(p.elevation - row.bottom) < 1e-6)
    .flatMap((p) => stretchesOf(layout, stage, section, course).map((s) => ({ from: Math.max(s.from, p.start), to: Math.min(s.to, p.end) })))
    .filter((s) => s.to - s.from >= layout.building.course(course ?? 1).length / 4 && !own.some((x) => x >= s.from && x <= s.to))
  return [...own, ...short.map(middle)].sort((a, b) => a - b)
}

/**
 * The stations of a step in the order a crew goes: from the end of its lowest pad step along the wall, then what lies behind them.
 *
 * @example walkOrder(layout, step.points) // [8.9, 7.5, 6, 4.6] where the pad rises towards the start
 */
export function walkOrder(layout: Layout, points: readonly number[]): number[] {
  const up = [...points].sort((a, b) => a - b)
  const [first, last] = [up[0], up[up.length - 1]]
  if (first === undefined || last === undefined) return []
  const own = layout.steps.filter((s) => s.end > first - 1e-6 && s.start < last + 1e-6)
  const lowest = own.reduce((a, b) => (b.elevation < a.elevation - 1e-9 ? b : a), own[0] as Layout['steps'][number])
  // A pad that rises on one side only is walked from its other end.
  const rises = own.some((s) => s.start > lowest.start && s.elevation > lowest.elevation)
  const falls = own.some((s) => s.start < lowest.start && s.elevation > lowest.elevation)
  if (falls && !rises) return up.reverse()
  return falls ? [...up.filter((s) => s >= lowest.start - 1e-6), ...up.filter((s) => s < lowest.start - 1e-6).reverse()] : up
}
