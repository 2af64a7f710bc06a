const DAY = 86_400_000
const ms = (day: string) => Date.parse(`${day}T00:00:00Z`)

/** A day as people say it. @example dayWords('2026-05-31') // 'Sun 31 May' */
export const dayWords = (day: string): string =>
  day === '' ? '' : new Date(ms(day)).toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' })
/** With its year, for what is written down. */
export const fullDay = (day: string): string =>
  day === '' ? '' : new Date(ms(day)).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' })
/** @example dayAfter('2026-05-31', 2) // '2026-06-02' */
export const dayAfter = (day: string, days: number): string => new Date(ms(day) + days * DAY).toISOString().slice(0, 10)
/** Days from one to another. */
export const daysBetween = (from: string, to: string): number => Math.round((ms(to) - ms(from)) / DAY)
/** Every day from one to another. */
export const daysFrom = (from: string, to: string): string[] =>
  Array.from({ length: Math.max(0, daysBetween(from, to)) + 1 }, (_, i) => dayAfter(from, i))
