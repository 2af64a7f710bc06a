import { said } from '../../base/said'
import { type InferType, optionalYesNo, quantity, record } from '../../base/schema'
import { BUILDERS, defineKind } from './kind'

/** Weather as measured or seen: rain mm in 24 h, lowest temperature °C, wind km/h. */
export const weatherData = record({
  rain: quantity({ min: 0, max: 1000, unit: 'mm' }),
  low: quantity({ min: -60, max: 50, unit: '°C' }),
  wind: quantity({ min: 0, max: 300, unit: 'km/h' }),
  expected: optionalYesNo(),
})
export type WeatherData = InferType<typeof weatherData>
export const weather = defineKind({
  kind: 'weather',
  roles: BUILDERS,
  schema: weatherData,
  line: ({ data: d }) =>
    `Weather${d.expected ? ' expected' : ''}: ${said.rain(d.rain)}, down to ${said.temperature(d.low)}, wind ${said.speed(d.wind)}`,
})
