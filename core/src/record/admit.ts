import { fail, failAll, ok, type Problem, type Result } from '../base/result'
import { said } from '../base/said'
import { optionalQuantity, optionalRecord, optionalText, quantity, read, record, text, yup } from '../base/schema'
import { ROLES, type Role, since } from '../rules'
import { ADMISSIONS } from './admission'
import { dailyNeeds } from './daily'
import type { Entry, Verdict } from './entry'
import { contextOf, isPlaced, statusOf, verdictOf } from './fold'
import { barriers, openStops } from './gate'
import { dayText } from './item'
import { isOutside, kindOf } from './kinds'
import { live, type WallState } from './state'
import { type Step, stepKey } from './step'
import { atAll, daysTooFar, type FromDevice, timesOf } from './time'
import { mayBeUnder } from './under'
import { workOf } from './works'

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[1-8][0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/
const uuid = () => text(36).matches(UUID, 'must be a UUID in lower case')

const whereSchema = record({
  stage: optionalText(40),
  section: optionalText(8),
  course: optionalQuantity({ min: 1, max: 400, whole: true }),
  station: optionalQuantity({ min: 0, max: 2000, unit: 'm' }),
  offset: optionalQuantity({ min: -20, max: 50, unit: 'm' }),
})

/** An entry as it may come in; `data` is read by the schema of its kind. */
export const entrySchema = record({
  id: uuid(),
  wall: uuid(),
  revision: quantity({ min: 1, max: 10_000, whole: true }),
  at: text(30).matches(/^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d{1,3})?)?Z$/, 'must be a time in UTC such as 2026-05-04T07:30:00Z'),
  by: record({ id: text(80), name: text(120), role: text(20).oneOf([...ROLES], `must be one of ${ROLES.join(', ')}`) }),
  kind: text(30),
  where: whereSchema,
  data: yup.mixed().required('is missing'),
  supersedes: uuid().optional(),
  reason: optionalText(400),
  recheckOf: uuid().optional(),
  instrument: optionalRecord({
    name: text(60),
    serial: text(40),
    calibratedUntil: dayText(),
  }),
  clock: optionalQuantity({ min: -4_000_000_000, max: 4_000_000_000, unit: 's', whole: true }),
})

/**
 * Types and limits of one entry, its data by its kind.
 *
 * @example readEntry({ kind: 'reading', … })
 */
export function readEntry(value: unknown): Result<Entry> {
  const envelope = read(entrySchema, value)
  if (!envelope.ok) return envelope
  const kind = kindOf(envelope.value.kind)
  if (!kind) return fail('kind', `"${envelope.value.kind}" is not a kind of entry`)
  const data = read(kind.schema as yup.AnySchema, envelope.value.data, 'data')
  return data.ok ? ok(envelope.value as Entry) : data
}

/** @example mayRecord('crew', 'override') // false */
export const mayRecord = (role: Role, kind: string) => kindOf(kind)?.roles.includes(role) ?? false

/**
 * May this entry go into the record as it stands? The same answer on the device, before sending, and on the server.
 *
 * @param now - ms since 1970, from the caller
 * @param from - what the house knows of the device: its revisions, its clock, the latest moment it recorded of
 * @returns how it was judged, or each reason against it with its field
 */
