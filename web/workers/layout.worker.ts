import { type Layout, layOut, type Plan, type Result } from '@stone-tally/core'
import { expose } from 'comlink'

/** A layout on its way between threads: the system's functions stay behind and are found again by its id. */
export type Travelling = Omit<Layout, 'system'> & { readonly system?: undefined }

let last: Layout | undefined

/** Lays a plan out beside the page, telling how far it is; what did not change since the last one is taken over. */
const api = {
  layOut(plan: Plan, progress: (done: number) => void): Result<Travelling> {
    let told = 0
    const laid = layOut(plan, last, (done) => {
      if (done - told < 0.05 && done < 1) return
      told = done
      progress(done)
    })
    if (!laid.ok) return laid
    last = laid.value
    const { system: _, ...rest } = laid.value
    return { ok: true, value: rest }
  },
}
export type LayoutWorker = typeof api
expose(api)
