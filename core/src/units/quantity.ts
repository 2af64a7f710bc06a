import { fail, ok, type Result } from '../base/result'
import { FOOT, formatArea, formatLength, formatSmall, formatVolume, parseLength, smallUnit, type UnitSystem } from './length'

/** An amount with its SI unit. */
export interface Amount {
  readonly value: number
  readonly unit: 'm' | 'm²' | 'm³' | 'kg' | 'pieces'
}

/**
 * An amount for reading, in the crew's units; in kilograms or pounds.
 *
 * @example formatAmount({ value: 4.321, unit: 'm³' }, 'metric') // '4.3 m³'
 */
export function formatAmount(amount: Amount, system: UnitSystem): string {
  switch (amount.unit) {
    case 'm':
      return formatLength(amount.value, system, 1)
    case 'm²':
      return formatArea(amount.value, system)
    case 'm³':
      return formatVolume(amount.value, system)
    case 'kg':
      return formatMass(amount.value, system)
    case 'pieces':
      return `${Math.round(amount.value)}`
  }
}

const POUND = 0.45359237
/** kg as `1,200 kg` or pounds. @example formatMass(34, 'imperial') // '75 lb' */
export const formatMass = (kg: number, system: UnitSystem) => (system === 'metric' ? `${grouped(kg)} kg` : `${grouped(kg / POUND)} lb`)
/** What is weighed on a bench scale keeps its grams; what a machine lifts needs none. */
const grouped = (mass: number) => (Math.abs(mass) < 20 ? `${+mass.toFixed(3)}` : Math.round(mass).toLocaleString('en'))
/** kg/m³, or pounds per cubic foot. */
export const formatDensity = (d: number, system: UnitSystem) =>
  system === 'metric' ? `${d.toFixed(0)} kg/m³` : `${((d / POUND) * FOOT ** 3).toFixed(1)} lb/ft³`
/** kPa, or pounds per square foot. */
export const formatPressure = (kpa: number, system: UnitSystem) =>
  system === 'metric' ? `${+kpa.toFixed(1)} kPa` : `${Math.round(kpa * 20.885434)} lb/ft²`
/** m³/s as litres a second, or gallons a minute. */
export const formatFlow = (q: number, system: UnitSystem) =>
  system === 'metric' ? `${(q * 1000).toFixed(1)} l/s` : `${(q * 15850.323).toFixed(0)} gal/min`
/** mm of rain, or inches to the hundredth as a gauge is read. */
export const formatRain = (mm: number, system: UnitSystem) =>
  system === 'metric' ? `${+mm.toFixed(1)} mm of rain` : `${(mm / 25.4).toFixed(2)}" of rain`
/** °C or °F. */
export const formatTemperature = (c: number, system: UnitSystem) =>
  system === 'metric' ? `${+c.toFixed(1)} °C` : `${Math.round((c * 9) / 5 + 32)} °F`
/** Unit weight in kN/m³, or pounds per cubic foot. */
export const formatWeight = (w: number, system: UnitSystem) =>
  system === 'metric' ? `${+w.toFixed(1)} kN/m³` : `${Math.round(w * 6.3658803)} lb/ft³`
/** km/h, or miles an hour. */
export const formatSpeed = (kmh: number, system: UnitSystem) =>
  system === 'metric' ? `${Math.round(kmh)} km/h` : `${Math.round(kmh / 1.609344)} mph`

/** What a person types that has a unit of its own in either system. */
export type Measure = 'length' | 'small' | 'mass' | 'density' | 'pressure' | 'weight' | 'area' | 'volume' | 'temperature' | 'rain' | 'speed'

/** Unit, and how many SI units it is; degrees have an offset too. */
type Typed = readonly [unit: string, factor: number, offset?: number]
const MEASURES: Record<Exclude<Measure, 'length' | 'small'>, readonly [metric: Typed, feet: Typed]> = {
  mass: [
    ['kg', 1],
    ['lb', POUND],
  ],
  density: [
    ['kg/m³', 1],
    ['lb/ft³', POUND / FOOT ** 3],
  ],
  pressure: [
    ['kPa', 1],
    ['lb/ft²', 0.04788025898],
  ],
  weight: [
    ['kN/m³', 1],
    ['lb/ft³', 0.1570874638],
  ],
  area: [
    ['m²', 1],
    ['ft²', FOOT * FOOT],
  ],
  volume: [
    ['m³', 1],
    ['yd³', 0.764554857984],
  ],
  temperature: [
    ['°C', 1],
    ['°F', 5 / 9, -32],
  ],
  rain: [
    ['mm', 1],
    ['in', 25.4],
  ],
  speed: [
    ['km/h', 1],
    ['mph', 1.609344],
  ],
}

/**
 * The unit a bare number is typed in.
 *
 * @example unitOf('density', 'imperial') // 'lb/ft³'
 */
export function unitOf(measure: Measure, system: UnitSystem): string {
  if (measure === 'length') return system === 'metric' ? 'm' : 'ft'
  if (measure === 'small') return smallUnit(system)
  return MEASURES[measure][system === 'metric' ? 0 : 1][0]
}

/**
 * What somebody typed, in SI: kg, kg/m³, kPa, kN/m³, m³, °C, mm of rain, km/h; lengths in m.
 *
 * @returns the amount, or why the text could not be read
 * @example parseAmount('125.9', 'density', 'imperial') // { ok: true, value: 2016.7… }
 */
export function parseAmount(text: string, measure: Measure, system: UnitSystem): Result<number> {
  if (measure === 'length') return parseLength(text, system === 'metric' ? 'm' : 'ft')
  if (measure === 'small') return parseLength(text, smallUnit(system))
  const [unit, factor, offset = 0] = MEASURES[measure][system === 'metric' ? 0 : 1]
  const bare = text
    .trim()
    .replace('−', '-')
    .replace(/^([+-]?\d+),(\d+)$/, '$1.$2')
  if (!/^[+-]?(\d+\.?\d*|\.\d+)$/.test(bare)) return fail('', `"${text}" is not a number; write it in ${unit}`)
  return ok(+((Number(bare) + offset) * factor).toPrecision(12))
}

/**
 * An amount as it would be typed: without its unit.
 *
 * @example typedAmount(2017, 'density', 'imperial') // '125.917'
 */
export function typedAmount(value: number, measure: Measure, system: UnitSystem): string {
  if (system === 'metric') return `${measure === 'small' ? +(value * 1000).toFixed(6) : value}`
  if (measure === 'length') return formatLength(value, system)
  if (measure === 'small') return `${value < 0 ? '-' : ''}${formatSmall(value, system).replace(/["]| ft/g, '')}`
  const [, factor, offset = 0] = MEASURES[measure][1]
  const shown = value / factor - offset
  // A cartridge is a small part of a cubic yard, and not nothing.
  return `${+(Math.abs(shown) < 1 ? shown.toPrecision(4) : shown.toFixed(3))}`
}
