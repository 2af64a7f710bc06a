import { fail, ok, type Result } from '../base/result'
import { limitsOf, schoolBy } from '../rules'
import { fieldOfPart, type PlannedLayer, riseOf } from '../systems'
import { builtHeight } from './built'
import { engineerReasons } from './engineer'
import type { Layout } from './layout'
import { carrying } from './rows'

/** Length of a layer as a share of the height, by the school of the rules. */
const SHARE: Readonly<Record<string, number>> = { 'six-tenths': 0.6, 'seven-tenths': 0.7, height: 1 }

/**
 * Layers of geogrid by the schools of the rules, where no engineer's plan governs: from the first joint or the second course on, on every
 * second course, closer where courses are so high that two of them are further apart than layers may be. Never proposed for a wall that is an
 * engineer's: there the plan says it, and its reference is asked for first.
 *
 * @returns the layers, lowest first; or why none are proposed
 * @example proposeLayers(layout).value // [{ course: 2, length: 0.9, type: 'uniaxial 30' }, …]
 */
export function proposeLayers(layout: Layout): Result<PlannedLayer[]> {
  const { plan, building, system, steps, tops, courses } = layout
  const field = fieldOfPart(building.at.layers)
  // That units alone would be too slender is what layers are for.
  const reasons = engineerReasons(plan, system, steps, tops, courses, true)
  if (reasons.length > 0) return fail(field, `are the engineer’s here: ${reasons.join('; ')}. Enter them from that plan`)
  // Systems that know no layers are built without, whatever the company does elsewhere.
  if (system.schools && !system.schools.includes('grid-start')) return fail(field, `are not laid in a wall of ${system.name.toLowerCase()}`)
  const start = schoolBy(plan, 'grid-start')
  if (start !== 'first-joint' && start !== 'second-course')
    return fail(field, 'are taken from the plan by the rules of this wall: “Where geogrid starts” proposes none')
  const limits = limitsOf(plan)
  const { height } = builtHeight(plan, steps, tops)
  const share = Math.max(SHARE[schoolBy(plan, 'grid-length') ?? ''] ?? 0, limits.gridShare.value)
  // Rolls are cut to the decimetre; never shorter than the share.
  const length = Math.ceil(share * height * 10 - 1e-9) / 10
  const type = building.layers[0]?.type ?? building.rolls[0]?.type ?? 'uniaxial'
  const rows = [...new Set(courses.map((c) => c.course))].sort((a, b) => a - b).filter((n) => carrying(courses, n).length > 0)
  const layers: PlannedLayer[] = []
  let last = 0
  for (const n of rows) {
    const own = start === 'first-joint' ? n % 2 === 1 : n % 2 === 0
    // A layer is put in between where leaving it out would leave more than is allowed without one.
    const next = rows.find((m) => m > n && (start === 'first-joint' ? m % 2 === 1 : m % 2 === 0)) ?? n + 1
    const wide = riseOf(building, next) - riseOf(building, last) > limits.gridSpacing.value + 1e-6
    if (!own && !wide) continue
    layers.push({ course: n, length, type })
    last = n
  }
  return ok(layers)
}
