import type { Plan } from '../plan'
import { type RuleBook, schoolBy, startBy } from '../rules'
import type { WallSystem } from './system'
import type { Unit } from './unit'

/** How high a wall is begun, m: enough to be drawn, low enough to ask nobody. */
const BEGIN_HIGH = 0.6
/** An outlet begins so far below the ground in front, m. */
const OUTLET_BELOW = 0.1

/**
 * A straight level wall of a system as the rule book has the planner begin one: something to draw before anybody has said what it is.
 *
 * @param length - m
 * @param book - as it ships where left out
 * @example startPlan(systemOf('landscape'), 12).grades.length // 2
 */
export function startPlan(system: WallSystem, length: number, book?: RuleBook): Plan {
  const starts = { value: (name: Parameters<typeof startBy>[1]) => startBy({ book }, name), school: (choice: string) => schoolBy({ book }, choice) }
  const data = system.start(system.units[0] as Unit, starts) as { drain?: object }
  return {
    name: 'New wall',
    site: 'Site',
    length,
    grades: [
      { station: 0, toe: 0, top: BEGIN_HIGH },
      { station: length, toe: 0, top: BEGIN_HIGH },
    ],
    benchmark: { name: 'BM 1', elevation: 0 },
    excavation: { behind: starts.value('behind'), slope: starts.value('slope') },
    sections: [{ id: 'A', from: 0, to: length }],
    system: {
      id: system.id,
      data: system.settle(
        (data.drain ? { ...data, drain: { ...data.drain, outlets: [{ station: length, invert: -OUTLET_BELOW }] } } : data) as never,
      ),
    },
  } as Plan
}
