import { fail, ok, type Result } from '../base/result'

const NUMBER = String.raw`[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)`
const numberOf = (text: string) => Number(text.replace(',', '.'))

/** Across per 1 up of a slope as it is written everywhere, 1.5H:1V; undefined where it is written otherwise. */
function acrossOf(t: string): number | undefined {
  const hv = new RegExp(`^(${NUMBER})\\s*h\\s*:\\s*(${NUMBER})\\s*v$`, 'i').exec(t)
  const up = numberOf(hv?.[2] ?? '')
  return hv && up > 0 ? numberOf(hv[1] ?? '') / up : undefined
}

/**
 * A fall as people write it: 0.02, 2 %, 1:50 or 1 in 50 (so much down per so much out), 5°.
 *
 * @returns down per 1 out
 * @example parseFall('1:8').value // 0.125
 */
export function parseFall(text: string): Result<number> {
  const t = text.trim()
  const plain = new RegExp(`^(${NUMBER})\\s*(%|°|deg)?$`).exec(t)
  if (plain) {
    const n = numberOf(plain[1] ?? '')
    if (plain[2] === '%') return ok(n / 100)
    if (!plain[2]) return ok(n)
    return Math.abs(n) < 90 ? ok(Math.tan((n * Math.PI) / 180)) : fail('', `is ${n}°; a fall is less than 90°`)
  }
  const written = acrossOf(t)
  if (written !== undefined) return written > 0 ? ok(1 / written) : fail('', 'falls over no distance; write it as 8H:1V')
  const ratio = new RegExp(`^(${NUMBER})\\s*(?::|in|/)\\s*(${NUMBER})$`, 'i').exec(t)
  if (ratio) {
    const [down, out] = [numberOf(ratio[1] ?? ''), numberOf(ratio[2] ?? '')]
    return out !== 0 ? ok(down / out) : fail('', 'falls over no distance; write it as 1:50')
  }
  return fail('', `must be a fall such as 0.02, 2 %, 1:50 or 5°, not "${t}"`)
}

/**
 * How far a cut leans back: across per 1 up as a number, or its angle over the level. A ratio is refused: some write up to across, others
 * across to up, and the wrong one is the steeper.
 *
 * @returns across per 1 up
 * @example parseLean('60°').value // 0.577
 */
export function parseLean(text: string): Result<number> {
  const t = text.trim()
  const written = acrossOf(t)
  if (written !== undefined) return ok(written)
  const plain = new RegExp(`^(${NUMBER})\\s*(°|deg)?$`).exec(t)
  if (!plain)
    return fail(
      '',
      /[:/]/.test(t)
        ? `is "${t}", which some read as up to across and others the other way round; write how far back per 1 up, or the angle of the cut`
        : `must be a number or an angle such as 60°, not "${t}"`,
    )
  const n = numberOf(plain[1] ?? '')
  if (!plain[2]) return ok(n)
  return n > 0 && n <= 90 ? ok(n === 90 ? 0 : 1 / Math.tan((n * Math.PI) / 180)) : fail('', `is ${n}°; the angle of a cut is above 0 and at most 90°`)
}

/**
 * A slope as it is written everywhere: so much across to one up.
 *
 * @param across - across per 1 up
 * @example formatSlope(1.5) // '1.5H:1V'
 */
export const formatSlope = (across: number): string =>
  across <= 0 ? 'upright' : `${across >= FLAT ? Math.round(across * 10) / 10 : Math.round(across * 1000) / 1000}H:1V`
/** Flatter than this nobody reads more than a tenth. */
const FLAT = 3
