import { limitsOf, type Ruled } from './limits'

/** Weather limits of the rules: rain mm in 24 h, °C, wind km/h. */
export interface WeatherLimits {
  readonly damp: number
  readonly wet: number
  readonly soaked: number
  readonly frost: number
  readonly near: number
  readonly lift: number
  readonly heat: number
}
/**
 * From which weather on work is held, by the rules of a plan.
 *
 * @example weatherLimitsOf(plan).lift // 35
 */
export function weatherLimitsOf(plan: Ruled): WeatherLimits {
  const l = limitsOf(plan)
  return {
    damp: l.rainDamp.value,
    wet: l.rainWet.value,
    soaked: l.rainSoaked.value,
    frost: l.frostAt.value,
    near: l.frostNear.value,
    lift: l.windLift.value,
    heat: l.heatAt.value,
  }
}
