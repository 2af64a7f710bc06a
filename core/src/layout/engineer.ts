import { said } from '../base/said'
import { below, stationsOver } from '../geometry'
import { engineerFor, groundReader, HOLDS_NAMES, type Plan } from '../plan'
import { limitsOf } from '../rules'
import { buildingOf, capHeight, type WallSystem } from '../systems'
import type { PadStep } from './base-steps'
import type { Course } from './rows'
import { MEASURED } from './site-cautions'

/**
 * Greatest height of the wall as built, m: from the bottom of the pad (or the underside of the first course, where the rules say so) to
 * the top of the cap, at the station where it is highest. What is buried pushes as what is seen does.
 *
 * @example builtHeight(plan, steps, tops) // { height: 1.75, station: 12 }
 */
export function builtHeight(plan: Plan, steps: readonly PadStep[], tops: readonly PadStep[]): { height: number; station: number } {
  const building = buildingOf(plan)
  const down = plan.rules?.heightFrom === 'first-course' ? 0 : building.foundation.thickness
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
function rowsOn(steps: readonly PadStep[], courses: readonly Course[]): number {
  return Math.max(0, ...steps.map((s) => courses.filter((c) => c.stretches.some((x) => x.from < s.end - 1e-6 && x.to > s.start + 1e-6)).length))
}

/**
 * Why this wall is an engineer's, in words; empty where a crew may build it by the rules alone. Rule table 2.
 *
 * @param layered - are layers laid behind its units? As the plan has it where left out
 * @example engineerReasons(plan, system, steps, tops, courses) // ['it stands 1.75 m high at 12.00, over the 1.2 m …']
 */
export function engineerReasons(
  plan: Plan,
  system: WallSystem,
  steps: readonly PadStep[],
  tops: readonly PadStep[],
  courses: readonly Course[],
  layered = buildingOf(plan).layers.length > 0,
): readonly string[] {
  const limits = limitsOf(plan)
  const built = builtHeight(plan, steps, tops)
  const own = plan.rules?.engineeredAbove
  // Since there is a rule book a wall may ask for the engineer sooner than its company does, not later.
  const limit = own == null ? limits.engineeredAbove.value : plan.book ? Math.min(own, limits.engineeredAbove.value) : own
  const from = plan.rules?.heightFrom === 'first-course' ? 'the underside of the first course' : 'the bottom of the pad'
  const reasons: string[] = []
  if (below(limit, built.height))
    reasons.push(`it stands ${said.length(built.height, 2)} from ${from} to its top at ${said.station(built.station)}, over ${said.given(limit)}`)
  for (const h of plan.holds ?? []) reasons.push(`it has to do with ${HOLDS_NAMES[h]}`)
  for (const s of plan.stands ?? []) {
    const why = engineerFor(s, plan, built.height)
    if (why) reasons.push(why)
  }
  const onFill = padOnFill(plan, steps)
  if (onFill)
    reasons.push(
      `the bottom of its pad lies ${said.length(onFill.by, 2)} above the ground as found at ${said.station(onFill.station)}: it would stand on fill`,
    )
  const rows = rowsOn(steps, courses)
  reasons.push(...system.engineered(plan, plan.system.data, rows))
  // Units alone, without layers behind them, stand by their weight over their depth.
  const building = buildingOf(plan)
  const standing = built.height - (plan.rules?.heightFrom === 'first-course' ? 0 : building.foundation.thickness)
  const slender = standing / building.course(1).depth
  if (!layered && slender > limits.slenderness.value + 1e-6)
    reasons.push(`it is ${slender.toFixed(1)} times as high as its units are deep, over ${limits.slenderness.value}`)
  return reasons
}
