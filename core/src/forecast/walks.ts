import type { GrowthModel, GrowthRule } from './rule'

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
export const BAND: Readonly<Record<GrowthModel, number>> = { level: 2.05, lean: 2.1 }

/** Logarithms of the beliefs, company's record counted in. */
const beliefs = new Map<string, readonly (readonly [scatter: number, log: number])[]>()
/** Stations of one section are asked for one after another by the same rule. */
let asked: { readonly rule: GrowthRule; readonly believed: readonly (readonly [scatter: number, log: number])[] } | undefined
export function beliefsBy(rule: GrowthRule): readonly (readonly [scatter: number, log: number])[] {
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

/** One walk followed through the readings: where it stands, what it gains a course, the variances, and how well it foretold. */
export interface Walk {
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
export function walkThrough(deviations: readonly number[], n: number, walk: number, into: Walk) {
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
export function walkLevel(courses: readonly number[], deviations: readonly number[], n: number, walk: number, into: Walk) {
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
export function walkLean(deviations: readonly number[], n: number, scatter: number, into: Walk) {
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

export const walks: readonly Walk[] = [0, 1, 2].map(() => ({ here: 0, slope: 0, still: 0, each: 0, trend: 0, log: 0 }))
