// What may know what: read from the source, so that a seam cannot close over unseen.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { KINDS, kindOf, SYSTEMS } from '@stone-tally/core'

const SRC = 'core/src'
const codeOf = (file: string) =>
  readFileSync(file, 'utf8')
    .replace(/\/\*[\s\S]*?\*\//g, '')
    .replace(/^\s*\/\/.*$/gm, '')
const filesIn = (folder: string) =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((f) => /\.tsx?$/.test(f) && !f.includes('node_modules') && !f.startsWith('.next') && !f.startsWith('test'))
    .map((f) => join(folder, f))
const works = [...new Set(KINDS.flatMap((k) => k.work ?? []))]
const stageIds = [...new Set(SYSTEMS.flatMap((s) => s.stages.map((x) => x.id)))]
/** Names in quotes, outside of imports. */
const quoted = (code: string) => [...code.replace(/^import .*$|^\} from .*$/gm, '').matchAll(/'([\w-]+)'/g)].map((m) => m[1] as string)

test('what folds, admits, judges and tells the record names no kind, no work and no stage', () => {
  expect(works.length).toBe(7)
  expect(stageIds.length).toBeGreaterThan(20)
  const words = new Set([...KINDS.map((k) => k.kind), ...works, ...stageIds])
  // Words that are a field, a role, an effect or a force as well: they are looked at where they stand.
  for (const also of ['override', 'strike', 'revision']) words.delete(also)
  for (const file of ['fold', 'status', 'admit', 'diary', 'match', 'unmatched', 'course-sheet', 'admission/index']) {
    const found = quoted(codeOf(join(SRC, 'record', `${file}.ts`))).filter((q) => words.has(q))
    expect([file, found]).toEqual([file, []])
  }
})
test('effects are said by the kinds: every word that is an effect as well stands for the effect', () => {
  for (const file of ['fold', 'status', 'admit', 'diary']) {
    const code = codeOf(join(SRC, 'record', `${file}.ts`))
    expect([file, code.match(/\.kind === '/)]).toEqual([file, null])
  }
  expect(KINDS.filter((k) => k.effect).map((k) => [k.kind, k.effect?.is])).toEqual([
    ['request', 'asks'],
    ['release', 'decision'],
    ['override', 'override'],
    ['action', 'answer'],
    ['strike', 'strike'],
    ['revision', 'revision'],
  ])
  expect(KINDS.filter((k) => k.stays).map((k) => k.kind)).toEqual(['release', 'strike', 'revision'])
  expect(kindOf('note')?.effect).toBeUndefined()
})
test('nothing outside the systems looks into the part of a plan that is a system’s', () => {
  const outside = [...filesIn(SRC).filter((f) => !f.startsWith(join(SRC, 'systems'))), ...filesIn('web'), ...filesIn('cli'), ...filesIn('demo')]
  expect(outside.length).toBeGreaterThan(250)
  const found = outside.flatMap((f) => [...codeOf(f).matchAll(/system\.data\s*(\?\.|\.|\[|as\b)[^\n]*/g)].map((m) => `${f}: ${m[0]}`))
  expect(found).toEqual([])
  // And none knows what such a part looks like.
  for (const f of outside) expect([f, /\b(BlockData|blockSchema|FoundationData)\b/.test(codeOf(f))]).toEqual([f, false])
})
test('a kind of data reaches its judgement without a cast', () => {
  const kinds = filesIn(join(SRC, 'record/kinds')).filter((f) => !f.endsWith('kind.ts') && !f.endsWith('index.ts'))
  // One file a kind.
  expect(kinds.length).toBe(KINDS.length)
  for (const f of kinds) expect([f, codeOf(f).match(/= defineKind\(/g)?.length]).toEqual([f, 1])
  for (const f of kinds) expect([f, codeOf(f).match(/as unknown as|ISchema</)]).toEqual([f, null])
})
