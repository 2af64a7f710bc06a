import type { UnitSystem } from '@stone-tally/core'
import type { Theme } from './preferences'

/** Units of measure as the menu and its button call them. */
export const UNIT_NAMES: Readonly<Record<UnitSystem, { long: string; short: string }>> = {
  metric: { long: 'Metres', short: 'm' },
  imperial: { long: 'Feet and inches', short: 'ft-in' },
  'decimal-feet': { long: 'Feet and hundredths', short: 'ft.00' },
}
/** Themes likewise. */
export const THEMES: Readonly<Record<Theme, { long: string; short: string }>> = {
  day: { long: 'Day: dark on light, for the sun', short: 'Day' },
  night: { long: 'Night: light on dark, for the cab', short: 'Night' },
}