export function admit(state: WallState, entry: Entry, now: number, from: FromDevice = { revisions: [] }): Result<Verdict | undefined> {
  const role = entry.by.role as Role
  if (kindOf(entry.kind)?.effect?.is === 'revision') return ok(undefined)
  if (!mayRecord(role, entry.kind)) {
    return fail('kind', `the ${role} may not record this (${entry.kind}); it takes the ${(kindOf(entry.kind)?.roles ?? []).join(' or ')}`)
  }
  if (isOutside(entry.by) && kindOf(entry.kind)?.effect?.is !== 'decision')
    return fail('kind', `is no decision; who looks from outside decides on what they were asked about, and records nothing else (${entry.kind})`)
  const at = Date.parse(entry.at)
  // 31 February is read as some day of March by most programs: nobody observed anything then.
  if (Number.isNaN(at) || new Date(at).toISOString().slice(0, 16) !== entry.at.slice(0, 16))
    return fail('at', `"${entry.at}" is no time of the calendar; set the clock of the device and record it again`)
  // A clock that is known to be ahead is taken off; what is ahead of the house by itself is no day yet.
  const far = daysTooFar(entry, now, from)
  if (far !== undefined)
    return fail(
      'at',
      `${entry.at} is more than a ${far === 1 ? 'day' : 'year'} ahead of the office server; set the clock of the device and record it again`,
    )
  if (at < Date.UTC(2000, 0, 1)) return fail('at', `${entry.at} is before 2000; check the clock of the device`)
  if (entry.revision > state.layouts.length) {
    return fail('revision', `there is no revision ${entry.revision}; ${state.layouts.length} is in force`)
  }
  const under = mayBeUnder(entry, now, from)
  if (!under.ok) return under
  const linked = checkLinks(state, entry)
  if (!linked.ok) return linked
  const kind = kindOf(entry.kind)
  const sound = kind?.check?.(entry, contextOf(state, entry))
  if (sound && !sound.ok) return sound
  if (!isPlaced(entry)) return ok(verdictOf(state, entry))

  const found = findStep(state, entry)
  if (!found.ok) return found
  const step = found.value
  const own = kind?.effect && ADMISSIONS[kind.effect.is]
  if (own) return own(state, entry, step, timesOf(state, entry, now, from))
  if (kind?.beside === 'anywhere' || step.stage.also?.includes(entry.kind)) return ok(verdictOf(state, entry))
  // A clock that is wrong opens nothing: what goes by time is asked by the clock of the house.
  const times = timesOf(state, entry, now, from)
  // Before rule table 3 what is done anew each day went by the device.
  const days = since(state.layout.plan, 3) ? times : [entry.at]
  const stopped =
    openStops(state).length > 0 && (entry.supersedes || entry.recheckOf) ? barriers(state, step).filter((b) => b.step === undefined && !b.kept) : []
  if (stopped.length > 0) return failAll(stopped.map((b) => ({ field: 'where', message: b.message })))
  if (kind?.work !== step.stage.work.type) {
    return fail('kind', `${step.stage.title} is recorded as ${step.stage.work.type}, not as ${entry.kind}`)
  }
  // A correction or re-check belongs to work that is already there; the gates let the first one through.
  if (!entry.supersedes && !entry.recheckOf) {
    const closed = atAll(
      times,
      (when) => barriers(state, step, when),
      (b) => b.message,
    ).filter((b) => !b.kept)
    if (closed.length > 0) {
      return failAll(
        closed.map(
          (b): Problem => ({ field: 'where', message: b.missing.length > 0 ? `${b.message} Missing: ${b.missing.join('; ')}.` : b.message }),
        ),
      )
    }
  }
  // A correction is made at the desk; whatever else is recorded here was done in the trench.
  const daily = entry.supersedes
    ? []
    : atAll(
        days,
        (when) => dailyNeeds(state, step, when),
        (n) => n.id,
      )
  if (daily.length > 0) return failAll(daily.map((n) => ({ field: 'where', message: n.message })))
  const admitted = workOf(step.stage.work.type).admit?.(state, step, entry, () => statusOf(state, step), days)
  return !admitted || admitted.ok ? ok(verdictOf(state, entry)) : admitted
}

/** Who stands above whom on a site; the office measures and builds nothing. */
const RANK: Readonly<Record<string, number>> = { crew: 1, foreman: 2, inspector: 3 }

/**
 * May this person correct or strike an entry out? Its author may, or a role above; a decision is answered by another decision, never
 * taken out of the record's account.
 *
 * @example mayCorrect(entry, me).ok
 */
export function mayCorrect(old: Entry, by: Entry['by']): Result<true> {
  const stays = kindOf(old.kind)?.stays
  if (stays !== undefined) return fail('supersedes', stays)
  if (old.by.id === by.id) return ok(true)
  const above = (RANK[by.role] ?? 0) > (RANK[old.by.role] ?? 9)
  return above
    ? ok(true)
    : fail(
        'by',
        `${old.by.name} recorded this; it is corrected by ${old.by.name}, or by a role above ${old.by.role === 'office' ? 'it' : `the ${old.by.role}`}`,
      )
}

