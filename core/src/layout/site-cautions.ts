import { said } from '../base/said'
import { type Plan, toeAt } from '../plan'
import { limitsOf } from '../rules'
import type { PadStep } from './base-steps'

interface Word {
  readonly id: string
  readonly message: string
}

/** Least depth buried, as a share of the height, where the ground in front falls away: m down per m out, share. Code practice for walls above a slope. */
const FRONT = [
  { slope: 0.65, share: 1 / 5, name: '1 in 1.5' },
  { slope: 0.48, share: 1 / 7, name: '1 in 2' },
  { slope: 0.32, share: 1 / 10, name: '1 in 3' },
] as const
/** What is buried at least where nothing falls away, m. */
const LEVEL = 0.15
/** A strip of level ground in front of a wall above a slope, m. */
const BERM = 1.2

/**
 * What the ground in front asks of the embedment. Said, not decided: an approved plan rules.
 *
 * @param height - what shows of the wall, m
 * @example frontCautions(plan, 0.2, 1.4)[0]?.message
 */
export function frontCautions(plan: Plan, buried: number, height: number): Word[] {
  const words: Word[] = []
  const front = plan.front
  if (!front) {
    words.push({
      id: 'front',
      message: 'Nobody has said how the ground in front falls away, or whether it washes out: embedment is chosen for level, firm ground.',
    })
  }
  if (buried < LEVEL - 1e-6)
    words.push({ id: 'buried', message: `Only ${said.small(buried)} is buried; under ${said.small(LEVEL)} frost, rain and feet reach the pad.` })
  const row = FRONT.find((f) => (front?.slope ?? 0) >= f.slope)
  if (front && front.slope > 0.1) {
    const wanted = row ? Math.max(row.share * height, LEVEL) : LEVEL
    const deep =
      buried < wanted - 1e-6 ? `bury at least ${said.small(wanted)}, the plan buries ${said.small(buried)}` : `${said.small(buried)} is buried`
    words.push({
      id: 'front',
      message: `The ground in front falls ${front.slope} down per 1 out: ${deep}, with at least ${said.given(BERM)} of level ground in front. Whether the slope itself stands is an engineer's question.`,
    })
  }
  if (front?.erodible)
    words.push({
      id: 'erodible',
      message: 'The ground in front washes out: protect it with stone or bury the wall below what can be carried away, as the engineer says.',
    })
  return words
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
  return Math.min(...steps.map((s) => Math.min(toeAt(plan, s.start), toeAt(plan, s.end)) - s.elevation + plan.pad.thickness))
}

/** A cut drawn steeper than unclassified soil stands. */
export function slopeCautions(plan: Plan, deepest: number): Word[] {
  const limits = limitsOf(plan)
  return deepest > limits.shoreAbove.value && plan.excavation.slope < limits.cutSlope.value - 1e-6
    ? [
        {
          id: 'cut-slope',
          message: `The plan lays a cut of ${said.length(deepest, 2)} back at ${plan.excavation.slope} across per 1 up. ${limits.cutSlope.reason} Shore it, or make room.`,
        },
      ]
    : []
}
