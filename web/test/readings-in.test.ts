import { readReadingsCsv, say, type WallState } from '@stone-tally/core'
import { NOW, smallPlan } from '../../core/test/plans'
import { Site } from '../../core/test/site'
import { judgeReadings, levelsOf, type Taken } from '../features/prove/record/readings-in'

const by = { id: 'foreman', name: 'Olu', role: 'foreman' as const }
const judged = (state: WallState, text: string, taken: Taken = { method: 'deviation', hi: undefined }) => {
  const read = readReadingsCsv(text, 'm')
  if (!read.ok) throw new Error(read.problems[0]?.message)
  return judgeReadings(state, read.value, taken, { wall: 'w', revision: 1, by }, NOW)
}
const why = (state: WallState, text: string, units: 'metric' | 'imperial' = 'metric') =>
  judged(state, text).map((j) => (j.problem === undefined ? 'taken' : say(j.problem, units)))

describe('readings of a file', () => {
  const site = new Site(smallPlan).toFirstCourse()
  const { state } = site
  const b = state.layout.plan.sections.find((s) => s.id === 'B')
  if (!b) throw new Error('no section B')
  const middle = (b.from + b.to) / 2

  test('each is held against the wall: its section, its course, how high it is', () => {
    const [one] = judged(state, `station,course,reading\n${middle},1,0.002\n`)
    expect(one).toMatchObject({ section: 'B', deviation: 0.002, problem: undefined })
    expect(levelsOf(state)).toBe('level')
  })
  test('a rod reading is judged by its height of instrument', () => {
    const text = `station,course,reading\n${middle},1,1.5\n`
    const [low] = judged(state, text, { method: 'rod', hi: 11.5 })
    const [high] = judged(state, text, { method: 'rod', hi: 11.52 })
    expect((high?.deviation ?? 0) - (low?.deviation ?? 0)).toBeCloseTo(0.02, 9)
  })
  test('beyond the wall is said in the reader’s units; a course it does not have is refused', () => {
    const text = `station,course,reading\n3000,1,0.001\n${middle},99,0.001\n`
    expect(why(state, text)[0]).toMatch(/^station 3000 m is beyond the wall, which ends at \d/)
    expect(why(state, text, 'imperial')[0]).not.toMatch(/ m\b/)
    expect(why(state, text)[1]).not.toBe('taken')
    expect(judged(state, text)[1]?.deviation).toBeNaN()
  })
  test('a line that stands twice in the file is taken once; another value at the same point is another reading', () => {
    const text = `station,course,reading\n${middle},1,0.0021\n${middle},1,0.0021\n${middle},1,0.0035\n`
    expect(why(state, text)).toEqual(['taken', 'the same reading of this point stands in line 2 already', 'taken'])
  })
  test('a file that was taken already is found, until what it recorded is struck out', () => {
    const known = state.entries.filter((e) => e.entry.where.stage === 'level' && e.entry.kind === 'reading' && e.entry.where.section === 'B')
    const [first] = known
    if (!first) throw new Error('no reading')
    const { value, method } = first.entry.data as { value: number; method: string }
    expect(method).toBe('deviation')
    const text = `station,course,reading\n${first.entry.where.station},1,${value}\n`
    expect(why(state, text)).toEqual([`the same reading of this point stands as no. ${first.seq} already`])
    const without = { ...state, superseded: new Map(state.superseded).set(first.entry.id, 'struck') }
    expect(why(without, text)).toEqual(['taken'])
  })
})
