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
}

export const HOLD_POINTS: readonly HoldPoint[] = [
  {
    id: 'before-digging',
    title: 'Before digging',
    roles: ['foreman', 'inspector'],
    reason: 'A struck service kills; a wall in the wrong place is built twice.',
  },
  { id: 'subgrade', title: 'Subgrade', roles: ['inspector'], reason: 'Nobody can see the soil again once the pad is on it.' },
  { id: 'pad-level', title: 'Pad level', roles: ['inspector'], reason: 'The pad cannot be corrected under a course.' },
  { id: 'first-course', title: 'First course', roles: ['inspector'], reason: 'The course that decides the wall.' },
  { id: 'drain', title: 'Drain before cover', roles: ['inspector'], reason: 'A buried pipe cannot be looked at.' },
  { id: 'final', title: 'Final', roles: ['inspector'], reason: 'The record is handed over as it stands.' },
]

export const holdPoint = (id: string) => HOLD_POINTS.find((p) => p.id === id)
