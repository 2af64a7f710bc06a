import { said } from '../base/said'
import type { Stretch } from '../layout'
import { limitsOf, tableOf } from '../rules'
import type { RecordedEntry } from './entry'
import type { CheckData, GeogridData, LiftData, PhotoData, PipeData, SightingData, UnitsData } from './kinds'
import { kindOf, measuresOf } from './kinds'
import { deviationOf, type ReadingData } from './kinds/reading'
import { mismatch } from './match'
import { needsOf, tableAt, uncovered } from './needs'
import { fallNeeds } from './pipe-fall'
import type { Conflict, StepLog, StepStatus, WallState } from './state'
import { placesOf, type Step } from './steps'
import { targetAt } from './target'

/** A reading counts for a point when taken within this distance of it, m. */
const REACH = 0.5
/** Two people more than this apart at one point have a conflict, m. */
const CONFLICT = 0.004

/** Everything recorded and within limits. */
export const complete = (s: StepStatus) => s.state === 'done' && s.open.length === 0
/** Complete, or passed with a written reason. */
export const settled = (s: StepStatus) => complete(s) || s.passed
/** Settled, and released where it holds. */
export const cleared = (s: StepStatus) => settled(s) && (s.hold === 'none' || s.hold === 'released')

/** An out-of-tolerance entry closes with an action and a re-check within limits. */
export function isClosed(state: WallState, id: string): boolean {
  const action = state.actions.get(id)
  if (!action || state.superseded.has(action.entry.id)) return false
  return (state.rechecks.get(id) ?? []).some((r) => !state.superseded.has(r.entry.id) && !state.outs.has(r.entry.id))
}

export function evaluate(state: WallState, step: Step, log: StepLog): StepStatus {
  const inForce = (list: readonly RecordedEntry[]) => list.filter((e) => !state.superseded.has(e.entry.id)).sort((a, b) => a.seq - b.seq)
  const work = inForce(log.work)
  // An entry whose re-check is good is history: it counts as evidence, no longer as the state of the wall.
  const open = work.filter((e) => state.outs.has(e.entry.id) && !isClosed(state, e.entry.id))
  const main = work.filter((e) => kindOf(e.entry.kind)?.work === step.stage.work.type)
  const unmatched = main.flatMap((recorded) => {
    const before = state.layouts[recorded.entry.revision - 1]
    const message = before && mismatch(before, state.layout, step, recorded.entry)
    return message ? [{ recorded, message }] : []
  })
  // Units stand where they stand, and are counted; what was read or compacted for another target is to be done again.
  const old = new Set(step.stage.work.type === 'units' ? [] : unmatched.map((u) => u.recorded))
  const matched = main.filter((e) => !old.has(e))
  const measured = measure(state, step, matched, work)
  const needs = [...needsOf(state, step), ...fallNeeds(state, step, measured.read)]
  const progress = needs.length === 0 ? measured : { ...measured, total: measured.total + needs.length, missing: [...measured.missing, ...needs] }
  const missing =
    old.size > 0 && progress.done < progress.total
      ? [...progress.missing, `recorded for an earlier revision: ${[...new Set(unmatched.map((u) => u.message))].slice(0, 3).join('; ')}`]
      : progress.missing
  const last = inForce(log.releases).pop()
  const release = last && stands(last, work, old) ? last : undefined
  const override = inForce(log.overrides).pop()
  const decision = (release?.entry.data as { decision?: 'released' | 'rejected' } | undefined)?.decision
  return {
    ...progress,
    missing,
    unmatched,
    decision: release,
    state: progress.done >= progress.total ? 'done' : main.length > 0 ? 'partial' : 'todo',
    open,
    hold: step.stage.hold ? (decision ?? 'waiting') : 'none',
    override,
    passed: override !== undefined && !step.stage.dry,
  }
}

/**
 * Does a decision on a hold point still stand? A rejection is answered by new work, which is to be looked at again; a release does not
 * speak of work that was done for another plan and is to be done again.
 */
