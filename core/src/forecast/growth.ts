/** A reading of one station: the course it was taken on and how far off it was, m (+ is high, or out). */
export interface CourseReading {
  readonly course: number
  readonly deviation: number
}

/**
 * level: a reading is how high a course lies; what one course is off, the next one starts from. lean: a reading is how far a course
 * steps back more or less than designed; the face of the top is the sum of all steps.
 */
export type GrowthModel = 'level' | 'lean'

/** What is known beforehand, and what is allowed; lengths m. */
export interface GrowthRule {
  readonly model: GrowthModel
  /** Either way, at every course. */
  readonly limit: number
  /** What courses of this company scatter by, one standard deviation a course, where its own record says it. */
  readonly scatter?: number | undefined
  /** The most that one course can be corrected by, and the least that anyone can work to. */
  readonly step: number
  readonly grain: number
}

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

/** A reading of one course is off by about this itself, m: rod, tape and eye. */
export const READING_NOISE = 0.0008
/** What a crew gains or loses per course without noticing, one standard deviation, m. */
const DRIFT = 0.0004
/**
 * How much a course can differ from the one below, m, and how much each is believed beforehand: the cautious ones more. What this wall's
 * own readings say weighs against it from the third reading on.
 */
const WALKS: Readonly<Record<GrowthModel, readonly (readonly [scatter: number, belief: number])[]>> = {
  level: [
    [0.0002, 0.15],
    [0.0008, 0.25],
    [0.0015, 0.6],
  ],
  lean: [
    [0.001, 0.15],
    [0.002, 0.25],
    [0.003, 0.6],
  ],
}
/** What crews in general scatter by, and the quietest of them, m a course. @example generalScatter('level') // 0.00123 */
export const generalScatter = (model: GrowthModel) => Math.sqrt(WALKS[model].reduce((sum, [walk, belief]) => sum + belief * walk * walk, 0))
export const quietestScatter = (model: GrowthModel) => Math.min(...WALKS[model].map(([walk]) => walk))

/** Half width of the band in standard deviations. The three beliefs together have wider tails than any one of them. */
const BAND: Readonly<Record<GrowthModel, number>> = { level: 2.05, lean: 2.1 }

