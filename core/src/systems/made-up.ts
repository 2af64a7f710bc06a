import type { Plan } from '../plan'
import { SYSTEMS } from './known'
import { startPlan } from './start-plan'
import type { WallSystem } from './system'

/**
 * A made-up wall to try things on: low enough to need no engineer, with a step in its pad and two sections, so that holds, readings and water
 * all come up. Nothing of it is a real place.
 *
 * @example madeUpWall().name // 'A wall to try'
 */
export function madeUpWall(): Plan {
  const system = (SYSTEMS.find((s) => s.id === 'hollow-core') ?? SYSTEMS[0]) as WallSystem
  const plan = startPlan(system, 9)
  return {
    ...plan,
    name: 'A wall to try',
    site: 'Made up',
    holds: [],
    front: { slope: 0, erodible: false },
    frost: 0,
    soil: { behind: 'clean-gravel', below: 'clean-gravel', by: 'made up' },
    grades: [
      { station: 0, toe: 0, top: 0.35 },
      { station: 9, toe: 0.45, top: 0.8 },
    ],
    sections: [
      { id: 'A', from: 0, to: 4.5 },
      { id: 'B', from: 4.5, to: 9 },
    ],
    system: { ...plan.system, data: withOutletLow(plan.system.data) },
  } as Plan
}

/** Its outlet where the ground is lowest. */
const withOutletLow = (data: unknown): unknown => {
  const of = data as { drain?: object }
  return of.drain ? { ...of, drain: { ...of.drain, outlets: [{ station: 0, invert: -0.1 }] } } : data
}
