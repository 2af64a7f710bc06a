import { fail, failAll, ok, type Problem, type Result } from '../base/result'
import { said } from '../base/said'
import { optionalQuantity, optionalRecord, optionalText, quantity, read, record, text, yup } from '../base/schema'
import { pointOf, ROLES, type Role, tableOf } from '../rules'
import { dailyNeeds, fillHeld } from './daily'
import type { Entry, RecordedEntry, Verdict } from './entry'
import { contextOf, isPlaced, live, statusOf, verdictOf } from './fold'
import { barriers, openFindings, openStops, titleOf } from './gate'
import { type ActionData, isSigned, kindOf, type LiftData, type ReleaseData, type UnitsData } from './kinds'
import { owedBefore } from './owed'
import type { WallState } from './state'
import { complete, settled } from './status'
import { type Step, stepKey } from './steps'
import { stretchesOf } from './target'

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
    calibratedUntil: text(10).matches(/^\d{4}-\d\d-\d\d$/, 'must be a day such as 2026-05-31'),
  }),
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
 * @returns how it was judged, or each reason against it with its field
 */
export function admit(state: WallState, entry: Entry, now: number): Result<Verdict | undefined> {
  const role = entry.by.role as Role
  if (entry.kind === 'revision') return ok(undefined)
  if (!mayRecord(role, entry.kind)) {
    return fail('kind', `a ${role} may not record a ${entry.kind}; it takes the ${(kindOf(entry.kind)?.roles ?? []).join(' or ')}`)
  }
  const at = Date.parse(entry.at)
  if (Number.isNaN(at)) return fail('at', `"${entry.at}" is not a date`)
  // A clock that is hours or a year ahead is kept and flagged; a date beyond that is a broken one.
  if (at > now + 400 * 86_400_000) return fail('at', `${entry.at} is more than a year ahead; set the clock of the device and record it again`)
  if (at < Date.UTC(2000, 0, 1)) return fail('at', `${entry.at} is before 2000; check the clock of the device`)
  if (entry.revision > state.layouts.length) {
    return fail('revision', `there is no revision ${entry.revision}; ${state.layouts.length} is in force`)
  }
  const linked = checkLinks(state, entry)
  if (!linked.ok) return linked
  const kind = kindOf(entry.kind)
  const sound = kind?.check?.(entry, contextOf(state, entry))
  if (sound && !sound.ok) return sound
  if (!isPlaced(entry)) return ok(verdictOf(state, entry))

  const found = findStep(state, entry)
  if (!found.ok) return found
  const step = found.value
  if (entry.kind === 'release') return checkRelease(state, entry, step, role)
  if (entry.kind === 'override') {
    if (complete(statusOf(state, step))) return fail('where', `${titleOf(step)} is complete; there is nothing to go past`)
    return ok(undefined)
  }
  if (kind?.beside === 'anywhere' || step.stage.also?.includes(entry.kind)) return ok(verdictOf(state, entry))
  const stopped =
    openStops(state).length > 0 && (entry.supersedes || entry.recheckOf) ? barriers(state, step).filter((b) => b.step === undefined) : []
  if (stopped.length > 0) return failAll(stopped.map((b) => ({ field: 'where', message: b.message })))
  if (kind?.work !== step.stage.work.type) {
    return fail('kind', `${step.stage.title} is recorded as ${step.stage.work.type}, not as ${entry.kind}`)
  }
  // A correction or re-check belongs to work that is already there; the gates let the first one through.
  if (!entry.supersedes && !entry.recheckOf) {
    const closed = barriers(state, step, entry.at)
    if (closed.length > 0) {
      return failAll(
        closed.map(
          (b): Problem => ({ field: 'where', message: b.missing.length > 0 ? `${b.message} Missing: ${b.missing.join('; ')}.` : b.message }),
        ),
      )
    }
  }
  // A correction is made at the desk; whatever else is recorded here was done in the trench.
  const daily = entry.supersedes ? [] : dailyNeeds(state, step, entry.at)
  if (daily.length > 0) return failAll(daily.map((n) => ({ field: 'where', message: n.message })))
  if (entry.kind === 'lift' && !entry.supersedes && !(entry.data as LiftData).looked?.trim()) {
    const held = fillHeld(state, step, entry.at)
    if (held)
      return fail(
        'data.looked',
        `is missing; the weather was ${held}. Frozen or soaked fill is taken off or let drain first: say who looked at it and what was done`,
      )
  }
  const amount = checkAmount(state, entry, step)
  return amount.ok ? ok(verdictOf(state, entry)) : amount
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
  if (old.kind === 'release') return fail('supersedes', 'a decision on a hold point stays; answer it with another decision')
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
  if (entry.kind === 'strike' && !entry.supersedes) return fail('supersedes', 'is missing; name the entry to strike out')
  if (entry.supersedes) {
    const old = state.byId.get(entry.supersedes)
    if (!old) return fail('supersedes', `entry ${entry.supersedes} is not in the record of this wall`)
    if (!live(state, old.entry.id)) return fail('supersedes', 'that entry was corrected already; correct its correction')
    if (entry.kind !== 'strike' && old.entry.kind !== entry.kind) return fail('supersedes', `a ${entry.kind} cannot correct a ${old.entry.kind}`)
    if (old.entry.kind === 'strike' || old.entry.kind === 'revision') return fail('supersedes', `a ${old.entry.kind} cannot be corrected`)
    // A mistaken tap on a stop is cleared by the same named look as a real one; nobody takes it out of the way.
    if (state.outs.get(old.entry.id)?.stop)
      return fail(
        'supersedes',
        'that finding stopped the work; it is answered by name, by the owner of the line or a competent person, not struck or corrected',
      )
    const may = mayCorrect(old.entry, entry.by)
    if (!may.ok) return may
    if (entry.kind !== 'strike' && (entry.reason?.trim().length ?? 0) < 3) {
      return fail('reason', 'is missing; say why the earlier entry is wrong, it is kept with the correction')
    }
  }
  const of = entry.recheckOf ?? (entry.kind === 'action' ? (entry.data as ActionData).of : undefined)
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
  const sighted = entry.kind === 'sighting'
  if (stage.work.type === 'readings' && (entry.kind === 'reading' || (sighted && where.station !== undefined))) {
    if (where.station === undefined) return fail('where.station', 'is missing; a reading is taken at a station')
    const over = stretchesOf(state.layout, stage, step.section ?? '', step.course)
    if (!over.some((s) => (where.station ?? -1) >= s.from - 0.01 && (where.station ?? -1) <= s.to + 0.01)) {
      const ends = over.map((s) => `${said.given(s.from)} to ${said.given(s.to)}`).join(', ')
      return fail('where.station', `${said.given(where.station)} is beyond this stretch (${ends})`)
    }
    if (step.lines.length > 0) {
      const lines = step.lines.map((l) => said.given(l)).join(' and ')
      if (where.offset === undefined) return fail('where.offset', `is missing; the pad is read along lines at ${lines} from the face`)
      const reach = state.layout.building.foundation.width
      if (!step.lines.some((l) => Math.abs(l - (where.offset ?? 0)) <= reach)) {
        return fail('where.offset', `${said.given(where.offset)} is off the pad; it is read at ${lines} from the face`)
      }
    }
  }
  return ok(step)
}

