import { fail, ok } from '../../base/result'
import { type InferType, list, quantity, record } from '../../base/schema'
import { ROLES } from '../../rules'
import { dayText } from '../item'
import { defineKind } from './kind'

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
})
export type WorkdaysData = InferType<typeof workdaysData>

const NAMES = ['', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
export const workdays = defineKind({
  kind: 'workdays',
  roles: ROLES.filter((r) => r === 'foreman' || r === 'office'),
  schema: workdaysData,
  check: ({ data }) =>
    data.days.length > 0 ? ok(true) : fail('data.days', 'is empty: a crew with no working day is never done; choose one at least'),
  line: ({ data: d }) =>
    `Working days: ${[...new Set(d.days)]
      .sort()
      .map((n) => NAMES[n])
      .join(
        ', ',
      )}, ${d.hours} h from ${d.starts}:00, ${d.crews} ${d.crews === 1 ? 'crew' : 'crews'}, ${d.notice} h notice for an inspection${d.holidays.length > 0 ? `, ${d.holidays.length} days off` : ''}`,
})
