import { expectedAt, type Growth } from './growth'
import type { GrowthRule } from './rule'

/** Chance that a normal value lies within ± of nought. Abramowitz and Stegun 7.1.26, good to 1.5e-7. */
function within(limit: number, mean: number, sd: number): number {
  if (sd <= 0) return Math.abs(mean) <= limit ? 1 : 0
  const below = (x: number) => {
    const z = Math.abs(x) / Math.SQRT2
    const t = 1 / (1 + 0.3275911 * z)
    const erf = 1 - ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t * Math.exp(-z * z)
    return x >= 0 ? (1 + erf) / 2 : (1 - erf) / 2
  }
  return below((limit - mean) / sd) - below((-limit - mean) / sd)
}

/**
 * Chance that the last course lies inside its limit, when the courses to come are corrected by `total` (m).
 *
 * @example oddsAt(growth, rule, -0.004) // 0.93
 */
export function oddsAt(g: Growth, rule: GrowthRule, total = 0): number {
  const { deviation, band } = expectedAt(g, Math.max(g.top, g.now))
  return within(rule.limit, deviation + total, band / g.width)
}

/** What to do with one course so that the top comes back inside; m, + raises or moves out. */
export interface CourseCorrection {
  readonly course: number
  readonly by: number
}

export interface Correction {
  /** even: a little at each course. reset: more than the courses to come can take; take back to `from` and set it again. */
  readonly way: 'none' | 'even' | 'reset'
  readonly courses: readonly CourseCorrection[]
  /** Sum of the corrections, m. */
  readonly total: number
  /** Where the line left, or will leave, the limit; else where it may. */
  readonly from: number | undefined
  /** Chance that the top lies inside without it, and with it. */
  readonly odds: { readonly without: number; readonly with: number }
}

/** Odds are worth a correction when they gain at least this. */
const WORTH = 0.05

/**
 * The smallest correction that brings the expected top to the middle: the same whole number of `grain` at each course, as small as will
 * do, at no more courses than it takes, and at none so much that the course itself is set outside its limit, or further out than it would
 * be. Nothing is asked that does not better the odds by a twentieth. Where the courses to come cannot take it and the top is expected
 * outside, the ones that went wrong are to be set again.
 *
 * @example correctionOf(growth, rule).courses[0] // { course: 4, by: -0.001 }
 */
export function correctionOf(g: Growth, rule: GrowthRule): Correction {
  const last = expectedAt(g, Math.max(g.top, g.now)).deviation
  const without = oddsAt(g, rule)
  const none: Correction = { way: 'none', courses: [], total: 0, from: g.leaves ?? g.mayLeave, odds: { without, with: without } }
  const size = Math.floor(Math.abs(last) / rule.grain + 0.5) * rule.grain
  if (g.mayLeave === undefined || size < rule.grain / 2 || g.top <= g.now) return none
  const sign = -Math.sign(last)
  const ahead = g.top - g.now
  const each = Math.min(Math.floor(rule.step / rule.grain + 1e-6) * rule.grain, Math.ceil(size / ahead / rule.grain - 1e-6) * rule.grain)
  const courses: CourseCorrection[] = []
  let done = 0
  for (let course = g.now + 1; course <= g.top && size - done > rule.grain / 2; course++) {
    const line = expectedAt(g, course).deviation
    const before = Math.abs(line + sign * done)
    let by = Math.min(each, size - done)
    // No course is set outside its own limit for the sake of the top, or further out than it would stand.
    while (by > rule.grain / 2 && Math.abs(line + sign * (done + by)) > Math.max(rule.limit, before) + 1e-9) by -= rule.grain
    if (by < rule.grain / 2) continue
    done += by
    courses.push({ course, by: sign * by })
  }
  const total = sign * done
  const odds = { without, with: oddsAt(g, rule, total) }
  if (Math.abs(last + total) > rule.limit + 1e-9) return { ...none, way: 'reset', total: sign * size, odds }
  if (odds.with - without < WORTH && g.leaves === undefined) return none
  return { way: 'even', courses, total, from: g.leaves ?? g.mayLeave, odds }
}
