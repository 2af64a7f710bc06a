import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type ChainedEntry, codeOf, linkOf, planHash, publicKeyOf, type RecordFile, signCheckpoint, writeRecordFile } from '@stone-tally/core'
import { entry, smallPlan, WALL } from '../core/test/plans'

const SECRET = '33'.repeat(32)
const folder = mkdtempSync(join(tmpdir(), 'tally-record-'))
const run = (...args: string[]) => {
  const { stdout, stderr, status } = spawnSync('bin/tally', ['record', ...args], { encoding: 'utf8' })
  return { out: stdout, err: stderr, code: status }
}

function fileOf(count: number): RecordFile {
  const entries: ChainedEntry[] = []
  let hash = WALL
  for (let i = 0; i < count; i++) {
    const e = i === 0 ? entry('revision', {}, { number: 1, plan: planHash(smallPlan) }) : entry('note', {}, { text: `day ${i} “é”` })
    const recorded = { seq: i + 1, receivedAt: '2026-05-20T10:00:00.000Z', entry: e }
    hash = linkOf(hash, recorded, (text) => createHash('sha256').update(text).digest('hex'))
    entries.push({ ...recorded, hash })
  }
  return { wall: WALL, revisions: [{ number: 1, issuedAt: '2026-05-20T10:00:00.000Z', plan: smallPlan }], entries, head: { seq: count, hash } }
}
const saved = (name: string, content: string) => {
  const path = join(folder, name)
  writeFileSync(path, content)
  return path
}
const file = fileOf(50)
const mark = signCheckpoint({ wall: WALL, day: '2026-05-20', seq: 40, hash: file.entries[39]?.hash as string }, SECRET)
const text = writeRecordFile({ ...file, checkpoints: [mark] }, '2026-06-01T00:00:00Z')

test('a record in lines and the same in any other layout are both checked, with what was looked at', () => {
  for (const content of [text, `\uFEFF${text}`, text.replace(/\n/g, '\r\n').replace(/\r/g, ''), JSON.stringify(JSON.parse(text), null, 2)]) {
    const { out, code } = run('verify', saved('whole.json', content))
    expect(out).toMatch(/^intact: 50 entries/)
    expect(out).toContain(`1 checkpoints signed by ${publicKeyOf(SECRET)}`)
    expect(code).toBe(0)
  }
})

test('codes that were kept, typed or in a file, and the key it has to be signed with', () => {
  const path = saved('codes.json', text)
  expect(run('verify', path, '--against', codeOf(mark), '--key', publicKeyOf(SECRET)).out).toMatch(/1 codes from outside/)
  expect(run('verify', path, '--against', saved('code.txt', `${codeOf(mark)}\n`)).code).toBe(0)
  const anew = saved('anew.json', writeRecordFile(fileOf(50), '2026-06-01T00:00:00Z').replace('day 45', 'day 46'))
  expect(run('verify', anew)).toMatchObject({ code: 1, err: expect.stringMatching(/entry 46 was altered/) })
  const cut = saved('cut.json', writeRecordFile(fileOf(30), '2026-06-01T00:00:00Z'))
  expect(run('verify', cut).code).toBe(0)
  expect(run('verify', cut, '--against', codeOf(mark))).toMatchObject({ code: 1, err: expect.stringMatching(/went up to 40/) })
  expect(run('verify', path, '--key', '00'.repeat(32))).toMatchObject({ code: 1, err: expect.stringMatching(/another installation/) })
})

test('what is no record, or asked wrongly, is refused with what to do', () => {
  const path = saved('whole2.json', text)
  for (const [args, message] of [
    [['verify', saved('half.json', text.slice(0, text.length / 2))], /cannot be read|cut off/],
    [['verify', saved('one.json', '{"format":"stone-tally"}')], /not a record/],
    [['verify', saved('other.json', '[1]')], /format/],
    [['verify', saved('empty.json', '')], /not complete JSON/],
    [['verify', join(folder, 'nothing.json')], /no such file/],
    [['verify', path, '--against', 'stone1qqqq'], /sign that is wrong or missing/],
    [['verify', path, '--against'], /needs a value/],
    [['verify', path, '--deep', 'x'], /unknown option --deep/],
    [['verify', path, '--key', 'abc'], /64 hex digits/],
    [['verify'], /verify FILE/],
    [['look', path], /verify FILE/],
  ] as const)
    expect(run(...args)).toMatchObject({ code: expect.any(Number), err: expect.stringMatching(message) })
})

test('a file of any length is read in the room of a line', () => {
  const path = saved('long.json', '')
  const long = fileOf(40_000)
  writeFileSync(path, writeRecordFile(long, '2026-06-01T00:00:00Z'))
  const { stdout, status } = spawnSync('bin/tally', ['record', 'verify', path], {
    encoding: 'utf8',
    env: { ...process.env, NODE_OPTIONS: '--max-old-space-size=40' },
  })
  expect(stdout).toMatch(/^intact: 40000 entries/)
  expect(status).toBe(0)
})
