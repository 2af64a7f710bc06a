import type { Plan } from './plan'

/**
 * A wall planned after another: what a wall is stays, what belongs to the other alone goes. Its drawing, its engineer and what that drawing
 * set are not of this wall; the rules are those in force when it is issued.
 *
 * @example copyOfPlan(plan, 'Copy of Kiosk terrace').drawing // undefined
 */
export function copyOfPlan(plan: Plan, name: string): Plan {
  const { drawing: _d, engineer: _e, engineerBy: _b, ruleTable: _t, book: _k, rules, ...rest } = plan
  const { limits: _l, ...kept } = rules ?? {}
  return { ...rest, name, ...(Object.keys(kept).length > 0 ? { rules: kept } : {}) }
}
