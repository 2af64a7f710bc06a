/** Who may do what in a company. The office also plans, orders and looks after people. */
export const ROLES = ['foreman', 'crew', 'inspector', 'office'] as const
export type Role = (typeof ROLES)[number]
export const ROLE_NAMES: Record<Role, string> = { foreman: 'Foreman', crew: 'Crew lead', inspector: 'Inspector', office: 'Office' }

/** An inspection point that holds the work until a person with one of the roles releases it. */
export interface HoldPoint {
  readonly id: string
  readonly title: string
  readonly roles: readonly Role[]
  readonly reason: string
  /** May a person release what they recorded themselves? Otherwise a second pair of eyes is wanted. */
  readonly own?: true
}

export const HOLD_POINTS: readonly HoldPoint[] = [
  {
    id: 'before-digging',
    title: 'Before digging',
    roles: ['foreman', 'inspector'],
    own: true,
    reason: 'A struck service kills; a wall in the wrong place is built twice.',
  },
  { id: 'subgrade', title: 'Subgrade', roles: ['inspector'], reason: 'Nobody can see the soil again once the pad is on it.' },
  { id: 'pad-level', title: 'Pad level', roles: ['inspector'], reason: 'The pad cannot be corrected under a course.' },
  { id: 'first-course', title: 'First course', roles: ['inspector'], reason: 'The course that decides the wall.' },
  { id: 'drain', title: 'Drain before cover', roles: ['inspector'], reason: 'A buried pipe cannot be looked at.' },
  { id: 'geogrid', title: 'Geogrid layer', roles: ['foreman', 'inspector'], own: true, reason: 'A layer under fill cannot be put right.' },
  { id: 'final', title: 'Final', roles: ['inspector'], reason: 'The record is handed over as it stands.' },
]

export const holdPoint = (id: string) => HOLD_POINTS.find((p) => p.id === id)

/** An inspection point that is recorded and does not stop the work. */
export interface WitnessPoint {
  readonly id: string
  readonly title: string
  readonly reason: string
}
export const WITNESS_POINTS: readonly WitnessPoint[] = [
  { id: 'excavation', title: 'Excavation', reason: 'Depth, width, sides and water while they can still be seen.' },
  { id: 'pad-lifts', title: 'Pad lifts', reason: 'Density cannot be put in from above.' },
  { id: 'course', title: 'Each course', reason: 'What is a little out here is a lot out at the top.' },
  { id: 'backfill', title: 'Backfill lifts', reason: 'Loose or wet fill pushes the wall out later.' },
  { id: 'top', title: 'Top and grades', reason: 'Water that stays on top goes behind the wall.' },
  { id: 'pour', title: 'Outlets running', reason: 'A drain is finished when water was seen to leave it.' },
  { id: 'cap', title: 'Cap', reason: 'What is glued is not laid again.' },
]
export const witnessPoint = (id: string) => WITNESS_POINTS.find((p) => p.id === id)
