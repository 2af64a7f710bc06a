import { fail, ok, type Result } from '../../base/result'
import type { Entry } from '../entry'
import { statusOf } from '../fold'
import type { Effect } from '../kinds'
import type { WallState } from '../state'
import { complete } from '../status'
import { type Step, titleOf } from '../step'
import { admitRequest } from './outside'
import { admitRelease } from './release'

/** @param times - at which it is judged, ISO 8601 */
type Admission = (state: WallState, entry: Entry, step: Step, times: readonly string[]) => Result<undefined>

/** Is something timed from when this was done? Then it may be passed though nothing of it is missing. */
const timed = (state: WallState, step: Step) =>
  state.layout.system.stages.some((s) => s.requires.some((r) => r.stage === step.stage.id && r.days !== undefined))

const admitOverride: Admission = (state, _entry, step) =>
  complete(statusOf(state, step)) && !timed(state, step) ? fail('where', `${titleOf(step)} is complete; there is nothing to go past`) : ok(undefined)

/** What an entry that does more than record work must meet at its step, by what it does; others go through the gates. */
export const ADMISSIONS: Readonly<Partial<Record<Effect['is'], Admission>>> = {
  decision: admitRelease,
  asks: admitRequest,
  override: admitOverride,
}
