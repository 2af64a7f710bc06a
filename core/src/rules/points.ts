/** Who may do what in a company. The office also plans, orders and looks after people. */
export const ROLES = ['foreman', 'crew', 'inspector', 'office'] as const
export type Role = (typeof ROLES)[number]
export const ROLE_NAMES: Record<Role, string> = { foreman: 'Foreman', crew: 'Crew lead', inspector: 'Inspector', office: 'Office' }

/** hold: work stops until it is released. witness: recorded, stops nothing. off: not listed. */
export const POINT_KINDS = ['hold', 'witness', 'off'] as const
export type PointKind = (typeof POINT_KINDS)[number]

/** Where a point that a company or plan adds is looked at: a stage, and of it one course or all, one section or all. */
export interface PointPlace {
  readonly stage: string
  readonly section?: string | undefined
  readonly course?: number | undefined
  /** Where along the wall, m; said with the point, looked at by whoever releases it. */
  readonly station?: number | undefined
}

/** A point of the inspection plan. */
export interface InspectionPoint {
  readonly id: string
  readonly title: string
  readonly kind: PointKind
  /** Who releases it, where it holds. */
  readonly roles: readonly Role[]
  /** May a person release what they recorded themselves? Otherwise a second pair of eyes is wanted. */
  readonly own: boolean
  readonly reason: string
  /** It keeps people safe or cannot be looked at later: nobody makes less of it than a hold. */
  readonly fixed?: true
  readonly at?: PointPlace | undefined
}

const hold = (id: string, title: string, reason: string, more: Partial<InspectionPoint> = {}): InspectionPoint => ({
  id,
  title,
  kind: 'hold',
  roles: ['inspector'],
  own: false,
  reason,
  ...more,
})
const witness = (id: string, title: string, reason: string): InspectionPoint => ({
  id,
  title,
  kind: 'witness',
  roles: ['inspector'],
  own: false,
  reason,
})

/** The shipped inspection plan. Stages name the point they belong to; what becomes of it is the rule book's. */
export const POINTS: readonly InspectionPoint[] = [
  hold('before-digging', 'Before digging', 'A struck service kills; a wall in the wrong place is built twice.', {
    roles: ['foreman', 'inspector'],
    own: true,
    fixed: true,
  }),
  hold('subgrade', 'Subgrade', 'Nobody can see the soil again once the pad is on it.'),
  hold('footing', 'Bars before the pour', 'Concrete hides bars, laps and cover for good.', { fixed: true }),
  hold('steel', 'Bars before the grout', 'Grout hides bars, laps and what lies in the cells for good.', { fixed: true }),
  hold('membrane', 'Waterproofing before cover', 'Digging up a wall to mend its membrane costs more than the wall.', { fixed: true }),
  hold('pad-level', 'Pad level', 'The pad cannot be corrected under a course.'),
  hold('first-course', 'First course', 'The course that decides the wall.'),
  hold('drain', 'Drain before cover', 'A buried pipe cannot be looked at.', { fixed: true }),
  hold('geogrid', 'Geogrid layer', 'A layer under fill cannot be put right.', { roles: ['foreman', 'inspector'], fixed: true }),
  hold('mats', 'Mats before fill', 'Wires under fill cannot be looked at, and none is put in later.', {
    roles: ['foreman', 'inspector'],
    fixed: true,
  }),
  hold('final', 'Final', 'The record is handed over as it stands.', { fixed: true }),
  witness('excavation', 'Excavation', 'Depth, width, sides and water while they can still be seen.'),
  witness('pad-lifts', 'Pad lifts', 'Density cannot be put in from above.'),
  witness('course', 'Each course', 'What is a little out here is a lot out at the top.'),
  witness('backfill', 'Backfill lifts', 'Loose or wet fill pushes the wall out later.'),
  witness('top', 'Top and grades', 'Water that stays on top goes behind the wall.'),
  witness('pour', 'Outlets running', 'A drain is finished when water was seen to leave it.'),
  witness('cap', 'Cap', 'What is glued is not laid again.'),
]

const BY_ID = new Map(POINTS.map((p) => [p.id, p]))
/** A shipped point by name. @example shippedPoint('subgrade')?.roles // ['inspector'] */
export const shippedPoint = (id: string): InspectionPoint | undefined => BY_ID.get(id)
