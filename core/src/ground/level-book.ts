import { fail, failAll, ok, type Problem, type Result } from '../base/result'
import { said } from '../base/said'

/**
 * One sight through the level. A backsight looks at a point whose elevation is known (a benchmark, or the turning point just
 * read); an intermediate at a point of the work; a foresight at the point the next set-up starts from, or at a benchmark to
 * close; a check at a known point again, to see that the instrument still stands as it stood. m.
 */
export interface Sight {
  readonly kind: 'backsight' | 'intermediate' | 'foresight' | 'check'
  readonly point: string
  readonly reading: number
  /** Elevation of a benchmark, where the point is one. */
  readonly known?: number | undefined
  /** Whatever the caller knows the sight by. */
  readonly id?: string | undefined
}

export interface BookRow extends Sight {
  /** Number of the set-up, from 1. */
  readonly setup: number
  readonly hi: number
  readonly elevation: number
  /** After the misclosure is shared out; the same where the leg is not closed within its limit. */
  readonly adjusted: number
  /**
   * Taken from an instrument that a check showed to have moved: since the last good check, and after it until it was set up again; or in
   * a leg that does not close.
   */
  readonly doubtful: boolean
  /** A check: how far it is off, m. */
  readonly off?: number
}

/** Set-ups from one known point to the next, and how well they close. m. */
export interface BookLeg {
  readonly from: string
  readonly to: string
  readonly firstSetup: number
  readonly setups: number
  readonly misclosure: number
  readonly allowed: number
  readonly within: boolean
}

export interface LevelBook {
  readonly rows: readonly BookRow[]
  readonly legs: readonly BookLeg[]
  /** Legs that nothing closes yet: where each started, its first set-up and how many it has. */
  readonly unclosed: readonly { readonly from: string; readonly firstSetup: number; readonly setups: number }[]
  /** Set-ups of all unclosed legs. */
  readonly open: number
  /** ΣBS − ΣFS and last − first elevation of the turning points; they agree when the arithmetic does. m. */
  readonly check: { readonly sights: number; readonly elevations: number }
}

/** Allowed misclosure for one set-up and how far a check may be off, m. A leg of n set-ups is allowed √n times as much. */
export interface BookRules {
  readonly perSetup: number
  readonly check: number
}

/**
 * Reduces a level book by height of instrument: `HI = known + backsight`, `elevation = HI − reading`. Where a leg closes on a
 * known point within `perSetup·√n`, its misclosure is shared out equally over its set-ups; beyond that nothing is shared
 * out, because a blunder does not spread evenly. Ordinary differential levelling.
 *
 * @param sights - in the order they were taken
 * @returns rows with elevations, legs with their closure; or each sight that cannot be reduced
 * @example reduceBook([{ kind: 'backsight', point: 'BM', reading: 1.5, known: 10 }, { kind: 'intermediate', point: '0.00', reading: 1.7 }], rules).value.rows[1].elevation // 9.8
 */
