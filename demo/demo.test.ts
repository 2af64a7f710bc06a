import { densityReport, digReport, levelBooks, openFindings, verifyChain, waitingHolds } from '@stone-tally/core'
import { chainOf, stateOf } from '../web/server/record-store'
import { site } from '../web/test/site'
import { demoPresent, loadDemo, removeDemo } from './load'

let s: Awaited<ReturnType<typeof site>>
beforeAll(async () => {
  s = await site()
})
afterAll(() => s.end())

test('the demo tells its story: half built, five findings closed and one open, one hold waiting', async () => {
  const { wall } = await loadDemo()
  const state = await stateOf(wall)
  expect([...state.outs.keys()].map((id) => state.byId.get(id)?.entry.kind).sort()).toEqual([
    'density',
    'reading',
    'reading',
    'reading',
    'reading',
    'soil',
  ])
  expect(openFindings(state)).toHaveLength(1)
  expect(waitingHolds(state).map((h) => h.stage.hold)).toEqual(['first-course'])
  expect(new Set(state.entries.map((e) => e.entry.by.name)).size).toBe(3)
  const days = state.entries.filter((e) => e.entry.kind !== 'revision').map((e) => Date.parse(e.entry.at))
  expect((Math.max(...days) - Math.min(...days)) / 86_400_000).toBeGreaterThan(14)
  expect(state.layout.plan.grid).toHaveLength(4)
  const dug = digReport(state)
  expect(dug.left).toBeCloseTo(0, 6)
  expect(dug.planned).toBeGreaterThanOrEqual(dug.room)
  expect(densityReport(state).tests.filter((t) => t.closed)).toHaveLength(1)
  const books = levelBooks(state)
  for (const b of books) expect(b.book.ok).toBe(true)
  expect(books.flatMap((b) => (b.book.ok ? b.book.value.legs : [])).map((l) => l.within)).toEqual([true])
  const { entries, head } = await chainOf(wall)
  expect(verifyChain(wall, entries, head)).toMatchObject({ intact: true })
})

test('it can be put back without touching another company', async () => {
  await removeDemo(s.owner.db)
  expect(await demoPresent(s.owner.db)).toBe(false)
  expect(await s.owner.db.selectFrom('company').select('id').execute()).toHaveLength(2)
  await expect(s.owner.pool.query('DELETE FROM entry')).rejects.toThrow(/append-only/)
  await loadDemo()
  expect(await demoPresent(s.owner.db)).toBe(true)
})
