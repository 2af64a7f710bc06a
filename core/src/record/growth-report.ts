import { said } from '../base/said'
import {
  type Correction,
  type CourseReading,
  type CourseScatter,
  correctionOf,
  expectedAt,
  type Growth,
  type GrowthModel,
  type GrowthRule,
  growthFrom,
  scatterSeen,
} from '../forecast'
import type { Layout } from '../layout'
import { type LimitName, limitsOf } from '../rules'
import { riseOf } from '../systems'
import { statusOf } from './fold'
import type { StepStatus, WallState } from './state'
import type { Step } from './step'

/** level: height of the courses. line: where the face stands, + is out. */
export type GrowthSense = 'level' | 'line'

/** One station: what was read course by course, and what becomes of it. */
export interface GrowthColumn {
  readonly station: number
  readonly readings: readonly CourseReading[]
  readonly growth: Growth
  readonly correction: Correction
  /** At the last course here, m. */
  readonly expected: { readonly deviation: number; readonly band: number }
  /** Total lean off the design that the expected line comes to at the top, degrees; lines only. */
  readonly lean: number | undefined
  readonly rule: GrowthRule
}

/** Error growth of one section, in order of station. Hand it to the next call and only what changed is computed again. */
export interface GrowthReport {
  readonly section: string
  readonly sense: GrowthSense
  readonly columns: readonly GrowthColumn[]
  /** Expected worst at the top, of those that were read. */
  readonly worst: GrowthColumn | undefined
  /** Lowest course at which any station is expected beyond its limit. */
  readonly leaves: number | undefined
  readonly layout: Layout
  readonly seen: ReadonlyMap<string, StepStatus>
  /** Values by course and station, NaN where there is none (m), and the column of each station. */
  readonly raw: Float64Array
  readonly byStation: (GrowthColumn | undefined)[]
  /** By station: how far the top is expected off (m, NaN unread), and the course that leaves (0 for none). */
  readonly tops: Float64Array
  readonly leaving: Uint16Array
}

/** What is followed in a section: the steps that read it, and the stations with the courses that stand at each. */
interface Followed {
  readonly steps: readonly Step[]
  readonly stations: readonly number[]
  readonly first: readonly number[]
  readonly top: readonly number[]
  /** Places for courses. */
  readonly wide: number
  readonly rule: GrowthRule
}
const known = new WeakMap<Layout, Map<string, Followed>>()

/**
 * Stations whose growth is followed: those of the course that is read at most places. Courses that lie on steps of the pad are read at
 * others; their readings are carried over by a straight line between neighbours.
 */
function followed(state: WallState, section: string, sense: GrowthSense): Followed {
  const { layout } = state
  const limits = limitsOf(layout.plan)
  const own = known.get(layout) ?? new Map<string, Followed>()
  known.set(layout, own)
  const key = `${section} ${sense} ${state.scatter[sense === 'level' ? 'level' : 'lean'] ?? ''}`
  const before = own.get(key)
  if (before) return before
  const steps = state.steps.filter((s) => {
    if (s.section !== section || s.course === undefined || s.stage.work.type !== 'readings') return false
    const { target } = s.stage.work
    return sense === 'level' ? target === 'course-top' : target === 'alignment' || target === 'setback'
  })
  const stations = steps.reduce<readonly number[]>((widest, s) => (s.points.length >= widest.length ? s.points : widest), [])
  const at = stations.map((station) => layout.courses.filter((c) => c.stretches.some((s) => station >= s.from - 0.01 && station <= s.to + 0.01)))
  const stage = layout.system.stages.find((s) => s.work.type === 'readings' && s.work.target === (sense === 'level' ? 'course-top' : 'setback'))
  const limit =
    stage?.work.type === 'readings'
      ? limits[stage.work.limit as LimitName].value
      : sense === 'level'
        ? limits.courseLevel.value
        : limits.courseLine.value
  const made: Followed = {
    steps,
    stations,
    first: at.map((courses) => courses[0]?.course ?? 1),
    top: at.map((courses) => courses[courses.length - 1]?.course ?? 0),
    wide: Math.max(0, ...layout.courses.map((c) => c.course)) + 1,
    rule:
      sense === 'level'
        ? { model: 'level', limit, step: limits.shim.value, grain: 0.001, scatter: state.scatter.level }
        : { model: 'lean', limit, step: limits.pull.value, grain: 0.001, scatter: state.scatter.lean },
  }
  own.set(key, made)
  return made
}

