import { dayAfter, daysTo as daysBetween, dayWords, fullDay, momentWords } from '@stone-tally/core'

export { dayAfter, daysBetween, dayWords, fullDay, momentWords }

const two = (n: number) => String(n).padStart(2, '0')
/** The day of a time where the reader is. @example localDay(new Date(2026, 4, 31, 7)) // '2026-05-31' */
export const localDay = (at: Date): string => `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`
/** The time of day where the reader is. @example hourWords(new Date(2026, 4, 31, 7, 5)) // '07:05' */
export const hourWords = (at: Date): string => `${two(at.getHours())}:${two(at.getMinutes())}`
/** Every day from one to another. */
export const daysFrom = (from: string, to: string): string[] =>
  Array.from({ length: Math.max(0, daysBetween(from, to)) + 1 }, (_, i) => dayAfter(from, i))
