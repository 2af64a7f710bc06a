import { type OddsInput, odds } from '@stone-tally/core'
import { expose } from 'comlink'

const api = {
  /** Simulates the days left; says now and then how many runs are done. @returns the day of each run, sorted */
  run(input: OddsInput, told: (runs: number) => void): readonly string[] {
    return odds(input, (runs) => {
      told(runs)
      return true
    }).days
  },
}
export type OddsWorker = typeof api
expose(api)
