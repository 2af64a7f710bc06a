import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { type InferType, list, quantity, record } from '../base/schema'

const elevation = () => quantity({ min: -500, max: 9000, unit: 'm' })

/** Sections along a trench, m; sideSlope is m across per m up; swell as a share (0.25) or a factor (1.25); truckVolume m³ loose. */
export const trenchInput = record({
  sideSlope: quantity({ min: 0, max: 10, unit: 'm across per m up' }),
  swell: quantity({ min: 0, max: 3 }),
  truckVolume: quantity({ min: 0.01, max: 200, unit: 'm³' }),
  sections: list(
    record({
      station: quantity({ min: -10_000, max: 100_000, unit: 'm' }),
      ground: elevation(),
      bottom: elevation(),
      width: quantity({ min: 0, max: 100, unit: 'm' }),
    }),
    2,
  ),
})
export type TrenchInput = InferType<typeof trenchInput>

/**
 * Area of a trench at one section: `width·h + sideSlope·h²`, both sides laid back. Ground below the bottom has nothing to dig.
 *
 * @returns m²
 * @example trenchArea({ ground: 10, bottom: 9, width: 0.8 }, 0.5) // 1.3
 */
export function trenchArea(section: { ground: number; bottom: number; width: number }, sideSlope: number): number {
  const h = Math.max(0, section.ground - section.bottom)
  return section.width * h + sideSlope * h * h
}

/** Loose over bank. No soil more than doubles, so a number below 1 is the share it grows by and one above is the factor itself. */
export const swellFactor = (swell: number) => (swell < 1 ? 1 + swell : swell)

/**
 * Volume of a trench by average end areas, in the bank and loose, and the truck loads that take it away.
 *
 * @returns bank and loose m³, loads whole
 * @example trench({ sideSlope: 0, swell: 0.25, truckVolume: 6, sections: [{ station: 0, ground: 10, bottom: 9, width: 1 }, { station: 10, ground: 10, bottom: 9, width: 1 }] })
 * // bank 10, loose 12.5, loads 3
 */
export function trench(input: TrenchInput): Result<{ bank: number; loose: number; loads: number }> {
  let bank = 0
  for (let i = 1; i < input.sections.length; i++) {
    const [a, b] = [input.sections[i - 1], input.sections[i]] as const
    if (!a || !b) continue
    if (b.station <= a.station)
      return fail(`sections[${i}].station`, `must be beyond ${said.given(a.station)}, where the section before it is; not ${said.given(b.station)}`)
    bank += ((trenchArea(a, input.sideSlope) + trenchArea(b, input.sideSlope)) / 2) * (b.station - a.station)
  }
  const loose = bank * swellFactor(input.swell)
  return ok({ bank, loose, loads: Math.max(0, Math.ceil(loose / input.truckVolume - 1e-9)) })
}
