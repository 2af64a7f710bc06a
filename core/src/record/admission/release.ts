import { fail, failAll, ok, type Result } from '../../base/result'
import { pointOf, type Role, schoolBy, since, tableOf } from '../../rules'
import type { Entry, RecordedEntry } from '../entry'
import { statusOf } from '../fold'
import { soilStops } from '../found-soil'
import { barriers, openFindings, openStops } from '../gate'
import { isOutside, isSigned, kindOf, type ReleaseData } from '../kinds'
import { photo } from '../kinds/photo'
import { release } from '../kinds/release'
import { owedBefore } from '../owed'
import { live, type WallState } from '../state'
import { settled } from '../status'
import { type Step, titleOf } from '../step'
import { checkOutside } from './outside'
import { checkSecond } from './second-look'

/**
 * May this decision on a hold point stand: by whom, signed how, and on work that is complete? A rejection needs no complete work.
 *
 * @param times - at which it is judged, ISO 8601: {@link timesOf}
 * @example admitRelease(state, entry, step, ['2026-05-20T08:00:00.000Z']).ok
 */
export function admitRelease(state: WallState, entry: Entry, step: Step, times: readonly string[]): Result<undefined> {
  if (!release.is(entry)) return ok(undefined)
  const role = entry.by.role as Role
  const point = pointOf(state.layout.plan, step.stage.hold ?? '')
  if (!point) return fail('where.stage', `${step.stage.title} has no hold point`)
  const { decision, signature, reported } = entry.data
  if (entry.data.outside || isOutside(entry.by)) {
    const sent = checkOutside(state, entry, step)
    if (!sent.ok) return sent
  } else if (reported) {
    const told = checkReported(state, entry, reported)
    if (!told.ok) return told
  } else if (entry.data.second) {
    const looked = checkSecond(state, entry, step, entry.data.second, times)
    if (!looked.ok) return looked
  } else if (!point.roles.includes(role)) {
    return fail('by.role', `${point.title} takes the ${point.roles.join(' or ')}; the ${role} may not release it`)
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
  // Since rule table 3 that is the company's to say, with its reason.
  const ownEyes = since(plan, 3) ? schoolBy(plan, 'second-eyes') === 'own' : plan.rules?.ownRelease
  const allowed = alone || entry.data.second !== undefined || (ownEyes && !(plan.book && point.fixed))
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
    const found = soilStops(state)
    if (found.length > 0) return failAll(found.map((message) => ({ field: 'where', message })))
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
function checkReported(state: WallState, entry: Entry, reported: NonNullable<ReleaseData['reported']>): Result<true> {
  if (entry.by.role !== 'foreman') return fail('by.role', 'a decision of somebody without an account is recorded by the foreman')
  if (reported.name.trim().toLowerCase() === entry.by.name.trim().toLowerCase()) {
    return fail('data.reported.name', 'is your own; a reported decision is somebody else’s')
  }
  const seen = reported.photo === undefined ? undefined : state.byId.get(reported.photo)
  if (reported.photo !== undefined && (!seen || !photo.is(seen.entry) || !live(state, seen.entry.id))) {
    return fail('data.reported.photo', 'is not a photo in the record of this wall')
  }
  if (!seen && (reported.document?.trim().length ?? 0) < 3) {
    return fail('data.reported.document', 'is missing; name the paper that says so (number and day), or take a photo of it')
  }
  return ok(true)
}
