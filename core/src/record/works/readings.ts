import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import type { RecordedEntry } from '../entry'
import { deviationOf, reading } from '../kinds/reading'
import { setup } from '../kinds/setup'
import { sighting } from '../kinds/sighting'
import { type Conflict, live, type StepStatus, type WallState } from '../state'
import { placesOf, type Step } from '../step'
import { limitAt, readPointByPoint, stretchesOf, targetAt } from '../target'
import { lineMoved, mm, NOISE } from './changed'
import { defineWork, type Progress, UNREAD, whereOf } from './work'

/** A reading counts for a point when taken within this distance of it, m. */
const REACH = 0.5
/** Two people more than this apart at one point have a conflict, m. */
const CONFLICT = 0.004

/** Height of the instrument where it was last set up, m. */
function setupOf(state: WallState): number | undefined {
  const last = setup
    .among(state.entries)
    .filter((e) => live(state, e.entry.id))
    .pop()
  return last && last.entry.data.benchmark + last.entry.data.backsight
}

/** Points read against a target, or a course run along as a whole. */
export const readings = defineWork({
  type: 'readings',
  plan: (_layout, step) => (step.points.length > 0 ? {} : undefined),
  place(state, step, entry) {
    const { where } = entry
    if (!reading.is(entry) && !(sighting.is(entry) && where.station !== undefined)) return ok(true)
    if (where.station === undefined) return fail('where.station', 'is missing; a reading is taken at a station')
    const over = stretchesOf(state.layout, step.stage, step.section ?? '', step.course)
    if (!over.some((s) => (where.station ?? -1) >= s.from - 0.01 && (where.station ?? -1) <= s.to + 0.01)) {
      const ends = over.map((s) => `${said.given(s.from)} to ${said.given(s.to)}`).join(', ')
      return fail('where.station', `${said.given(where.station)} is beyond this stretch (${ends})`)
    }
    if (step.lines.length === 0) return ok(true)
    const lines = step.lines.map((l) => said.given(l)).join(' and ')
    if (where.offset === undefined) return fail('where.offset', `is missing; the pad is read along lines at ${lines} from the face`)
    const reach = state.layout.building.foundation.width
    return step.lines.some((l) => Math.abs(l - (where.offset ?? 0)) <= reach)
      ? ok(true)
      : fail('where.offset', `${said.given(where.offset)} is off the pad; it is read at ${lines} from the face`)
  },
  progress(state, step, work) {
    return pointsRead(state, step, work)
  },
  wants(state, step) {
    const { target, sense } = step.stage.work
    const limit = limitAt(state.layout, step.stage, { ...whereOf(step), station: step.points[0] }).value
    const within = `within ±${said.small(limit)}`
    if (sense !== 'level') return [within]
    const at = step.points.map((station) => targetAt(state.layout, target, { ...whereOf(step), station }))
    const [low, high] = [Math.min(...at), Math.max(...at)]
    const level = high - low < 0.0005 ? said.length(low, 3) : `${said.length(low, 3)} to ${said.length(high, 3)}`
    // What the rod reads as long as the instrument stays where it was last set up.
    const hi = setupOf(state)
    const rod = hi === undefined ? [] : [`rod ${said.length(hi - high, 3)}${high - low < 0.0005 ? '' : ` to ${said.length(hi - low, 3)}`}`]
    return [`at ${level}`, ...rod, within]
  },
  sheet(state, step) {
    const where = whereOf(step)
    if (step.stage.work.sense === 'level') {
      // Where part of it lies on the pad its points are read, and the rest of the course waits for them.
      if (readPointByPoint(state.layout, step.stage, step.section ?? '', step.course ?? 0)) return undefined
      return {
        words: 'run along: the largest deviation',
        wantsLevel: true,
        facts: (worst, station) => [{ kind: sighting.kind, where: { ...where, ...(station === undefined ? {} : { station }) }, data: { worst } }],
      }
    }
    const limit = limitAt(state.layout, step.stage, { ...where, station: step.points[0] })
    return {
      words: `sighted along, nothing over ±${said.small(limit.value)}`,
      facts: () => [{ kind: sighting.kind, where, data: {} }],
    }
  },
  changed(before, after, step, entry) {
    const { where } = entry
    const { work } = step.stage
    if (work.target === 'alignment') return lineMoved(before, after)
    if (work.target === 'setback') {
      const [was, is] = [before, after].map((l) => l.building.course(step.course ?? 1).setback) as [number, number]
      const by = is - was
      return Math.abs(by) > NOISE / 2 ? `the units now step back ${said.small(is)} a course` : undefined
    }
    const [was, is] = [targetAt(before, work.target, where), targetAt(after, work.target, where)]
    return Math.abs(is - was) > NOISE ? `its target is now ${mm(is - was)}` : undefined
  },
})

