import { fewestCuts, type LengthSuggested, type Plan, type Result } from '@stone-tally/core'
import { expose } from 'comlink'

/** Looks for a better wall beside the page, telling how far it is. */
const api = {
  fewestCuts(plan: Plan, play: number, progress: (share: number) => void): Result<LengthSuggested> {
    let said = 0
    return fewestCuts(plan, play, (share) => {
      if (share - said > 0.03) {
        said = share
        progress(share)
      }
      return true
    })
  },
}
export type SuggestWorker = typeof api
expose(api)
