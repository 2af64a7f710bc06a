import { said } from '../base/said'
import { WEATHER_LIMITS } from '../ground'
import { type WallState, type WeatherData, weatherOf } from '../record'
import type { WeatherLimits } from '../rules'
import type { Stage } from '../systems'
import { dayAfter } from './calendar'

/** What is expected of a day: rain mm, lowest and highest temperature °C, wind km/h. */
export interface DayWeather {
  readonly day: string
  readonly rain: number
  readonly low: number
  readonly high: number | undefined
  readonly wind: number
}

/** A forecast older than this is none, days. */
const FRESH = 2

/**
 * The days a forecast speaks of, from today on; a forecast older than two days is none, and no forecast says nothing. One without days is
 * of the night and the day to come.
 *
 * @param today - as 2026-05-31
 * @example expectedDays(state, '2026-05-31')[0]?.rain // 12
 */
export function expectedDays(state: WallState, today: string): readonly DayWeather[] {
  const { expected } = weatherOf(state)
  if (!expected) return []
  const said = expected.at.slice(0, 10)
  if (said < dayAfter(today, -FRESH)) return []
  const of = (day: string, w: Pick<WeatherData, 'rain' | 'low' | 'wind' | 'high'>): DayWeather => ({
    day,
    rain: w.rain,
    low: w.low,
    high: w.high,
    wind: w.wind,
  })
  const list = expected.days?.length ? expected.days.map((d) => of(d.day, d)) : [of(said, expected), of(dayAfter(said, 1), expected)]
  return list.filter((d) => d.day >= today).sort((a, b) => (a.day < b.day ? -1 : 1))
}

/** Why a kind of work is not done in that weather; the first that fits says it. What it is, is left to the words of its system. */
export function against({ work, dry, heat }: Stage, w: Omit<DayWeather, 'day'>, limits: WeatherLimits = WEATHER_LIMITS): string | undefined {
  const L = limits
  if (dry && (w.rain > L.damp || w.low <= L.frost)) return dry
  if (heat && (w.high ?? Number.NEGATIVE_INFINITY) >= L.heat) return heat
  if (work.type === 'picks' && w.wind >= L.lift) return `nothing hangs on a hook at ${said.speed(w.wind)}`
  if (work.type === 'lifts' && w.low <= L.frost) return 'nothing is placed on or with frozen soil'
  if (work.type === 'lifts' && w.rain >= L.wet) return 'fill takes up more water than it can be compacted with; keep it covered'
  return undefined
}

const DAYS = 16
/**
 * Days of a forecast as a service tells them: `rain0`, `low0`, `high0`, `wind0` are of today, `rain1` of tomorrow, and so on. It ends at the
 * first day of which a figure is missing or is no number: half a forecast is not guessed at.
 *
 * @param today - as 2026-05-31
 * @example daysOfForecast({ rain0: 2, low0: 6, wind0: 14 }, '2026-05-31')
 */
export function daysOfForecast(values: Readonly<Record<string, number>>, today: string): readonly DayWeather[] {
  const days: DayWeather[] = []
  const tenth = (v: number) => Math.round(v * 10) / 10
  for (let i = 0; i < DAYS; i++) {
    const [rain, low, wind, high] = ['rain', 'low', 'wind', 'high'].map((n) => values[`${n}${i}`])
    if (rain === undefined || low === undefined || wind === undefined || ![rain, low, wind].every(Number.isFinite)) break
    days.push({
      day: dayAfter(today, i),
      rain: tenth(rain),
      low: tenth(low),
      wind: Math.round(wind),
      high: high === undefined || !Number.isFinite(high) ? undefined : tenth(high),
    })
  }
  return days
}

/**
 * The figures of a forecast for the night and the day to come: the worse of today and tomorrow, since what is left open tonight is left open
 * for both.
 *
 * @example nightAndDay(days)?.rain // 18, where tomorrow is wet
 */
export function nightAndDay(days: readonly DayWeather[]): Omit<DayWeather, 'day'> | undefined {
  const [today, tomorrow = today] = days
  if (!today || !tomorrow) return undefined
  const high = [today.high, tomorrow.high].filter((h) => h !== undefined)
  return {
    rain: Math.max(today.rain, tomorrow.rain),
    low: Math.min(today.low, tomorrow.low),
    wind: Math.max(today.wind, tomorrow.wind),
    high: high.length > 0 ? Math.max(...high) : undefined,
  }
}
