import * as yup from 'yup'
import { failAll, ok, type Problem, type Result } from './result'
import { said } from './said'

const show = (value: unknown): string => {
  const text = typeof value === 'string' ? `"${value}"` : (JSON.stringify(value) ?? 'nothing')
  return text.length > 40 ? `${text.slice(0, 37)}…` : text
}

/**
 * Makes what is asked for alike once. Schemas never change, and a wall's rooms ask for the same few hundred times over: each held a page's
 * memory and was made at its start.
 */
function once<A extends readonly unknown[], R>(make: (...asked: A) => R): (...asked: A) => R {
  const made = new Map<string, R>()
  return (...asked) => {
    const key = JSON.stringify(asked)
    let one = made.get(key)
    if (one === undefined) {
      one = make(...asked)
      made.set(key, one)
    }
    return one
  }
}

interface Bounds {
  readonly min?: number
  readonly max?: number
  readonly unit?: string
  readonly whole?: boolean
}

/**
 * A required number with limits; the message names value and limit.
 *
 * @param bounds - limits in `unit` (SI)
 * @example quantity({ min: 0, max: 5, unit: 'm' })
 */
export const quantity = once((bounds: Bounds = {}) => {
  // A length is said in the reader's units; what has another unit stands in its own.
  const amount = (value: unknown) =>
    typeof value !== 'number' ? show(value) : bounds.unit === 'm' ? said.given(value) : `${value}${bounds.unit ? ` ${bounds.unit}` : ''}`
  let schema = yup
    .number()
    .typeError((p: { value: unknown }) => `must be a number${bounds.unit && bounds.unit !== 'm' ? ` in ${bounds.unit}` : ''}, not ${show(p.value)}`)
  if (bounds.min !== undefined) {
    schema = schema.min(
      bounds.min,
      (p: { value: unknown }) => `must be ${amount(bounds.min)} or more, not ${bounds.unit === 'm' ? amount(p.value) : show(p.value)}`,
    )
  }
  if (bounds.max !== undefined) {
    schema = schema.max(
      bounds.max,
      (p: { value: unknown }) => `must be ${amount(bounds.max)} or less, not ${bounds.unit === 'm' ? amount(p.value) : show(p.value)}`,
    )
  }
  if (bounds.whole) schema = schema.integer((p: { value: unknown }) => `must be a whole number, not ${show(p.value)}`)
  return schema.required('is missing').nonNullable('is missing')
})

/** The same, but the field may be left out. */
export const optionalQuantity = once((bounds: Bounds = {}) => quantity(bounds).notRequired().nonNullable('must be a number, not null'))

/** Half of a pair of surrogates by itself, or a NUL: no file, database or other program keeps it as it is. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: it is the one looked for
const UNSOUND = /\u0000|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/
const words = () =>
  yup.string().test('sound', 'holds a sign that cannot be kept (a NUL, or half a character); type it again', (v) => v == null || !UNSOUND.test(v))

/** A required text of at most `max` characters. */
export const text = once((max: number | undefined = 200) =>
  words()
    .typeError((p: { value: unknown }) => `must be text, not ${show(p.value)}`)
    .max(max, (p: { value: unknown }) => `must be at most ${max} characters, not ${String(p.value).length}`)
    .required('is missing'),
)

/** Text that may be left out or empty. */
export const optionalText = once((max: number | undefined = 200) =>
  words()
    .typeError((p: { value: unknown }) => `must be text, not ${show(p.value)}`)
    .max(max, `must be at most ${max} characters`)
    .optional(),
)

/** One of the given words. */
export const choice = <const T extends string>(words: readonly T[]) => anyChoice(words) as unknown as RequiredChoice<T>
const oneOf = <T extends string>(words: readonly T[]) =>
  yup.string<T>().oneOf([...words], (p: { value: unknown }) => `must be one of ${words.join(', ')}; not ${show(p.value)}`)
const requiredChoice = <T extends string>(words: readonly T[]) => oneOf(words).required('is missing')
type RequiredChoice<T extends string> = ReturnType<typeof requiredChoice<T>>
const anyChoice = once((words: readonly string[]) => requiredChoice(words))

/** Yes or no. */
export const yesNo = once(() =>
  yup
    .boolean()
    .typeError((p: { value: unknown }) => `must be true or false, not ${show(p.value)}`)
    .required('is missing'),
)

/** A closed object: unknown fields are refused by name. */
export const record = <S extends yup.ObjectShape>(shape: S) =>
  yup
    .object(shape)
    .noUnknown((p: { unknown: string }) => `unknown: ${p.unknown}`)
    .typeError((p: { value: unknown }) => `must be an object, not ${show(p.value)}`)
    .required('is missing')
    .nonNullable('is missing')

