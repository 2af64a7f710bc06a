import { dayAfter, daysTo as daysBetween } from '@stone-tally/core'

export { dayAfter, daysBetween }

const ms = (day: string) => Date.parse(`${day}T00:00:00Z`)
// Written out here: what a browser makes of a locale differs from one to the next, and from the house.
const WEEK = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'] as const
const MONTHS = [
  ...['January', 'February', 'March', 'April', 'May', 'June'],
  ...['July', 'August', 'September', 'October', 'November', 'December'],
] as const

/** A day as people say it. @example dayWords('2026-05-31') // 'Sun 31 May' */
export function dayWords(day: string): string {
  const d = new Date(ms(day))
  return Number.isNaN(d.getTime()) ? '' : `${WEEK[d.getUTCDay()]} ${d.getUTCDate()} ${MONTHS[d.getUTCMonth()]?.slice(0, 3)}`
}
/** With its year, for what is written down. @example fullDay('2026-05-31') // '31 May 2026' */
export function fullDay(day: string): string {
  const d = new Date(ms(day))
  return Number.isNaN(d.getTime()) ? '' : `${d.getUTCDate()} ${MONTHS[d.getUTCMonth()]} ${d.getUTCFullYear()}`
}
/** Every day from one to another. */
export const daysFrom = (from: string, to: string): string[] =>
  Array.from({ length: Math.max(0, daysBetween(from, to)) + 1 }, (_, i) => dayAfter(from, i))
