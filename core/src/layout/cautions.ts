import { said } from '../base/said'
import { below } from '../geometry'
import { exposedHeight, meaningsOf, type Plan, toeAt } from '../plan'
import { handlingOf, kinderRules, LEVEL_NAMES, limitsOf, since, tableOf } from '../rules'
import { buildingOf, type WallSystem } from '../systems'
import type { PadStep } from './base-steps'
import { builtHeight, fromFirstCourse } from './built'
import { engineerReasons } from './engineer'
import { pipeCautions } from './pipe'
import type { Course } from './rows'
import type { Run } from './runs'
import { sinceThree } from './since-three'
import { cutTopAt, frontCautions, frostCautions, gridCautions, slabCautions, slopeCautions, toeCautions, turnsOf } from './site-cautions'
import { cutReach, frontSteepest } from './whose'

/** Something about the plan that a person must know before work; `blocks` closes the gate before digging. */
export interface Caution {
  readonly id: string
  readonly message: string
  readonly blocks: boolean
}

function engineerCautions(plan: Plan, reasons: readonly string[]): Caution[] {
  const named = (plan.engineer?.trim().length ?? 0) >= 3
  const by = (plan.engineerBy?.trim().length ?? 0) >= 3
  if (reasons.length > 0 && !(named && by)) {
    const missing = [...(named ? [] : ['the engineered plan']), ...(by ? [] : ['who made it, with licence or reference'])].join(' and ')
    return [
      { id: 'engineer', blocks: true, message: `This wall is an engineer's: ${reasons.join('; ')}. Enter ${missing} in the plan before it goes on.` },
    ]
  }
  if (plan.holds === undefined && !plan.stands?.length && !named) {
    return [
      {
        id: 'holds',
        blocks: true,
        message:
          'Nobody has said what the wall holds: a slope, loads, water, a structure, another wall, earthquakes, or nothing of these. Say it in the plan before digging.',
      },
    ]
  }
  return []
}

