import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { type InferType, list, optionalQuantity, quantity, record } from '../base/schema'

/** Density of water, kg/m³. */
export const WATER = 1000
/** Specific gravity of soil grains when no report gives one. */
export const GRAINS = 2.7

/** A laboratory curve: moisture per cent of dry mass, dry density kg/m³, specific gravity of the grains. */
export const proctorInput = record({
  points: list(record({ moisture: quantity({ min: 0, max: 100, unit: '%' }), dryDensity: quantity({ min: 500, max: 3500, unit: 'kg/m³' }) }), 4, 200),
  gs: optionalQuantity({ min: 1.5, max: 4 }),
})
export type ProctorInput = InferType<typeof proctorInput>

/**
 * Dry density at which no air is left between the grains: `Gs·ρw / (1 + w·Gs/100)`. Nothing real lies above it.
 *
 * @param moisture - per cent of dry mass
 * @returns kg/m³
 * @example zeroAirVoids(10) // 2125.98
 */
export const zeroAirVoids = (moisture: number, gs = GRAINS) => (gs * WATER) / (1 + (moisture * gs) / 100)

/** Moisture typed as a share where per cent is meant: 0.12 for 12. No soil that is tested is drier than 1 %. */
export const looksLikeShare = (moisture: number) => moisture > 0 && moisture < 1

export interface Curve {
  readonly optimumMoisture: number
  readonly maximumDryDensity: number
}
/** A curve with its parabola `a·w² + b·w + c`, to be drawn. */
export interface FittedCurve extends Curve {
  readonly a: number
  readonly b: number
  readonly c: number
}

/**
 * Least-squares parabola through the points of a compaction test (Proctor 1933): its top is optimum moisture and maximum
 * dry density. It must open downwards with its top inside the tested moistures, and no point may lie above the zero-air-voids line.
 *
 * @returns per cent and kg/m³
 * @example proctor({ points: [{ moisture: 6, dryDensity: 1905 }, { moisture: 8, dryDensity: 1990 }, { moisture: 10, dryDensity: 2015 }, { moisture: 12, dryDensity: 1960 }] })
 * // optimumMoisture 9.543, maximumDryDensity 2013.83
 */
export function proctor(input: ProctorInput): Result<Curve> {
  const fitted = fitCurve(input)
  return fitted.ok ? ok({ optimumMoisture: fitted.value.optimumMoisture, maximumDryDensity: fitted.value.maximumDryDensity }) : fitted
}

export function fitCurve({ points, gs = GRAINS }: ProctorInput): Result<FittedCurve> {
  if (points.length < 4) return fail('points', `needs at least 4 points, not ${points.length}; a parabola goes through any three`)
  const share = points.findIndex((p) => looksLikeShare(p.moisture))
  if (share >= 0 && points.every((p) => p.moisture < 1)) {
    const m = points[share]?.moisture ?? 0
    return fail(`points[${share}].moisture`, `${m} looks like a share; moisture is in per cent, so write ${+(m * 100).toFixed(4)}`)
  }
  for (const [i, p] of points.entries()) {
    const most = zeroAirVoids(p.moisture, gs)
    if (p.dryDensity > most) {
      return fail(
        `points[${i}].dryDensity`,
        `${said.density(p.dryDensity)} at ${p.moisture} % lies above the zero-air-voids line (${said.density(most)} for Gs ${gs}); weigh and dry the sample again`,
      )
    }
  }
  // Centred moistures keep the normal equations well conditioned.
  const middle = points.reduce((s, p) => s + p.moisture, 0) / points.length
  const level = points.reduce((s, p) => s + p.dryDensity, 0) / points.length
  let [s2, s3, s4, t1, t2] = [0, 0, 0, 0, 0]
  for (const p of points) {
    const x = p.moisture - middle
    const y = p.dryDensity - level
    s2 += x * x
    s3 += x * x * x
    s4 += x * x * x * x
    t1 += x * y
    t2 += x * x * y
  }
  const n = points.length
  // Σx = 0 and Σy = 0: c = −a·s2/n leaves two equations in a and b.
  const q = s4 - (s2 * s2) / n
  const det = q * s2 - s3 * s3
  if (!(Math.abs(det) > 1e-9 * Math.max(1, q * s2))) return fail('points', 'need at least three different moistures; these make no curve')
  const a = (t2 * s2 - t1 * s3) / det
  const b = (q * t1 - s3 * t2) / det
  const c = (-a * s2) / n
  if (!(a < 0)) return fail('points', 'make no curve with a top: dry density does not fall on both sides; test wetter and drier points')
  const top = -b / (2 * a)
  const optimumMoisture = middle + top
  const moistures = points.map((p) => p.moisture)
  const [low, high] = [Math.min(...moistures), Math.max(...moistures)]
  if (optimumMoisture <= low || optimumMoisture >= high) {
    return fail(
      'points',
      `the top of the curve, ${optimumMoisture.toFixed(1)} %, lies outside the tested moistures ${low} to ${high} %; test ${optimumMoisture >= high ? 'wetter' : 'drier'} points`,
    )
  }
  return ok({
    optimumMoisture,
    maximumDryDensity: level + c - (b * b) / (4 * a),
    a,
    b: b - 2 * a * middle,
    c: level + c - b * middle + a * middle * middle,
  })
}

/** Stones too large for the mould: per cent of dry mass, their specific gravity and moisture (per cent). */
export interface Oversize {
  readonly share: number
  readonly gs: number
  readonly moisture: number
}
/** Above this share of stones, per cent, they touch one another and the correction no longer holds. */
export const OVERSIZE_LIMIT = 40

/**
 * Maximum dry density and optimum moisture of the whole soil from a curve made without its coarse particles: dry volumes of
 * stone and matrix added, moistures weighed by dry mass.
 *
 * @example coarseCorrection({ optimumMoisture: 10, maximumDryDensity: 2000 }, { share: 20, gs: 2.65, moisture: 1 })
 * // maximumDryDensity 2103.2, optimumMoisture 8.2
 */
export function coarseCorrection(curve: Curve, stones: Oversize): Result<Curve> {
  if (stones.share > OVERSIZE_LIMIT) {
    return fail('oversize.share', `is ${stones.share} %; above ${OVERSIZE_LIMIT} % the correction does not hold, use a method record instead`)
  }
  const p = stones.share / 100
  return ok({
    maximumDryDensity: 1 / (p / (stones.gs * WATER) + (1 - p) / curve.maximumDryDensity),
    optimumMoisture: p * stones.moisture + (1 - p) * curve.optimumMoisture,
  })
}
