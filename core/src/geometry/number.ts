/** Lengths closer than this are the same length (m). The one tolerance of the house; nobody else compares floats by hand. */
export const LENGTH_TOLERANCE = 1e-6

/** @example same(0.1 + 0.2, 0.3) // true */
export const same = (a: number, b: number) => Math.abs(a - b) <= LENGTH_TOLERANCE
/** a ≤ b within tolerance. */
export const atMost = (a: number, b: number) => a <= b + LENGTH_TOLERANCE
/** a < b beyond tolerance. */
export const below = (a: number, b: number) => a < b - LENGTH_TOLERANCE
/** Rounds away the noise of float arithmetic, to a micrometre. */
export const tidy = (a: number) => Math.round(a * 1e6) / 1e6
