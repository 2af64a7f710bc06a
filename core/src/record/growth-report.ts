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

const millimetres = (m: number) => Math.round(m * 1000) / 1000

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
  for (const step of stepsFor(state, section, sense)) {
    if (!state.logs.has(step.key)) continue
    const status = statusOf(state, step)
    if (seen.get(step.key) === status) continue
    seen.set(step.key, status)
    const course = step.course as number
    for (const [station, value] of valuesOf(state, step, status, sense)) {
      let slot = slots.get(station)
      if (!slot) {
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

/** Values of a step by station; a course run along counts once, where its largest deviation was met. */
function* valuesOf(state: WallState, step: Step, status: StepStatus, sense: GrowthSense): Generator<[number, number | undefined]> {
  if (step.stage.work.type !== 'readings') return
  const { target } = step.stage.work
  const flat = target === 'course-top' ? targetAt(state.layout, target, { course: step.course }) : 0
  const of = (r: RecordedEntry): number | undefined => {
    const value = r.entry.kind === 'sighting' ? (r.entry.data as SightingData).worst : deviationOf(r.entry.data as ReadingData, flat)
    return value === undefined ? undefined : sense === 'line' && target === 'setback' ? -value : value
  }
  let run: RecordedEntry | undefined
  for (const r of status.read) {
    if (r.entry?.entry.kind === 'sighting') {
      run = r.entry
      yield [millimetres(r.station), undefined]
    } else yield [millimetres(r.station), r.entry && of(r.entry)]
  }
  const at = run?.entry.where.station
  const near = at === undefined ? undefined : step.points.reduce((b, p) => (Math.abs(p - at) < Math.abs(b - at) ? p : b), step.points[0] ?? at)
  if (run && near !== undefined && status.read.some((r) => r.station === near && r.entry === run)) yield [millimetres(near), of(run)]
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
    ? { limit, scatter: 0.0015, drift: 0.0005, step: LIMITS.shim.value }
    : { limit, scatter: 0.002, drift: 0.001, step: LIMITS.pull.value }
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
  // Half a millimetre is the finest anyone can work to.
  const each = Math.max(0.5, Math.ceil(Math.abs(courses[0]?.by ?? 0) * 2000 - 1e-6) / 2)
  const [a, b] = [courses[0]?.course, courses[courses.length - 1]?.course]
  return `${verb} ${each} mm at ${a === b ? `course ${a}` : `each of courses ${a} to ${b}`}.`
}
