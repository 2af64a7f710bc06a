import { said } from '../base/said'
import { pointOf, type Role, tableOf } from '../rules'
import type { RecordedEntry, Verdict } from './entry'
import { statusOf } from './fold'
import { barriers, nextStep } from './gate'
import { densityReport } from './ground-report'
import { type ActionData, kindOf, type OverrideData } from './kinds'
import { owedNow, releaseNeeds } from './release-needs'
import { live, type WallState } from './state'
import { isClosed, settled } from './status'
import { type Step, stepKey, titleOf } from './step'

/** How an inspection point stands. */
export type PointState =
  | 'not yet'
  | 'under way'
  | 'to release'
  | 'rejected'
  | 'released'
  | 'seen'
  | 'passed with a reason'
  | 'open finding'
  | 'plan changed'

export interface PointStatus {
  readonly step: Step
  readonly kind: 'hold' | 'witness'
  /** Name of the point: first course, each course. */
  readonly title: string
  readonly reason: string
  readonly state: PointState
  readonly done: number
  readonly total: number
  readonly missing: readonly string[]
  /** Who releases a hold point. */
  readonly roles: readonly Role[]
  readonly photos: number
  readonly last: RecordedEntry | undefined
}

/**
 * Hold and witness points of the wall, each where it stands, with what it needs and what it has.
 *
 * @example inspectionPoints(state).filter((p) => p.state === 'to release')
 */
export const inspectionPoints = (state: WallState): PointStatus[] =>
  state.steps.flatMap((step): PointStatus[] => {
    const { plan } = state.layout
    const hold = step.stage.hold ? pointOf(plan, step.stage.hold) : undefined
    const point = hold ?? (step.stage.witness ? pointOf(plan, step.stage.witness) : undefined)
    if (!point) return []
    const s = statusOf(state, step)
    const log = state.logs.get(step.key)
    const owed = hold && s.hold !== 'released' && log ? releaseNeeds(state, step).map((n) => n.message) : []
    const work = log?.work.filter((e) => live(state, e.entry.id)) ?? []
    const stateOf = (): PointState => {
      if (s.open.length > 0) return 'open finding'
      if (s.unmatched.length > 0 && !settled(s)) return 'plan changed'
      if (s.hold === 'rejected') return 'rejected'
      if (s.hold === 'released') return 'released'
      if (settled(s) && owed.length > 0) return 'under way'
      if (settled(s)) return hold ? 'to release' : s.override ? 'passed with a reason' : 'seen'
      return s.state === 'todo' ? 'not yet' : 'under way'
    }
    return [
      {
        step,
        kind: hold ? 'hold' : 'witness',
        title: point.title,
        reason: point.reason,
        state: stateOf(),
        done: s.done,
        total: s.total,
        missing: [...s.missing, ...owed],
        roles: hold?.roles ?? [],
        photos: work.filter((e) => e.entry.kind === 'photo').length,
        last: work[work.length - 1],
      },
    ]
  })

/** A finding with all that became of it. */
export interface Nonconformance {
  readonly found: RecordedEntry
  readonly verdict: Verdict
  readonly action: RecordedEntry | undefined
  readonly rechecks: readonly RecordedEntry[]
  readonly state: 'found' | 'action taken' | 'out again' | 'closed'
}

/**
 * Every finding of the wall, newest first: found, cause and action, re-check, closed.
 *
 * @example nonconformances(state).filter((n) => n.state !== 'closed').length
 */
export function nonconformances(state: WallState): Nonconformance[] {
  return [...state.outs]
    .flatMap(([id, verdict]): Nonconformance[] => {
      const found = state.byId.get(id)
      if (!found || !live(state, id)) return []
      // A re-check that is out again belongs to the finding it was made for.
      if (found.entry.recheckOf && state.outs.has(found.entry.recheckOf)) return []
      const action = state.actions.get(id)
      const rechecks = (state.rechecks.get(id) ?? []).filter((r) => live(state, r.entry.id))
      const closed = isClosed(state, id)
      const last = rechecks[rechecks.length - 1]
      return [
        {
          found,
          verdict,
          action: action && live(state, action.entry.id) ? action : undefined,
          rechecks,
          state: closed ? 'closed' : last && state.outs.has(last.entry.id) ? 'out again' : action ? 'action taken' : 'found',
        },
      ]
    })
    .sort((a, b) => b.found.seq - a.found.seq)
}

