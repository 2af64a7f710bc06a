import type { CheckItem } from '../systems'
import { dailyNeeds } from './daily'
import { statusOf } from './fold'
import { barriers } from './gate'
import { measuresOf } from './kinds'
import type { WallState } from './state'
import { settled } from './status'
import type { Step } from './step'

/** Looks that follow one another and are recorded together: each its own entry, ticked on one card. */
export interface Look {
  readonly step: Step
  readonly items: readonly CheckItem[]
}

/** Nothing but ticks, and nothing said of it yet. */
function isLook(state: WallState, step: Step): boolean {
  const { work } = step.stage
  if (work.type !== 'check' || work.until !== undefined || measuresOf(work, state.layout.plan).length > 0) return false
  const status = statusOf(state, step)
  return !settled(status) && status.open.length === 0 && !state.logs.has(step.key)
}

/**
 * Looks that come one after the other from a step on, with nothing to be read, laid or waited for between them: they can be made in one walk and
 * ticked on one card. A hold point ends the walk.
 *
 * @param at - now by the house's clock: concrete cures and a trench is looked at by it
 * @returns one where nothing goes with it, none where the step is no look
 * @example looksFrom(state, step, new Date().toISOString()).map((l) => l.step.stage.id) // ['cover', 'top', 'cap-dry']
 */
export function looksFrom(state: WallState, step: Step, at: string): Look[] {
  const { sections } = state.layout.plan
  // What concerns the whole of a wall of one section is seen on the same walk.
  const only = sections.length === 1 ? sections[0]?.id : undefined
  const sectionOf = (s: Step) => s.section ?? only
  const walk: Step[] = []
  const own = state.steps.filter((s) => sectionOf(s) === sectionOf(step))
  for (const s of own.slice(own.findIndex((o) => o.key === step.key))) {
    if (settled(statusOf(state, s))) continue
    if (!isLook(state, s)) break
    const inWay = barriers(state, s, at).filter((b) => !b.step || !walk.some((w) => w.key === b.step?.key))
    const waits = s.stage.requires?.some((r) => r.days !== undefined && walk.some((w) => w.stage.id === r.stage))
    // What is done anew each day comes before any of them.
    if (inWay.length > 0 || waits || dailyNeeds(state, s, at).length > 0) break
    walk.push(s)
    if (s.stage.hold) break
  }
  return walk.map((s) => ({ step: s, items: s.stage.work.type === 'check' ? s.stage.work.items : [] }))
}
