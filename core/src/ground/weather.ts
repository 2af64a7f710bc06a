import { said } from '../base/said'
import { RULE_TABLE, type WeatherLimits, weatherLimitsOf } from '../rules'

/** Weather of a day: rain mm in 24 hours, lowest air temperature °C, highest wind km/h. */
export interface Weather {
  readonly rain: number
  readonly low: number
  readonly wind: number
}

/** As they ship, for weather that belongs to no wall. */
export const WEATHER_LIMITS: WeatherLimits = weatherLimitsOf({ ruleTable: RULE_TABLE })

export interface WeatherCaution {
  readonly id: 'wet' | 'soaked' | 'frost' | 'near-frost' | 'wind' | 'cover'
  readonly text: string
  /** Work of this kind stops. */
  readonly stops?: 'fill' | 'lifting'
}

/**
 * What the weather means for open ground.
 *
 * @param expected - of the night and the day to come, where known
 * @param limits - of the rules of the wall
 * @example weatherCautions({ rain: 0, low: -2, wind: 10 })[0].id // 'frost'
 */
export function weatherCautions(now: Weather, expected?: Weather, limits: WeatherLimits = WEATHER_LIMITS): WeatherCaution[] {
  const list: WeatherCaution[] = []
  const L = limits
  if (now.rain >= L.soaked) {
    list.push({
      id: 'soaked',
      text: `${said.rain(now.rain)}: fill and subgrade are soaked. Open up, drain, test moisture before anything is placed.`,
      stops: 'fill',
    })
  } else if (now.rain >= L.wet) {
    list.push({ id: 'wet', text: `${said.rain(now.rain)}: fill may be over its best moisture. Squeeze it before each lift.` })
  }
  if (now.low <= L.frost) {
    list.push({
      id: 'frost',
      text: `Down to ${said.temperature(now.low)}: nothing is built on or with frozen soil. Take off what is frozen, start on thawed ground.`,
      stops: 'fill',
    })
  } else if (now.low <= L.near)
    list.push({ id: 'near-frost', text: `Down to ${said.temperature(now.low)}: look for frozen crusts before the first lift.` })
  if (now.wind >= L.lift)
    list.push({ id: 'wind', text: `Wind to ${now.wind} km/h: no units on the hook; fabric and covers weighed down.`, stops: 'lifting' })
  if (expected && (expected.rain >= L.wet || expected.low <= L.frost)) {
    const why = [
      ...(expected.rain >= L.wet ? [`${said.rain(expected.rain)}`] : []),
      ...(expected.low <= L.frost ? [`${said.temperature(expected.low)}`] : []),
    ].join(' and ')
    list.push({ id: 'cover', text: `${why} to come: shape open fill to drain, seal it and cover it tonight; no loose lift is left open.` })
  }
  return list
}
