import { type Layout, layOut, type Plan, planHash, type Result } from '@stone-tally/core'

const shared = globalThis as { __tallyLaid?: Map<string, Result<Layout>> }
const here = new WeakMap<Plan, Result<Layout>>()

/**
 * The layout of an issued plan for a page. While the server makes the page's HTML it is the one that was laid out beside the request
 * (see server/layouts.ts); in the browser it is laid out once for a plan.
 *
 * @example const laid = laidFor(plan)
 */
export function laidFor(plan: Plan): Result<Layout> {
  const known = here.get(plan)
  if (known) return known
  const laid = (typeof window === 'undefined' ? shared.__tallyLaid?.get(planHash(plan)) : undefined) ?? layOut(plan)
  here.set(plan, laid)
  return laid
}
