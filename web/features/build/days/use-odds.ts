'use client'

import { type Odds, type OddsInput, odds, oddsOf } from '@stone-tally/core'
import { proxy } from 'comlink'
import { useEffect, useState } from 'react'
import { beside, NoAnswer } from '@/workers/beside'
import type { OddsWorker } from '@/workers/odds.worker'

/** Where no worker answers, so many runs are made on the page itself. */
const FEW = 200

/** The odds of a programme, reckoned beside the page; how far that is, and how to end it. */
export function useOdds(input: OddsInput): { odds: Odds | undefined; done: number; cancel(): void } {
  const [found, setFound] = useState<{ input: OddsInput; odds: Odds }>()
  const [done, setDone] = useState(0)
  const [ended, setEnded] = useState<OddsInput>()
  useEffect(() => {
    if (ended === input) return
    let over = false
    setDone(0)
    const worker = beside<OddsWorker>(() => new Worker(new URL('../../../workers/odds.worker.ts', import.meta.url), { type: 'module' }))
    worker
      .ask((api, alive) =>
        api.run(
          input,
          proxy((runs: number) => {
            alive()
            if (!over) setDone(runs)
          }),
        ),
      )
      .catch((error) => {
        if (!(error instanceof NoAnswer)) throw error
        return over ? [] : odds({ ...input, runs: FEW }).days
      })
      .then((days) => {
        if (!over && days.length > 0) setFound({ input, odds: oddsOf(days) })
      })
      .catch((error) => console.error(error))
    return () => {
      over = true
      worker.end()
    }
  }, [input, ended])
  return { odds: found?.input === input ? found.odds : undefined, done, cancel: () => setEnded(input) }
}
