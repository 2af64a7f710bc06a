/** A reading of one station: the course it was taken on and how far off it was, m (+ is high, or out). */
export interface CourseReading {
  readonly course: number
  readonly deviation: number
}

/** What is known beforehand, and what is allowed; lengths m. */
export interface GrowthRule {
  /** Either way, at every course. */
  readonly limit: number
  /** Scatter of one reading: the reading itself and the unit under it. */
  readonly scatter: number
  /** How much a crew commonly gains or loses per course without noticing. */
  readonly drift: number
  /** The most that one course can be corrected by, and the least that anyone can work to. */
  readonly step: number
  readonly grain: number
}

/** How sure the forecast can be. */
export type Sureness = 'none' | 'one' | 'guess' | 'trend'

/** The line through the readings of one station, and what it comes to at the top. */
export interface Growth {
  readonly count: number
  /** Course of the highest reading, and of the last course. */
  readonly now: number
  readonly top: number
  /** m per course. */
  readonly slope: number
  readonly middle: { readonly course: number; readonly deviation: number }
  /** Variances of the line at its middle (m²) and of its slope (m² per course²). */
  readonly variance: { readonly middle: number; readonly slope: number }
  readonly sureness: Sureness
  /** First course above whose expected line is beyond the limit, and the first at which it may be. */
  readonly leaves: number | undefined
  readonly mayLeave: number | undefined
}

/**
 * The expected deviation of a course and its band: the line lies within it in about 19 cases of 20; m.
 *
 * @example expectedAt(growth, 12) // { deviation: 0.011, band: 0.006 }
 */
export function expectedAt(g: Growth, course: number): { deviation: number; band: number } {
  const run = course - g.middle.course
  return {
    deviation: g.middle.deviation + g.slope * run,
    band: 2 * Math.sqrt(g.variance.middle + g.variance.slope * run * run),
  }
}

/**
 * Least-squares line through the readings of one station, with the trade's experience as a counterweight: without readings to
 * the contrary a course is set like the one below it, give or take `drift`. One reading then says where the course lies and
 * nothing of a trend; two say a little; the band narrows only as readings come in, and widens again when they scatter.
 *
 * b = Sxy / (Sxx + σ²/τ²), var b = σ² / (Sxx + σ²/τ²); ȳ with σ²/n. σ is the scatter, or that of the readings where they scatter
 * more. Source: linear regression with a normal prior on the slope (ridge), any textbook of statistics.
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
 * @example growthFrom([1, 2], [0.002, 0.004], 2, 10, rule)?.slope
 */
export function growthFrom(courses: readonly number[], deviations: readonly number[], n: number, top: number, rule: GrowthRule): Growth | undefined {
  if (n === 0) return undefined
  let sx = 0
  let sy = 0
  let now = 0
  for (let i = 0; i < n; i++) {
    const course = courses[i] as number
    sx += course
    sy += deviations[i] as number
    if (course > now) now = course
  }
  const mx = sx / n
  const my = sy / n
  let sxx = 0
  let sxy = 0
  let syy = 0
  for (let i = 0; i < n; i++) {
    const x = (courses[i] as number) - mx
    const y = (deviations[i] as number) - my
    sxx += x * x
    sxy += x * y
    syy += y * y
  }
  let variance = rule.scatter ** 2
  if (n > 2 && sxx > 0) {
    const plain = sxy / sxx
    variance = Math.max(variance, (syy - plain * sxy) / (n - 2))
  }
  const weight = sxx + variance / rule.drift ** 2
  const slope = sxy / weight
  const middle = variance / n
  const drift = variance / weight
  let leaves: number | undefined
  let mayLeave: number | undefined
  for (let c = now + 1; c <= top && leaves === undefined; c++) {
    const off = Math.abs(my + slope * (c - mx))
    if (mayLeave === undefined && off + 2 * Math.sqrt(middle + drift * (c - mx) ** 2) > rule.limit) mayLeave = c
    if (off > rule.limit) leaves = c
  }
  return {
    count: n,
    now,
    top,
    slope,
    middle: { course: mx, deviation: my },
    variance: { middle, slope: drift },
    sureness: n === 1 ? 'one' : n === 2 ? 'guess' : 'trend',
    leaves,
    mayLeave,
  }
}

/** What to do with one course so that the top comes back inside; m, + raises or moves out. */
export interface CourseCorrection {
  readonly course: number
  readonly by: number
}

export interface Correction {
  /** even: a little at each course. reset: more than a course can take; take back to `from` and set it again. */
  readonly way: 'none' | 'even' | 'reset'
  readonly courses: readonly CourseCorrection[]
  /** Sum of the corrections, m. */
  readonly total: number
  /** Where the line left, or will leave, the limit. */
  readonly from: number | undefined
}

/**
 * The smallest correction that keeps every course above inside the limit: the same whole number of `grain` at each course, as small
 * as will do, and at no more courses than it takes. In sum it is less than one grain more than what is beyond the limit. When one
 * course would have to take more than `step`, the courses that went wrong are to be set again.
 *
 * @example correctionOf(growth, rule).courses[0] // { course: 4, by: -0.001 }
 */
export function correctionOf(g: Growth, rule: GrowthRule): Correction {
  if (g.leaves === undefined) return { way: 'none', courses: [], total: 0, from: undefined }
  const beyond = (course: number) => Math.max(0, Math.abs(expectedAt(g, course).deviation) - rule.limit)
  const ahead = Array.from({ length: Math.max(0, g.top - g.now) }, (_, i) => g.now + 1 + i)
  const wanted = Math.max(0, ...ahead.map(beyond))
  const none = { way: 'none' as const, courses: [], total: 0, from: g.leaves }
  if (wanted < 1e-9) return none
  const sign = -Math.sign(expectedAt(g, g.top).deviation)
  const whole = (v: number) => Math.ceil(v / rule.grain - 1e-6) * rule.grain
  const each = whole(Math.max(...ahead.map((c) => beyond(c) / (c - g.now))))
  if (each > rule.step + 1e-9) return { ...none, way: 'reset', total: sign * wanted }
  const courses: CourseCorrection[] = []
  let done = 0
  for (const course of ahead) {
    if (done >= wanted - 1e-9) break
    const by = Math.min(each, whole(wanted - done))
    done += by
    courses.push({ course, by: sign * by })
  }
  return { way: 'even', courses, total: sign * done, from: g.leaves }
}
