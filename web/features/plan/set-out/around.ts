import { fail, failAll, type Plan, type Problem, parseAmount, type Result, type UnitSystem } from '@stone-tally/core'

type Obstacle = NonNullable<Plan['obstacles']>[number]
type Reference = NonNullable<Plan['references']>[number]
/** What stands around a wall, or what it is measured from. */
export type AroundKind = Obstacle['kind'] | Reference['kind']

/** One of them as it is typed. */
export interface TypedAround {
  readonly kind: AroundKind
  readonly name: string
  /** East and north, one point a line or between semicolons. */
  readonly points: string
  readonly radius: string
  readonly clearance: string
}

const REFERENCES: ReadonlySet<AroundKind> = new Set(['building-line', 'string', 'benchmark'])
/** Is it measured from, and in nobody's way? @example isReference('string') // true */
export const isReference = (kind: AroundKind): kind is Reference['kind'] => REFERENCES.has(kind)

/**
 * What was typed, as the plan keeps it. A number that cannot be read is never taken for none: the dig would be checked against nothing.
 *
 * @returns what the plan becomes with it; problems at `name`, `points`, `radius` and `clearance`
 * @example readAround({ kind: 'tree', name: 'ash', points: '5 1', radius: '0.3', clearance: '1.5' }, 'metric')
 */
export function readAround(t: TypedAround, units: UnitSystem): Result<(plan: Plan) => Plan> {
  const name = t.name.trim()
  if (!name) return fail('name', 'give it a name')
  const rows = t.points
    .split(/[;\n]/)
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => line.split(/\s+/).map((x) => parseAmount(x, 'length', units)))
  const points = rows.flatMap(([e, n, ...more]) => (e?.ok && n?.ok && more.length === 0 ? [{ easting: e.value, northing: n.value }] : []))
  if (rows.length === 0 || points.length !== rows.length) return fail('points', 'write points as "east north", one a line')
  if (isReference(t.kind)) {
    const one: Reference = { name, kind: t.kind, points }
    return { ok: true, value: (p) => ({ ...p, references: [...(p.references ?? []), one] }) }
  }
  const [radius, clearance] = [t.radius, t.clearance].map((x) => (x.trim() === '' ? undefined : parseAmount(x, 'length', units)))
  const problems: Problem[] = []
  const wrong = (field: string, read: typeof radius) => {
    if (read && !read.ok) problems.push({ field, message: read.problems[0]?.message ?? 'cannot be read' })
    else if (read?.ok && read.value < 0) problems.push({ field, message: 'is below nought' })
  }
  wrong('radius', radius)
  wrong('clearance', clearance)
  if (!clearance) problems.push({ field: 'clearance', message: 'say how far the dig keeps from it; 0 where it may touch' })
  const round = radius?.ok && radius.value > 0 ? radius.value : undefined
  if (points.length === 1 && round === undefined && problems.every((p) => p.field !== 'radius'))
    problems.push({ field: 'radius', message: 'a single point needs a radius' })
  if (problems.length > 0 || !clearance?.ok) return failAll(problems)
  const one: Obstacle = { name, kind: t.kind, points, clearance: clearance.value, ...(round === undefined ? {} : { radius: round }) }
  return { ok: true, value: (p) => ({ ...p, obstacles: [...(p.obstacles ?? []), one] }) }
}

/**
 * The plan without one of the things around it, as it stands in a layout that may be a moment older than the plan.
 *
 * @param seen - the plan that was looked at, and where in its list the thing is
 */
export function withoutObstacle(plan: Plan, seen: Plan, index: number): Plan {
  const gone = JSON.stringify(seen.obstacles?.[index])
  const list = plan.obstacles ?? []
  const at = list.findIndex((o) => JSON.stringify(o) === gone)
  return at < 0 ? plan : { ...plan, obstacles: list.filter((_, i) => i !== at) }
}