function checkLinks(state: WallState, entry: Entry): Result<true> {
  const effect = kindOf(entry.kind)?.effect
  const strikes = effect?.is === 'strike'
  if (strikes && !entry.supersedes) return fail('supersedes', 'is missing; name the entry to strike out')
  if (entry.supersedes) {
    const old = state.byId.get(entry.supersedes)
    if (!old) return fail('supersedes', `entry ${entry.supersedes} is not in the record of this wall`)
    if (!live(state, old.entry.id)) return fail('supersedes', 'that entry was corrected already; correct its correction')
    if (!strikes && old.entry.kind !== entry.kind) return fail('supersedes', `a ${entry.kind} cannot correct a ${old.entry.kind}`)
    const stays = kindOf(old.entry.kind)?.stays
    if (stays !== undefined) return fail('supersedes', stays)
    // A mistaken tap on a stop is cleared by the same named look as a real one; nobody takes it out of the way.
    if (state.outs.get(old.entry.id)?.stop)
      return fail(
        'supersedes',
        'that finding stopped the work; it is answered by name, by the owner of the line or a competent person, not struck or corrected',
      )
    const may = mayCorrect(old.entry, entry.by)
    if (!may.ok) return may
    if (!strikes && (entry.reason?.trim().length ?? 0) < 3) {
      return fail('reason', 'is missing; say why the earlier entry is wrong, it is kept with the correction')
    }
  }
  const of = entry.recheckOf ?? (effect?.is === 'answer' ? effect.of(entry.data) : undefined)
  const field = entry.recheckOf ? 'recheckOf' : 'data.of'
  if (of !== undefined) {
    const finding = state.byId.get(of)
    if (!finding) return fail(field, `entry ${of} is not in the record of this wall`)
    if (!state.outs.has(of)) return fail(field, 'that entry was within limits; there is nothing to re-check')
    if (entry.recheckOf && stepKey(finding.entry.where) !== stepKey(entry.where)) {
      return fail(field, 'a re-check belongs to the same stage, section and course')
    }
    if (entry.recheckOf && finding.entry.where.station !== undefined && Math.abs((entry.where.station ?? -9) - finding.entry.where.station) > 0.5) {
      return fail('where.station', `re-check at ${said.given(finding.entry.where.station)}, where the finding is`)
    }
    if (entry.recheckOf && !(kindOf(entry.kind)?.closes ?? [entry.kind]).includes(finding.entry.kind)) {
      return fail(field, `a ${entry.kind} cannot re-check a ${finding.entry.kind}`)
    }
    const across = finding.entry.where.offset
    if (entry.recheckOf && across !== undefined && Math.abs((entry.where.offset ?? 99) - across) > 0.1) {
      return fail('where.offset', `re-check at ${said.given(across)} from the face, where the finding is`)
    }
    if (entry.recheckOf && finding.entry.kind === entry.kind) {
      const other = kindOf(entry.kind)?.again?.(entry, finding.entry)
      if (other) return failAll([other])
    }
  }
  return ok(true)
}

function findStep(state: WallState, entry: Entry): Result<Step> {
  const { where } = entry
  const stage = state.byStage.get(where.stage ?? '')
  if (!stage) return fail('where.stage', `"${where.stage ?? ''}" is not a stage of ${state.layout.system.name}`)
  const section = state.layout.plan.sections.find((s) => s.id === where.section)
  if (stage.scope !== 'wall' && !section) {
    return fail('where.section', `"${where.section ?? ''}" is not a section; there are ${state.layout.plan.sections.map((s) => s.id).join(', ')}`)
  }
  const step = state.byKey.get(stepKey(where))
  if (!step) {
    const courses = [...state.layout.cells.values()].filter((c) => c.section === where.section).map((c) => c.course)
    if (stage.scope === 'course' && !courses.includes(where.course ?? 0)) {
      return fail(
        'where.course',
        `there is no course ${where.course ?? 'given'} in section ${where.section}; it has ${courses[0]} to ${courses[courses.length - 1]}`,
      )
    }
    return fail('where.stage', `${stage.title} does not happen here`)
  }
  const placed = workOf(stage.work.type).place?.(state, step, entry)
  if (placed && !placed.ok) return placed
  return ok(step)
}