function stands(decision: RecordedEntry, work: readonly RecordedEntry[], old: ReadonlySet<RecordedEntry>): boolean {
  if ((decision.entry.data as { decision: string }).decision === 'rejected') return !work.some((e) => e.seq > decision.seq)
  return ![...old].some((e) => e.seq < decision.seq && e.entry.revision <= decision.entry.revision)
}

type Progress = Pick<StepStatus, 'done' | 'total' | 'missing' | 'conflicts' | 'read' | 'deviations' | 'along'>
const UNREAD = new Float64Array(0)

function measure(state: WallState, step: Step, work: readonly RecordedEntry[], all: readonly RecordedEntry[]): Progress {
  const none = { conflicts: [], read: [], deviations: UNREAD, along: undefined }
  switch (step.stage.work.type) {
    case 'check': {
      const last = work[work.length - 1]
      const before = work[work.length - 2]
      const said = last?.entry.data as CheckData | undefined
      const has = new Set([...(said?.confirmed ?? []), ...(said?.none ?? [])])
      const { items } = step.stage.work
      // What was confirmed under earlier rules is not asked for what they did not ask.
      const asked = last ? (state.layouts[last.entry.revision - 1]?.plan ?? state.layout.plan) : state.layout.plan
      const measures = measuresOf(step.stage.work, asked)
      const measured = new Set((last?.entry.data as CheckData | undefined)?.measured?.map((m) => m.id) ?? [])
      const day = tableOf(asked) > 1 ? step.stage.work.until : undefined
      const missing = [
        ...[...items.filter((i) => !has.has(i.id)), ...measures.filter((m) => !measured.has(m.id))].map((i) => i.text),
        ...(day && said?.until === undefined ? [day] : []),
      ]
      const total = items.length + measures.length + (day ? 1 : 0)
      const conflict =
        last &&
        before &&
        last.entry.by.id !== before.entry.by.id &&
        !last.entry.recheckOf &&
        [...((before.entry.data as CheckData).confirmed ?? [])].some((id) => !has.has(id))
      return { ...none, done: total - missing.length, total, missing, conflicts: conflict ? [{ first: before, second: last }] : [] }
    }
    case 'units': {
      const done = work.reduce((sum, e) => sum + (e.entry.data as UnitsData).set, 0)
      const left = step.planned - done
      return { ...none, done, total: step.planned, missing: left > 0 ? [`${left} of ${step.planned} to set`] : [] }
    }
    case 'lifts': {
      const total = step.lifts?.count ?? 1
      const own = state.layout.plan.sections.find((s) => s.id === step.section)
      const missing: string[] = []
      for (let i = 1; i <= total; i++) {
        const laid = work.filter((e) => liftOf(state, e) === i).map((e) => e.entry.data as LiftData)
        const gaps = own ? uncovered(own, laid) : laid.length > 0 ? [] : [{ from: 0, to: 0 }]
        if (gaps.length === 0) continue
        const where = laid.length > 0 ? `, ${gapWords(gaps)}` : ''
        missing.push(`lift ${i} of ${total}${where}`)
      }
      const done = total - missing.length
      if (missing.length > 0 || !own || work.some((e) => tableAt(state, e) === 1)) return { ...none, done, total, missing }
      // Thin lifts are more lifts: what counts is that the fill stands at its height.
      const short = shortest(state, step, work, own)
      return short ? { ...none, done, total: done + 1, missing: [short] } : { ...none, done, total, missing }
    }
    case 'grid': {
      const laid = work.map((e) => e.entry.data as GeogridData)
      const gaps = (step.over ?? []).flatMap((s) => uncovered(s, laid))
      const which = laid.length > 0 && gaps.length > 0 ? `, ${gapWords(gaps)}` : ''
      return {
        ...none,
        done: gaps.length === 0 ? 1 : 0,
        total: 1,
        missing: gaps.length === 0 ? [] : [`layer of ${said.length(step.grid?.length ?? 0, 2)}${which}`],
      }
    }
    case 'pipe': {
      const laid = work.map((e) => ({ id: e.entry.id, ...(e.entry.data as PipeData) }))
      // Before pipe was recorded by stretches it was ticked off; what was seen and released then stays so.
      if (laid.length === 0 && all.some((e) => e.entry.kind === 'check')) return { ...none, done: 1, total: 1, missing: [] }
      const gaps = (step.over ?? []).flatMap((s) => uncovered(s, laid))
      const photos = all.filter((e) => e.entry.kind === 'photo').map((e) => e.entry)
      // A photo shows one stretch: the one it names, else the first that its station lies in.
      const shown = new Set<string>()
      for (const p of photos) {
        const named = (p.data as PhotoData).of
        const { station } = p.where
        const of =
          laid.find((d) => d.id === named) ??
          (station === undefined
            ? undefined
            : (laid.find((d) => !shown.has(d.id) && station >= d.from && station < d.to) ??
              laid.find((d) => !shown.has(d.id) && station >= d.from - 0.05 && station <= d.to + 0.05)))
        if (of) shown.add(of.id)
      }
      const unseen = laid.filter((d) => !shown.has(d.id))
      return {
        ...none,
        done: laid.length - unseen.length,
        total: laid.length + gaps.length,
        missing: [...(gaps.length > 0 ? [`pipe ${gapWords(gaps)}`] : []), ...(unseen.length > 0 ? [`a photo of ${gapWords(unseen)}`] : [])],
      }
    }
    case 'readings':
      return readings(state, step, work)
  }
}

