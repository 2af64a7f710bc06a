import { live, type WallState, type WorkdaysData } from '../record'
import { WORKDAYS } from '../rules'

/** When work is done: hours of working days laid end to end, and back to days of the calendar. Days may have hours of their own. */
export interface Calendar {
  readonly data: WorkdaysData
  /** Is it worked on, as 2026-05-31? */
  works(day: string): boolean
  /** Working hours of a day; nought where it is not worked on. */
  hoursOn(day: string): number
  /** The day on which so many working hours from the first are over, and on which the next begin. */
  dayOf(hours: number): string
  /** Is there a day for that hour at all? Beyond half a century none is looked for. */
  reaches(hours: number): boolean
  /** Where in its day that hour falls, from 0 to 1. */
  shareOf(hours: number): number
  /** The working day of that number, from 0. */
  nth(index: number): string
  /** Working hours from the first until a day begins. */
  hoursUntil(day: string): number
  /** The first day that is worked on. */
  readonly from: string
  /** Working hours of a usual day, of those within the next four weeks. */
  readonly usual: number
  /** Working hours that go by in one hour of the clock, of a week without days off. */
  readonly clock: number
}

const DAY = 86_400_000
const iso = (ms: number) => new Date(ms).toISOString().slice(0, 10)
const msOf = (day: string) => Date.parse(`${day}T00:00:00Z`)
/** Further than this nobody plans, days. */
const FAR = 20_000
const MONTH = 28

/** @example dayAfter('2026-05-31', 1) // '2026-06-01' */
export const dayAfter = (day: string, days: number): string => iso(msOf(day) + days * DAY)
/** Days from one to another. @example daysFrom('2026-05-30', '2026-06-02') // 3 */
export const daysTo = (from: string, to: string): number => Math.round((msOf(to) - msOf(from)) / DAY)

/** What was said last of when the wall is worked on; a usual week where nobody did. */
export function workdaysOf(state: WallState): WorkdaysData {
  for (let i = state.entries.length - 1; i >= 0; i--) {
    const e = state.entries[i]
    if (e?.entry.kind === 'workdays' && live(state, e.entry.id)) return e.entry.data as WorkdaysData
  }
  return { ...WORKDAYS, days: [...WORKDAYS.days], lost: [...WORKDAYS.lost], holidays: [] }
}

/**
 * Hours from sunrise to sunset, by the sun's declination (Cooper) and its upper edge on the horizon with the usual refraction; good to some
 * ten minutes, on level ground.
 *
 * @param latitude - degrees, south negative
 * @example daylight('2026-06-21', 52) // 16.8
 */
export function daylight(day: string, latitude: number): number {
  const rad = Math.PI / 180
  const n = daysTo(`${day.slice(0, 4)}-01-01`, day) + 1
  const tilt = 23.44 * rad * Math.sin((2 * Math.PI * (284 + n)) / 365)
  const cos = (Math.sin(-0.833 * rad) - Math.sin(latitude * rad) * Math.sin(tilt)) / (Math.cos(latitude * rad) * Math.cos(tilt))
  return (2 * Math.acos(Math.max(-1, Math.min(1, cos)))) / (15 * rad)
}

/**
 * A calendar from a day on. It counts whole days of the place the wall is at, so that a change of the clock moves nothing.
 *
 * @param today - as 2026-05-31; the first working day is this one or the next
 * @param lost - days that are lost to weather that is expected
 * @example calendarFrom(workdays, '2026-05-29').dayOf(9) // '2026-06-01': eight hours on Friday, the ninth on Monday
 */
export function calendarFrom(data: WorkdaysData, today: string, lost: ReadonlySet<string> = new Set()): Calendar {
  const off = new Set(data.holidays)
  const on = new Set(data.days)
  const works = (day: string) => on.has(new Date(msOf(day)).getUTCDay() || 7) && !off.has(day) && !lost.has(day)
  const shifts = data.hours * (data.shifts ?? 1)
  const lit = new Map<string, number>()
  const hoursOn = (day: string): number => {
    if (!works(day)) return 0
    if (data.latitude === undefined) return shifts
    let light = lit.get(day)
    if (light === undefined) {
      light = daylight(day, data.latitude)
      lit.set(day, light)
    }
    return Math.min(shifts, light)
  }
  // Days that are worked on, and the hours that are over when each begins, found as they are asked for.
  const days: string[] = []
  const begins: number[] = [0]
  let next = msOf(today)
  let looked = 0
  const one = (): boolean => {
    for (; looked < FAR; looked++, next += DAY) {
      const day = iso(next)
      const hours = hoursOn(day)
      if (hours <= 0) continue
      days.push(day)
      begins.push((begins[begins.length - 1] as number) + hours)
      next += DAY
      looked++
      return true
    }
    return false
  }
  one()
  const from = days[0] ?? today
  const month = Array.from({ length: MONTH }, (_, i) => hoursOn(dayAfter(from, i)))
  const usual = month.reduce((a, b) => a + b, 0) / Math.max(1, month.filter((h) => h > 0).length)
  /** The working day in which that hour falls. What ends with a day ends on it, not on the next. */
  const indexOf = (hours: number): number => {
    while ((begins[days.length] as number) < hours - 1e-9 && one()) {}
    let [low, high] = [0, Math.max(0, days.length - 1)]
    while (low < high) {
      const mid = (low + high) >> 1
      if ((begins[mid + 1] as number) >= hours - 1e-9) high = mid
      else low = mid + 1
    }
    return low
  }
  return {
    data,
    works,
    hoursOn,
    from,
    usual,
    clock: ((on.size / 7) * usual) / 24,
    dayOf: (hours) => days[indexOf(hours)] ?? from,
    reaches(hours) {
      indexOf(hours)
      return (begins[days.length] as number) >= hours - 1e-6
    },
    shareOf(hours) {
      const i = indexOf(hours)
      const [a, b] = [begins[i] ?? 0, begins[i + 1] ?? 1]
      return Math.max(0, Math.min(1, (hours - a) / (b - a)))
    },
    nth(index) {
      while (days.length <= index && one()) {}
      return days[index] ?? days[days.length - 1] ?? from
    },
    hoursUntil(day) {
      while ((days[days.length - 1] ?? day) < day && one()) {}
      let i = 0
      while (i < days.length && (days[i] as string) < day) i++
      return begins[i] as number
    },
  }
}
