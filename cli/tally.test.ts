import { execFile, spawnSync } from 'node:child_process'
import { cpSync, mkdirSync, mkdtempSync, readdirSync, realpathSync, rmSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const tally = (args: readonly string[], input = '') => {
  const run = spawnSync('bin/tally', args, { input, encoding: 'utf8' })
  return { code: run.status, out: run.stdout, err: run.stderr }
}
const file = (content: string) => {
  const path = join(mkdtempSync(join(tmpdir(), 'tally-')), 'x.tally.json')
  writeFileSync(path, content)
  return path
}

describe('calc', () => {
  test('answers in JSON, unrounded', () => {
    const run = tally(['calc', 'lifts'], '{"thickness":0.5,"maxLift":0.15,"looseFactor":1.25}')
    expect(run.code).toBe(0)
    expect(JSON.parse(run.out)).toEqual({ count: 4, compacted: 0.125, loose: 0.15625 })
  })
  test('lists its calculators and shows their schemas', () => {
    expect(tally(['calc', '--list']).out.split('\n')).toEqual(expect.arrayContaining(['rod', 'lifts', 'embedment']))
    expect(JSON.parse(tally(['calc', 'rod', '--schema']).out)).toMatchObject({
      required: ['benchmark', 'backsight', 'points'],
      additionalProperties: false,
    })
  })
  test.each([
    ['a missing field', 'rod', '{"benchmark":1,"points":[]}', 'backsight'],
    [
      'a field deep inside',
      'rod',
      '{"benchmark":1,"backsight":1,"points":[{"target":1,"reading":1},{"target":1,"reading":"x"}]}',
      'points[1].reading',
    ],
    ['an unknown field', 'lifts', '{"thickness":1,"maxLift":1,"looseFactor":1,"colour":1}', 'colour'],
    ['an impossible value', 'lifts', '{"thickness":1,"maxLift":0,"looseFactor":1}', 'maxLift'],
    ['no JSON', 'lifts', 'thick', ''],
    ['an unknown calculator', 'weather', '{}', 'name'],
  ])('%s: nothing on standard output, code 2, the field in one line', (_name, calc, input, field) => {
    const run = tally(['calc', calc], input)
    expect([run.code, run.out]).toEqual([2, ''])
    const lines = run.err.trim().split('\n')
    expect(lines).toHaveLength(1)
    expect(JSON.parse(lines[0] ?? '').error).toMatchObject({ field, message: expect.any(String) })
  })
})

describe('plan', () => {
  test('prints what the Board computes', () => {
    const run = tally(['plan', 'demo/queue-lane-wall.tally.json', 'layout'])
    const layout = JSON.parse(run.out)
    expect(layout.steps).toHaveLength(4)
    expect(layout.courses[0].top - layout.courses[0].bottom).toBeCloseTo(0.2, 9)
    expect(layout.steps[0].dig[0].elevation).toBeCloseTo(layout.steps[0].elevation - 0.2, 9)
  })
  test('prints quantities', () => {
    const pad = JSON.parse(tally(['plan', 'demo/queue-lane-wall.tally.json', 'quantities']).out).quantities.find(
      (q: { id: string }) => q.id === 'pad',
    )
    expect(pad.value).toBeCloseTo(36 * 0.6 * 0.2, 6)
  })
  test.each([
    ['a missing file', ['plan', '/nowhere/x.json', 'layout'], /cannot read/],
    ['truncated JSON', ['plan', file('{"format":"stone-ta'), 'layout'], /file: is not complete JSON/],
    [
      'an unknown report',
      ['plan', 'demo/queue-lane-wall.tally.json', 'poem'],
      /takes layout, quantities, stages, units, points or cautions, not poem/,
    ],
    ['an unknown command', ['build'], /unknown command build/],
    ['a plan as a record', ['record', 'verify', 'demo/queue-lane-wall.tally.json'], /this is a plan, not a record/],
  ])('%s: a clear line and code 2', (_name, args, message) => {
    const run = tally(args)
    expect([run.code, run.out]).toEqual([2, ''])
    expect(run.err).toMatch(message)
  })
})

describe('bin/tally translates its sources once', () => {
  const root = mkdtempSync(join(tmpdir(), 'tally root '))
  const bin = join(root, 'bin/tally')
  const main = join(root, 'cli/main.ts')
  const says = (words: string) => writeFileSync(main, `const say: string = '${words}'\nconsole.log(say, ...process.argv.slice(2))\n`)
  const call = (...args: string[]) => spawnSync(bin, args, { encoding: 'utf8' }).stdout
  beforeAll(() => {
    for (const folder of ['bin', 'cli', 'core/src', 'node_modules/.bin']) mkdirSync(join(root, folder), { recursive: true })
    cpSync('bin/tally', bin)
    for (const name of ['tsconfig.json', 'tsconfig.base.json']) cpSync(name, join(root, name))
    writeFileSync(join(root, 'package-lock.json'), '{}')
    for (const program of ['esbuild', 'tsx']) symlinkSync(realpathSync(`node_modules/.bin/${program}`), join(root, 'node_modules/.bin', program))
  })
  afterAll(() => rmSync(root, { recursive: true, force: true }))
  const kept = () => readdirSync(join(root, 'node_modules/.cache/stone-tally'))

  test('by what they are, not by their dates; what was made of others goes', () => {
    says('one')
    expect([call('a b'), call()]).toEqual(['one a b\n', 'one\n'])
    const before = kept()
    says('two')
    utimesSync(main, new Date(0), new Date(0))
    expect(call()).toBe('two\n')
    expect(kept()).toHaveLength(1)
    expect(kept()).not.toEqual(before)
  })
  test('begun many times at once, each answers', async () => {
    says('three')
    const answers = Array.from({ length: 6 }, () => new Promise<string>((done) => execFile(bin, (_e, out) => done(out))))
    expect(await Promise.all(answers)).toEqual(new Array(6).fill('three\n'))
    expect(kept()).toHaveLength(1)
  })
  test('where nothing can be kept it answers all the same', () => {
    rmSync(join(root, 'node_modules/.cache'), { recursive: true })
    writeFileSync(join(root, 'node_modules/.cache'), 'in the way')
    says('four')
    expect(call()).toBe('four\n')
  })
})