function pointsRead(state: WallState, step: Step, work: readonly RecordedEntry[]): Progress {
  const at = new Map<string, RecordedEntry>()
  const places = placesOf(step)
  const conflicts: Conflict[] = []
  const target = step.stage.work.type === 'readings' ? step.stage.work.target : 'alignment'
  // Run along as a whole: it stands for every point that nobody read by itself.
  let along: RecordedEntry | undefined
  for (const e of work) {
    if (sighting.is(e.entry)) {
      if (along && along.entry.by.id !== e.entry.by.id && !e.entry.recheckOf) {
        const [a, b] = sighting.among([along, e]).map((r) => r.entry.data.worst)
        if (a !== undefined && b !== undefined && Math.abs(a - b) > CONFLICT) conflicts.push({ first: along, second: e })
      }
      along = e
      continue
    }
    const station = nearest(step.points, e.entry.where.station ?? 0)
    const line = lineOf(step, e.entry.where.offset)
    if (station === undefined || line === undefined) continue
    const point = `${station}|${line}`
    const before = at.get(point)
    if (
      before &&
      before.entry.by.id !== e.entry.by.id &&
      !e.entry.recheckOf &&
      before.entry.where.station === e.entry.where.station &&
      before.entry.where.offset === e.entry.where.offset
    ) {
      const [a, b] = reading.among([before, e]).map((r) => deviationOf(r.entry.data, targetAt(state.layout, target, r.entry.where)))
      if (a !== undefined && b !== undefined && Math.abs(a - b) > CONFLICT) conflicts.push({ first: before, second: e })
    }
    at.set(point, e)
  }
  const read = places.map((p) => ({ ...p, entry: at.get(`${p.station}|${p.offset ?? ''}`) ?? along }))
  const left = read.filter((r) => !r.entry).map((r) => said.station(r.station))
  const missing =
    left.length > 0
      ? [
          `${left.length} of ${places.length} ${places.length === 1 ? 'point' : 'points'}: ${[...new Set(left)].slice(0, 6).join(', ')}${left.length > 6 ? ' …' : ''}`,
        ]
      : []
  return {
    done: along ? places.length : at.size,
    total: places.length,
    missing,
    conflicts,
    read,
    deviations: step.course === undefined || target === 'invert' ? UNREAD : deviationsOf(state, step, read),
    along: along && runOf(along),
  }
}

/** Kept with the status, so that a forecast over many courses does not open every entry again. */
function deviationsOf(state: WallState, step: Step, read: StepStatus['read']): Float64Array {
  const list = new Float64Array(read.length).fill(Number.NaN)
  const target = step.stage.work.type === 'readings' ? step.stage.work.target : 'setback'
  const flat = target === 'course-top' ? targetAt(state.layout, target, { course: step.course }) : 0
  read.forEach((r, i) => {
    if (r.entry && reading.is(r.entry.entry)) list[i] = deviationOf(r.entry.entry.data, flat)
  })
  return list
}

function runOf({ entry }: RecordedEntry): StepStatus['along'] {
  const worst = sighting.is(entry) ? entry.data.worst : undefined
  return worst === undefined || entry.where.station === undefined ? undefined : { station: entry.where.station, worst }
}

/** The line across the pad a reading belongs to; '' where a step has only one, undefined where it is on none. */
function lineOf(step: Step, offset: number | undefined): number | '' | undefined {
  if (step.lines.length === 0) return ''
  if (offset === undefined) return undefined
  return step.lines.reduce((best, l) => (Math.abs(l - offset) < Math.abs(best - offset) ? l : best))
}

function nearest(points: readonly number[], station: number): number | undefined {
  let low = 0
  let high = points.length - 1
  while (low < high) {
    const middle = (low + high) >> 1
    if ((points[middle] as number) < station) low = middle + 1
    else high = middle
  }
  let best: number | undefined
  for (const i of [low - 1, low]) {
    const p = points[i]
    if (p !== undefined && Math.abs(p - station) <= REACH && (best === undefined || Math.abs(p - station) < Math.abs(best - station))) best = p
  }
  return best
}
