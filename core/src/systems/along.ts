import type { Vertex } from '../geometry'
import { commonAlong, type Plan } from '../plan'
import { systemOf } from './known'
import { answerIn, withAnswer } from './question'
import type { Unit } from './unit'

/** A plan with another system's part. @example withPart(plan, { ...data, stone: { width: 0.4 } }) */
export const withPart = (plan: Plan, data: unknown): Plan => ({ ...plan, system: { ...plan.system, data } })

/**
 * A plan along another line: its length follows, grades and sections are stretched to its end or cut off there, outlets and openings beyond
 * it move to it.
 *
 * @example withLine(plan, [{ easting: 0, northing: 0 }, { easting: 12, northing: 0 }], false).length // 12
 */
export function withLine(plan: Plan, vertices: readonly Vertex[], closed: boolean): Plan {
  const along = commonAlong(plan, vertices, closed)
  const system = systemOf(plan.system.id)
  return system && along.length !== plan.length ? withPart(along, system.refit(plan.system.data, along.length)) : along
}

/** A plan with another answer to a question of its system; as it is where the system does not ask it. @example withAnswerTo(plan, 'outlets', outlets) */
export function withAnswerTo(plan: Plan, question: string, answer: unknown): Plan {
  const asked = systemOf(plan.system.id)?.questions.find((q) => q.id === question)
  return asked ? withPart(plan, withAnswer(plan.system.data, asked.at, answer)) : plan
}

/** The unit of the catalogue a plan is built of; undefined where its system asks for none. @example unitOfPlan(plan)?.name */
export function unitOfPlan(plan: Plan): Unit | undefined {
  const asked = systemOf(plan.system.id)?.questions.find((q) => q.of === 'unit')
  return asked && (answerIn(plan.system.data, asked.at) as Unit | undefined)
}
