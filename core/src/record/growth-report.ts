import { type Correction, type CourseReading, correctionOf, expectedAt, type Growth, type GrowthRule, growthFrom } from '../forecast'
import type { Layout } from '../layout'
import { LIMITS, type LimitName } from '../rules'
import { statusOf } from './fold'
import type { StepStatus, WallState } from './state'
import type { Step } from './steps'

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

/** What was read at one station: a value for each course, NaN where there is none; m. */
interface Slot {
  readonly raw: Float64Array
  column: GrowthColumn | undefined
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
  readonly slots: readonly Slot[]
}

/** What is followed in a section: the steps that read it, and the stations with the courses that stand at each. */
interface Followed {
  readonly steps: readonly Step[]
  readonly stations: readonly number[]
  readonly first: readonly number[]
  readonly top: readonly number[]
  readonly rule: GrowthRule
}
const known = new WeakMap<Layout, Map<string, Followed>>()

/**
 * Stations whose growth is followed: those of the course that is read at most places. Courses that lie on steps of the pad are read at
 * others; their readings are carried over by a straight line between neighbours.
 */
function followed(state: WallState, section: string, sense: GrowthSense): Followed {
  const { layout } = state
  const own = known.get(layout) ?? new Map<string, Followed>()
  known.set(layout, own)
  const before = own.get(`${section} ${sense}`)
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
      ? LIMITS[stage.work.limit as LimitName].value
      : sense === 'level'
        ? LIMITS.courseLevel.value
        : LIMITS.courseLine.value
  const made: Followed = {
    steps,
    stations,
    first: at.map((courses) => courses[0]?.course ?? 1),
    top: at.map((courses) => courses[courses.length - 1]?.course ?? 0),
    rule:
      sense === 'level'
        ? { limit, scatter: 0.0015, drift: 0.0005, step: LIMITS.shim.value, grain: 0.001 }
        : { limit, scatter: 0.002, drift: 0.001, step: LIMITS.pull.value, grain: 0.001 },
  }
  own.set(`${section} ${sense}`, made)
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
  const highest = Math.max(0, ...f.top) + 1
  const seen = new Map(kept?.seen)
  const slots = kept ? [...kept.slots] : f.stations.map((): Slot => ({ raw: new Float64Array(highest + 1).fill(Number.NaN), column: undefined }))
  const changed = new Set<number>()
  for (const step of f.steps) {
    if (!state.logs.has(step.key)) continue
    const status = statusOf(state, step)
    if (seen.get(step.key) === status) continue
    seen.set(step.key, status)
    carry(f, step, status, sense, slots, changed)
  }
  for (const i of changed) {
    const slot = slots[i] as Slot
    slots[i] = { raw: slot.raw, column: columnOf(layout, f, sense, i, slot.raw) }
  }
  const columns: GrowthColumn[] = []
  let worst: GrowthColumn | undefined
  let leaves: number | undefined
  for (const { column } of slots) {
    if (!column) continue
    columns.push(column)
    if (!worst || Math.abs(column.expected.deviation) > Math.abs(worst.expected.deviation)) worst = column
    const at = column.growth.leaves
    if (at !== undefined && (leaves === undefined || at < leaves)) leaves = at
  }
  return { section, sense, columns, worst, leaves, layout, seen, slots }
}

/** A reading speaks for a station this near, m; between two readings no further apart than twice the usual spacing the line is straight. */
const NEAR = 0.75

