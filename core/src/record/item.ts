import { said } from '../base/said'
import { choice, quantity, text } from '../base/schema'
import { fullDay } from '../units/day'

/** What materials are measured in; m, m², m³, kg or pieces. */
export const ITEM_UNITS = ['m', 'm²', 'm³', 'kg', 'pieces'] as const
export type ItemUnit = (typeof ITEM_UNITS)[number]

/** Which material a fact is of: as the plan knows it, or in words where the plan has none. An entry says it whole, so that it reads alone. */
export const itemShape = { item: text(80), name: text(120), unit: choice(ITEM_UNITS) }
/** An amount nobody could have meant is refused; one that is only far off is asked about where it is typed. */
export const amountOf = (min = 0) => quantity({ min, max: 1e6 })

export { dayText, optionalDay } from '../base/day'

/** @example amountSaid(6.25, 'm³') // '6.3 m³' in the reader's units */
export const amountSaid = (amount: number, unit: ItemUnit): string =>
  unit === 'm'
    ? said.length(amount, 1)
    : unit === 'm²'
      ? said.area(amount)
      : unit === 'm³'
        ? said.volume(amount)
        : unit === 'kg'
          ? said.mass(amount)
          : `${Math.round(amount * 100) / 100}`

/** Nobody plans a wall further ahead, years. */
const YEARS = 10
/**
 * Is a day further from when it was said than anybody plans? Then a digit of its year is wrong.
 *
 * @returns what is wrong with it, in words
 * @example farDay('2062-05-31', '2026-05-20T08:00:00Z') // 'is 2062-05-31, 36 years ahead …'
 */
export function farDay(day: string | undefined, at: string): string | undefined {
  const years = day === undefined ? 0 : Number(day.slice(0, 4)) - Number(at.slice(0, 4))
  return years > YEARS
    ? `is ${fullDay(day as string)}, ${years} years ahead; nobody plans a wall more than ${YEARS} years ahead: is a digit of the year wrong?`
    : undefined
}