/** A closed object that may be left out. */
export const optionalRecord = <S extends yup.ObjectShape>(shape: S) =>
  yup
    .object(shape)
    .noUnknown((p: { unknown: string }) => `unknown: ${p.unknown}`)
    .typeError((p: { value: unknown }) => `must be an object, not ${show(p.value)}`)
    .optional()
    .default(undefined)

/** So many items a list takes where nobody says otherwise: more than any thing of a wall has. */
const MOST = 10_000
/** How long a list may be: measured before anybody looks into it. */
interface Measured {
  readonly most?: number
}

/** A list of `min` to `max` items; it is measured before its items are looked at. */
export const list = <T extends yup.ISchema<unknown>>(item: T, min = 0, max = MOST) =>
  yup
    .array(item as never)
    .typeError((p: { value: unknown }) => `must be a list, not ${show(p.value)}`)
    .min(min, `needs at least ${min}`)
    .max(max, `takes at most ${max}`)
    .meta({ most: max } satisfies Measured as never)
    .required('is missing') as unknown as yup.ArraySchema<yup.InferType<T>[], yup.AnyObject, undefined, ''>

/** A list that may be left out. */
export const optionalList = <T extends yup.ISchema<unknown>>(item: T, max = MOST) =>
  yup
    .array(item as never)
    .typeError((p: { value: unknown }) => `must be a list, not ${show(p.value)}`)
    .max(max, `takes at most ${max}`)
    .meta({ most: max } satisfies Measured as never)
    .optional()
    .default(undefined) as unknown as yup.ArraySchema<yup.InferType<T>[] | undefined, yup.AnyObject, undefined, ''>

/** Anything there is: it is read later, by who knows it. */
export const anything = () => yup.mixed<NonNullable<unknown>>().required('is missing')

/**
 * One of several closed objects, told apart by one of their fields.
 *
 * @example variant('kind', { sand: sandSchema, footing: footingSchema })
 */
export function variant<T>(key: string, of: Readonly<Record<string, yup.ISchema<unknown>>>) {
  const names = Object.keys(of)
  const none = record({ [key]: choice(names) })
  return yup
    .lazy((value: unknown) => {
      const name = (value as Record<string, unknown> | null | undefined)?.[key]
      return ((typeof name === 'string' && Object.hasOwn(of, name) ? of[name] : undefined) ?? none) as yup.ObjectSchema<yup.AnyObject>
    })
    .meta({ oneOf: Object.values(of) }) as unknown as yup.ISchema<T>
}

/** Yes or no that may be left out. */
export const optionalYesNo = once(() =>
  yup
    .boolean()
    .typeError((p: { value: unknown }) => `must be true or false, not ${show(p.value)}`)
    .optional(),
)

/** One of the given words, or left out. */
export const optionalChoice = <const T extends string>(words: readonly T[]) => anyOptionalChoice(words) as unknown as LeftOutChoice<T>
const leftOutChoice = <T extends string>(words: readonly T[]) => oneOf(words).optional()
type LeftOutChoice<T extends string> = ReturnType<typeof leftOutChoice<T>>
const anyOptionalChoice = once((words: readonly string[]) => leftOutChoice(words))

/** So many problems are told of one value: nobody reads more, and an answer is no larger than what it answers. */
const TOLD = 100

/** No thing of a wall has so many fields. */
const MOST_FIELDS = 1000

const holding = new WeakMap<object, boolean>()
/** Is there a list anywhere in what a schema reads? */
function holdsLists(schema: yup.AnySchema): boolean {
  const known = holding.get(schema)
  if (known !== undefined) return known
  // Of one of several it shows with the value which one it is.
  const { type, fields } = schema as unknown as { type: string; fields?: Readonly<Record<string, yup.AnySchema>> }
  const held = type === 'lazy' || type === 'array' || Object.values(fields ?? {}).some(holdsLists)
  holding.set(schema, held)
  return held
}

