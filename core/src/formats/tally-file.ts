import { canonical } from '../base/canonical'
import { fail, failAll, ok, type Result } from '../base/result'
import { anything, choice, list, optionalQuantity, optionalText, quantity, read, record, text, toJsonSchema, yup } from '../base/schema'
import { layOut } from '../layout'
import type { Plan } from '../plan'
import { type ChainedEntry, type ChainReport, entrySchema, KINDS, planHash, type RevisionData, verifyChain } from '../record'
import { rulesSchema } from '../rules'
import { earlierPlanJsonSchema, fieldIn, planJsonSchema, readPlan, readRevision } from '../systems'

/** Largest file taken in, bytes. */
export const FILE_LIMIT = 20 * 1024 * 1024
const FORMAT = 'stone-tally'
/** Since version 2 what belongs to a wall's system stands in a part of its own; files of version 1 are read for ever. */
const VERSION = 2

const hash = () => text(64).matches(/^[0-9a-f]{64}$/, 'must be 64 hex digits')

const version = () => quantity({ min: 1, max: VERSION, whole: true })
/** A plan to start a wall from: `{ format, version, plan }`; the plan is read by its system. */
const planFileSchema = record({ format: choice([FORMAT] as const), version: version(), plan: anything() })

/** A wall handed over: every revision, every entry with its link, and where the chain ends. */
const recordFileSchema = record({
  format: choice([FORMAT] as const),
  version: version(),
  wall: text(36),
  exportedAt: optionalText(30),
  revisions: list(record({ number: quantity({ min: 1, whole: true }), issuedAt: text(30), plan: anything() }), 1, 1000),
  entries: list(record({ seq: quantity({ min: 1, whole: true }), receivedAt: text(30), hash: hash(), entry: entrySchema })),
  head: record({ seq: quantity({ min: 0, whole: true }), hash: text(64) }),
  note: optionalText(1000),
  entryCount: optionalQuantity({ min: 0, whole: true }),
})

export interface RecordFile {
  readonly wall: string
  /** Plans as they were stored, each of its own time: `storedPlan` makes one of them that can be worked with. */
  readonly revisions: readonly { readonly number: number; readonly issuedAt: string; readonly plan: object }[]
  readonly entries: readonly ChainedEntry[]
  readonly head: { readonly seq: number; readonly hash: string }
}

function parse(content: string): Result<Record<string, unknown>> {
  if (content.length > FILE_LIMIT) return fail('file', `is ${(content.length / 1048576).toFixed(1)} MB; at most ${FILE_LIMIT / 1048576} MB are taken`)
  let value: unknown
  try {
    value = JSON.parse(content.replace(/^\uFEFF/, ''))
  } catch (error) {
    return fail('file', `is not complete JSON (${error instanceof Error ? error.message.slice(0, 80) : 'unreadable'}); export it again`)
  }
  if (value === null || typeof value !== 'object' || Array.isArray(value)) return fail('file', 'is not a Stone Tally file: it must be an object')
  const object = value as Record<string, unknown>
  if (object.format !== FORMAT) return fail('format', `must be "${FORMAT}", not ${JSON.stringify(object.format) ?? 'missing'}`)
  return ok(object)
}

/**
 * The plan of a `*.tally.json`: of a plan file, or the newest revision of a record file. It is laid out too, so that a file
 * that reads well but makes no wall is refused here.
 *
 * @param content - the file's text
 */
