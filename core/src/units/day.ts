const WEEK = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'] as const
// Written out here: what a browser makes of a locale differs from one to the next, and from the house.
const MONTHS = [
  ...['January', 'February', 'March', 'April', 'May', 'June'],
  ...['July', 'August', 'September', 'October', 'November', 'December'],
] as const
const of = (day: string) => new Date(`${day.slice(0, 10)}T00:00:00Z`)

/**
 * A day as people say it.
 *
 * @param day - `2026-05-31`, or a time that begins with it
 * @returns what stands there, where it is no day: it is shown, never swallowed
 * @example dayWords('2026-05-31') // 'Sun 31 May'
 */
export function dayWords(day: string): string {
  const d = of(day)
  return Number.isNaN(d.getTime()) ? day : `${WEEK[d.getUTCDay()]} ${d.getUTCDate()} ${MONTHS[d.getUTCMonth()]?.slice(0, 3)}`
}
/** With its year, for what is written down and read years later. @example fullDay('2026-05-31') // '31 May 2026' */
export function fullDay(day: string): string {
  const d = of(day)
  return Number.isNaN(d.getTime()) ? day : `${d.getUTCDate()} ${MONTHS[d.getUTCMonth()]} ${d.getUTCFullYear()}`
}
/**
 * A time of the record, to the minute; the record has no other time than UTC.
 *
 * @param at - RFC 3339, UTC
 * @example momentWords('2026-05-31T07:15:00Z') // 'Sun 31 May, 07:15 UTC'
 */
export const momentWords = (at: string): string => `${dayWords(at)}, ${at.slice(11, 16)} UTC`
