import { FOOT, formatArea, formatLength, formatVolume, type UnitSystem } from './length'

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
export const formatMass = (kg: number, system: UnitSystem) =>
  system === 'metric' ? `${Math.round(kg).toLocaleString('en')} kg` : `${Math.round(kg / POUND).toLocaleString('en')} lb`
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
