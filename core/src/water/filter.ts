import { fail, ok, type Result } from '../base/result'
import { type InferType, list, quantity, record } from '../base/schema'

const sieve = () =>
  list(record({ size: quantity({ min: 0.0001, max: 1000, unit: 'mm' }), passing: quantity({ min: 0, max: 100, unit: '%' }) }), 2, 100)

/** Gradings of the soil and of the stone in front of it: sieve size mm, per cent passing, either way round. */
export const filterInput = record({ soil: sieve(), stone: sieve() })
export type FilterInput = InferType<typeof filterInput>
type Grading = FilterInput['soil']

/** Limits of the Terzaghi filter rules. */
export const FILTER_LIMITS = { retention: 5, permeability: 5 }

/**
 * Grain size of which a share passes, by straight lines between sieve points over the logarithm of size.
 *
 * @param share - per cent
 * @returns mm
 */
export function sizeAt(grading: Grading, share: number, field: string): Result<number> {
  const points = [...grading].sort((a, b) => a.size - b.size)
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1], points[i]] as [Grading[number], Grading[number]]
    if (a.size === b.size) return fail(`${field}[${grading.indexOf(b)}].size`, `the sieve of ${b.size} mm is given twice`)
    if (b.passing < a.passing)
      return fail(`${field}[${grading.indexOf(b)}].passing`, `${b.passing} % pass ${b.size} mm, but ${a.passing} % pass the finer ${a.size} mm`)
  }
  const at = points.findIndex((p) => p.passing >= share)
  const above = points[at]
  if (!above) return fail(field, `its coarsest sieve lets ${points.at(-1)?.passing} % pass; a sieve that lets ${share} % pass is needed`)
  if (above.passing === share) return ok(above.size)
  const below = points[at - 1]
  if (!below) return fail(field, `its finest sieve lets ${above.passing} % pass already; a finer one that lets less than ${share} % pass is needed`)
  const t = (share - below.passing) / (above.passing - below.passing)
  return ok(10 ** (Math.log10(below.size) + t * (Math.log10(above.size) - Math.log10(below.size))))
}

/** Coarsest of sand, mm: the sieve above which grains hold nothing back. */
const SAND = 4.75

/**
 * The grading of the part of a soil finer than gravel: what the filter rules are applied to where a soil has gravel in it. Base soil
 * regraded to the 4.75 mm sieve, as filter design of dams and drains does.
 *
 * @example regraded([{ size: 0.075, passing: 20 }, { size: 4.75, passing: 50 }, { size: 75, passing: 100 }]) // 40 % and 100 %
 */
export function regraded(grading: Grading): Grading {
  const coarsest = Math.max(...grading.map((p) => p.size))
  if (coarsest <= SAND) return grading
  const share = passingAt(grading, SAND)
  if (share === undefined || share >= 100 || share <= 0) return grading
  const finer = grading.filter((p) => p.size < SAND).map((p) => ({ size: p.size, passing: (p.passing / share) * 100 }))
  return finer.length === 0 ? grading : [...finer, { size: SAND, passing: 100 }]
}

/** Share finer than a size, per cent, by straight lines over the logarithm of size; undefined outside the sieves. */
function passingAt(grading: Grading, size: number): number | undefined {
  const points = [...grading].sort((a, b) => a.size - b.size)
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1], points[i]] as [Grading[number], Grading[number]]
    // A sieve converted from inches may miss its size by a last digit.
    if (size >= a.size - 1e-9 && size <= b.size + 1e-9)
      return a.passing + ((b.passing - a.passing) * Math.log(size / a.size)) / Math.log(b.size / a.size)
  }
  return undefined
}

/** Fines of a stone, per cent below 0.075 mm; undefined where no sieve says so. @example finesOf(stone) // 1.5 */
export const finesOf = (grading: Grading): number | undefined => passingAt(grading, 0.075)

export interface FilterCheck {
  readonly d15Stone: number
  readonly d85Soil: number
  readonly d15Soil: number
  readonly retention: number
  readonly permeability: number
  readonly ok: boolean
}

/**
 * Does the stone hold the soil back and still let its water through? `retention = D15 stone / d85 soil ≤ 5`,
 * `permeability = D15 stone / d15 soil ≥ 5` (Terzaghi).
 *
 * @returns sizes mm and the two ratios
 * @example filter({ soil, stone }).value.ok
 */
export function filter(input: FilterInput): Result<FilterCheck> {
  const d15Stone = sizeAt(input.stone, 15, 'stone')
  if (!d15Stone.ok) return d15Stone
  const d85Soil = sizeAt(input.soil, 85, 'soil')
  if (!d85Soil.ok) return d85Soil
  const d15Soil = sizeAt(input.soil, 15, 'soil')
  if (!d15Soil.ok) return d15Soil
  const retention = d15Stone.value / d85Soil.value
  const permeability = d15Stone.value / d15Soil.value
  return ok({
    d15Stone: d15Stone.value,
    d85Soil: d85Soil.value,
    d15Soil: d15Soil.value,
    retention,
    permeability,
    ok: retention <= FILTER_LIMITS.retention && permeability >= FILTER_LIMITS.permeability,
  })
}
