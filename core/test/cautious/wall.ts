import { type Entry, issued, type EarlierPlan as Plan, verdictOf, type WallState } from '@stone-tally/core'
import { ENGINEERED, entry, plain, smallPlan, stateOf } from '../plans'

/** A plan as it would be issued today, its engineer named. */
export const today = (of: Plan): Plan => issued({ ...of, ...ENGINEERED })
/** The small wall of the tests as it would be issued today, and one that is taller. */
export const plan: Plan = today(smallPlan)
export const tall: Plan = today({ ...smallPlan, grades: smallPlan.grades.map((g) => ({ ...g, top: g.top + 1.3 })) })

const states = new Map<Plan, WallState>()
/** How an entry is judged under a plan; each plan is laid out once. */
export function judge(of: Plan, kind: string, where: object, data: object, more: Partial<Entry> = {}) {
  const state = states.get(of) ?? stateOf([], of)
  states.set(of, state)
  return plain(verdictOf(state, entry(kind, where as never, data, more)))
}