/**
 * Expected line of the top course, station by station, from the level readings (or alignment and setback readings) so far.
 * A setback adds up: the face of a course stands where the first one stood, less every step back too many.
 *
 * @param earlier - the report before, of the same section and sense; it is used up
 * @example growthReport(state, 'A', 'level').worst?.expected // { deviation: 0.018, band: 0.007 }
 */
export function growthReport(state: WallState, section: string, sense: GrowthSense, earlier?: GrowthReport): GrowthReport {
  const { layout } = state
  const kept = earlier && earlier.layout === layout && earlier.section === section && earlier.sense === sense ? earlier : undefined
  const f = followed(state, section, sense)
  const seen = (kept?.seen ?? new Map()) as Map<string, StepStatus>
  const raw = kept?.raw ?? new Float64Array(f.stations.length * f.wide).fill(Number.NaN)
  // Handed on by the earlier report, and changed in place; its columns stay the objects they were.
  const byStation = kept?.byStation ?? new Array<GrowthColumn | undefined>(f.stations.length).fill(undefined)
  const tops = kept?.tops ?? new Float64Array(f.stations.length).fill(Number.NaN)
  const leaving = kept?.leaving ?? new Uint16Array(f.stations.length)
  // One flag a station.
  const changed = new Uint8Array(f.stations.length)
  for (const step of f.steps) {
    const log = state.logs.get(step.key)
    if (!log) continue
    const status = log.status ?? statusOf(state, step)
    const before = seen.get(step.key)
    if (before === status) continue
    seen.set(step.key, status)
    carry(f, step, before, status, sense, raw, changed)
  }
  for (let i = 0; i < changed.length; i++) {
    if (changed[i] !== 1) continue
    const column = columnOf(layout, f, sense, i, raw)
    byStation[i] = column
    tops[i] = column ? Math.abs(column.expected.deviation) : Number.NaN
    leaving[i] = column?.growth.leaves ?? 0
  }
  let worst = -1
  let leaves = 0
  for (let i = 0; i < tops.length; i++) {
    if ((tops[i] as number) > (worst < 0 ? -1 : (tops[worst] as number))) worst = i
    const at = leaving[i] as number
    if (at > 0 && (leaves === 0 || at < leaves)) leaves = at
  }
  let columns: readonly GrowthColumn[] | undefined
  return {
    section,
    sense,
    get columns() {
      columns ??= byStation.filter((c) => c !== undefined)
      return columns
    },
    worst: worst < 0 ? undefined : byStation[worst],
    leaves: leaves === 0 ? undefined : leaves,
    layout,
    seen,
    raw,
    byStation,
    tops,
    leaving,
  }
}

/** A reading speaks for a station this near, m; between two readings no further apart than twice the usual spacing the line is straight. */
const NEAR = 0.75

/** Deviations of one course carried over to the stations followed, in one walk along both. */
function carry(
  f: Followed,
  step: Step,
  before: StepStatus | undefined,
  status: StepStatus,
  sense: GrowthSense,
  raw: Float64Array,
  changed: Uint8Array,
) {
  const course = step.course as number
  const sign = sense === 'line' && step.stage.work.type === 'readings' && step.stage.work.target === 'setback' ? -1 : 1
  const read = status.deviations
  const along = status.along
  const points = step.points
  // A course run along is known at one place only: the followed station next to it.
  const run = along && nearest(f.stations, along.station)
  const first = course * f.stations.length
  const window = windowOf(points, before, status)
  let below = window.below
  let above = next(read, below)
  for (let i = 0; i < f.stations.length; i++) {
    const station = f.stations[i] as number
    if (station < window.from) continue
    if (station > window.to) break
    while (above < points.length && (points[above] as number) < station - 1e-6) {
      below = above
      above = next(read, above)
    }
    // Read at this very place, as most are.
    let value =
      above < points.length && (points[above] as number) - station < 1e-6 ? (read[above] as number) : valueAt(points, read, below, above, station)
    if (along && i === run && Number.isNaN(value)) value = along.worst
    if (sign < 0) value = -value
    const place = first + i
    const was = raw[place] as number
    if (was === value || (Number.isNaN(was) && Number.isNaN(value))) continue
    raw[place] = value
    changed[i] = 1
  }
}

