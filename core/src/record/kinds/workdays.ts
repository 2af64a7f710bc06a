import { fail, ok } from '../../base/result'
import { type InferType, list, optionalList, optionalQuantity, quantity, record } from '../../base/schema'
import { ROLES } from '../../rules'
import { fullDay } from '../../units/day'
import { dayText } from '../item'
import { defineKind } from './kind'

/** An hour of the day as a clock has it. @example clockHour(7.5) // '7:30' */
const clockHour = (hours: number): string => {
  const minutes = Math.round(hours * 60)
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`
}

/** When and with how many the wall is worked on; the newest holds. Monday is 1. */
export const workdaysData = record({
  days: list(quantity({ min: 1, max: 7, whole: true }), 0, 7),
  /** Hour of the day work begins, and hours of a day. */
  starts: quantity({ min: 0, max: 20, unit: 'h' }),
  hours: quantity({ min: 1, max: 16, unit: 'h' }),
  /** Crews on this wall at once. */
  crews: quantity({ min: 1, max: 12, whole: true }),
  /** Hours an inspector wants to know before. */
  notice: quantity({ min: 0, max: 336, unit: 'h' }),
  holidays: list(dayText(), 0, 400),
  /** Working days lost to weather by month, per cent. */
  lost: list(quantity({ min: 0, max: 95, unit: '%' }), 12, 12),
  /** Shifts a day, of so many hours each; one where left out. */
  shifts: optionalQuantity({ min: 1, max: 3, whole: true }),
  /** Where the wall is, so that no work is reckoned before sunrise or after sunset; left out, light is not asked for. Degrees, south negative. */
  latitude: optionalQuantity({ min: -65, max: 65, unit: '°' }),
  /** Crews that are elsewhere, from one day to another. */
  away: optionalList(record({ from: dayText(), to: dayText(), crews: quantity({ min: 1, max: 12, whole: true }) }), 100),
})
export type WorkdaysData = InferType<typeof workdaysData>

const NAMES = ['', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
export const workdays = defineKind({
  kind: 'workdays',
  roles: ROLES.filter((r) => r === 'foreman' || r === 'office'),
  schema: workdaysData,
  check({ data }) {
    if (data.days.length === 0) return fail('data.days', 'is empty: a crew with no working day is never done; choose one at least')
    if (data.hours * (data.shifts ?? 1) > 24)
      return fail('data.shifts', `makes ${data.hours * (data.shifts ?? 1)} hours of a day, which has 24; give shorter shifts or fewer`)
    const wrong = (data.away ?? []).findIndex((a) => a.to < a.from)
    if (wrong >= 0)
      return fail(
        `data.away[${wrong}].to`,
        `is ${fullDay(data.away?.[wrong]?.to ?? '')}, before ${fullDay(data.away?.[wrong]?.from ?? '')}; give the last day away`,
      )
    return ok(true)
  },
  line: ({ data: d }) =>
    `Working days: ${[...new Set(d.days)]
      .sort()
      .map((n) => NAMES[n])
      .join(
        ', ',
      )}, ${d.hours} h from ${clockHour(d.starts)}, ${d.crews} ${d.crews === 1 ? 'crew' : 'crews'}, ${d.notice} h notice for an inspection${(d.shifts ?? 1) > 1 ? `, ${d.shifts} shifts` : ''}${d.latitude === undefined ? '' : ', by daylight'}${d.away?.length ? `, crews away ${d.away.length === 1 ? 'once' : `${d.away.length} times`}` : ''}${d.holidays.length > 0 ? `, ${d.holidays.length === 1 ? '1 day' : `${d.holidays.length} days`} off` : ''}`,
})
