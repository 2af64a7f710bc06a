import { lifts } from '../ground/rod'
import { type Cell, type GridLayer, gridIn, invertAt, type Layout, type Stretch, schoolOf } from '../layout'
import type { Plan } from '../plan'
import { limitsOf, tableOf } from '../rules'
import { counted, type Stage } from '../systems'
import type { Where } from './entry'
import { linesOf, pointsOf } from './target'

/** A stage at a place: what a person records next, with what it takes to be done. */
export interface Step {
  readonly key: string
  readonly stage: Stage
  readonly section?: string
  readonly course?: number
  /** Stations that want a reading (m). */
  readonly points: readonly number[]
  /** Distances from the face (m) at each station, where readings are wanted across as well; empty for one line. */
  readonly lines: readonly number[]
  /** Units of the course in this section. */
  readonly planned: number
  /** Lifts that fill the thickness; compacted and loose m. */
  readonly lifts?: { readonly count: number; readonly compacted: number; readonly loose: number }
  readonly grid?: Omit<GridLayer, 'over'>
  /** Stretches (m) that must be covered, where work goes stretch by stretch. */
  readonly over?: readonly Stretch[]
}

export const stepKey = (w: Where) => `${w.stage ?? ''}|${w.section ?? ''}|${w.course ?? ''}`

function stepFor(layout: Layout, stage: Stage, section?: string, cell?: Cell): Step | undefined {
  const course = cell?.course
  const where = { stage: stage.id, section, course }
  const base = {
    key: stepKey(where),
    stage,
    lines: linesOf(layout, stage),
    ...(section ? { section } : {}),
    ...(course === undefined ? {} : { course }),
  }
  const points = section ? pointsOf(layout, stage, section, course) : []
  const { plan, building } = layout
  const { foundation } = building
  switch (stage.work.type) {
    case 'readings':
      return points.length > 0 ? { ...base, points, planned: 0 } : undefined
    case 'units':
      return { ...base, points, planned: cell ? counted(cell.pieces) : 0 }
    case 'lifts': {
      const pad = stage.work.of === 'pad'
      // What sets hard is poured in one go.
      if (pad && (!foundation.lifts || (tableOf(plan) > 1 && foundation.cast))) {
        return { ...base, points, planned: 0, lifts: { count: 1, compacted: foundation.thickness, loose: foundation.thickness } }
      }
      const fitted = lifts(
        pad && foundation.lifts
          ? { thickness: foundation.thickness, maxLift: foundation.lifts.max, looseFactor: foundation.lifts.loose }
          : {
              thickness: building.course(course ?? 1).height,
              maxLift: Math.max(limitsOf(plan).backfillLift.value / limitsOf(plan).backfillLoose.value, 0.05),
              looseFactor: limitsOf(plan).backfillLoose.value,
            },
      )
      return fitted.ok ? { ...base, points, planned: 0, lifts: fitted.value } : undefined
    }
    case 'grid': {
      const own = plan.sections.find((s) => s.id === section)
      const layer = own && course !== undefined && !cell?.last ? gridIn(layout, course, own) : undefined
      if (!layer) return undefined
      const { over, ...grid } = layer
      return { ...base, points, planned: 0, grid, over }
    }
    case 'pipe': {
      const own = plan.sections.find((s) => s.id === section)
      return own ? { ...base, points, planned: 0, over: [{ from: own.from, to: own.to }] } : undefined
    }
    case 'check':
      return { ...base, points, planned: 0 }
  }
}

/**
 * The course of a section beside which the pipe lies: the lowest, or where it is raised the first whose top is above it all along.
 *
 * @example pipeCourse(layout, { id: 'A', from: 0, to: 18 }) // 3
 */
export function pipeCourse(layout: Layout, section: Plan['sections'][number]): number {
  const cells = [...layout.cells.values()].filter((c) => c.section === section.id)
  const first = cells.find((c) => c.first) ?? cells[0]
  if (schoolOf(layout.plan, layout.steps) !== 'raised') return first?.course ?? 0
  const stations = [
    section.from,
    section.to,
    ...layout.steps.flatMap((s) => [s.start, s.end]),
    ...(layout.building.drain?.outlets ?? []).map((o) => o.station),
  ]
  const high = Math.max(
    ...stations.filter((s) => s >= section.from - 1e-6 && s <= section.to + 1e-6).map((s) => invertAt(layout, s) ?? Number.NEGATIVE_INFINITY),
  )
  const at = cells.find((c) => (layout.courses.find((x) => x.course === c.course)?.top ?? Number.NEGATIVE_INFINITY) > high + 1e-6)
  return at?.course ?? cells[cells.length - 1]?.course ?? 0
}

/** Every place of a step that wants a reading. @example placesOf(step).length */
export const placesOf = (step: Step): { station: number; offset?: number }[] =>
  step.points.flatMap((station) => (step.lines.length === 0 ? [{ station }] : step.lines.map((offset) => ({ station, offset }))))

/**
 * Every step of the wall in working order: the wall's own first, then section by section and course by course, the final last.
 *
 * @example stepsOf(layout).map((s) => s.key) // ['services||', 'set-out||', 'dig|A|', …, 'units|A|1', …, 'final||']
 */
export function stepsOf(layout: Layout): Step[] {
  const before: Step[] = []
  const after: Step[] = []
  let target = before
  const { stages } = layout.system
  const body: Step[] = []
  for (const stage of stages) {
    if (stage.scope !== 'wall') target = after
    else {
      const step = stepFor(layout, stage)
      if (step) target.push(step)
    }
  }
  for (const section of layout.plan.sections) {
    for (const stage of stages) {
      if (stage.only?.section && stage.only.section !== section.id) continue
      const step = stage.scope === 'section' ? stepFor(layout, stage, section.id) : undefined
      if (step) body.push(step)
    }
    const lowest = Math.min(...[...layout.cells.values()].filter((c) => c.section === section.id).map((c) => c.course))
    for (const cell of layout.cells.values()) {
      if (cell.section !== section.id) continue
      for (const stage of stages) {
        if (stage.scope !== 'course') continue
        if (stage.only?.section && stage.only.section !== section.id) continue
        if (stage.only?.course && stage.only.course !== cell.course) continue
        if (stage.when === 'third' && cell.pad === 'none' && !cell.last && (cell.course - lowest) % 3 !== 0) continue
        if (stage.when === 'first' && cell.pad === 'none') continue
        if (stage.when === 'above-first' && cell.pad === 'whole') continue
        if (stage.when === 'lowest' && !cell.first) continue
        if (stage.when === 'pipe' && cell.course !== pipeCourse(layout, section)) continue
        if (stage.when === 'last' && !cell.last) continue
        const step = stepFor(layout, stage, section.id, cell)
        if (step) body.push(step)
      }
    }
  }
  return [...before, ...body, ...after]
}