function checkRelease(state: WallState, entry: Entry, step: Step, role: Role): Result<undefined> {
  const point = pointOf(state.layout.plan, step.stage.hold ?? '')
  if (!point) return fail('where.stage', `${step.stage.title} has no hold point`)
  const { decision, signature, reported } = entry.data as ReleaseData
  if (reported) {
    const told = checkReported(state, entry)
    if (!told.ok) return told
  } else if (!point.roles.includes(role)) {
    return fail('by.role', `${point.title} takes the ${point.roles.join(' or ')}; a ${role} may not release it`)
  }
  if (!isSigned(signature)) return fail('data.signature', `is missing; ${point.title} is ${decision} with a signature, by name or by hand`)
  // Names are compared as people write them: case and spaces say nothing.
  const plain = (name: string) => name.trim().replace(/\s+/g, ' ').toLowerCase()
  if (signature?.typed !== undefined && plain(signature.typed) !== plain(entry.by.name)) {
    return fail(
      'data.signature',
      `is that of ${signature.typed}; who is signed in signs: ${entry.by.name}. Name anybody else who was there as witness`,
    )
  }
  if (decision === 'rejected') return ok(undefined)
  const stops = openStops(state).length > 0 ? barriers(state, step).filter((b) => b.step === undefined && b.force === 'hard') : []
  if (stops.length > 0) return failAll(stops.map((b) => ({ field: 'where', message: b.message })))
  // Before rule table 2 a layer could be released by who laid it.
  const alone = point.own || (point.id === 'geogrid' && tableOf(state.layout.plan) === 1)
  const { plan } = state.layout
  // Since there is a rule book no plan lets people release by themselves what cannot be looked at later.
  const allowed = alone || (plan.rules?.ownRelease && !(plan.book && point.fixed))
  const mine = (e: RecordedEntry) => e.entry.by.id === entry.by.id && !!kindOf(e.entry.kind)?.work && live(state, e.entry.id)
  if (!allowed && !reported && state.logs.get(step.key)?.work.some(mine)) {
    return fail(
      'by',
      `${entry.by.name} recorded part of ${titleOf(step)}; ${point.title} takes a second pair of eyes: another ${point.roles.join(' or ')} releases it`,
    )
  }
  const status = statusOf(state, step)
  if (!settled(status)) {
    const missing = [...status.missing, ...(status.open.length > 0 ? [`${status.open.length} out of tolerance, not closed`] : [])]
    return fail('where', `${titleOf(step)} is not complete. Missing: ${missing.join('; ')}.`)
  }
  const owed = owedBefore(state, step)
  if (owed.length > 0) return fail('where', `${titleOf(step)} is not to be released yet. Owed: ${owed.join('; ')}.`)
  if (point.id === 'final') {
    const open = openFindings(state)
    if (open.length > 0) return fail('where', `${open.length} nonconformances are open; close them first`)
    const blocking = tableOf(state.layout.plan) > 1 ? state.layout.cautions.filter((c) => c.blocks) : []
    if (blocking.length > 0) return failAll(blocking.map((c) => ({ field: 'where', message: c.message })))
  }
  if (point.id === 'before-digging') {
    const blocking = state.layout.cautions.filter((c) => c.blocks)
    if (blocking.length > 0) return failAll(blocking.map((c) => ({ field: 'where', message: c.message })))
  }
  return ok(undefined)
}

