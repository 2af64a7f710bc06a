import { issueUnder, type Plan, type Rules, STARTS, type StartName, systemOf, type Unit } from '@stone-tally/core'
import { layoutOf, plain } from './plans'

/** What a new wall starts from where no company has rules of its own. */
export const SHIPPED_STARTS = { value: (name: StartName) => STARTS[name].value, school: () => 'dense-graded' }

/** A new wall of a system as the planner starts it, issued, its part changed as said. Straight, level, 1.2 m to be seen. */
export function started(id: string, change: Partial<Plan> = {}, part: (data: never) => unknown = (d) => d, unit = 0, company?: Rules): Plan {
  const system = systemOf(id)
  if (!system) throw new Error(id)
  const length = change.length ?? 9.6
  const data = system.start(system.units[unit] as Unit, SHIPPED_STARTS)
  const plan = {
    name: `A wall of ${system.name}`,
    site: 'Test yard',
    engineer: 'plan E-1',
    engineerBy: 'E. Record, licence 4711',
    holds: [],
    length,
    grades: [
      { station: 0, toe: 10, top: 11.2 },
      { station: length, toe: 10, top: 11.2 },
    ],
    benchmark: { name: 'BM', elevation: 10 },
    excavation: { behind: 1.2, slope: 1.5 },
    sections: [{ id: 'A', from: 0, to: length }],
    ...change,
    system: { id, data: system.settle(part(withOutlet(data, length) as never)) },
  } as unknown as Plan
  const made = issueUnder(plan, company ? { company } : {})
  if (!made.ok) throw new Error(JSON.stringify(plain(made.problems)))
  return made.value
}

/** The part with one outlet at the end of the wall, low enough to run out. */
function withOutlet(data: unknown, length: number): unknown {
  const of = data as { drain?: object }
  return of.drain ? { ...of, drain: { ...of.drain, outlets: [{ station: length, invert: 9.4 }] } } : data
}

/** It laid out. @example startedLayout('big-block').building.lifting */
export const startedLayout = (...of: Parameters<typeof started>) => layoutOf(started(...of))
