import ICAL from 'ical.js'
import { fail, ok, type Result } from '../base/result'

/** Days off as a calendar file has them, and what of it was left out. */
export interface DaysOff {
  /** Sorted, each once, as 2026-12-24. */
  readonly days: readonly string[]
  readonly left: readonly string[]
}

const MOST = 400
const DAY = 86_400_000
const iso = (ms: number) => new Date(ms).toISOString().slice(0, 10)

/**
 * Whole days of an iCalendar file from a day on: holidays as a state or a company publishes them. What has hours is no day off and is left
 * out by name; what comes again every year is taken for three years.
 *
 * @param from - as 2026-05-31; what lies before it is of no use
 * @example daysOff(text, '2026-05-31').value.days // ['2026-12-25', '2026-12-26']
 */
export function daysOff(text: string, from: string): Result<DaysOff> {
  let events: ICAL.Component[]
  try {
    events = new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent')
  } catch {
    return fail('file', 'is no calendar file this program reads; it begins with BEGIN:VCALENDAR')
  }
  const first = Date.parse(`${from}T00:00:00Z`)
  const last = first + 3 * 366 * DAY
  const days = new Set<string>()
  const left: string[] = []
  for (const component of events) {
    const event = new ICAL.Event(component)
    const title = event.summary || 'a day without a name'
    const start = event.startDate
    if (!start?.isDate) {
      left.push(`${title} has hours`)
      continue
    }
    // The end of a whole day is the day after it.
    const whole = event.endDate ? event.endDate.subtractDateTz(start).toSeconds() : 0
    const length = Math.max(1, Math.round(whole / 86_400))
    const take = (at: ICAL.Time) => {
      const begin = Date.UTC(at.year, at.month - 1, at.day)
      for (let k = 0; k < length && k < MOST; k++) if (begin + k * DAY >= first && begin + k * DAY <= last) days.add(iso(begin + k * DAY))
      return begin
    }
    if (!event.isRecurring()) {
      take(start)
      continue
    }
    const again = event.iterator()
    for (let k = 0; k < 4000 && days.size <= MOST; k++) {
      const next = again.next()
      if (!next || take(next) > last) break
    }
  }
  if (days.size > MOST) return fail('file', `has more than ${MOST} days off within three years; take a calendar of holidays only`)
  return ok({ days: [...days].sort(), left })
}
