import { isClosed } from './closed'
import type { RecordedEntry } from './entry'
import { kindOf } from './kinds'
import { mismatch } from './match'
import { needsOf } from './needs'
import { fallNeeds } from './pipe-fall'
import type { StepLog, StepStatus, WallState } from './state'
import type { Step } from './step'
import { workOf } from './works'

export { isClosed } from './closed'

/** Everything recorded and within limits. */
export const complete = (s: StepStatus) => s.state === 'done' && s.open.length === 0
/** Complete, or passed with a written reason. */
export const settled = (s: StepStatus) => complete(s) || s.passed
/** Settled, and released where it holds. */
export const cleared = (s: StepStatus) => settled(s) && (s.hold === 'none' || s.hold === 'released')

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
  const type = workOf(step.stage.work.type)
  // What stands is counted; what was read or compacted for another target is to be done again.
  const old = new Set(type.stands ? [] : unmatched.map((u) => u.recorded))
  const matched = main.filter((e) => !old.has(e))
  const measured = type.progress(state, step as never, matched, work)
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
