import { said } from '../base/said'
import { groundReader, type Plan, toeAt, topAt } from '../plan'
import { limitsOf, since } from '../rules'
import { buildingOf, riseOf } from '../systems'
import { formatSlope } from '../units/slope'
import type { PadStep } from './base-steps'

/**
 * Every place where pad or grades turn, with the pad there, m: between two of them both run straight, so what is deepest or shallowest
 * stands at one of these. At a step both sides are given.
 *
 * @example turnsOf(plan, steps, { from: 18, to: 36 })
 */
export function turnsOf(plan: Plan, steps: readonly PadStep[], over = { from: 0, to: plan.length }): { station: number; pad: number }[] {
  return steps.flatMap((s) => {
    const [from, to] = [Math.max(s.start, over.from), Math.min(s.end, over.to)]
    if (to - from < 1e-6) return []
    const between = plan.grades.map((g) => g.station).filter((x) => x > from + 1e-6 && x < to - 1e-6)
    return [from, ...between, to].map((station) => ({ station, pad: s.elevation }))
  })
}

/**
 * Where the side of the cut behind begins, m: the top grade, or the ground as it was found where that stands higher. Whoever judges a cut asks
 * for this, not for what will be finished.
 *
 * @example cutTopAt(plan, 12) // 12.4
 */
export function cutTopAt(plan: Plan, station: number): number {
  const top = topAt(plan, station)
  if (!plan.found) return top
  return Math.max(top, groundReader(plan.found)(station, buildingOf(plan).course(1).depth + plan.excavation.behind))
}

/** How far something may lie over measured ground and still be on it, m: what levels of rough ground are good to. */
export const MEASURED = 0.03

interface Word {
  readonly id: string
  readonly message: string
}

/** A footing that would be seen over the finished slab, and where its first joint lies against it. */
export function slabCautions(plan: Plan, steps: readonly PadStep[]): Word[] {
  const building = buildingOf(plan)
  const { slab } = building
  if (slab === undefined) return []
  const least = limitsOf(plan).belowSlab.value
  const high = steps.reduce((a, b) => (b.elevation > a.elevation ? b : a))
  const under = slab - high.elevation
  const { height } = building.course(1)
  const shown = ((under % height) + height) % height
  const words =
    under < least - 1e-6
      ? `The top of the footing lies ${said.signed(-under)} against the finished slab at ${said.station(high.start)}, at least ${said.small(least)} below is wanted: its edge will be seen.`
      : `The slab covers ${said.small(shown)} of the unit it meets at ${said.station(high.start)}; half a unit is ${said.small(height / 2)}.`
  return [{ id: 'slab', message: words }]
}

/** Least depth buried, as a share of the height, where the ground in front falls away: m down per m out, share. Code practice for walls above a slope. */
const FRONT = [
  { slope: 0.65, share: 1 / 5, name: '1 in 1.5' },
  { slope: 0.48, share: 1 / 7, name: '1 in 2' },
  { slope: 0.32, share: 1 / 10, name: '1 in 3' },
] as const
/**
 * What the ground in front asks of the embedment. Said, not decided: an approved plan rules.
 *
 * @param height - what shows of the wall, m
 * @example frontCautions(plan, 0.2, 1.4)[0]?.message
 */
export function frontCautions(plan: Plan, buried: number, height: number): Word[] {
  const words: Word[] = []
  const front = plan.front
  const { buriedLeast, bermWidth } = limitsOf(plan)
  const least = buriedLeast.value
  if (!front) {
    words.push({
      id: 'front',
      message: 'Nobody has said how the ground in front falls away, or whether it washes out: embedment is chosen for level, firm ground.',
    })
  }
  if (buried < least - 1e-6)
    words.push({ id: 'buried', message: `Only ${said.small(buried)} is buried; under ${said.small(least)} frost, rain and feet reach the pad.` })
  const row = FRONT.find((f) => (front?.slope ?? 0) >= f.slope)
  if (front && front.slope > 0.1) {
    const wanted = row ? Math.max(row.share * height, least) : least
    const deep =
      buried < wanted - 1e-6 ? `bury at least ${said.small(wanted)}, the plan buries ${said.small(buried)}` : `${said.small(buried)} is buried`
    words.push({
      id: 'front',
      message: `The ground in front falls ${since(plan, 3) ? formatSlope(1 / front.slope) : `${front.slope} down per 1 out`}: ${deep}, with at least ${said.given(bermWidth.value)} of level ground in front. Whether the slope itself stands is an engineer's question.`,
    })
  }
  if (front?.erodible)
    words.push({
      id: 'erodible',
      message: 'The ground in front washes out: protect it with stone or bury the wall below what can be carried away, as the engineer says.',
    })
  return words
}

