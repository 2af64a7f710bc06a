import { said } from '../base/said'
import { limitsOf, type Ruled } from './limits'

/** How a unit of a mass is moved. */
export interface Handling {
  readonly band: 'one' | 'two' | 'aid' | 'rated'
  readonly message: string
}

/**
 * Who or what lifts a unit: one person, two, an aid, or rated gear with nobody under it. Manual limits by the rules; local law may be
 * stricter.
 *
 * @param mass - kg
 * @example handlingOf({}, 1200).band // 'rated'
 */
export function handlingOf(plan: Ruled, mass: number): Handling {
  const limits = limitsOf(plan)
  const weighs = `A unit weighs ${said.mass(mass)}`
  if (mass <= limits.manualOne.value) return { band: 'one', message: `${weighs}: one person, with a straight back and in turns.` }
  if (mass <= limits.manualTwo.value) return { band: 'two', message: `${weighs}: two people, no one alone.` }
  if (mass <= limits.liftingAid.value) return { band: 'aid', message: `${weighs}: a lifting aid (tongs, trolley, vacuum); nobody lifts it by hand.` }
  return {
    band: 'rated',
    message: `${weighs}: rated lifting gear inspected for it, a trained operator, an exclusion zone, and nobody below or in the swing. Not in wind over the gear's limit.`,
  }
}
