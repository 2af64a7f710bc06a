import {
  formatAmount,
  type ItemUnit,
  type Measure,
  type Problem,
  parseAmount,
  parseLength,
  typedAmount,
  type UnitSystem,
  unitOf,
} from '@stone-tally/core'

const MEASURES: Readonly<Partial<Record<ItemUnit, Measure>>> = { 'm²': 'area', 'm³': 'volume', kg: 'mass' }

/** An amount in the reader's units. @example amountWords(8, 'm³', 'imperial') // '10.5 yd³' */
export const amountWords = (value: number, unit: ItemUnit, units: UnitSystem): string => formatAmount({ value, unit }, units)

/** What is typed there is in, for the label. @example typedIn('m³', 'metric') // 'm³' */
export const typedIn = (unit: ItemUnit, units: UnitSystem): string => {
  const measure = MEASURES[unit]
  return measure ? unitOf(measure, units) : unit === 'm' ? (units === 'metric' ? 'm' : 'ft') : 'pieces'
}

/** An amount as typed in the reader's units; what is wrong with it otherwise. */
export function readAmount(text: string, unit: ItemUnit, units: UnitSystem): { value: number } | { problem: Problem } {
  const measure = MEASURES[unit]
  const wrong = (message: string) => ({ problem: { field: 'Amount', message } })
  if (text.trim() === '') return wrong('is missing')
  if (unit === 'pieces') {
    const n = Number(text.replace(',', '.'))
    return Number.isFinite(n) && n >= 0 ? { value: n } : wrong(`must be a number of pieces, not "${text}"`)
  }
  const read = measure ? parseAmount(text, measure, units) : parseLength(text, units === 'metric' ? 'm' : 'ft')
  if (!read.ok) return wrong(read.problems[0]?.message ?? 'cannot be read')
  return read.value < 0 ? wrong('must not be less than nothing') : { value: read.value }
}

/** An amount as it would be typed, for a field that is filled in. @example typedOut(8, 'm³', 'imperial') // '10.464' */
export const typedOut = (value: number, unit: ItemUnit, units: UnitSystem): string =>
  unit === 'pieces' ? `${value}` : typedAmount(value, MEASURES[unit] ?? 'length', units)