/** Logarithms of the beliefs, company's record counted in. */
const beliefs = new Map<string, readonly (readonly [scatter: number, log: number])[]>()
/** Stations of one section are asked for one after another by the same rule. */
let asked: { readonly rule: GrowthRule; readonly believed: readonly (readonly [scatter: number, log: number])[] } | undefined
function beliefsBy(rule: GrowthRule): readonly (readonly [scatter: number, log: number])[] {
  if (asked?.rule !== rule) asked = { rule, believed: beliefsOf(rule.model, rule.scatter) }
  return asked.believed
}
function beliefsOf(model: GrowthModel, scatter: number | undefined): readonly (readonly [scatter: number, log: number])[] {
  const key = `${model} ${scatter ?? ''}`
  let found = beliefs.get(key)
  if (!found) {
    const known = scatter === undefined ? undefined : Math.max(scatter, 1e-5)
    // A record replaces what is believed of crews in general, but not that this crew may be a wilder one than its company's others.
    const wild = Math.max(...WALKS[model].map(([walk]) => walk))
    found = known
      ? ([
          [known * 0.67, Math.log(0.2)],
          [known, Math.log(0.45)],
          [Math.max(known * 1.2, wild), Math.log(0.35)],
        ] as const)
      : WALKS[model].map(([walk, belief]) => [walk, Math.log(belief)] as const)
    beliefs.set(key, found)
  }
  return found
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

/** One walk followed through the readings: where it stands, what it gains a course, the variances, and how well it foretold. */
interface Walk {
  here: number
  slope: number
  still: number
  each: number
  trend: number
  log: number
}

/** What the filter does at each reading of a station read course by course: it hangs on the walk alone, not on what was read. */
interface Gains {
  /** Share of what was not foretold that is believed of place and drift; one over its variance; sum of the logarithms so far. */
  readonly place: number[]
  readonly drift: number[]
  readonly sure: number[]
  readonly logs: number[]
  readonly p11: number[]
  readonly p12: number[]
  readonly p22: number[]
}
/** A company has one scatter; of so many walks the gains are kept. */
const WALKS_KEPT = 60
const gainsBy = new Map<number, Gains>()
function gainsOf(walk: number, n: number): Gains {
  let g = gainsBy.get(walk)
  const noise = READING_NOISE * READING_NOISE
  if (!g) {
    g = { place: [0], drift: [0], sure: [0], logs: [0], p11: [noise], p12: [0], p22: [DRIFT * DRIFT] }
    if (gainsBy.size > WALKS_KEPT) gainsBy.clear()
    gainsBy.set(walk, g)
  }
  for (let i = g.place.length; i < n; i++) {
    const [a, b, c] = [g.p11[i - 1] as number, g.p12[i - 1] as number, g.p22[i - 1] as number]
    const p11 = a + 2 * b + c + walk * walk
    const p12 = b + c
    const s = p11 + noise
    const [g1, g2] = [p11 / s, p12 / s]
    g.place.push(g1)
    g.drift.push(g2)
    g.sure.push(1 / s)
    g.logs.push((g.logs[i - 1] as number) + Math.log(s / noise))
    g.p11.push(p11 * (1 - g1))
    g.p12.push(p12 * (1 - g1))
    g.p22.push(c - g2 * p12)
  }
  return g
}

/** The same filter where no course was left out: what it needs was worked out once for the walk. */
function walkThrough(deviations: readonly number[], n: number, walk: number, into: Walk) {
  const g = gainsOf(walk, n)
  let m = deviations[0] as number
  let b = 0
  let squares = 0
  for (let i = 1; i < n; i++) {
    m += b
    const e = (deviations[i] as number) - m
    squares += e * e * (g.sure[i] as number)
    m += (g.place[i] as number) * e
    b += (g.drift[i] as number) * e
  }
  into.here = m
  into.slope = b
  into.still = g.p11[n - 1] as number
  into.each = walk * walk + 2 * (g.p12[n - 1] as number)
  into.trend = g.p22[n - 1] as number
  into.log = -0.5 * (squares + (g.logs[n - 1] as number))
}

/** Kalman filter of position and drift: readings of height, whatever courses were left out between. */
function walkLevel(courses: readonly number[], deviations: readonly number[], n: number, walk: number, into: Walk) {
  const noise = READING_NOISE * READING_NOISE
  const step = walk * walk
  let m = deviations[0] as number
  let b = 0
  let p11 = noise
  let p12 = 0
  let p22 = DRIFT * DRIFT
  let log = 0
  // Logarithms are dear: of sixteen readings at once, each against the reading's own noise so that the product stays a number.
  let spread = 1
  for (let i = 1; i < n; i++) {
    const k = Math.max(1, (courses[i] as number) - (courses[i - 1] as number))
    m += k * b
    p11 += 2 * k * p12 + k * k * p22 + k * step
    p12 += k * p22
    const s = p11 + noise
    const e = (deviations[i] as number) - m
    spread *= s / noise
    log -= 0.5 * ((e * e) / s)
    if ((i & 15) === 0) {
      log -= 0.5 * Math.log(spread)
      spread = 1
    }
    const [g1, g2] = [p11 / s, p12 / s]
    m += g1 * e
    b += g2 * e
    p22 -= g2 * p12
    p11 *= 1 - g1
    p12 *= 1 - g1
  }
  into.here = m
  into.slope = b
  into.still = p11
  into.each = step + 2 * p12
  into.trend = p22
  into.log = log - 0.5 * Math.log(spread)
}

/** Steps that scatter about what this crew gains each course: sum and mean of those read say all there is. */
function walkLean(deviations: readonly number[], n: number, scatter: number, into: Walk) {
  const noise = READING_NOISE * READING_NOISE
  const own = scatter * scatter
  const v = own + noise
  const drift = DRIFT * DRIFT
  let sum = 0
  let squares = 0
  for (let i = 0; i < n; i++) {
    const y = deviations[i] as number
    sum += y
    squares += y * y
  }
  const spread = 1 / (1 / drift + n / v)
  const gain = own / v
  const b = (spread * sum) / v
  const left = n * (1 - gain)
  into.here = n * b + gain * (sum - n * b)
  into.slope = b
  into.still = (n * own * noise) / v + spread * left * left
  into.each = own + 2 * spread * left
  into.trend = spread
  into.log =
    n === 0 ? 0 : -0.5 * ((n - 1) * Math.log(v) + Math.log(v + n * drift) + (squares - (sum * sum) / n) / v + (sum * sum) / n / (v + n * drift))
}

const walks: readonly Walk[] = [0, 1, 2].map(() => ({ here: 0, slope: 0, still: 0, each: 0, trend: 0, log: 0 }))

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
