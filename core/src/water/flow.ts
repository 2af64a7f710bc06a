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

/**
 * What seeps to the toe drain: the rain that does not run off, over the strip of ground whose water comes to the wall (twice its height,
 * or the whole ground above where that is less). A planning figure; springs and ground water found in the cut come on top.
 *
 * @param height - of the wall, m
 * @param length - of the wall, m
 * @returns m³/s
 * @example seepageFlow({ runoff: 0.4, rain: 55, area: 620, height: 2, length: 36 }) // 0.00132
 */
export const seepageFlow = (f: { runoff: number; rain: number; area: number; height: number; length: number }) =>
  rationalFlow(1 - f.runoff, f.rain, Math.min(f.area, 2 * f.height * f.length))

/** Manning's n of a grassed swale, and its sides: m across per m deep. */
const SWALE = { roughness: 0.03, sides: 3 }

/**
 * How deep water runs in a grassed swale with three to one sides. Manning, triangular section:
 * `Q = 1/n · z·d² · (z·d / 2√(1+z²))^⅔ · √S`.
 *
 * @param flow - m³/s
 * @param fall - m per m
 * @returns m
 * @example swaleDepth(0.0038, 0.01) // 0.07
 */
export function swaleDepth(flow: number, fall: number): number {
  const { roughness, sides: z } = SWALE
  const shape = z * (z / (2 * Math.sqrt(1 + z * z))) ** (2 / 3)
  return ((flow * roughness) / (shape * Math.sqrt(fall))) ** (3 / 8)
}

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
