import type { CourseReading, GrowthRule } from './rule'
import { BAND, beliefsBy, READING_NOISE, type Walk, walkLean, walkLevel, walks, walkThrough } from './walks'

/** How sure the forecast can be. */
export type Sureness = 'none' | 'one' | 'guess' | 'trend'

/** Where the courses of one station stand, and what becomes of it further up. */
export interface Growth {
  readonly count: number
  /** Course of the highest reading, and of the last course. */
  readonly now: number
  readonly top: number
  /** Expected deviation of course `now`, m, and what it gains with each course to come, m per course. */
  readonly here: number
  readonly slope: number
  /** Variance k courses further up: still + each·k + trend·k², m². */
  readonly variance: { readonly still: number; readonly each: number; readonly trend: number }
  /** Half width of the band in standard deviations. */
  readonly width: number
  readonly sureness: Sureness
  /** First course above whose expected line is beyond the limit, and the first at which it may be. */
  readonly leaves: number | undefined
  readonly mayLeave: number | undefined
}

/**
 * The expected deviation of a course and its band: the course lies within it in about 19 cases of 20; m.
 *
 * @example expectedAt(growth, 12) // { deviation: 0.011, band: 0.006 }
 */
export function expectedAt(g: Growth, course: number): { deviation: number; band: number } {
  const k = course - g.now
  const { still, each, trend } = g.variance
  // Below the highest reading the courses stand: nothing more becomes of them.
  const ahead = Math.max(0, k)
  return { deviation: g.here + g.slope * k, band: g.width * Math.sqrt(still + each * ahead + trend * ahead * ahead) }
}

/**
 * What the readings of one station so far come to further up.
 *
 * A course is set from the one below: its error walks. So what is expected at the top is where the wall stands now, and what it has
 * gained with each course, counted on; and the band widens with the root of the courses to come, not of those read. How far it walks
 * differs from crew to crew: three walks are followed at once (a Kalman filter each, for lean its closed form) and weighed by how well
 * each would have foretold what was read. Source: linear Gaussian state space models and Bayesian averaging of them, any textbook of time
 * series; the readings' noise, the drift and the beliefs are this trade's (docs/engineering.md).
 *
 * @param top - the last course here
 * @returns undefined without readings
 * @example growthOf([{ course: 1, deviation: 0.002 }, { course: 2, deviation: 0.004 }], 10, rule)?.leaves
 */
export function growthOf(readings: readonly CourseReading[], top: number, rule: GrowthRule): Growth | undefined {
  return growthFrom(
    readings.map((r) => r.course),
    readings.map((r) => r.deviation),
    readings.length,
    top,
    rule,
  )
}

/**
 * The same from plain columns: the first `n` courses and deviations (m). For many stations at once.
 *
 * @param stand - lean only: where the face of a course below the first step stands, as it was measured
 * @example growthFrom([1, 2], [0.002, 0.004], 2, 10, rule)?.slope
 */
export function growthFrom(
  courses: readonly number[],
  deviations: readonly number[],
  n: number,
  top: number,
  rule: GrowthRule,
  stand?: CourseReading,
): Growth | undefined {
  if (n === 0 && !stand) return undefined
  const now = n === 0 ? (stand as CourseReading).course : (courses[n - 1] as number)
  const believed = beliefsBy(rule)
  // In order and each once, so that this says that none is missing.
  const through = n > 0 && (courses[n - 1] as number) - (courses[0] as number) === n - 1
  let best = Number.NEGATIVE_INFINITY
  for (let i = 0; i < believed.length; i++) {
    const [scatter, log] = believed[i] as readonly [number, number]
    const walk = walks[i] as Walk
    if (rule.model === 'level' && through) walkThrough(deviations, n, scatter, walk)
    else if (rule.model === 'level') walkLevel(courses, deviations, n, scatter, walk)
    else walkLean(deviations, n, scatter, walk)
    walk.log += log
    if (walk.log > best) best = walk.log
  }
  let [whole, here, slope, still, each, trend] = [0, 0, 0, 0, 0, 0]
  for (const w of walks) {
    w.log = Math.exp(w.log - best)
    whole += w.log
  }
  for (const w of walks) {
    const share = w.log / whole
    here += share * w.here
    slope += share * w.slope
    still += share * w.still
    each += share * w.each
    trend += share * w.trend
  }
  // That the walks do not agree is part of what is not known.
  for (const w of walks) {
    const share = w.log / whole
    const [a, b] = [w.here - here, w.slope - slope]
    still += share * a * a
    each += share * 2 * a * b
    trend += share * b * b
  }
  // Courses of a lean that nobody read are still to come, as far as the sum goes.
  const from = stand ? stand.course + 1 : (courses[0] as number)
  const unread = rule.model === 'lean' ? Math.max(0, now - from + 1 - n) : 0
  const width = BAND[rule.model]
  const count = n + (stand ? 1 : 0)
  const growth = {
    count,
    now,
    top,
    here: here + slope * unread + (stand?.deviation ?? 0),
    slope,
    variance: {
      still: (stand ? READING_NOISE * READING_NOISE : 0) + still + each * unread + trend * unread * unread,
      each: each + 2 * trend * unread,
      trend,
    },
    width,
    sureness: count === 1 ? ('one' as const) : count === 2 ? ('guess' as const) : ('trend' as const),
    leaves: undefined as number | undefined,
    mayLeave: undefined as number | undefined,
  }
  for (let c = now + 1; c <= top && growth.leaves === undefined; c++) {
    const { deviation, band } = expectedAt(growth, c)
    if (growth.mayLeave === undefined && Math.abs(deviation) + band > rule.limit) growth.mayLeave = c
    if (Math.abs(deviation) > rule.limit) growth.leaves = c
  }
  return growth
}