/** Lists that are longer than they may be, found by their length alone: what is in them is not touched. */
function measure(schema: yup.AnySchema, value: unknown, field: string, large: Problem[]): void {
  if (value === null || typeof value !== 'object' || large.length >= TOLD) return
  const keys = Array.isArray(value) ? 0 : Object.keys(value).length
  if (keys > MOST_FIELDS) large.push({ field, message: `has ${keys} fields; nothing has more than ${MOST_FIELDS}` })
  if (keys > MOST_FIELDS || !holdsLists(schema)) return
  const own = schema.resolve({ value }) as unknown as {
    innerType?: yup.AnySchema
    fields?: Readonly<Record<string, yup.AnySchema>>
    meta?(): Measured | undefined
  }
  if (Array.isArray(value)) {
    const most = own.meta?.()?.most
    if (most !== undefined && value.length > most) large.push({ field, message: `takes at most ${most}, not ${value.length}` })
    else if (own.innerType && holdsLists(own.innerType))
      for (let i = 0; i < value.length; i++) measure(own.innerType, value[i], `${field}[${i}]`, large)
    return
  }
  for (const [name, of] of Object.entries(own.fields ?? {}))
    if (Object.hasOwn(value, name)) measure(of, (value as Record<string, unknown>)[name], field ? `${field}.${name}` : name, large)
}

/**
 * Reads an unknown value with a schema: the value typed, or every problem with its field path.
 *
 * @example read(record({ depth: quantity({ min: 0 }) }), { depth: -1 })
 */
export function read<S extends yup.AnySchema>(schema: S, value: unknown, at = ''): Result<yup.InferType<S>> {
  const large: Problem[] = []
  measure(schema, value, at, large)
  if (large.length > 0) return failAll(large)
  try {
    return ok(schema.validateSync(value, { strict: true, abortEarly: false, stripUnknown: false }))
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error
    const inner = error.inner.length > 0 ? error.inner : [error]
    const problems: Problem[] = []
    for (const one of inner) {
      const path = [at, one.path ?? ''].filter(Boolean).join('.')
      if (one.type === 'noUnknown') {
        const keys = String(one.params?.unknown ?? '').split(', ')
        for (const key of keys.slice(0, TOLD)) {
          problems.push({ field: path ? `${path}.${key}` : key, message: `${key.slice(0, 60)} is not a known field` })
        }
        if (keys.length > TOLD) problems.push({ field: path, message: `has ${keys.length - TOLD} more fields that are not known` })
      } else problems.push({ field: path, message: one.message })
    }
    const more = problems.length - TOLD
    return failAll(more > 0 ? [...problems.slice(0, TOLD), { field: at, message: `has ${more} more problems like these` }] : problems)
  }
}

/** JSON Schema (2020-12) of a Yup schema, so that the published one can never drift from the one in force. */
export function toJsonSchema(schema: yup.ISchema<unknown>): Record<string, unknown> {
  return describe((schema as yup.AnySchema).describe() as yup.SchemaFieldDescription)
}

function describe(d: yup.SchemaFieldDescription): Record<string, unknown> {
  const variants = (d as { meta?: { oneOf?: readonly yup.ISchema<unknown>[] } }).meta?.oneOf
  if (variants) return { oneOf: variants.map(toJsonSchema) }
  const tests = 'tests' in d ? d.tests : []
  const param = (name: string, key: string) => tests.find((t) => t.name === name)?.params?.[key]
  if (d.type === 'object' && 'fields' in d) {
    const properties: Record<string, unknown> = {}
    const required: string[] = []
    for (const [name, field] of Object.entries((d as yup.SchemaObjectDescription).fields)) {
      properties[name] = describe(field)
      if (field.type === 'lazy' || ('optional' in field && !field.optional)) required.push(name)
    }
    return { type: 'object', properties, required, additionalProperties: false }
  }
  if (d.type === 'array' && 'innerType' in d) {
    const inner = (d as yup.SchemaInnerTypeDescription).innerType
    const min = param('min', 'min')
    const items = inner && !Array.isArray(inner) ? describe(inner) : {}
    const max = param('max', 'max')
    return {
      type: 'array',
      items,
      ...(typeof min === 'number' && min > 0 ? { minItems: min } : {}),
      ...(typeof max === 'number' ? { maxItems: max } : {}),
    }
  }
  const oneOf = 'oneOf' in d ? (d.oneOf as unknown[]) : []
  const type = d.type === 'number' && tests.some((t) => t.name === 'integer') ? 'integer' : d.type === 'mixed' ? undefined : d.type
  const low = param('min', 'min')
  const high = param('max', 'max')
  const pattern = param('matches', 'regex')
  const pair = d.type === 'string' ? (['minLength', 'maxLength'] as const) : (['minimum', 'maximum'] as const)
  return {
    ...(type ? { type } : {}),
    ...(oneOf.length > 0 ? { enum: oneOf } : {}),
    ...(typeof low === 'number' ? { [pair[0]]: low } : {}),
    ...(typeof high === 'number' ? { [pair[1]]: high } : {}),
    ...(pattern instanceof RegExp ? { pattern: pattern.source } : {}),
  }
}

export type { InferType } from 'yup'
export { yup }