/** Only between the readings on either side of what changed can a carried value be another one. */
function windowOf(points: readonly number[], before: StepStatus | undefined, status: StepStatus): { from: number; to: number; below: number } {
  const whole = { from: Number.NEGATIVE_INFINITY, to: Number.POSITIVE_INFINITY, below: -1 }
  const [was, is] = [before?.deviations, status.deviations]
  if (!was || was.length !== is.length || before?.along !== status.along) return whole
  let low = 0
  while (low < is.length && Object.is(was[low], is[low])) low++
  let high = is.length - 1
  while (high > low && Object.is(was[high], is[high])) high--
  // A neighbour counts where it is read both before and after, or it would have changed itself.
  let below = low - 1
  while (below >= 0 && Number.isNaN(is[below] as number)) below--
  const above = next(is, high)
  return { from: points[below] ?? whole.from, to: points[above] ?? whole.to, below: below < 0 ? -1 : below }
}

/** The reading after another one; where there is none, the number of points. */
function next(deviations: Float64Array, after: number): number {
  let i = after + 1
  while (i < deviations.length && Number.isNaN(deviations[i] as number)) i++
  return i
}
function nearest(stations: readonly number[], at: number): number {
  let best = 0
  for (let i = 1; i < stations.length; i++) if (Math.abs((stations[i] as number) - at) < Math.abs((stations[best] as number) - at)) best = i
  return best
}

/** Readings are taken no further apart than a level is long, m. */
const SPACING = 3
/** @param below - last reading before the station, or -1; @param above - first at or beyond it, or past the end */
function valueAt(points: readonly number[], deviations: Float64Array, below: number, above: number, station: number): number {
  const up = above < deviations.length ? (points[above] as number) - station : Number.POSITIVE_INFINITY
  if (up < 1e-6) return deviations[above] as number
  const down = below >= 0 ? station - (points[below] as number) : Number.POSITIVE_INFINITY
  if (up + down <= 2 * SPACING + 0.01) {
    const a = deviations[below] as number
    const b = deviations[above] as number
    return a + ((b - a) * down) / (up + down)
  }
  if (Math.min(up, down) > NEAR) return Number.NaN
  return deviations[down < up ? below : above] as number
}

// Filled anew for each column; nothing of them is handed on.
const courses: number[] = []
const deviations: number[] = []

function columnOf(layout: Layout, f: Followed, sense: GrowthSense, i: number, raw: Float64Array): GrowthColumn | undefined {
  const station = f.stations[i] as number
  const top = f.top[i] as number
  const first = f.first[i] as number
  const step = f.stations.length
  const n = sense === 'line' ? steps(raw, i, step, first, top) : collect(raw, i, step, first, top, sense)
  const growth = growthFrom(courses, deviations, n, top, f.rule, sense === 'line' ? standing(raw, i, step, first) : undefined)
  if (!growth) return undefined
  const expected = expectedAt(growth, Math.max(top, growth.now))
  // On an upper step of the pad the wall is as high as the courses that stand there.
  const height = riseOf(layout.building, top) - riseOf(layout.building, first - 1)
  return {
    station,
    get readings() {
      const count = collect(raw, i, step, first, top, sense)
      return Array.from({ length: count }, (_, k) => ({ course: courses[k] as number, deviation: deviations[k] as number }))
    },
    growth,
    correction: correctionOf(growth, f.rule),
    expected,
    lean: sense === 'line' && height > 0 ? (Math.atan(Math.abs(expected.deviation) / height) * 180) / Math.PI : undefined,
    rule: f.rule,
  }
}

