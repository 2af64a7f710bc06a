import { said } from '../../base/said'
import { type InferType, optionalList, optionalQuantity, optionalYesNo, quantity, record } from '../../base/schema'
import { dayText } from '../item'
import { BUILDERS, defineKind } from './kind'

const shape = {
  rain: quantity({ min: 0, max: 1000, unit: 'mm' }),
  low: quantity({ min: -60, max: 50, unit: '°C' }),
  wind: quantity({ min: 0, max: 300, unit: 'km/h' }),
  /** Highest temperature; left out where nobody read it. */
  high: optionalQuantity({ min: -60, max: 60, unit: '°C' }),
}
/** Weather as measured or seen: rain mm in 24 h, lowest and highest temperature °C, wind km/h; expected, with the days after. */
export const weatherData = record({
  ...shape,
  expected: optionalYesNo(),
  /** Of what is expected: day by day. The figures above are of the night and the day to come, the worse of the first two. */
  days: optionalList(record({ day: dayText(), ...shape }), 16),
})
export type WeatherData = InferType<typeof weatherData>
export const weather = defineKind({
  kind: 'weather',
  roles: BUILDERS,
  schema: weatherData,
  line: ({ data: d }) =>
    `Weather${d.expected ? ' expected' : ''}: ${said.rain(d.rain)}, down to ${said.temperature(d.low)}, wind ${said.speed(d.wind)}${d.days && d.days.length > 1 ? `, ${d.days.length} days of it` : ''}`,
})
