import { type WeatherCaution, weatherCautions } from '../ground'
import { weatherLimitsOf } from '../rules'
import type { WeatherData } from './kinds'
import { latestOf } from './latest'
import type { WallState } from './state'
import { whenOf } from './time'

/** The newest weather recorded and the newest expected. */
export function weatherOf(state: WallState): {
  now: (WeatherData & { at: string }) | undefined
  expected: (WeatherData & { at: string }) | undefined
} {
  const of = (expected: boolean) => {
    const e = latestOf(state, (x) => x.kind === 'weather' && !!(x.data as WeatherData).expected === expected)
    return e && { ...(e.entry.data as WeatherData), at: new Date(whenOf(state, e).earliest).toISOString() }
  }
  return { now: of(false), expected: of(true) }
}

/** Weather older than this is not today's, ms. */
const FRESH = 86_400_000

/**
 * What the weather means now: nothing that is more than a day old counts as now, and no forecast made two days ago as expected.
 *
 * @param at - now, as `2026-05-20T08:00:00Z`
 * @returns cautions; or the day of the newest weather where that is old, as `2026-05-17`
 * @example weatherAt(state, new Date().toISOString()).cautions
 */
export function weatherAt(state: WallState, at: string): { cautions: readonly WeatherCaution[]; old: string | undefined } {
  const { now, expected } = weatherOf(state)
  if (!now) return { cautions: [], old: undefined }
  const age = (then: string) => Date.parse(at) - Date.parse(then)
  if (age(now.at) > FRESH) return { cautions: [], old: now.at.slice(0, 10) }
  return {
    cautions: weatherCautions(now, expected && age(expected.at) <= 2 * FRESH ? expected : undefined, weatherLimitsOf(state.layout.plan)),
    old: undefined,
  }
}
