import { type Correction, type CourseReading, correctionOf, expectedAt, type Growth, type GrowthRule, growthOf } from '../forecast'
import type { Layout } from '../layout'
import { LIMITS } from '../rules'
import type { RecordedEntry } from './entry'
import { statusOf } from './fold'
import type { SightingData } from './kinds'
import { deviationOf, type ReadingData } from './kinds/reading'
import type { StepStatus, WallState } from './state'
import type { Step } from './steps'
import { limitAt, targetAt } from './target'

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

interface Slot {
  /** Per course: a height, or a step back. */
  readonly raw: Map<number, number>
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
  readonly slots: ReadonlyMap<number, Slot>
}

const stepsFor = (state: WallState, section: string, sense: GrowthSense): Step[] =>
  state.steps.filter((s) => {
    if (s.section !== section || s.course === undefined || s.stage.work.type !== 'readings') return false
    const { target } = s.stage.work
    return sense === 'level' ? target === 'course-top' : target === 'alignment' || target === 'setback'
  })

/**
 * Expected line of the top course, station by station, from the level readings (or alignment and setback readings) so far.
 * A setback adds up: the face of a course stands where the first one stood, less every step back too many.
 *
 * @param earlier - the report before, of the same section and sense
 * @example growthReport(state, 'A', 'level').worst?.expected // { deviation: 0.018, band: 0.007 }
 */
export function growthReport(state: WallState, section: string, sense: GrowthSense, earlier?: GrowthReport): GrowthReport {
  const { layout } = state
  const kept = earlier && earlier.layout === layout && earlier.section === section && earlier.sense === sense ? earlier : undefined
  const seen = new Map(kept?.seen)
  const slots = new Map(kept?.slots)
  const changed = new Set<number>()
  const places = stationsOf(state, section, sense)
  for (const step of stepsFor(state, section, sense)) {
    if (!state.logs.has(step.key)) continue
    const status = statusOf(state, step)
    if (seen.get(step.key) === status) continue
    seen.set(step.key, status)
    const course = step.course as number
    const read = [...valuesOf(state, step, status, sense)].sort((a, b) => a[0] - b[0])
    for (const station of places) {
      const value = between(read, station)
      let slot = slots.get(station)
      if (!slot) {
        if (value === undefined) continue
        slot = { raw: new Map(), column: undefined }
        slots.set(station, slot)
      }
      if (slot.raw.get(course) === value) continue
      if (value === undefined) slot.raw.delete(course)
      else slot.raw.set(course, value)
      changed.add(station)
    }
  }
  for (const station of changed) {
    const slot = slots.get(station) as Slot
    slots.set(station, { raw: slot.raw, column: columnOf(state, section, sense, station, slot.raw) })
  }
  const columns = [...slots.values()].flatMap((s) => (s.column ? [s.column] : [])).sort((a, b) => a.station - b.station)
  const worst = columns.reduce<GrowthColumn | undefined>(
    (w, c) => (!w || Math.abs(c.expected.deviation) / c.rule.limit > Math.abs(w.expected.deviation) / w.rule.limit ? c : w),
    undefined,
  )
  const leaving = columns.flatMap((c) => c.growth.leaves ?? [])
  return { section, sense, columns, worst, leaves: leaving.length > 0 ? Math.min(...leaving) : undefined, layout, seen, slots }
}

/** A reading speaks for a station this near, m; between two readings no further apart than twice the usual spacing the line is straight. */
const NEAR = 0.75

/**
 * Stations whose growth is followed: those of the course that is read at most places. Courses that lie on steps of the pad are read at
 * others; their readings are carried over by a straight line between neighbours.
 */
function stationsOf(state: WallState, section: string, sense: GrowthSense): readonly number[] {
  const known = followed.get(state.layout)?.get(`${section} ${sense}`)
  if (known) return known
  let widest: readonly number[] = []
  for (const step of stepsFor(state, section, sense)) if (step.points.length >= widest.length) widest = step.points
  const own = followed.get(state.layout) ?? new Map<string, readonly number[]>()
  followed.set(state.layout, own.set(`${section} ${sense}`, widest))
  return widest
}
const followed = new WeakMap<Layout, Map<string, readonly number[]>>()

