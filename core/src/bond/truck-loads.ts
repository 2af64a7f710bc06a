import { failAll, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { type InferType, list, quantity, record } from '../base/schema'

/** Units in the order in which they are set, by mass (kg), and what a truck carries: mass (kg) and pieces. */
export const truckLoadsInput = record({
  units: list(record({ mass: quantity({ min: 0, max: 100_000, unit: 'kg' }) }), 0, 100_000),
  capacity: record({ mass: quantity({ min: 1, max: 200_000, unit: 'kg' }), count: quantity({ min: 1, max: 10_000, whole: true }) }),
})
export type TruckLoadsInput = InferType<typeof truckLoadsInput>

/** A truck: the units it brings, by their place in the setting order, both ends included, and its mass (kg). */
export interface TruckLoad {
  readonly from: number
  readonly to: number
  readonly mass: number
}

/**
 * Trucks that bring units in the order in which they are set, each a run of them. Filled first truck first: since a truck takes a run, none
 * that stops earlier can make the ones after it fewer.
 *
 * @returns the loads, fewest there can be; a unit heavier than a truck carries is an error at `units[i].mass`
 * @example truckLoads({ units: [800, 800, 400, 1100, 1100].map((mass) => ({ mass })), capacity: { mass: 2000, count: 3 } })
 * // loads 0–2, 3–3, 4–4; count 3
 */
export function truckLoads({ units, capacity }: TruckLoadsInput): Result<{ loads: TruckLoad[]; count: number }> {
  const heavy = units.flatMap((u, i) =>
    u.mass > capacity.mass
      ? [
          {
            field: `units[${i}].mass`,
            message: `${said.mass(u.mass)} is over the ${said.mass(capacity.mass)} a truck carries; it comes by a heavier one`,
          },
        ]
      : [],
  )
  if (heavy.length > 0) return failAll(heavy)
  const loads: { from: number; to: number; mass: number }[] = []
  units.forEach((u, i) => {
    const last = loads[loads.length - 1]
    // Masses add up with a grain of rounding; a truck that is full to the kilogram is full, not over.
    if (last && last.to - last.from + 1 < capacity.count && last.mass + u.mass <= capacity.mass + 1e-6) {
      last.to = i
      last.mass += u.mass
    } else loads.push({ from: i, to: i, mass: u.mass })
  })
  return ok({ loads, count: loads.length })
}
