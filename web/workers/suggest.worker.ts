import {
  fewestCuts,
  type LengthSuggested,
  type LessDug,
  layOut,
  leastDigging,
  type Plan,
  type Result,
  type Shift,
  type Way,
  wayOf,
} from '@stone-tally/core'
import { expose } from 'comlink'

/** Tells how far it is, not more often than anybody reads. */
const telling = (progress: (share: number) => void) => {
  let said = 0
  return (share: number) => {
    if (share - said > 0.03) {
      said = share
      progress(share)
    }
    return true
  }
}
/** Looks for a better wall beside the page, telling how far it is. */
const api = {
  fewestCuts: (plan: Plan, play: number, progress: (share: number) => void): Result<LengthSuggested> => fewestCuts(plan, play, telling(progress)),
  leastDigging: (plan: Plan, of: Shift, play: number, progress: (share: number) => void): Result<LessDug> =>
    leastDigging(plan, of, play, telling(progress)),
  /** What a way of building takes. */
  way(plan: Plan, today: string): Result<Way> {
    const laid = layOut(plan)
    return laid.ok ? { ok: true, value: wayOf(laid.value, today) } : laid
  },
}
export type SuggestWorker = typeof api
expose(api)
