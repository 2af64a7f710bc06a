import { pointOf, tableOf } from '../rules'
import { statusOf } from './fold'
import { soilStops } from './found-soil'
import { openFindings } from './gate'
import { kindOf } from './kinds'
import { type Owed, owedOf, testsOwedAt } from './owed'
import type { WallState } from './state'
import { settled } from './status'
import { type Step, stepKey, titleOf } from './step'

/**
 * All that a release of this hold point would be refused for besides its signature: what is owed of the work it covers, and at the final every
 * finding, the soil that was found and what the plan lacks. The same things the admission of a release asks, so that none is met there first.
 *
 * @example releaseNeeds(state, step).map((o) => o.message)
 */
export function releaseNeeds(state: WallState, step: Step): Owed[] {
  const { plan, cautions } = state.layout
  const needs = owedOf(state, step)
  const roles = ['foreman', 'office'] as const
  const final = step.stage.hold === 'final'
  if (final) {
    for (const f of openFindings(state)) {
      const at = state.byKey.get(stepKey(f.entry.where))
      if (at && at !== step)
        needs.push({
          id: `finding ${f.entry.id}`,
          message: `${titleOf(at)}: ${state.outs.get(f.entry.id)?.text ?? ''}, not closed`,
          at: 'step',
          step: at,
          roles: kindOf(f.entry.kind)?.roles ?? [],
        })
    }
    for (const message of soilStops(state)) needs.push({ id: `soil ${message}`, message, at: 'soil', step, roles })
  }
  if ((final && tableOf(plan) > 1) || step.stage.hold === 'before-digging')
    for (const c of cautions) if (c.blocks) needs.push({ id: `plan ${c.id}`, message: c.message, at: 'plan', step, roles })
  return needs
}

/** Hold points whose work is done and that wait for a release, and for nothing else. */
export const waitingHolds = (state: WallState): Step[] =>
  state.holds.filter((s) => {
    // Where nothing was recorded there is nothing to release.
    if (!state.logs.has(s.key)) return false
    const status = statusOf(state, s)
    return status.hold !== 'released' && settled(status) && releaseNeeds(state, s).length === 0
  })

/** Something owed, and the hold point that waits for it. */
export interface Waiting extends Owed {
  /** Name of the hold point, and whether all but what is owed is done. */
  readonly before: string
  readonly holds: boolean
}

/**
 * What is owed on the wall by now, each from the first moment it can be known: tests of lifts that were placed, then what a hold point whose work
 * is done still waits for.
 *
 * @example owedNow(state).map((o) => `${o.message}: ${o.before} waits for it`)
 */
export function owedNow(state: WallState): Waiting[] {
  const found = new Map<string, Waiting>()
  for (const step of state.holds) {
    const status = statusOf(state, step)
    if (!state.logs.has(step.key) || status.hold === 'released' || !settled(status)) continue
    const before = pointOf(state.layout.plan, step.stage.hold ?? '')?.title ?? step.stage.title
    for (const o of releaseNeeds(state, step)) if (!found.has(o.id)) found.set(o.id, { ...o, before, holds: true })
  }
  if (tableOf(state.layout.plan) > 1)
    for (const step of state.steps) {
      const tests = testsOwedAt(state, step)
      if (tests && !found.has(tests.id)) found.set(tests.id, { ...tests, before: heldBy(state, step), holds: false })
    }
  return [...found.values()]
}

/** The hold point that covers the lifts of a step: the next of the place, else the final. */
function heldBy(state: WallState, step: Step): string {
  const next = state.holds.find(
    (h) => h.section === step.section && h.course === step.course && h.stage.requires.some((r) => r.of === 'same' && r.stage === step.stage.id),
  )
  const hold = next ?? state.holds.find((h) => h.stage.hold === 'final')
  return hold ? (pointOf(state.layout.plan, hold.stage.hold ?? '')?.title ?? hold.stage.title) : 'The release'
}
