import { live, type WallState, type WorkdaysData } from '../record'
import { WORKDAYS } from '../rules'

/** When work is done: hours of working days laid end to end, and back to days of the calendar. */
export interface Calendar {
  readonly data: WorkdaysData
  /** Is it worked on, as 2026-05-31? */
  works(day: string): boolean
  /** The day on which so many working hours from the first are over, and on which the next begin. */
  dayOf(hours: number): string
  /** Working hours from the first until a day begins. */
  hoursUntil(day: string): number
  /** The first day that is worked on. */
  readonly from: string
}

const DAY = 86_400_000
const iso = (ms: number) => new Date(ms).toISOString().slice(0, 10)
const msOf = (day: string) => Date.parse(`${day}T00:00:00Z`)
/** Further than this nobody plans, days. */
const FAR = 20_000

/** What was said last of when the wall is worked on; a usual week where nobody did. */
export function workdaysOf(state: WallState): WorkdaysData {
  for (let i = state.entries.length - 1; i >= 0; i--) {
    const e = state.entries[i]
    if (e?.entry.kind === 'workdays' && live(state, e.entry.id)) return e.entry.data as WorkdaysData
  }
  return { ...WORKDAYS, days: [...WORKDAYS.days], lost: [...WORKDAYS.lost], holidays: [] }
}

/**
 * A calendar from a day on. It counts whole days of the place the wall is at, so that a change of the clock moves nothing.
 *
 * @param today - as 2026-05-31; the first working day is this one or the next
 * @example calendarFrom(workdays, '2026-05-29').dayOf(9) // '2026-06-01': eight hours on Friday, the ninth on Monday
 */
export function calendarFrom(data: WorkdaysData, today: string): Calendar {
  const off = new Set(data.holidays)
  const on = new Set(data.days)
  const works = (day: string) => on.has(new Date(msOf(day)).getUTCDay() || 7) && !off.has(day)
  // Days that are worked on, found as they are asked for.
  const days: string[] = []
  let next = msOf(today)
  const grow = (count: number) => {
    for (let i = 0; days.length < count && i < FAR; i++, next += DAY) if (works(iso(next))) days.push(iso(next))
  }
  grow(1)
  const from = days[0] ?? today
  return {
    data,
    works,
    from,
    dayOf(hours) {
      // What ends with a day ends on it, not on the next.
      const index = Math.max(0, Math.ceil(hours / data.hours - 1e-9) - 1)
      grow(index + 1)
      return days[index] ?? from
    },
    hoursUntil(day) {
      let count = 0
      for (let i = 0; ; i++) {
        grow(i + 1)
        const at = days[i]
        if (at === undefined || at >= day) break
        count++
      }
      return count * data.hours
    },
  }
}