/** Where the first course stands, which was set to a string: the steps of those above it add to that. */
function standing(raw: Float64Array, i: number, step: number, first: number): CourseReading | undefined {
  const value = raw[first * step + i] as number
  return Number.isNaN(value) ? undefined : { course: first, deviation: value }
}

/** Steps back of the courses above the first, as far up as none is missing, into the two columns; how many. */
function steps(raw: Float64Array, i: number, step: number, first: number, top: number): number {
  let n = 0
  let begun = !Number.isNaN(raw[first * step + i] as number)
  for (let course = first + 1; course <= top; course++) {
    const value = raw[course * step + i] as number
    if (Number.isNaN(value)) {
      if (begun) break
      continue
    }
    begun = true
    courses[n] = course
    deviations[n] = value
    n++
  }
  return n
}

/** Courses and deviations of a station into the two columns; how many. */
function collect(raw: Float64Array, i: number, step: number, first: number, top: number, sense: GrowthSense): number {
  let n = 0
  let at = 0
  for (let course = first; course <= top; course++) {
    const value = raw[course * step + i] as number
    if (Number.isNaN(value)) {
      // Where the face stands is known as far up as nothing is missing from below.
      if (sense === 'line' && n > 0) break
      continue
    }
    at = sense === 'line' ? at + value : value
    courses[n] = course
    deviations[n] = at
    n++
  }
  return n
}

/**
 * What the readings of a wall say of its crew, for the line ahead of the company's other walls.
 *
 * @example scatterOf([scatterIn(state).level], 'level') // 0.0011
 */
export function scatterIn(state: WallState): Record<GrowthModel, CourseScatter> {
  const of = (sense: GrowthSense) => state.layout.plan.sections.flatMap((s) => growthReport(state, s.id, sense).columns.map((c) => c.readings))
  return { level: scatterSeen(of('level'), 'level'), lean: scatterSeen(of('line'), 'lean') }
}

/** How sure it is, in words. */
export function surenessWords(g: Growth): string {
  if (g.sureness === 'one') return 'One reading: it says where the course lies, and nothing of a trend.'
  if (g.sureness === 'guess') return 'Two readings: a line goes through any two points. Read one course more before you act on it.'
  return `${g.count} ${g.count === 1 ? 'reading' : 'readings'}.`
}

/**
 * What to do, in the words of the trade.
 *
 * @example correctionWords(column, 'level') // 'Shave 1 mm at each of courses 4 to 9.'
 */
export function correctionWords(c: GrowthColumn, sense: GrowthSense): string {
  const { way, courses, from, odds } = c.correction
  const inTen = (share: number) => Math.min(10, Math.max(0, Math.round(share * 10)))
  if (way === 'none') {
    if (c.growth.mayLeave === undefined) return 'Nothing to correct.'
    return `No correction would better it: the top stays inside in about ${inTen(odds.without)} cases of 10. Read every course.`
  }
  const up = c.correction.total > 0
  const verb = sense === 'level' ? (up ? 'Shim' : 'Shave') : up ? 'Set further out' : 'Pull back'
  if (way === 'reset') {
    return `Too much for ${sense === 'level' ? 'shims' : 'pulling'}: take back to course ${Math.min(from ?? c.growth.now, c.growth.now)} and set it again.`
  }
  const each = said.small(courses[0]?.by ?? 0)
  const [a, b] = [courses[0]?.course, courses[courses.length - 1]?.course]
  const at =
    courses.length === 1
      ? `course ${a}`
      : courses.length === (b ?? 0) - (a ?? 0) + 1
        ? `each of courses ${a} to ${b}`
        : `courses ${courses.map((x) => x.course).join(', ')}`
  // A gain that tens do not show is said in hundreds.
  const [of, share] = inTen(odds.with) === inTen(odds.without) ? ([100, (x: number) => Math.round(x * 100)] as const) : ([10, inTen] as const)
  return `${verb} ${each} at ${at}: inside at the top in about ${share(odds.with)} cases of ${of}, ${share(odds.without)} without.`
}
