// A list is measured before it is looked into: however long it is, none of what it holds is touched, and the answer stays short.
import { KINDS, planSchema, read, rulesSchema, SYSTEMS } from '@stone-tally/core'
import type { AnySchema } from 'yup'

interface Inside {
  readonly type: string
  readonly fields?: Readonly<Record<string, AnySchema>>
  readonly innerType?: AnySchema
}
type Wrap = (value: unknown) => unknown
/** Every list a schema reads: where it stands, how a value that holds it is made, and the most it says it takes. */
function listsOf(schema: AnySchema, path = '', wrap: Wrap = (v) => v): { path: string; wrap: Wrap; most: number }[] {
  const of = schema as unknown as Inside
  if (of.type === 'array') {
    const most = (schema.describe() as { tests?: { name?: string; params?: { max?: number } }[] }).tests?.find((t) => t.name === 'max')?.params?.max
    const inner = of.innerType ? listsOf(of.innerType, `${path}[0]`, (v) => wrap([v])) : []
    return [{ path, wrap, most: most ?? Number.POSITIVE_INFINITY }, ...inner]
  }
  return Object.entries(of.fields ?? {}).flatMap(([name, f]) => listsOf(f, path ? `${path}.${name}` : name, (v) => wrap({ [name]: v })))
}
const ROOMS = [
  ['plan', planSchema],
  ['rules', rulesSchema],
  ...SYSTEMS.map((s) => [`system ${s.id}`, s.schema] as const),
  ...KINDS.map((k) => [`entry ${k.kind}`, k.schema] as const),
] as unknown as readonly (readonly [string, AnySchema])[]
const LISTS = ROOMS.flatMap(([room, schema]) => listsOf(schema).map((l) => ({ ...l, room, schema })))

test('every list has a length that fits the thing', () => {
  expect(LISTS.length).toBeGreaterThan(60)
  expect(LISTS.filter((l) => !(l.most <= 10_000)).map((l) => `${l.room} ${l.path}: ${l.most}`)).toEqual([])
})

test('one too many is said without a look at any of them', () => {
  let touched = 0
  const trap = new Proxy(
    {},
    {
      get: () => touched++,
      has: () => touched++ >= 0,
      ownKeys: () => {
        touched++
        return []
      },
    },
  )
  const wrong: string[] = []
  for (const l of LISTS) {
    const r = read(l.schema, l.wrap(new Array(l.most + 1).fill(trap)))
    const said = r.ok ? [] : r.problems
    if (said.length !== 1 || said[0]?.field !== l.path || said[0].message !== `takes at most ${l.most}, not ${l.most + 1}`)
      wrong.push(`${l.room} ${l.path}: ${JSON.stringify(said).slice(0, 200)}`)
  }
  expect(wrong).toEqual([])
  expect(touched).toBe(0)
})

test('fields nobody knows are named, not all of them', () => {
  const fields = (n: number) => Object.fromEntries(Array.from({ length: n }, (_, i) => [`field_${i}`, 1]))
  const flood = fields(200_000)
  for (const [, schema] of ROOMS)
    expect(read(schema, flood)).toMatchObject({ ok: false, problems: [{ message: expect.stringMatching(/^has 200000 fields/) }] })
  const many = fields(900)
  for (const [, schema] of ROOMS) {
    const r = read(schema, many)
    const text = JSON.stringify(r.ok ? r.value : r.problems)
    expect(r.ok).toBe(false)
    expect(text).toMatch(/more (fields that are not known|problems like these)/)
    expect(text.length).toBeLessThan(20_000)
  }
})

test('a list just as long as it may be is looked into', () => {
  for (const l of LISTS.filter((x) => x.most <= 500)) {
    const r = read(l.schema, l.wrap(new Array(l.most).fill(undefined)))
    expect((r.ok ? [] : r.problems).filter((p) => p.message.startsWith('takes at most'))).toEqual([])
  }
})
