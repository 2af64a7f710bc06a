import { fail, failAll, ok, type Result } from '../../base/result'
import { factsOf, whoseWall } from '../../layout'
import { engineered } from '../../plan'
import { limitsOf, pointOf, type Role, schoolBy, since, tableOf } from '../../rules'
import { openDepth } from '../daily'
import type { Entry, RecordedEntry } from '../entry'
import { statusOf } from '../fold'
import { soilStops } from '../found-soil'
import { barriers, openFindings, openStops } from '../gate'
import { isSigned, kindOf, type ReleaseData } from '../kinds'
import { photo } from '../kinds/photo'
import { release } from '../kinds/release'
import { owedBefore } from '../owed'
import { live, type WallState } from '../state'
import { settled } from '../status'
import { type Step, titleOf } from '../step'

/**
 * May this decision on a hold point stand: by whom, signed how, and on work that is complete? A rejection needs no complete work.
 *
 * @example admitRelease(state, entry, step).ok
 */
export function admitRelease(state: WallState, entry: Entry, step: Step): Result<undefined> {
  if (!release.is(entry)) return ok(undefined)
  const role = entry.by.role as Role
  const point = pointOf(state.layout.plan, step.stage.hold ?? '')
  if (!point) return fail('where.stage', `${step.stage.title} has no hold point`)
  const { decision, signature, reported } = entry.data
  if (reported) {
    const told = checkReported(state, entry, reported)
    if (!told.ok) return told
  } else if (entry.data.second) {
    const looked = checkSecond(state, entry, step, entry.data.second)
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

/** What is looked at again at a second look by the same person: each item of the work, and the place as a whole. @example secondLook(step).length */
export function secondLook({ stage }: Step): { readonly id: string; readonly text: string }[] {
  const { work } = stage
  const items = work.type === 'check' || work.type === 'pipe' ? work.items.map(({ id, text }) => ({ id, text })) : []
  return [
    ...items,
    { id: 'again-ends', text: 'Looked along it from both ends' },
    { id: 'again-measured', text: 'Measured anew at one place that was measured before' },
    { id: 'again-plan', text: 'Held against the plan, item by item' },
  ]
}

/**
 * Why a second look by the same person does not do here, in words; undefined where it does: a company of one person, and nothing that takes a
 * second pair of hands or somebody from outside.
 *
 * @example whyNotAlone(state, step)
 */
export function whyNotAlone(state: WallState, step: Step): string | undefined {
  const { plan, building } = state.layout
  if (!since(plan, 3) || schoolBy(plan, 'crew') !== 'one') return 'the company has not said that it is one person'
  const { engineer } = whoseWall(plan, factsOf(state.layout))
  if (engineer.length > 0 || soilStops(state).length > 0) return 'this wall is an engineer’s: somebody from outside looks at it'
  if (step.stage.hold === 'geogrid' && engineered(plan)) return 'layers of an engineer’s plan are looked at by somebody from outside'
  if (building.lifting && step.stage.scope === 'course') return 'what a machine lifts takes a second person'
  if (openDepth(state, step) > limitsOf(plan).shoreAbove.value + 1e-6) return 'work in a cut this deep takes a second person'
  return undefined
}

/** A second look by the same person: after a pause, by the list made for it, with a photo taken at it. */
function checkSecond(state: WallState, entry: Entry, step: Step, second: NonNullable<ReleaseData['second']>): Result<true> {
  const not = whyNotAlone(state, step)
  if (not) return fail('data.second', `does not do here: ${not}`)
  if (entry.by.role !== 'foreman') return fail('by.role', 'a second look by the same person is recorded by the foreman')
  const work = (state.logs.get(step.key)?.work ?? []).filter((e) => live(state, e.entry.id))
  const last = Math.max(Number.NEGATIVE_INFINITY, ...work.filter((e) => !!kindOf(e.entry.kind)?.work).map((e) => Date.parse(e.entry.at)))
  const pause = limitsOf(state.layout.plan).secondLook.value
  if (Date.parse(entry.at) < last + pause * 3_600_000)
    return fail(
      'at',
      `is too soon: the work was recorded ${new Date(last).toISOString().slice(11, 16)} UTC, and the second look comes ${pause} h later at the earliest`,
    )
  const missing = secondLook(step).filter((i) => !second.confirmed.includes(i.id))
  if (missing.length > 0)
    return fail('data.second.confirmed', `is not whole; still to be looked at: ${missing.map((i) => i.text.toLowerCase()).join('; ')}`)
  const seen = state.byId.get(second.photo)
  if (!seen || !photo.is(seen.entry) || !live(state, seen.entry.id)) return fail('data.second.photo', 'is not a photo in the record of this wall')
  const { stage, section } = seen.entry.where
  if (stage !== step.stage.id || section !== step.section) return fail('data.second.photo', `is of another place; take one of ${titleOf(step)}`)
  if (Date.parse(seen.entry.at) < last) return fail('data.second.photo', 'was taken before the work was done; take one at the second look')
  return ok(true)
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
