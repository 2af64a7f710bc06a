import { fail, failAll, ok, type Result } from '../base/result'
import { read, toJsonSchema, type yup } from '../base/schema'
import { checkPlan, type Plan, planSchema } from '../plan'
import { earlierField, earlierPlanSchema, isEarlier, upgraded } from './earlier'
import { SYSTEMS, systemOf } from './known'
import type { WallSystem } from './system'

/** A plan's system, or why there is none. */
function known(id: string): Result<WallSystem> {
  const system = systemOf(id)
  return system ? ok(system) : fail('system.id', `"${id}" is not a system this application knows; it knows ${SYSTEMS.map((s) => s.id).join(', ')}`)
}

/** Types and limits alone, by the schemas of plan and system, and whether it was written earlier. */
function shapeOf(value: unknown): Result<Plan> {
  if (isEarlier(value)) {
    const shape = read(earlierPlanSchema, value)
    if (!shape.ok) return shape
    const system = known(shape.value.system)
    return system.ok ? ok(upgraded(shape.value)) : failAll([{ field: 'system', message: system.problems[0]?.message ?? '' }])
  }
  const shape = read(planSchema, value)
  const of = (value as { system?: { id?: unknown; data?: unknown } } | null | undefined)?.system
  // What is wrong with the part is said with the rest, where the system is known.
  if (typeof of?.id !== 'string' || of.data === null || of.data === undefined) return shape as Result<Plan>
  const system = known(of.id)
  const part = system.ok ? read(system.value.schema as yup.AnySchema, of.data, 'system.data') : system
  if (shape.ok && part.ok) return shape as Result<Plan>
  return failAll([...(shape.ok ? [] : shape.problems), ...(part.ok ? [] : part.problems)])
}

/**
 * Reads a plan revision of a record: its types and limits alone. What today asks of a whole plan, a revision of before need not keep.
 *
 * @example readRevision(file.revisions[0].plan).ok
 */
export const readRevision = (value: unknown): Result<Plan> => shapeOf(value)

/**
 * Reads a plan from outside, of today or of before: types and limits by the schemas of plan and system, then what only the whole can tell
 * (stations inside the wall, top over toe, sections that cover it).
 *
 * @returns the plan of today, or every problem with its field path, called as in what was read
 * @example readPlan(JSON.parse(text))
 */
export function readPlan(value: unknown): Result<Plan> {
  const shape = shapeOf(value)
  if (!shape.ok) return shape
  const plan = shape.value
  const part = systemOf(plan.system.id)?.check(plan, plan.system.data) ?? []
  const problems = [...checkPlan(plan), ...part.map((p) => ({ ...p, field: `system.data.${p.field}` }))]
  return problems.length > 0 ? failAll(problems.map((p) => ({ ...p, field: fieldIn(value, p.field) }))) : ok(plan)
}

/** A field of today's plan as what was read calls it. @example fieldIn(file.plan, 'system.data.layers[2].course') */
export const fieldIn = (value: unknown, field: string): string => (isEarlier(value) ? earlierField(field) : field)

/** The published JSON Schema of a plan of today: what every wall has, and for each system its own part. */
export function planJsonSchema(): Record<string, unknown> {
  const common = toJsonSchema(planSchema) as { properties: Record<string, unknown> }
  const parts = SYSTEMS.map((s) => ({
    type: 'object',
    properties: { id: { type: 'string', enum: [s.id] }, data: toJsonSchema(s.schema) },
    required: ['id', 'data'],
    additionalProperties: false,
  }))
  return { ...common, properties: { ...common.properties, system: { oneOf: parts } } }
}
/** The published JSON Schema of a plan as it was written earlier. */
export const earlierPlanJsonSchema = (): Record<string, unknown> => toJsonSchema(earlierPlanSchema)
