import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { type InferType, quantity, record } from '../base/schema'
import { type Curve, GRAINS, looksLikeShare, zeroAirVoids } from './proctor'

const mass = () => quantity({ min: 0, max: 100, unit: 'kg' })
const percent = (max = 100) => quantity({ min: 0, max, unit: '%' })

/** Masses kg, sand density and maximum dry density kg/m³, moisture per cent. */
export const sandConeInput = record({
  massBefore: mass(),
  massAfter: mass(),
  coneMass: mass(),
  sandDensity: quantity({ min: 500, max: 3000, unit: 'kg/m³' }),
  soilMass: mass(),
  moisture: percent(),
  maximumDryDensity: quantity({ min: 500, max: 3500, unit: 'kg/m³' }),
})
export type SandConeInput = InferType<typeof sandConeInput>

/**
 * Sand-cone test: `volume = (massBefore − massAfter − coneMass) / sandDensity`; wet density is soil over volume, dry density
 * that over `1 + moisture/100`.
 *
 * @returns m³, kg/m³, per cent of maximum dry density
 * @example sandCone({ massBefore: 6.5, massAfter: 2.9, coneMass: 1.62, sandDensity: 1430, soilMass: 2.87, moisture: 8.4, maximumDryDensity: 2017 })
 * // dryDensity 1912.16, relativeCompaction 94.80
 */
export function sandCone(input: SandConeInput): Result<{ volume: number; wetDensity: number; dryDensity: number; relativeCompaction: number }> {
  const sand = input.massBefore - input.massAfter - input.coneMass
  if (!(sand > 0)) {
    return fail(
      'massAfter',
      `leaves no sand in the hole: ${said.mass(input.massBefore)} − ${said.mass(input.massAfter)} − ${said.mass(input.coneMass)} must be over nothing`,
    )
  }
  if (!(input.soilMass > 0)) return fail('soilMass', 'must be over nothing')
  if (looksLikeShare(input.moisture)) {
    return fail('moisture', `${input.moisture} looks like a share; moisture is in per cent, so write ${+(input.moisture * 100).toFixed(4)}`)
  }
  const volume = sand / input.sandDensity
  const wetDensity = input.soilMass / volume
  const dryDensity = wetDensity / (1 + input.moisture / 100)
  return ok({ volume, wetDensity, dryDensity, relativeCompaction: (dryDensity / input.maximumDryDensity) * 100 })
}

/** What a nuclear or electric gauge shows: wet density kg/m³, moisture per cent, and its standard counts of the day. */
export const gaugeReading = record({
  wetDensity: quantity({ min: 500, max: 3500, unit: 'kg/m³' }),
  moisture: percent(),
  densityStandard: quantity({ min: 1, max: 1_000_000 }),
  densityReference: quantity({ min: 1, max: 1_000_000 }),
  moistureStandard: quantity({ min: 1, max: 1_000_000 }),
  moistureReference: quantity({ min: 1, max: 1_000_000 }),
})
export type GaugeReading = InferType<typeof gaugeReading>

/** How far a day's standard count may be from the reference, per cent. */
export const STANDARD_LIMITS = { density: 1, moisture: 2 }

/** With as many places as tell it from its limit, one at least: 94.996 % must not read "95.0 %, at least 95 %". */
function apart(value: number, limit: number): string {
  let places = 1
  while (places < 6 && value !== limit && Number(value.toFixed(places)) === limit) places++
  return value.toFixed(places)
}

/**
 * Does the gauge agree with itself today? Standard counts against the reference of its calibration.
 *
 * @returns a sentence for each count that is off
 */
export function standardCounts(g: GaugeReading): string[] {
  const off = (now: number, then: number, limit: number, name: string) => {
    // In counts, not in shares: what lies just at the limit is not over it by a last digit.
    const far = Math.abs(now - then) * 100
    if (far <= limit * then) return []
    const share = far / then
    return [`${name} standard count ${now > then ? '+' : '−'}${apart(share, limit)} % off, limit ${limit} %`]
  }
  return [
    ...off(g.densityStandard, g.densityReference, STANDARD_LIMITS.density, 'density'),
    ...off(g.moistureStandard, g.moistureReference, STANDARD_LIMITS.moisture, 'moisture'),
  ]
}

/** Which moistures fill may have when it is compacted, in per cent either side of optimum. */
export interface MoistureWindow {
  readonly below: number
  readonly above: number
}
/** Pads and backfill alike are compacted near optimum; reinforced soil never wetter than it. */
export const WINDOWS = { pad: { below: 3, above: 2 }, backfill: { below: 3, above: 0 } } as const

export interface DensityJudgement {
  readonly relative: number
  /** Below the limit, too wet, or impossible. */
  readonly out: boolean
  readonly text: string
}

/**
 * A field test against its laboratory curve: relative compaction, moisture window and the line nothing real lies above.
 *
 * @param test - dry density kg/m³, moisture per cent
 * @param limit - per cent of maximum dry density
 * @example judgeDensity({ dryDensity: 1912, moisture: 8.4 }, { optimumMoisture: 9.5, maximumDryDensity: 2017 }, 95, WINDOWS.pad).out // true
 */
export function judgeDensity(
  test: { dryDensity: number; moisture: number },
  curve: Curve,
  limit: number,
  window: MoistureWindow,
  gs = GRAINS,
): DensityJudgement {
  const relative = (test.dryDensity / curve.maximumDryDensity) * 100
  const at = `${apart(relative, limit)} % of maximum`
  const most = zeroAirVoids(test.moisture, gs)
  if (test.dryDensity > most) {
    return {
      relative,
      out: true,
      text: `${said.density(test.dryDensity)} at ${test.moisture} % is above zero air voids (${said.density(most)}): no soil can be that dense; test again`,
    }
  }
  if (relative < limit) return { relative, out: true, text: `${at}, at least ${limit} %` }
  const [dry, wet] = [curve.optimumMoisture - window.below, curve.optimumMoisture + window.above]
  if (test.moisture > wet + 0.05) return { relative, out: true, text: `${at}, but ${test.moisture} % moisture is over ${wet.toFixed(1)} %: too wet` }
  if (test.moisture < dry - 0.05) return { relative, out: true, text: `${at}, but ${test.moisture} % moisture is under ${dry.toFixed(1)} %: too dry` }
  return { relative, out: false, text: `${at}, limit ${limit} %` }
}
