import { type Cell, invertAt, type Layout, schoolOf } from '../layout'
import type { Plan } from '../plan'
import type { Stage } from '../systems'
import { type Step, stepKey } from './step'
import { linesOf, pointsOf } from './target'
import { workOf } from './works'

function stepFor(layout: Layout, stage: Stage, section?: string, cell?: Cell): Step | undefined {
  const course = cell?.course
  const base: Step = {
    key: stepKey({ stage: stage.id, section, course }),
    stage,
    lines: linesOf(layout, stage),
    ...(section ? { section } : {}),
    ...(course === undefined ? {} : { course }),
    points: section ? pointsOf(layout, stage, section, course) : [],
    planned: 0,
  }
  const own = layout.plan.sections.find((s) => s.id === section)
  const planned = workOf(stage.work.type).plan(layout, base as never, { section: own, cell })
  return planned && { ...base, ...planned }
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
  const steps: Step[] = []
  for (const stage of stages) {
    if (stage.scope !== 'wall') target = after
    else {
      const step = stepFor(layout, stage)
      if (step) target.push(step)
    }
  }
  const cellsOf = new Map<string, Cell[]>()
  for (const c of layout.cells.values()) {
    const own = cellsOf.get(c.section)
    if (own) own.push(c)
    else cellsOf.set(c.section, [c])
  }
  for (const section of layout.plan.sections) {
    const body: Step[] = []
    const cells = cellsOf.get(section.id) ?? []
    for (const stage of stages) {
      if (stage.only?.section && stage.only.section !== section.id) continue
      const step = stage.scope === 'section' ? stepFor(layout, stage, section.id) : undefined
      if (step) body.push(step)
    }
    const own = cells.map((c) => c.course)
    const [lowest, highest] = [Math.min(...own), Math.max(...own)]
    // Asked for at every course of the section, and the same for all of them.
    let pipe: number | undefined
    const pipeAt = () => {
      pipe ??= pipeCourse(layout, section)
      return pipe
    }
    for (const cell of cells) {
      for (const stage of stages) {
        if (stage.scope !== 'course') continue
        if (stage.only?.section && stage.only.section !== section.id) continue
        if (stage.only?.course && stage.only.course !== cell.course) continue
        if (stage.when === 'third' && cell.pad === 'none' && !cell.last && (cell.course - lowest) % 3 !== 0) continue
        if (stage.when === 'first' && cell.pad === 'none') continue
        if (stage.when === 'above-first' && cell.pad === 'whole') continue
        if (stage.when === 'lowest' && !cell.first) continue
        if (stage.when === 'pipe' && cell.course !== pipeAt()) continue
        if (stage.when === 'last' && !cell.last) continue
        if (stage.each !== undefined && !cell.last && (cell.course - lowest + 1) % stage.each !== 0) continue
        if (stage.nth !== undefined && cell.course !== Math.min(lowest + stage.nth - 1, highest)) continue
        const step = stepFor(layout, stage, section.id, cell)
        if (step) body.push(step)
      }
    }
    // What comes on the second round waits until the first is through to the top.
    for (const round of [1, 2]) steps.push(...body.filter((s) => (s.stage.round ?? 1) === round))
  }
  return [...before, ...steps, ...after]
}
