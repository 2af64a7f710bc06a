import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { type InferType, list, quantity, record } from '../base/schema'

/** Elevations and readings, m. */
export const rodInput = record({
  benchmark: quantity({ min: -500, max: 9000, unit: 'm' }),
  backsight: quantity({ min: 0, max: 10, unit: 'm' }),
  points: list(record({ target: quantity({ min: -500, max: 9000, unit: 'm' }), reading: quantity({ min: 0, max: 10, unit: 'm' }) })),
})
export type RodInput = InferType<typeof rodInput>

/**
 * Height of instrument, and for each point the rod reading that hits the target and how far the reading is off.
 * `HI = benchmark + backsight`; `targetRod = HI − target`; `deviation = HI − reading − target` (+ is high). Ordinary levelling.
 *
 * @returns m throughout
 * @example rod({ benchmark: 10, backsight: 1.5, points: [{ target: 9.8, reading: 1.696 }] })
 * // heightOfInstrument 11.5, points [{ targetRod 1.7, deviation 0.004 }]
 */
export function rod(input: RodInput) {
  const heightOfInstrument = input.benchmark + input.backsight
  return {
    heightOfInstrument,
    points: input.points.map((p) => ({
      targetRod: heightOfInstrument - p.target,
      deviation: heightOfInstrument - p.reading - p.target,
    })),
  }
}

/** Thickness and allowed lift, m; looseFactor = loose over compacted. */
export const liftsInput = record({
  thickness: quantity({ min: 0, max: 50, unit: 'm' }),
  maxLift: quantity({ min: 0, max: 2, unit: 'm' }),
  looseFactor: quantity({ min: 1, max: 3 }),
})
export type LiftsInput = InferType<typeof liftsInput>

/**
 * Equal lifts no thicker than allowed. `count = ceil(thickness / maxLift)`, loose = compacted × looseFactor.
 *
 * @returns number of lifts, compacted and loose thickness of each (m)
 * @example lifts({ thickness: 0.3, maxLift: 0.2, looseFactor: 1.25 }) // count 2, compacted 0.15, loose 0.1875
 */
export function lifts(input: LiftsInput): Result<{ count: number; compacted: number; loose: number }> {
  if (!(input.thickness > 0)) return fail('thickness', `must be over ${said.given(0)}, not ${said.given(input.thickness)}`)
  if (!(input.maxLift > 0)) return fail('maxLift', `must be over ${said.given(0)}, not ${said.given(input.maxLift)}`)
  // 0.6 / 0.2 must be three lifts, not four, whatever the last binary digit says.
  const count = Math.ceil(input.thickness / input.maxLift - 1e-9)
  const compacted = input.thickness / count
  return ok({ count, compacted, loose: compacted * input.looseFactor })
}