export function reduceBook(sights: readonly Sight[], rules: BookRules): Result<LevelBook> {
  const problems: Problem[] = []
  const rows: (BookRow & { adjusted: number; doubtful: boolean })[] = []
  const legs: BookLeg[] = []
  const elevations = new Map<string, number>()
  let setup = 0
  let hi = Number.NaN
  let start: { point: string; setup: number } | undefined
  let [sights0, first, last] = [0, Number.NaN, Number.NaN]
  let goodSince = 0
  // The instrument moved: what is read from this height from now on hangs in the air too.
  let moved = false
  const unclosed: { from: string; firstSetup: number; setups: number }[] = []

  for (const [i, s] of sights.entries()) {
    const say = (message: string) => problems.push({ field: `sights[${i}].${s.kind === 'backsight' ? 'point' : 'kind'}`, message })
    if (s.kind === 'backsight') {
      const elevation = s.known ?? elevations.get(s.point)
      if (elevation === undefined) {
        say(`"${s.point}" has no elevation yet; start from a benchmark, or read it as a foresight first`)
        continue
      }
      // Started anew on a known point: the leg before stays open, nothing has closed it.
      if (start && s.known !== undefined) unclosed.push({ from: start.point, firstSetup: start.setup, setups: setup - start.setup + 1 })
      setup++
      hi = elevation + s.reading
      moved = false
      if (s.known !== undefined || !start) start = { point: s.point, setup }
      if (Number.isNaN(first)) first = elevation
      sights0 += s.reading
      goodSince = rows.length
      rows.push({ ...s, setup, hi, elevation, adjusted: elevation, doubtful: false })
      continue
    }
    if (Number.isNaN(hi)) {
      say('comes before any backsight; set up the instrument first')
      continue
    }
    const elevation = hi - s.reading
    const before = s.known ?? elevations.get(s.point)
    const off = s.kind === 'check' && before !== undefined ? elevation - before : undefined
    if (s.kind === 'check' && off === undefined) {
      say(`"${s.point}" has no elevation to check against`)
      continue
    }
    rows.push({ ...s, setup, hi, elevation, adjusted: elevation, doubtful: moved, ...(off === undefined ? {} : { off }) })
    if (off !== undefined) {
      if (Math.abs(off) > rules.check + 1e-9) {
        moved = true
        for (let k = goodSince; k < rows.length; k++) (rows[k] as { doubtful: boolean }).doubtful = true
      }
      goodSince = rows.length
    }
    if (s.kind === 'intermediate') elevations.set(s.point, elevation)
    if (s.kind !== 'foresight') continue
    elevations.set(s.point, elevation)
    sights0 -= s.reading
    last = elevation
    if (s.known === undefined || !start) continue
    const n = setup - start.setup + 1
    const misclosure = elevation - s.known
    const allowed = rules.perSetup * Math.sqrt(n)
    const within = Math.abs(misclosure) <= allowed + 1e-9
    legs.push({ from: start.point, to: s.point, firstSetup: start.setup, setups: n, misclosure, allowed, within })
    if (!within) for (const row of rows) if (row.setup >= start.setup) row.doubtful = true
    if (within) {
      for (const row of rows) {
        if (row.setup < start.setup) continue
        // A backsight still stands on the correction of the set-up before it.
        const share = row.kind === 'backsight' ? row.setup - start.setup : row.setup - start.setup + 1
        row.adjusted = row.elevation - (misclosure * share) / n
        if (row.kind === 'foresight') elevations.set(row.point, row.adjusted)
      }
    }
    elevations.set(s.point, s.known)
    start = undefined
  }
  if (problems.length > 0) return failAll(problems)
  if (rows.length === 0) return fail('sights', 'is empty; set up the instrument first')
  const left = start ? [...unclosed, { from: start.point, firstSetup: start.setup, setups: setup - start.setup + 1 }] : unclosed
  return ok({
    rows,
    legs,
    unclosed: left,
    open: left.reduce((n, l) => n + l.setups, 0),
    check: { sights: sights0, elevations: Number.isNaN(last) ? 0 : last - first },
  })
}

/**
 * A reading that is far off is more often a slip than a hole: says which slip it looks like. Questioned, never refused.
 *
 * @param deviation - m
 * @returns a question, or undefined when the reading is believable
 * @example slip(1.002) // 'almost exactly 1 m off: was the metre read wrong?'
 */
export function slip(deviation: number, questionable = 0.1): string | undefined {
  const size = Math.abs(deviation)
  if (size < questionable) return undefined
  const near = (m: number) => Math.abs(size - m) <= 0.012
  if (near(1) || near(2) || near(3)) return `almost exactly ${said.given(Math.round(size))} off: was the metre read wrong?`
  if (near(0.3048) || near(0.6096)) return `almost exactly ${Math.round(size / 0.3048)} ft off: was the foot read wrong?`
  if (size > 5) return 'several metres off: is the benchmark on another datum?'
  if (near(0.1) || near(0.2) || near(0.5)) return `almost exactly ${Math.round(size * 10)} decimetres off: was the number on the rod read wrong?`
  return 'far off: did a digit slip?'
}

/**
 * An elevation typed for a benchmark that the plan gives otherwise.
 *
 * @returns a question, or undefined when they agree
 */
export function otherDatum(given: number, planned: number, allowed = 0.05): string | undefined {
  const off = given - planned
  if (Math.abs(off) <= allowed) return undefined
  return `${said.length(Math.abs(off), 3)} ${off > 0 ? 'above' : 'below'} the plan's benchmark: another datum, or another point?`
}

/** Marks up a stake from a level string: how far below (or above, negative) the string the top of each course is, m. */
export const stakeMarks = (string: number, courses: readonly { course: number; top: number }[]) =>
  courses.map((c) => ({ course: c.course, top: c.top, drop: string - c.top }))
