import type { Plan } from './plan'

/**
 * A wall planned after another: what a wall is stays, what belongs to the other alone goes. Its drawing, its engineer and what that drawing
 * set are not of this wall, nor is what it holds, the ground in front, its frost, services and references: these are asked anew. The rules are
 * those in force when it is issued.
 *
 * @example copyOfPlan(plan, 'Copy of Kiosk terrace').drawing // undefined
 */
export function copyOfPlan(plan: Plan, name: string): Plan {
  const { drawing: _d, engineer: _e, engineerBy: _b, engineerLicence: _n, engineerOn: _w, engineerCovers: _v, ...unsigned } = plan
  const { asked: _a, ruleTable: _t, book: _k, rules, ...own } = unsigned
  // What stands above, in front and around is of the other place: nobody has said it of this one.
  const { holds: _h, stands: _s, found: _g, front: _f, frost: _r, soil: _i, edge: _y, obstacles: _o, references: _x, ...rest } = own
  const { limits: _l, ...kept } = rules ?? {}
  return { ...rest, name, ...(Object.keys(kept).length > 0 ? { rules: kept } : {}) }
}

/**
 * What a company makes its usual wall from: a copy without its own line, openings and steps, which every wall has of its own.
 *
 * @example templateOf(plan, 'Garden wall').alignment // undefined
 */
export function templateOf(plan: Plan, name: string): Plan {
  const { alignment: _a, openings: _o, padSteps: _p, builtIn: _b, ...rest } = copyOfPlan(plan, name)
  return rest
}