/** Everything a person must know of a plan before work; what blocks first. */
export function cautionsOf(
  plan: Plan,
  system: WallSystem,
  steps: readonly PadStep[],
  tops: readonly PadStep[],
  courses: readonly Course[],
  runs: readonly (readonly Run[])[],
): Caution[] {
  const result: Caution[] = []
  const tall = exposedHeight(plan)
  const limit = plan.rules?.engineeredAbove ?? limitsOf(plan).engineeredAbove.value
  const three = since(plan, 3)
  const whole = builtHeight(plan, steps, tops).height
  if (three) result.push(...sinceThree(plan, system, steps, tops, courses, whole))
  else if (tableOf(plan) > 1) result.push(...engineerCautions(plan, engineerReasons(plan, system, steps, tops, courses)))
  else if (below(limit, tall) && !plan.engineer) {
    result.push({
      id: 'engineer',
      blocks: true,
      message: `The wall shows ${said.length(tall, 2)}, over the ${said.given(limit)} a crew may build without an engineer. Name the engineered plan in the plan before digging.`,
    })
  }
  const kind = kinderRules(plan)
  if (kind.length > 0)
    result.push({
      id: 'rules-kinder',
      blocks: false,
      message: `Its rules let more pass than the shipped ones: ${kind.map((k) => `${k.title.toLowerCase()} ${k.is} instead of ${k.ships} (${LEVEL_NAMES[k.level].toLowerCase()}: ${k.why})`).join('; ')}. Whoever signs for the wall should know.`,
    })
  if (plan.book && plan.rules?.engineeredAbove != null && below(limitsOf(plan).engineeredAbove.value, plan.rules.engineeredAbove))
    result.push({
      id: 'engineer-later',
      blocks: false,
      message: `The plan asks for an engineer above ${said.given(plan.rules.engineeredAbove)} only; its rules ask above ${said.given(limitsOf(plan).engineeredAbove.value)}, and that is what holds.`,
    })
  // What to be careful of with what stands around; whether it is an engineer's was said above.
  const at = { height: whole, length: plan.length, stages: [], ...(three ? { showing: tall, cut: cutReach(plan, steps) } : {}) }
  for (const stand of plan.stands ?? [])
    for (const m of meaningsOf(stand, plan, at)) if (m.of === 'caution') result.push({ id: m.id, message: m.says, blocks: false })
  const building = buildingOf(plan)
  const { drain, foundation } = building
  const first = building.course(1)
  const high = courses.length > limitsOf(plan).courseWithoutPipe.value
  if (!drain && !three)
    result.push({
      id: 'no-pipe',
      // Any but the lowest only where an engineer says that water has another way.
      blocks: high && !plan.engineer,
      message:
        high && !plan.engineer
          ? 'The wall is planned without a pipe behind it, and water that stands there pushes it over: plan one, or name the engineered plan that leads the water off another way.'
          : 'The wall is planned without a pipe: water must have another way out behind it.',
    })
  const from = (drain?.outlets ?? []).map((o) => o.station).sort((a, b) => a - b)
  const gaps = [...from.slice(1).map((s, i) => s - (from[i] as number))]
  if (drain && gaps.some((g) => g > drain.maxOutletSpacing)) {
    result.push({ id: 'outlets', blocks: false, message: `Outlets are more than ${said.given(drain.maxOutletSpacing)} apart; add one between.` })
  }
  if (drain && drain.fall < 0.01) {
    result.push({ id: 'fall', blocks: false, message: `The pipe falls ${(drain.fall * 100).toFixed(1)} %; under 1 % it silts up.` })
  }
  for (const o of drain?.outlets ?? []) {
    if (o.invert > toeAt(plan, o.station)) {
      result.push({
        id: 'outlet-high',
        blocks: false,
        message: `The outlet at ${said.given(o.station)} is above the toe grade: water stands behind the wall up to it.`,
      })
    }
  }
  const broken = new Map<string, { count: number; first: string }>()
  courses.forEach((c, i) => {
    for (const r of runs[i] ?? []) {
      if (!r.broken) continue
      const known = broken.get(r.broken)
      if (known) known.count++
      else broken.set(r.broken, { count: 1, first: `course ${c.course}, ${said.length(r.from, 2)} to ${said.length(r.to, 2)}` })
    }
  })
  for (const [rule, { count, first }] of broken) {
    result.push({
      id: 'bond',
      blocks: false,
      message: `Bond: ${rule} (${first}${count > 1 ? ` and ${count - 1} more` : ''}). Move an end by part of a unit to avoid it.`,
    })
  }
  if (tableOf(plan) > 1) {
    const turns = turnsOf(plan, steps)
    const steepest = three ? frontSteepest(plan, steps) : 0
    const buried = Math.min(...turns.map((t) => toeAt(plan, t.station) - t.pad))
    const deepest = Math.max(...turns.map((t) => cutTopAt(plan, t.station) - t.pad + foundation.thickness))
    for (const c of [
      // Since table 3 ground measured steeper than was said counts, and where no depth answers none is given.
      ...(three
        ? frontCautions({ ...plan, ...(plan.front ? { front: { ...plan.front, slope: steepest } } : {}) }, buried, tall).filter(
            (w) => w.id !== 'front' || (plan.front !== undefined && steepest <= limitsOf(plan).frontNoFigure.value + 1e-9),
          )
        : frontCautions(plan, buried, tall)),
      ...toeCautions(plan),
      ...slabCautions(plan, steps),
      ...frostCautions(plan, steps),
      ...slopeCautions(plan, deepest),
      ...pipeCautions(plan, steps),
      ...gridCautions(plan, whole - (fromFirstCourse(plan) ? 0 : foundation.thickness)),
    ])
      result.push({ ...c, blocks: false })
  }
  const handling = handlingOf(plan, first.mass)
  // Baskets are carried empty and filled where they stand.
  if (system.traits.carried && handling.band !== 'one') result.push({ id: 'mass', message: handling.message, blocks: false })
  for (const c of system.cautions(plan, plan.system.data)) result.push({ ...c, blocks: false })
  return result
}
