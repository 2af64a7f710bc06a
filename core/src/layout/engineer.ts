import { said } from '../base/said'
import { below } from '../geometry'
import { engineerFor, HOLDS_NAMES, type Plan } from '../plan'
import { limitsOf, since } from '../rules'
import { buildingOf, type WallSystem } from '../systems'
import type { PadStep } from './base-steps'
import { builtHeight, padOnFill, rowsOn } from './built'
import type { Course } from './rows'
import { factsOf } from './whose'

/**
 * Why this wall is an engineer's, in words; empty where a crew may build it by the rules alone, or after it asked. Since rule table 3 by the
 * ladder of its facts.
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
  layered?: boolean,
): readonly string[] {
  if (since(plan, 3)) return factsOf({ plan, system, steps, tops, courses }, {}, layered).flatMap((f) => (f.whose === 'engineer' ? [f.says] : []))
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
  if (!(layered ?? building.layers.length > 0) && slender > limits.slenderness.value + 1e-6)
    reasons.push(`it is ${slender.toFixed(1)} times as high as its units are deep, over ${limits.slenderness.value}`)
  return reasons
}
