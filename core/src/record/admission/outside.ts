import { fail, ok, type Result } from '../../base/result'
import { pointOf } from '../../rules'
import type { Entry } from '../entry'
import { isOutside, outsideId, request } from '../kinds'
import { release } from '../kinds/release'
import { live, type WallState } from '../state'
import { type Step, stepKey, titleOf } from '../step'

/** Names are compared as people write them: case, spaces and full stops say nothing. */
const plain = (name: string) =>
  name
    .trim()
    .replace(/[\s.]+/g, ' ')
    .trim()
    .toLowerCase()

/** May somebody from outside be asked here? Where something waits to be released. */
export function admitRequest(state: WallState, _entry: Entry, step: Step): Result<undefined> {
  const point = pointOf(state.layout.plan, step.stage.hold ?? '')
  return point?.kind === 'hold'
    ? ok(undefined)
    : fail('where.stage', `${titleOf(step)} has no hold point; somebody from outside is asked where something waits to be released`)
}

/** Has this request been answered already, released or rejected? @example answerOf(state, step, request.id)?.entry.by.name */
export const answerOf = (state: WallState, step: Step, request: string) =>
  release.among(state.logs.get(step.key)?.releases ?? []).find((e) => e.entry.data.outside?.request === request)

/**
 * A decision over a link that was sent to an address in the record. Who decides has no account: by the id of the request alone they are told
 * from whoever is signed in, so neither can stand for the other.
 */
export function checkOutside(state: WallState, entry: Entry, step: Step): Result<true> {
  const outside = release.is(entry) ? entry.data.outside : undefined
  if (!outside) return fail('data.outside', 'is missing; a link decides on the request it was sent for, and on nothing else')
  if (!isOutside(entry.by) || entry.by.id !== outsideId(outside.request))
    return fail('data.outside', 'is decided over the link that was sent; nobody who is signed in decides for somebody from outside')
  const asked = state.byId.get(outside.request)
  if (!asked || !request.is(asked.entry) || !live(state, asked.entry.id))
    return fail('data.outside.request', 'is not, or no longer, a request in the record of this wall; ask for another link')
  if (stepKey(asked.entry.where) !== step.key) return fail('where', `is not what the request is about; the link decides on that alone`)
  if (answerOf(state, step, outside.request)) return fail('data.outside.request', 'was answered already; ask for another link')
  if (outside.licence.trim().length < 3) return fail('data.outside.licence', 'is missing; the licence or register number is kept with the decision')
  const here = state.entries.find((e) => !isOutside(e.entry.by) && plain(e.entry.by.name) === plain(entry.by.name))
  if (here)
    return fail(
      'by.name',
      `is the name of somebody who records this wall (${here.entry.by.name}); who looks from outside is somebody else. Where two people bear it, write it in full`,
    )
  return ok(true)
}
