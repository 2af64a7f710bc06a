import { formatArea, formatLength, formatVolume, type UnitSystem } from './length'

/** An amount with its SI unit. */
export interface Amount {
  readonly value: number
  readonly unit: 'm' | 'm²' | 'm³' | 'kg' | 'pieces'
}

/**
 * An amount for reading, in the crew's units; mass stays in kilograms.
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
      return `${Math.round(amount.value)} kg`
    case 'pieces':
      return `${Math.round(amount.value)}`
  }
}