/** Gates gone past with a written reason, newest first. */
export const overridesOf = (state: WallState): { entry: RecordedEntry; reason: string; step: Step | undefined }[] =>
  state.entries
    .filter((e) => e.entry.kind === 'override' && live(state, e.entry.id))
    .map((entry) => ({
      entry,
      reason: (entry.entry.data as OverrideData).reason,
      step: state.byKey.get(stepKey(entry.entry.where)),
    }))
    .reverse()

/** One thing that is due, and who can do it. */
export interface Due {
  readonly id: string
  readonly what: string
  readonly why: string
  readonly roles: readonly Role[]
  readonly step: string | undefined
  readonly urgent: boolean
}

/**
 * What is due today and by whom: releases that hold work up first, then findings, what is next in each section, and tests owed.
 *
 * @param at - now, for what has to stand for some days
 * @example dueOf(state, now).filter((d) => d.roles.includes('inspector'))
 */
export function dueOf(state: WallState, at?: string): Due[] {
  const due: Due[] = []
  for (const p of inspectionPoints(state)) {
    if (p.kind === 'hold' && (p.state === 'to release' || p.state === 'rejected')) {
      const held = p.state === 'rejected' ? 'was rejected; put it right and ask again' : 'the work is recorded and waits'
      due.push({
        id: `hold ${p.step.key}`,
        what: p.title === p.step.stage.title ? titleOf(p.step) : `${p.title}: ${titleOf(p.step)}`,
        why: held,
        roles: p.state === 'rejected' ? ['foreman'] : p.roles,
        step: p.step.key,
        urgent: true,
      })
    }
  }
  for (const n of nonconformances(state)) {
    if (n.state === 'closed') continue
    const step = state.byKey.get(stepKey(n.found.entry.where))
    const at = n.found.entry.where.station
    const what = `${step ? titleOf(step) : n.found.entry.kind}${at === undefined ? '' : ` at ${said.station(at)}`}: ${n.verdict.text}`
    const id = n.found.entry.id
    if (n.state === 'action taken')
      due.push({ id, what, why: 're-check it', roles: kindOf(n.found.entry.kind)?.roles ?? ['crew'], step: step?.key, urgent: true })
    else
      due.push({
        id,
        what,
        why: n.state === 'out again' ? 'out again: another action' : 'write cause and action',
        roles: ['foreman', 'inspector'],
        step: step?.key,
        urgent: true,
      })
  }
  const seen = new Set<string>()
  for (const section of state.layout.plan.sections) {
    const step = nextStep(state, section.id)
    if (!step || seen.has(step.key) || due.some((d) => d.step === step.key)) continue
    seen.add(step.key)
    const stop = barriers(state, step, at)[0]
    due.push({
      id: `next ${step.key}`,
      what: `Next: ${titleOf(step)}`,
      why: stop ? stop.message : step.stage.how,
      roles: ['foreman', 'crew'],
      step: step.key,
      urgent: false,
    })
  }
  due.push(...owedDue(state))
  return due
}

/** What is owed by now: what a hold point waits for is urgent, the tests of lifts just placed are not yet. */
function owedDue(state: WallState): Due[] {
  if (tableOf(state.layout.plan) > 1)
    return owedNow(state).map((o) => ({
      id: o.id,
      what: `${o.message} ${o.at === 'density' ? 'owed' : ''}`.trim(),
      why: o.holds ? `${o.before} waits for it` : `before ${o.before.toLowerCase()} is released`,
      roles: o.roles,
      step: o.step.key,
      urgent: o.holds,
    }))
  const { owed } = densityReport(state)
  if (owed === 0) return []
  return [
    {
      id: 'tests',
      what: `${owed} density ${owed === 1 ? 'test' : 'tests'} owed`,
      why: 'lifts were placed that nobody has tested',
      roles: ['crew', 'inspector'],
      step: undefined,
      urgent: false,
    },
  ]
}

/** Cause and action of a finding in words. */
export const actionWords = (n: Nonconformance) => {
  const d = n.action?.entry.data as ActionData | undefined
  return d ? { cause: d.cause, action: d.action } : undefined
}
