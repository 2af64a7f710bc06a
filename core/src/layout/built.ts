import { stationsOver } from '../geometry'
import { groundReader, type Plan } from '../plan'
import { schoolBy, since } from '../rules'
import { buildingOf, capHeight } from '../systems'
import type { PadStep } from './base-steps'
import type { Course } from './rows'
import { MEASURED } from './site-cautions'

/**
 * Is its height counted from the underside of the first course? A matter of the company since rule table 3, with its reason; before it a plan
 * could say so.
 */
export const fromFirstCourse = (plan: Plan): boolean => (since(plan, 3) ? schoolBy(plan, 'height-from') : plan.rules?.heightFrom) === 'first-course'

/**
 * Greatest height of the wall as built, m: from the bottom of the pad (or the underside of the first course, where the rules say so) to
 * the top of the cap, at the station where it is highest. What is buried pushes as what is seen does.
 *
 * @example builtHeight(plan, steps, tops) // { height: 1.75, station: 12 }
 */
export function builtHeight(plan: Plan, steps: readonly PadStep[], tops: readonly PadStep[]): { height: number; station: number } {
  const building = buildingOf(plan)
  const down = fromFirstCourse(plan) ? 0 : building.foundation.thickness
  let most = { height: 0, station: 0 }
  for (const s of steps) {
    for (const t of tops) {
      const from = Math.max(s.start, t.start)
      if (Math.min(s.end, t.end) - from <= 1e-6) continue
      const height = t.elevation + capHeight(building) - (s.elevation - down)
      if (height > most.height + 1e-9) most = { height, station: from }
    }
  }
  return most
}

/**
 * Where the bottom of the pad lies above the ground as it was found, and by how much, m; undefined where it lies in it, or nothing was measured.
 *
 * @example padOnFill(plan, steps) // { by: 0.2, station: 12 }
 */
export function padOnFill(plan: Plan, steps: readonly PadStep[]): { by: number; station: number } | undefined {
  if (!plan.found) return undefined
  const ground = groundReader(plan.found)
  const { foundation, course } = buildingOf(plan)
  const middle = course(1).depth / 2
  const worst = steps
    .flatMap((s) =>
      stationsOver(s.start, s.end, 0.5).map((station) => ({ station, by: s.elevation - foundation.thickness - ground(station, middle) })),
    )
    .reduce((a, b) => (b.by > a.by ? b : a))
  return worst.by > MEASURED ? worst : undefined
}

/** Rows of units that stand on one another where there are most. */
export function rowsOn(steps: readonly PadStep[], courses: readonly Course[]): number {
  return Math.max(0, ...steps.map((s) => courses.filter((c) => c.stretches.some((x) => x.from < s.end - 1e-6 && x.to > s.start + 1e-6)).length))
}
