import { issueUnder, type Plan, RULE_TABLE, type Rules, STARTS, type StartName, systemOf, type Unit } from '@stone-tally/core'
import { ENGINEERED, layoutOf, plain } from './plans'

/** What a new wall starts from where no company has rules of its own. */
export const SHIPPED_STARTS = { value: (name: StartName) => STARTS[name].value, school: () => 'dense-graded' }

/** A new wall of a system as the planner starts it, issued, its part changed as said. Straight, level, 1.2 m to be seen. */
export const started = (id: string, change: Partial<Plan> = {}, part: (data: never) => unknown = (d) => d, unit = 0, company?: Rules): Plan =>
  startedUnder(RULE_TABLE, id, change, part, unit, company)
/** The same issued under rule table 2: what was pinned then stays. */
export const startedThen = (id: string, change: Partial<Plan> = {}): Plan => startedUnder(2, id, change)
function startedUnder(table: number, id: string, change: Partial<Plan>, part: (data: never) => unknown = (d) => d, unit = 0, company?: Rules): Plan {
  const system = systemOf(id)
  if (!system) throw new Error(id)
  const length = change.length ?? 9.6
  const data = table > 2 ? proved(system.start(system.units[unit] as Unit, SHIPPED_STARTS)) : system.start(system.units[unit] as Unit, SHIPPED_STARTS)
  const plan = {
    name: `A wall of ${system.name}`,
    site: 'Test yard',
    engineer: 'plan E-1',
    engineerBy: 'E. Record, licence 4711',
    ...(table > 2 ? { ...ENGINEERED, front: { slope: 0, erodible: false } } : {}),
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
  const made = issueUnder(plan, company ? { company } : {}, table)
  if (!made.ok) throw new Error(JSON.stringify(plain(made.problems)))
  return made.value
}

/** The part with a machine whose table and gear are proved, where one sets its units. */
function proved<D>(data: D): D {
  const { lifting } = data as { lifting?: { gear: object } }
  if (!lifting) return data
  const gear = { ...lifting.gear, source: 'tag 12, test sheet', on: '2026-03-02' }
  return { ...data, lifting: { ...lifting, machine: 'excavator of 14 t', source: 'maker’s sheet 3', on: '2026-03-01', gear } }
}

/** The part with one outlet at the end of the wall, low enough to run out. */
function withOutlet(data: unknown, length: number): unknown {
  const of = data as { drain?: object }
  return of.drain ? { ...of, drain: { ...of.drain, outlets: [{ station: length, invert: 9.4 }] } } : data
}

/** It laid out. @example startedLayout('big-block').building.lifting */
export const startedLayout = (...of: Parameters<typeof started>) => layoutOf(started(...of))
