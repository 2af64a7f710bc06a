import { fail, ok, type Result } from '../../base/result'
import { said } from '../../base/said'
import { factsOf, whoseWall } from '../../layout'
import { engineered } from '../../plan'
import { limitsOf, schoolBy, since } from '../../rules'
import { openDepth } from '../daily'
import type { Entry } from '../entry'
import { soilStops } from '../found-soil'
import { kindOf, type ReleaseData } from '../kinds'
import { photo } from '../kinds/photo'
import { live, type WallState } from '../state'
import { type Step, titleOf } from '../step'
import { whenOf } from '../time'

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

/** When work of a step was recorded last, ms since 1970; minus infinity where none was. */
const lastWork = (state: WallState, step: Step): number =>
  Math.max(
    Number.NEGATIVE_INFINITY,
    ...(state.logs.get(step.key)?.work ?? [])
      .filter((e) => live(state, e.entry.id) && !!kindOf(e.entry.kind)?.work)
      .map((e) => whenOf(state, e).latest),
  )

/**
 * From when on the same person may look again, ISO 8601; undefined before any work.
 *
 * @example secondLookFrom(state, step) // '2026-05-20T09:40:00.000Z'
 */
export function secondLookFrom(state: WallState, step: Step): string | undefined {
  const last = lastWork(state, step)
  return Number.isFinite(last) ? new Date(last + limitsOf(state.layout.plan).secondLook.value * 3_600_000).toISOString() : undefined
}

/** A second look by the same person: after a pause, by the list made for it, with a photo taken at it. */
export function checkSecond(
  state: WallState,
  entry: Entry,
  step: Step,
  second: NonNullable<ReleaseData['second']>,
  times: readonly string[],
): Result<true> {
  const not = whyNotAlone(state, step)
  if (not) return fail('data.second', `does not do here: ${not}`)
  if (entry.by.role !== 'foreman') return fail('by.role', 'a second look by the same person is recorded by the foreman')
  const last = lastWork(state, step)
  const from = secondLookFrom(state, step)
  if (from !== undefined && times.some((at) => at < from))
    return fail(
      'at',
      `is too soon: the work was recorded on ${said.moment(new Date(last).toISOString())}, and the second look comes ${limitsOf(state.layout.plan).secondLook.value} h later at the earliest`,
    )
  const missing = secondLook(step).filter((i) => !second.confirmed.includes(i.id))
  if (missing.length > 0)
    return fail('data.second.confirmed', `is not whole; still to be looked at: ${missing.map((i) => i.text.toLowerCase()).join('; ')}`)
  const seen = state.byId.get(second.photo)
  if (!seen || !photo.is(seen.entry) || !live(state, seen.entry.id)) return fail('data.second.photo', 'is not a photo in the record of this wall')
  const { stage, section } = seen.entry.where
  if (stage !== step.stage.id || section !== step.section) return fail('data.second.photo', `is of another place; take one of ${titleOf(step)}`)
  if (from !== undefined && whenOf(state, seen).earliest < Date.parse(from))
    return fail('data.second.photo', 'was taken before the second look; take one at it')
  return ok(true)
}
