import { said } from '../../base/said'
import type { RecordedEntry } from '../entry'
import type { SightingData } from '../kinds'
import { deviationOf, type ReadingData } from '../kinds/reading'
import type { Conflict, StepStatus, WallState } from '../state'
import { placesOf, type Step } from '../steps'
import { targetAt } from '../target'
import { lineMoved, mm, NOISE } from './changed'
import { defineWork, type Progress, UNREAD } from './work'

/** A reading counts for a point when taken within this distance of it, m. */
const REACH = 0.5
/** Two people more than this apart at one point have a conflict, m. */
const CONFLICT = 0.004

/** Points read against a target, or a course run along as a whole. */
export const readings = defineWork({
  type: 'readings',
  progress(state, step, work) {
    return pointsRead(state, step, work)
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
    if (e.entry.kind === 'sighting') {
      if (along && along.entry.by.id !== e.entry.by.id && !e.entry.recheckOf) {
        const [a, b] = [along, e].map((r) => (r.entry.data as SightingData).worst)
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
      const off = (r: RecordedEntry) => deviationOf(r.entry.data as ReadingData, targetAt(state.layout, target, r.entry.where))
      if (Math.abs(off(before) - off(e)) > CONFLICT) conflicts.push({ first: before, second: e })
    }
    at.set(point, e)
  }
  const read = places.map((p) => ({ ...p, entry: at.get(`${p.station}|${p.offset ?? ''}`) ?? along }))
  const left = read.filter((r) => !r.entry).map((r) => said.station(r.station))
  const missing =
    left.length > 0 ? [`${left.length} of ${places.length} points: ${[...new Set(left)].slice(0, 6).join(', ')}${left.length > 6 ? ' …' : ''}`] : []
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
    if (r.entry?.entry.kind === 'reading') list[i] = deviationOf(r.entry.entry.data as ReadingData, flat)
  })
  return list
}

function runOf({ entry }: RecordedEntry): StepStatus['along'] {
  const { worst } = entry.data as SightingData
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
