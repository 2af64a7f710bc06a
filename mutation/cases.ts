// All that may notice a mutant: the pinned walls, soils and records, and every test of the core, each by its name. Bundled and run without Jest.
import { expect } from 'expect'
import walls from '../core/test/fixtures/pinned.json'
import around from '../core/test/fixtures/pinned-around.json'
import functions from '../core/test/fixtures/pinned-functions.json'
import records from '../core/test/fixtures/pinned-records.json'
import soils from '../core/test/fixtures/pinned-soil.json'
import values from '../core/test/fixtures/pinned-values.json'
import { marksOf, PINNED, soilMarks } from '../core/test/pinned'
import { AROUND, marksAround } from '../core/test/pinned-around'
import { FUNCTIONS, functionMark, partsOf } from '../core/test/pinned-functions'
import { marksOfDays, RECORDS } from '../core/test/pinned-records'
import { valuesKept } from '../core/test/pinned-values'
import { files } from './test-files'

/** What is run as one: what it says of itself, and whether all is as it was is told by not throwing. */
export interface Case {
  readonly name: string
  readonly run: () => unknown
}

/** Parts stand in the order of the code in one and of the file in the other. */
const sorted = (v: unknown) => (v && typeof v === 'object' ? Object.entries(v).sort() : v)
const same = (a: unknown, b: unknown) => {
  if (JSON.stringify(sorted(a)) !== JSON.stringify(sorted(b))) throw new Error('differs')
}
const each = (name: string, count: number, of: (n: number) => unknown, kept: readonly unknown[]): Case[] =>
  Array.from({ length: count }, (_, n) => ({ name: `${name} ${n}`, run: () => same(of(n), kept[n]) }))

export const pins: readonly Case[] = [
  { name: 'values', run: () => same(valuesKept(), values) },
  ...each('around', AROUND, marksAround, around),
  ...each('wall', PINNED, marksOf, walls),
  ...each('days', RECORDS, marksOfDays, records),
  ...Object.keys(FUNCTIONS).flatMap((name) =>
    each(name, partsOf(name), (part) => functionMark(name, part), (functions as Record<string, string[]>)[name] as string[]),
  ),
  { name: 'soils', run: () => same(soilMarks(), soils) },
]

type Rows = readonly unknown[]
const row = (r: unknown): Rows => (Array.isArray(r) ? r : [r])

/** The tests of a file, by the words Jest has for them; what stands in a `describe` is run as Jest would. */
export function testsOf(file: string): readonly Case[] {
  const found: Case[] = []
  let names: readonly string[] = []
  const test = (name: string, run: () => unknown) => found.push({ name: [...names, name].join(' › '), run })
  const describe = (name: string, body: () => void) => {
    const outer = names
    names = [...names, name]
    body()
    names = outer
  }
  const eachOf = (of: (name: string, run: () => unknown) => unknown) => (rows: Rows) => (name: string, run: (...of: never[]) => unknown) =>
    rows.forEach((r, n) => {
      of(`${name} #${n}`, () => run(...(row(r) as never[])))
    })
  Object.assign(globalThis, {
    expect,
    test: Object.assign(test, { each: eachOf(test) }),
    describe: Object.assign(describe, { each: eachOf(describe as never) }),
  })
  ;(files[file] as () => unknown)()
  return found
}
export const fileNames = Object.keys(files)