export function readPlanFile(content: string): Result<Plan> {
  const parsed = parse(content)
  if (!parsed.ok) return parsed
  let plan: unknown = parsed.value.plan
  let at = 'plan'
  if (Array.isArray(parsed.value.revisions)) {
    const count = parsed.value.revisions.length
    plan = (parsed.value.revisions[count - 1] as { plan?: unknown } | undefined)?.plan
    at = `revisions[${count - 1}].plan`
  } else {
    const shape = read(yup.object({ format: yup.mixed(), version: version(), plan: yup.mixed() }).noUnknown(), parsed.value)
    if (!shape.ok) return shape
  }
  if (plan === undefined) return fail('plan', 'is missing')
  const wall = readPlan(plan)
  const prefixed = (r: { problems: readonly { field: string; message: string }[] }) =>
    failAll(r.problems.map((p) => ({ field: p.field ? `${at}.${p.field}` : at, message: p.message })))
  if (!wall.ok) return prefixed(wall)
  const laid = layOut(wall.value)
  return laid.ok ? wall : prefixed({ problems: laid.problems.map((p) => ({ ...p, field: fieldIn(plan, p.field) })) })
}

/** @example writePlanFile(plan) */
export const writePlanFile = (plan: Plan) => `${JSON.stringify({ format: FORMAT, version: VERSION, plan }, null, 2)}\n`

/** @example writeRecordFile({ wall, revisions, entries, head }) */
export const writeRecordFile = (file: RecordFile, exportedAt: string) =>
  `${JSON.stringify({ format: FORMAT, version: VERSION, wall: file.wall, exportedAt, revisions: file.revisions, entries: file.entries, head: file.head }, null, 1)}\n`

/** Reads a record file; the chain is not judged here. */
export function readRecordFile(content: string): Result<RecordFile> {
  const parsed = parse(content)
  if (!parsed.ok) return parsed
  if (parsed.value.entries === undefined) return fail('entries', 'is missing: this is a plan, not a record')
  const shape = read(recordFileSchema, parsed.value)
  if (!shape.ok) return shape
  const wrong = shape.value.revisions.flatMap((r, i) => {
    const plan = readRevision(r.plan)
    return plan.ok ? [] : plan.problems.map((p) => ({ ...p, field: `revisions[${i}].plan.${p.field}` }))
  })
  return wrong.length > 0 ? failAll(wrong) : ok(shape.value as unknown as RecordFile)
}

/** Chain and plan fingerprints of a record file. */
export function verifyRecordFile(file: RecordFile): ChainReport {
  const report = verifyChain(file.wall, file.entries, file.head)
  if (!report.intact) return report
  for (const e of file.entries) {
    if (e.entry.kind !== 'revision') continue
    const data = e.entry.data as RevisionData
    const revision = file.revisions.find((r) => r.number === data.number)
    if (!revision || planHash(revision.plan) !== data.plan) {
      return { intact: false, seq: e.seq, fault: 'altered', message: `plan revision ${data.number} is not the one issued with entry ${e.seq}` }
    }
  }
  return report
}

/** A file's schema with its plans said: of today, or of version 1. */
function withPlans(schema: Record<string, unknown>): Record<string, unknown> {
  const plan = { oneOf: [{ $ref: '#/$defs/plan' }, { $ref: '#/$defs/earlierPlan' }] }
  return JSON.parse(JSON.stringify(schema), (key, value) => (key === 'plan' ? plan : value)) as Record<string, unknown>
}

/** The published JSON Schema of `*.tally.json`. */
export const tallyJsonSchema = () => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Stone Tally file: a plan, or the record of a wall',
  oneOf: [toJsonSchema(planFileSchema), toJsonSchema(recordFileSchema)].map(withPlans),
  $defs: { plan: planJsonSchema(), earlierPlan: earlierPlanJsonSchema() },
})

/** The published JSON Schema of a rule file. @example rulesJsonSchema().properties.limits */
export const rulesJsonSchema = () => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Stone Tally rules of a company or site',
  ...toJsonSchema(rulesSchema),
})

/** The published JSON Schema of an entry's `data`, kind by kind. @example entriesJsonSchema().properties.lift */
export const entriesJsonSchema = () => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Stone Tally: what an entry of each kind carries in "data"',
  type: 'object',
  properties: Object.fromEntries(KINDS.map((k) => [k.kind, toJsonSchema(k.schema as yup.AnySchema)])),
})

export const sameJson = (a: unknown, b: unknown) => canonical(a) === canonical(b)