/** Value at a station from readings in order of theirs. */
function between(read: readonly (readonly [number, number])[], station: number): number | undefined {
  let below: readonly [number, number] | undefined
  for (const r of read) {
    if (Math.abs(r[0] - station) < 1e-6) return r[1]
    if (r[0] < station) below = r
    else {
      if (below && r[0] - below[0] <= 2 * LIMITS.pointSpacing.value + 0.01) {
        return below[1] + ((r[1] - below[1]) * (station - below[0])) / (r[0] - below[0])
      }
      const near = below && station - below[0] < r[0] - station ? below : r
      return Math.abs(near[0] - station) <= NEAR ? near[1] : undefined
    }
  }
  return below && station - below[0] <= NEAR ? below[1] : undefined
}

/** Readings of a step by station, m; a course run along counts once, where its largest deviation was met. */
function* valuesOf(state: WallState, step: Step, status: StepStatus, sense: GrowthSense): Generator<readonly [number, number]> {
  if (step.stage.work.type !== 'readings') return
  const { target } = step.stage.work
  const flat = target === 'course-top' ? targetAt(state.layout, target, { course: step.course }) : 0
  const sign = sense === 'line' && target === 'setback' ? -1 : 1
  let run: RecordedEntry | undefined
  for (const r of status.read) {
    if (r.entry?.entry.kind === 'sighting') run = r.entry
    else if (r.entry) yield [r.station, sign * deviationOf(r.entry.entry.data as ReadingData, flat)]
  }
  const worst = (run?.entry.data as SightingData | undefined)?.worst
  const at = run?.entry.where.station
  if (worst === undefined || at === undefined) return
  // It is known at one place only: the followed station next to it.
  const places = stationsOf(state, step.section ?? '', sense)
  const near = places.reduce((b, p) => (Math.abs(p - at) < Math.abs(b - at) ? p : b), places[0] ?? at)
  if (!status.read.some((r) => r.station === near && r.entry !== run)) yield [near, sign * worst]
}

function columnOf(
  state: WallState,
  section: string,
  sense: GrowthSense,
  station: number,
  raw: ReadonlyMap<number, number>,
): GrowthColumn | undefined {
  const { layout } = state
  const courses = layout.courses.filter((c) => c.stretches.some((s) => station >= s.from - 0.01 && station <= s.to + 0.01))
  const top = courses[courses.length - 1]?.course ?? 0
  const readings: CourseReading[] = []
  if (sense === 'level') for (const [course, deviation] of raw) readings.push({ course, deviation })
  else {
    // Where the face stands is known as far up as nothing is missing from below.
    let at = 0
    for (const c of courses) {
      const value = raw.get(c.course)
      if (value === undefined) {
        if (readings.length > 0) break
        continue
      }
      at += value
      readings.push({ course: c.course, deviation: at })
    }
  }
  readings.sort((a, b) => a.course - b.course)
  const rule = ruleOf(state, section, sense, station, readings[readings.length - 1]?.course ?? 1)
  const growth = growthOf(readings, top, rule)
  if (!growth) return undefined
  const expected = expectedAt(growth, Math.max(top, growth.now))
  const height = top * layout.plan.unit.height
  return {
    station,
    readings,
    growth,
    correction: correctionOf(growth, rule),
    expected,
    lean: sense === 'line' && height > 0 ? (Math.atan(Math.abs(expected.deviation) / height) * 180) / Math.PI : undefined,
    rule,
  }
}

/** Limits and experience by what is read; the limit of courses above the first. */
function ruleOf(state: WallState, section: string, sense: GrowthSense, station: number, course: number): GrowthRule {
  const target = sense === 'level' ? 'course-top' : 'setback'
  const stage = state.layout.system.stages.find((s) => s.work.type === 'readings' && s.work.target === target)
  const above = { section, station, course: course + 1 }
  const limit = stage ? limitAt(state.layout, stage, above).value : sense === 'level' ? LIMITS.courseLevel.value : LIMITS.courseLine.value
  return sense === 'level'
    ? { limit, scatter: 0.0015, drift: 0.0005, step: LIMITS.shim.value, grain: 0.001 }
    : { limit, scatter: 0.002, drift: 0.001, step: LIMITS.pull.value, grain: 0.001 }
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
