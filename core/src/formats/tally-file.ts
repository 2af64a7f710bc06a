import { canonical } from '../base/canonical'
import { fail, failAll, ok, type Result } from '../base/result'
import {
  anything,
  choice,
  list,
  optionalChoice,
  optionalList,
  optionalQuantity,
  optionalText,
  quantity,
  read,
  record,
  text,
  toJsonSchema,
  yup,
} from '../base/schema'
import { layOut } from '../layout'
import type { Plan } from '../plan'
import { type ChainedEntry, entrySchema, KINDS, movedFault, type SignedCheckpoint } from '../record'
import { rulesSchema } from '../rules'
import { earlierPlanJsonSchema, fieldIn, planJsonSchema, readPlan, readRevision } from '../systems'
import { type HeldAgainst, type PhotoOfFile, type RecordReport, type RevisionOfFile, recordCheck } from './record-check'
import { RECORD_END, type RecordFileHead, recordStart, recordTurn } from './record-lines'

/** Largest file taken in, bytes. */
export const FILE_LIMIT = 20 * 1024 * 1024
const FORMAT = 'stone-tally'
/** Since version 2 what belongs to a wall's system stands in a part of its own; files of version 1 are read for ever. */
const VERSION = 2

/** A photo as large as one may be, in base64. */
const PHOTO_TEXT = 17 * 1024 * 1024

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
  entries: list(record({ seq: quantity({ min: 1, whole: true }), receivedAt: text(30), hash: hash(), entry: entrySchema }), 0, 100_000),
  head: record({ seq: quantity({ min: 0, whole: true }), hash: text(64) }),
  note: optionalText(1000),
  entryCount: optionalQuantity({ min: 0, whole: true }),
  name: optionalText(200),
  /** Public key of the installation that signed the checkpoints. */
  key: optionalText(64),
  photos: optionalList(record({ file: text(36), sha256: hash(), name: text(120), type: text(40), content: text(PHOTO_TEXT) }), 100_000),
  checkpoints: optionalList(
    record({ wall: text(36), day: text(10), seq: quantity({ min: 0, whole: true }), hash: text(64), key: hash(), signature: text(128) }),
  ),
  withPhotos: optionalChoice(['all', 'left out'] as const),
})

export interface RecordFile {
  readonly wall: string
  /** Plans as they were stored, each of its own time: `storedPlan` makes one of them that can be worked with. */
  readonly revisions: readonly RevisionOfFile[]
  readonly entries: readonly ChainedEntry[]
  readonly head: { readonly seq: number; readonly hash: string }
  readonly checkpoints?: readonly SignedCheckpoint[] | undefined
  readonly photos?: readonly PhotoOfFile[] | undefined
  readonly withPhotos?: 'all' | 'left out' | undefined
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

/** The first line of a record file. @example recordFileStart({ wall, exportedAt }) */
export const recordFileStart = (head: RecordFileHead) => recordStart(head, { format: FORMAT, version: VERSION })

/** A whole record as text; one that may be long is written piece by piece instead. @example writeRecordFile({ wall, revisions, entries, head }, now) */
export function writeRecordFile(file: RecordFile, exportedAt: string): string {
  const items = (list: readonly unknown[] = []) => list.map((i) => JSON.stringify(i)).join(',\n')
  return [
    recordFileStart({ wall: file.wall, exportedAt, withPhotos: file.withPhotos }),
    items(file.revisions),
    recordTurn('checkpoints'),
    items(file.checkpoints),
    recordTurn('entries'),
    items(file.entries),
    recordTurn('photos', file.head),
    items(file.photos),
    RECORD_END,
  ].join('')
}

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

/**
 * Chain, plans, checkpoints and photos of a record file, and what is held against it from outside.
 *
 * @example verifyRecordFile(file, { codes }).intact
 */
export function verifyRecordFile(file: RecordFile, against: HeldAgainst = {}): RecordReport {
  const check = recordCheck(file.wall, against)
  for (const r of file.revisions) check.revision(r)
  for (const c of file.checkpoints ?? []) check.checkpoint(c)
  for (const e of file.entries) {
    const moved = movedFault(e, check.at + 1, file.entries)
    if (moved) return moved
    if (check.entry(e)) break
  }
  for (const p of file.photos ?? []) check.photo(p)
  return check.end(file.head, file.withPhotos === 'all')
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