/** A foot that is buried in fill and not in the ground as it was found: what holds it has to be placed and compacted first. */
export function toeCautions(plan: Plan): Word[] {
  if (!plan.found) return []
  const ground = groundReader(plan.found)
  const high = plan.grades.map((g) => ({ station: g.station, by: g.toe - ground(g.station, -0.3) })).reduce((a, b) => (b.by > a.by ? b : a))
  return high.by > MEASURED
    ? [
        {
          id: 'toe-fill',
          message: `The toe grade lies up to ${said.length(high.by, 2)} above the ground as found at ${said.station(high.station)}: what buries the foot there is fill, placed and compacted in front before the wall goes up.`,
        },
      ]
    : []
}

/** How deep the pad lies against frost. @example frostCautions(plan, steps) */
export function frostCautions(plan: Plan, steps: readonly PadStep[]): Word[] {
  if (plan.frost === undefined)
    return [
      {
        id: 'frost',
        message: 'The frost depth of the place is not in the plan: ask the local code, and keep frost-heaving soil from under the pad.',
      },
    ]
  const shallow = frostCover(plan, steps)
  if (shallow >= plan.frost - 1e-6 || plan.frost === 0) return []
  return [
    {
      id: 'frost',
      message: `Frost goes ${said.given(plan.frost)} deep here, the bottom of the pad lies ${said.length(shallow, 2)} below the ground: what lies between them must not heave. Clean stone that drains, or deeper.`,
    },
  ]
}

/** Least cover of ground over the bottom of the pad in front of the wall, m. */
export function frostCover(plan: Plan, steps: readonly PadStep[]): number {
  return Math.min(...turnsOf(plan, steps).map((t) => toeAt(plan, t.station) - t.pad + buildingOf(plan).foundation.thickness))
}

/** Layers of the plan against what holds a mass together. Said where no engineer's plan is named too: a planning check. */
export function gridCautions(plan: Plan, height: number): Word[] {
  const building = buildingOf(plan)
  if (building.layers.length === 0) return []
  const limits = limitsOf(plan)
  const words: Word[] = []
  const layers = [...building.layers].sort((a, b) => a.course - b.course)
  const least = limits.gridShare.value * height
  const short = layers.filter((l) => l.length < least - 0.005)
  if (short.length > 0)
    words.push({
      id: 'grid-length',
      message: `${short.length === 1 ? 'The layer' : 'Layers'} on course ${short.map((l) => l.course).join(', ')} ${short.length === 1 ? 'is' : 'are'} shorter than ${limits.gridShare.value} of the height (${said.length(least, 2)}). ${limits.gridShare.reason}`,
    })
  let courses = 0
  while (riseOf(building, courses) + building.course(courses + 1).height / 2 <= height) courses++
  const gaps = [
    { from: 0, to: layers[0]?.course ?? 0, what: 'below the lowest layer' },
    ...layers.slice(1).map((l, i) => ({ from: layers[i]?.course ?? 0, to: l.course, what: `between courses ${layers[i]?.course} and ${l.course}` })),
    { from: layers[layers.length - 1]?.course ?? 0, to: courses, what: 'above the top layer' },
  ].filter((g) => riseOf(building, g.to) - riseOf(building, g.from) > limits.gridSpacing.value + 0.005)
  if (gaps.length > 0)
    words.push({
      id: 'grid-spacing',
      message: `More than ${said.given(limits.gridSpacing.value)} without a layer ${gaps.map((g) => g.what).join(', ')}. ${limits.gridSpacing.reason}`,
    })
  return words
}

/** A cut drawn steeper than unclassified soil stands. */
export function slopeCautions(plan: Plan, deepest: number): Word[] {
  const limits = limitsOf(plan)
  return deepest > limits.shoreAbove.value && plan.excavation.slope < limits.cutSlope.value - 1e-6
    ? [
        {
          id: 'cut-slope',
          message: `The plan lays a cut of ${said.length(deepest, 2)} back at ${since(plan, 3) ? formatSlope(plan.excavation.slope) : `${plan.excavation.slope} across per 1 up`}. ${limits.cutSlope.reason} Shore it, or make room.`,
        },
      ]
    : []
}
