import { type Layout, layOut, type Plan, type Result, type TravellingLayout, toTravel } from '@stone-tally/core'
import { expose } from 'comlink'

let last: Layout | undefined

/** Lays a plan out beside the page, telling how far it is; what did not change since the last one is taken over. */
const api = {
  layOut(plan: Plan, progress: (done: number) => void): Result<TravellingLayout> {
    let told = 0
    const laid = layOut(plan, last, (done) => {
      if (done - told < 0.05 && done < 1) return
      told = done
      progress(done)
    })
    if (!laid.ok) return laid
    last = laid.value
    return { ok: true, value: toTravel(laid.value) }
  },
}
export type LayoutWorker = typeof api
expose(api)
