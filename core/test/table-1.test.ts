// Walls planned and recorded before rule tables had numbers, as they were written then, and what the code of that day made of them.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { readRecordFile, tableOf, verifyRecordFile } from '@stone-tally/core'
import { layoutGolden, recordGolden, stateOfFile } from './golden'

const folder = join(__dirname, 'fixtures/table-1')
const walls = readdirSync(folder)
  .filter((f) => f.endsWith('.record.json'))
  .map((f) => f.replace('.record.json', ''))

test('every wall of that day is here', () => expect(walls).toHaveLength(5))
describe.each(walls)('%s', (wall) => {
  const read = readRecordFile(readFileSync(join(folder, `${wall}.record.json`), 'utf8'))
  if (!read.ok) throw new Error(JSON.stringify(read.problems))
  const state = stateOfFile(read.value)
  const was = JSON.parse(readFileSync(join(folder, `${wall}.golden.json`), 'utf8')) as { layout: object; record: object }
  test('its text, its chain and its plan hashes are untouched', () => {
    expect(verifyRecordFile(read.value)).toMatchObject({ intact: true })
    expect(tableOf(state.layout.plan)).toBe(1)
  })
  test('is laid out as it was', () => expect(layoutGolden(state.layout)).toEqual(was.layout))
  test('every entry keeps its verdict and its words, every report its figures', () => expect(recordGolden(state)).toEqual(was.record))
})