/** A decision of somebody without an account: who they are, and the paper or photo that says so. */
function checkReported(state: WallState, entry: Entry): Result<true> {
  const { reported } = entry.data as ReleaseData
  if (!reported) return ok(true)
  if (entry.by.role !== 'foreman') return fail('by.role', 'a decision of somebody without an account is recorded by the foreman')
  if (reported.name.trim().toLowerCase() === entry.by.name.trim().toLowerCase()) {
    return fail('data.reported.name', 'is your own; a reported decision is somebody else’s')
  }
  const photo = reported.photo === undefined ? undefined : state.byId.get(reported.photo)
  if (reported.photo !== undefined && (photo?.entry.kind !== 'photo' || !live(state, photo.entry.id))) {
    return fail('data.reported.photo', 'is not a photo in the record of this wall')
  }
  if (!photo && (reported.document?.trim().length ?? 0) < 3) {
    return fail('data.reported.document', 'is missing; name the paper that says so (number and day), or take a photo of it')
  }
  return ok(true)
}

/** Thinnest lift anybody places, m. */
const THINNEST = 0.05

function checkAmount(state: WallState, entry: Entry, step: Step): Result<true> {
  if (entry.kind === 'units') {
    const corrected = entry.supersedes ? state.byId.get(entry.supersedes) : undefined
    const old = (corrected?.entry.data as UnitsData | undefined)?.set ?? 0
    const already = statusOf(state, step).done - old
    const { set } = entry.data as UnitsData
    if (already + set > step.planned) {
      return fail('data.set', `${titleOf(step)} takes ${step.planned}; ${already} are set, so at most ${step.planned - already} more, not ${set}`)
    }
  }
  if (entry.kind === 'lift' && !entry.supersedes && !entry.recheckOf) {
    const { lift } = entry.data as LiftData
    // Thin lifts are more lifts: as many as the thinnest that is placed, and two more for what was laid too low.
    const thin = tableOf(state.layout.plan) === 1 ? 0 : Math.ceil(((step.lifts?.count ?? 1) * (step.lifts?.compacted ?? 0)) / THINNEST)
    const most = Math.max(step.lifts?.count ?? 1, thin) + 2
    if (lift > most) return fail('data.lift', `the plan has ${step.lifts?.count} lifts here; ${lift} is too many`)
    const { from = 0, to = 2000 } = entry.data as LiftData
    const twice = state.logs.get(step.key)?.work.some((e) => {
      const d = e.entry.data as LiftData
      const old = statusOf(state, step).unmatched.some((u) => u.recorded === e)
      return (
        e.entry.kind === 'lift' && !old && live(state, e.entry.id) && d.lift === lift && (d.from ?? 0) < to - 0.01 && (d.to ?? 2000) > from + 0.01
      )
    })
    if (twice) return fail('data.lift', `lift ${lift} is recorded; correct that entry or record the next lift`)
  }
  return ok(true)
}
