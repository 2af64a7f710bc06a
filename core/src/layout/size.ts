import type { Problem } from '../base/result'
import { said } from '../base/said'
import { exposedHeight, type Plan } from '../plan'
import { embedment } from '../rules'
import { buildingOf } from '../systems'

/** Most pieces a wall may be laid out in: a wall of 1,000 m and twenty courses of small stones has fewer. */
export const PIECE_LIMIT = 250_000

/**
 * How many pieces the plan makes, about: face area over the face of a unit, embedment and whole courses counted in. Cheap: nothing is laid out.
 *
 * @example pieceEstimate(plan) // 1840
 */
export function pieceEstimate(plan: Plan): number {
  const { grades } = plan
  const building = buildingOf(plan)
  const unit = building.course(1)
  const buried = embedment({ exposedHeight: exposedHeight(plan), unitHeight: unit.height, rules: [...building.embedment] })
  const depth = buried.ok ? buried.value.depth : 0
  const highest = Math.max(...grades.map((g) => g.top))
  const tall = (g: Plan['grades'][number]) => Math.max(0, (plan.top?.style === 'level' ? highest : g.top) - g.toe + depth)
  let area = 0
  for (let i = 1; i < grades.length; i++) {
    const [a, b] = [grades[i - 1] as Plan['grades'][number], grades[i] as Plan['grades'][number]]
    area += (b.station - a.station) * ((tall(a) + tall(b)) / 2 + unit.height)
  }
  return Math.round(area / (unit.height * unit.length))
}

/**
 * Is the wall too large to be laid out as one?
 *
 * @returns what to do about it, at the field that makes it so; undefined for any wall of usual size
 */
export function tooManyPieces(plan: Plan): Problem | undefined {
  const pieces = pieceEstimate(plan)
  if (pieces <= PIECE_LIMIT) return undefined
  const make = buildingOf(plan).course(1)
  const share = Math.floor((plan.length * PIECE_LIMIT) / pieces)
  return {
    field: 'length',
    message: `makes about ${pieces.toLocaleString('en')} pieces of ${said.given(make.length)} × ${said.given(make.height)}; at most ${PIECE_LIMIT.toLocaleString('en')} are laid out as one wall. Plan it as walls of up to ${said.given(share)} each, or check the size of the unit`,
  }
}
