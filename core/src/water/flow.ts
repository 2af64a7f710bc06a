/** Share of rain that runs off, by what the ground above is; common textbook values. */
export const RUNOFF = [
  ['lawn', 'Lawn, garden', 0.25],
  ['slope', 'Steep grass', 0.4],
  ['gravel', 'Gravel yard', 0.6],
  ['paved', 'Paving, roof', 0.9],
] as const

/**
 * Peak flow from the ground above. Rational method: Q = C · i · A.
 *
 * @param runoff - share that runs off
 * @param rain - mm in an hour
 * @param area - m²
 * @returns m³/s
 * @example rationalFlow(0.25, 60, 400) // 0.00167
 */
export const rationalFlow = (runoff: number, rain: number, area: number) => (runoff * (rain / 1000) * area) / 3600

/** Roughness of corrugated drain pipe (Manning's n). */
export const PIPE_ROUGHNESS = 0.016

/**
 * What a round pipe carries when it runs full. Manning: Q = A/n · R^⅔ · √S, R = d/4.
 *
 * @param diameter - inside, m
 * @param fall - m per m
 * @returns m³/s
 * @example pipeCapacity(0.1, 0.01) // 0.0042
 */
export function pipeCapacity(diameter: number, fall: number, n = PIPE_ROUGHNESS): number {
  const area = (Math.PI * diameter * diameter) / 4
  return (area / n) * (diameter / 4) ** (2 / 3) * Math.sqrt(fall)
}
