import type { WeatherData } from './kinds'
import { latestOf } from './latest'
import type { WallState } from './state'

/** The newest weather recorded and the newest expected. */
export function weatherOf(state: WallState): {
  now: (WeatherData & { at: string }) | undefined
  expected: (WeatherData & { at: string }) | undefined
} {
  const of = (expected: boolean) => {
    const e = latestOf(state, (x) => x.kind === 'weather' && !!(x.data as WeatherData).expected === expected)
    return e && { ...(e.entry.data as WeatherData), at: e.entry.at }
  }
  return { now: of(false), expected: of(true) }
}