/** Where the lifts of a step do not come up to its height: how much is missing at most, and where. */
function shortest(state: WallState, step: Step, work: readonly RecordedEntry[], own: Stretch): string | undefined {
  const wanted = (step.lifts?.count ?? 0) * (step.lifts?.compacted ?? 0)
  // The last word on each lift, where it reaches: a re-check replaces what it re-checks.
  const laid = work.map((e) => ({ lift: liftOf(state, e), from: own.from, to: own.to, ...tidied(e.entry.data as LiftData) }))
  const ends = [...new Set([own.from, own.to, ...laid.flatMap((d) => [d.from, d.to])])]
    .filter((s) => s >= own.from && s <= own.to)
    .sort((a, b) => a - b)
  const least = limitsOf(state.layout.plan).fillShort.value
  let worst = { by: least, from: 0, to: 0 }
  for (let i = 1; i < ends.length; i++) {
    const [from, to] = [ends[i - 1] as number, ends[i] as number]
    if (to - from <= 0.05) continue
    const last = new Map<number, number>()
    for (const d of laid) if (d.from <= from + 1e-6 && d.to >= to - 1e-6) last.set(d.lift, d.thickness)
    const by = wanted - [...last.values()].reduce((n, t) => n + t, 0)
    if (by > worst.by) worst = { by, from, to }
  }
  return worst.by > least ? `${said.small(worst.by)} of fill, ${gapWords([worst])}` : undefined
}
const tidied = ({ from, to, thickness }: LiftData) => ({ thickness, ...(from == null ? {} : { from }), ...(to == null ? {} : { to }) })

/** Which lift an entry speaks of: a re-check speaks of the lift it re-checks, whatever number stands on it. */
function liftOf(state: WallState, { entry }: RecordedEntry): number {
  let of = entry
  for (let i = 0; i < 20 && of.recheckOf !== undefined; i++) {
    const before = state.byId.get(of.recheckOf)?.entry
    if (before?.kind !== 'lift') break
    of = before
  }
  return (of.data as LiftData).lift
}

const gapWords = (gaps: readonly { from: number; to: number }[]) => gaps.map((g) => `${said.station(g.from)} to ${said.station(g.to)}`).join(' and ')

function readings(state: WallState, step: Step, work: readonly RecordedEntry[]): Progress {
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
