import {
  headOf,
  layOut,
  PIECE_LIMIT,
  type EarlierPlan as Plan,
  pieceEstimate,
  type Run,
  reassemble,
  runsReceived,
  runsToSend,
  tooManyPieces,
} from '@stone-tally/core'
import { built, plain } from '../../core/test/plans'
import { database } from '../server/database'
import { follow } from '../server/feed'
import { laidOut } from '../server/layouts'
import { recordEntries } from '../server/record-store'
import { createWall } from '../server/walls'
import { newWall, noteFor, site, smallPlan, until } from './site'

let s: Awaited<ReturnType<typeof site>>
beforeAll(async () => {
  s = await site()
})
afterAll(() => s.end())
const numbers = (text: string) => [...text.matchAll(/^id: (\d+)$/gm)].map((m) => Number(m[1]))

test('two hundred follow a wall: each hears every entry once and in order, and the record is read once for all', async () => {
  const wall = await newWall(s, 'Followed')
  await recordEntries(wall, s.person('crew'), [noteFor(wall, 'a'), noteFor(wall, 'b')], Date.now())
  const heard = Array.from({ length: 200 }, () => '')
  const real = database().db.selectFrom.bind(database().db)
  let asked = 0
  const spy = jest.spyOn(database().db, 'selectFrom').mockImplementation(((t: string) => {
    if (t === 'entry') asked++
    return (real as (t: string) => unknown)(t)
  }) as never)
  const leave = heard.map((_, i) => follow(wall, i % 3, (events) => (heard[i] += events)))
  await until(() => heard.every((h) => numbers(h).includes(3)))
  asked = 0
  const rounds = 10
  for (let n = 0; n < rounds; n++) await recordEntries(wall, s.person('crew'), [noteFor(wall, `n${n}`)], Date.now())
  await until(() => heard.every((h) => numbers(h).includes(3 + rounds)))
  for (const l of leave) l()
  spy.mockRestore()
  heard.forEach((h, i) => {
    expect(numbers(h)).toEqual(Array.from({ length: 3 + rounds - (i % 3) }, (_, k) => k + 1 + (i % 3)))
  })
  // One question a notification, and never one a follower.
  expect(asked).toBeLessThanOrEqual(2 * rounds + 2)
})

test('who comes back from far behind is caught up, and what is recorded meanwhile is not missed', async () => {
  const wall = await newWall(s, 'Far behind')
  const notes = (n: number, from: number) => Array.from({ length: n }, (_, i) => noteFor(wall, `n${from + i}`))
  for (let i = 0; i < 5; i++) await recordEntries(wall, s.person('crew'), notes(900, i * 900), Date.now())
  let [front, behind] = ['', '']
  const one = follow(wall, 4490, (e) => (front += e))
  await until(() => numbers(front).includes(4501))
  const two = follow(wall, 0, (e) => (behind += e))
  await recordEntries(wall, s.person('crew'), notes(5, 9000), Date.now())
  await until(() => numbers(behind).includes(4506) && numbers(front).includes(4506))
  one()
  two()
  expect(numbers(behind)).toEqual(Array.from({ length: 4506 }, (_, i) => i + 1))
  expect(numbers(front)).toEqual(Array.from({ length: 16 }, (_, i) => i + 4491))
})

describe('a plan too large to be one wall', () => {
  const large = (length: number, top: number): Plan => ({
    ...smallPlan,
    length,
    unit: { ...smallPlan.unit, length: 0.1, height: 0.1 },
    grades: [
      { station: 0, toe: 10, top: 10 + top },
      { station: length, toe: 10, top: 10 + top },
    ],
    sections: [{ id: 'A', from: 0, to: length }],
    drain: { ...smallPlan.drain, outlets: [{ station: 0, invert: 9.9 }] },
    grid: [],
  })
  test('is refused in words before it is laid out', async () => {
    const began = Date.now()
    const answer = await createWall(s.person('foreman'), large(2000, 14.9))
    expect(plain(answer)).toMatchObject({
      ok: false,
      problems: [{ field: 'length', message: expect.stringMatching(/about 3,\d{3},\d{3} pieces.*at most 250,000.*walls of up to \d+ m each/) }],
    })
    expect(Date.now() - began).toBeLessThan(1000)
  })
  test.each([
    [30, 2],
    [12, 5],
  ])('the estimate is near what is laid out: %d m × %d m', (length, top) => {
    const plan = built(large(length, top))
    const laid = layOut(plan)
    if (!laid.ok) throw new Error(laid.problems[0]?.message)
    const pieces = [...laid.value.cells.values()].reduce((n, c) => n + c.pieces.length, 0)
    expect(pieceEstimate(plan) / pieces).toBeGreaterThan(0.95)
    expect(pieceEstimate(plan) / pieces).toBeLessThan(1.25)
    expect(tooManyPieces(plan)).toBeUndefined()
    expect(PIECE_LIMIT).toBe(250_000)
  })
  test('sent course by course and put together again it is the same layout', () => {
    const laid = layOut(built(smallPlan))
    if (!laid.ok) throw new Error(laid.problems[0]?.message)
    const head = structuredClone(headOf(laid.value))
    const runs: Run[][] = []
    for (let i = 0; i < head.courses.length; i++) runs.push(runsReceived(structuredClone(runsToSend(laid.value, i)), runs[i - 1] ?? []))
    const whole = reassemble(built(smallPlan), laid.value.system, head, runs)
    expect({ ...whole, building: undefined }).toEqual({ ...laid.value, building: undefined })
    // The runs below are the very ones of the course below.
    expect(whole.runs[1]?.every((r) => r.below.every((b) => whole.runs[0]?.includes(b)))).toBe(true)
  })
  test('a plan is laid out once, however many ask', async () => {
    const [a, b] = await Promise.all([laidOut(built(smallPlan)), laidOut({ ...built(smallPlan) })])
    expect(a.ok && b.ok && a.value === b.value).toBe(true)
  })
})
