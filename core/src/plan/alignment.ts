import type { Problem, Result } from '../base/result'
import { said } from '../base/said'
import { type Alignment, alignmentOf, straight } from '../geometry'
import type { Plan } from './plan'

const known = new WeakMap<object, Result<Alignment>>()

/** The alignment as it is given, checked; undefined for a wall that is only a length. */
function given(plan: Pick<Plan, 'alignment'>): Result<Alignment> | undefined {
  const line = plan.alignment
  if (!line) return undefined
  let result = known.get(line)
  if (!result) {
    result = alignmentOf(
      line.vertices.map((v) => ({ easting: v.easting, northing: v.northing, bulge: v.bulge ?? 0 })),
      line.closed,
    )
    known.set(line, result)
  }
  return result
}

/**
 * The face line of course 1. A plan without one runs straight east from the origin of its own grid.
 *
 * @example alignmentFor(plan).length
 */
export function alignmentFor(plan: Pick<Plan, 'alignment' | 'length'>): Alignment {
  const result = given(plan)
  return result?.ok ? result.value : straight(plan.length)
}

/** How far the length of a plan and of its alignment may differ, m: what a drawing rounded to millimetres loses. */
const LENGTH_SLACK = 0.002

export function checkAlignment(plan: Pick<Plan, 'alignment' | 'length'>): Problem[] {
  const result = given(plan)
  if (!result) return []
  if (!result.ok) return result.problems.map((p) => ({ ...p, field: `alignment.${p.field}` }))
  const { length } = result.value
  return Math.abs(length - plan.length) > LENGTH_SLACK
    ? [{ field: 'length', message: `is ${said.given(plan.length)}, but the alignment is ${said.length(length, 3)} long; they must agree` }]
    : []
}