/** Deviations of one course carried over to the stations followed, in one walk along both. */
function carry(f: Followed, step: Step, status: StepStatus, sense: GrowthSense, slots: readonly Slot[], changed: Set<number>) {
  const course = step.course as number
  const sign = sense === 'line' && step.stage.work.type === 'readings' && step.stage.work.target === 'setback' ? -1 : 1
  const { deviations: read, along } = status
  const points = step.points
  // A course run along is known at one place only: the followed station next to it.
  const run = along && nearest(f.stations, along.station)
  let above = next(read, -1)
  let below = -1
  for (let i = 0; i < f.stations.length; i++) {
    const station = f.stations[i] as number
    while (above < points.length && (points[above] as number) < station - 1e-6) {
      below = above
      above = next(read, above)
    }
    let value = valueAt(points, read, below, above, station)
    if (along && i === run && Number.isNaN(value)) value = along.worst
    if (sign < 0) value = -value
    const { raw } = slots[i] as Slot
    const was = raw[course] as number
    if (was === value || (Number.isNaN(was) && Number.isNaN(value))) continue
    raw[course] = value
    changed.add(i)
  }
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

/** @param below - last reading before the station, or -1; @param above - first at or beyond it, or past the end */
function valueAt(points: readonly number[], deviations: Float64Array, below: number, above: number, station: number): number {
  const up = above < deviations.length ? (points[above] as number) - station : Number.POSITIVE_INFINITY
  if (up < 1e-6) return deviations[above] as number
  const down = below >= 0 ? station - (points[below] as number) : Number.POSITIVE_INFINITY
  if (up + down <= 2 * LIMITS.pointSpacing.value + 0.01) {
    const [a, b] = [deviations[below] as number, deviations[above] as number]
    return a + ((b - a) * down) / (up + down)
  }
  if (Math.min(up, down) > NEAR) return Number.NaN
  return deviations[down < up ? below : above] as number
}

// Filled anew for each column; nothing of them is handed on.
let courses = new Float64Array(64)
let deviations = new Float64Array(64)

function columnOf(layout: Layout, f: Followed, sense: GrowthSense, i: number, raw: Float64Array): GrowthColumn | undefined {
  const station = f.stations[i] as number
  const top = f.top[i] as number
  const first = f.first[i] as number
  if (courses.length < raw.length) {
    courses = new Float64Array(raw.length)
    deviations = new Float64Array(raw.length)
  }
  const n = collect(raw, first, top, sense)
  const growth = growthFrom(courses, deviations, n, top, f.rule)
  if (!growth) return undefined
  const expected = expectedAt(growth, Math.max(top, growth.now))
  const height = top * layout.plan.unit.height
  return {
    station,
    get readings() {
      const count = collect(raw, first, top, sense)
      return Array.from({ length: count }, (_, k) => ({ course: courses[k] as number, deviation: deviations[k] as number }))
    },
    growth,
    correction: correctionOf(growth, f.rule),
    expected,
    lean: sense === 'line' && height > 0 ? (Math.atan(Math.abs(expected.deviation) / height) * 180) / Math.PI : undefined,
    rule: f.rule,
  }
}

/** Courses and deviations of a station into the two columns; how many. */
function collect(raw: Float64Array, first: number, top: number, sense: GrowthSense): number {
  let n = 0
  let at = 0
  for (let course = first; course <= top; course++) {
    const value = raw[course] as number
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

/** How sure it is, in words. */
export function surenessWords(g: Growth): string {
  if (g.sureness === 'one') return 'One reading: it says where the course lies, and nothing of a trend.'
  if (g.sureness === 'guess') return 'Two readings: a line goes through any two points. Read one course more before you act on it.'
  return `${g.count} readings.`
}

/**
 * What to do, in the words of the trade.
 *
 * @example correctionWords(column, 'level') // 'Shave 1 mm at each of courses 4 to 9.'
 */
export function correctionWords(c: GrowthColumn, sense: GrowthSense): string {
  const { way, courses, from } = c.correction
  if (way === 'none') return 'Nothing to correct.'
  const up = c.correction.total > 0
  const verb = sense === 'level' ? (up ? 'Shim' : 'Shave') : up ? 'Set further out' : 'Pull back'
  if (way === 'reset') {
    return `Too much for ${sense === 'level' ? 'shims' : 'pulling'}: take back to course ${Math.min(from ?? c.growth.now, c.growth.now)} and set it again.`
  }
  const each = Math.round(Math.abs(courses[0]?.by ?? 0) * 1000)
  const [a, b] = [courses[0]?.course, courses[courses.length - 1]?.course]
  return `${verb} ${each} mm at ${a === b ? `course ${a}` : `each of courses ${a} to ${b}`}.`
}
