import { densityReport, digReport, levelBooks, openFindings, templateOf, verifyChain, waitingHolds } from '@stone-tally/core'
import { database } from '../web/server/database'
import { glimpseFor } from '../web/server/glimpses'
import { keepTemplate, shelve } from '../web/server/planning'
import { chainOf, forget, recordEntries, stateOf } from '../web/server/record-store'
import { putRules } from '../web/server/rules'
import type { WallRow } from '../web/server/wall-row'
import { createWall, wallFor } from '../web/server/walls'
import { noteFor, planNamed, site } from '../web/test/site'
import { demoState, loadDemo, notOfTheDemo, removeDemo } from './load'

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
  expect(state.layout.building.layers).toHaveLength(4)
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
  expect(await demoState(s.owner.db)).toBe('none')
  expect(await s.owner.db.selectFrom('company').select('id').execute()).toHaveLength(2)
  await expect(s.owner.pool.query('DELETE FROM entry')).rejects.toThrow(/append-only/)
  await loadDemo()
  expect(await demoState(s.owner.db)).toBe('whole')
})

test('what people added to it is named before it is put back, what it brought itself is not', async () => {
  const others = '2 other companies, which stay'
  expect(await notOfTheDemo(s.owner.db)).toEqual([others])
  const { wall } = await loadDemo()
  const foreman = { ...s.person('foreman'), companyId: '0d3a0000-0000-7000-8000-000000000001' }
  const made = await createWall(foreman, planNamed('Their own'))
  expect(made.ok).toBe(true)
  expect(await recordEntries(wall, foreman, [noteFor(wall, 'by hand')], Date.now())).toMatchObject([{ ok: true }])
  expect(await notOfTheDemo(s.owner.db)).toEqual([
    others,
    '1 entry recorded on the demo walls, which goes',
    '1 wall made in the demo company, which goes',
  ])
  const office = { ...s.person('office'), companyId: '0d3a0000-0000-7000-8000-000000000001' }
  const rules = { format: 'stone-tally-rules', version: 1, shipped: 2, limits: [{ limit: 'compaction', value: 97, why: 'ours' }] }
  expect(await putRules(office, { level: 'company' }, rules, 0, 'our guarantee')).toMatchObject({ ok: true })
  expect(await notOfTheDemo(s.owner.db)).toContain('1 change of the demo company’s rule book, which goes')
  // What else is kept of its walls and people: a device's glimpse, a photo on its way, a wall put away, a template, what somebody has seen.
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  const own = (await wallFor(foreman, made.value.id)) as WallRow
  expect(await shelve(foreman, own, { stands: 'away' })).toMatchObject({ ok: true })
  expect(await keepTemplate(foreman, { name: 'Usual', plan: templateOf(planNamed('Usual'), 'Usual') })).toMatchObject({ ok: true })
  await glimpseFor(wall)
  const kept = async (table: string) => Number((await s.owner.pool.query(`SELECT count(*) AS n FROM ${table}`)).rows[0].n)
  for (const table of ['wall_shelf', 'template', 'glimpse', 'seen']) expect([table, await kept(table)]).not.toEqual([table, 0])
  expect(await notOfTheDemo(s.owner.db)).toContain('1 template of the demo company, which goes')
  await removeDemo(s.owner.db)
  expect(await notOfTheDemo(s.owner.db)).toEqual([others])
  for (const table of ['wall_shelf', 'template', 'glimpse', 'seen']) expect([table, await kept(table)]).toEqual([table, 0])
  for (const table of ['entry', 'wall_shelf', 'template']) await expect(s.owner.pool.query(`DELETE FROM ${table}`)).rejects.toThrow(/append-only/)
})

test('a loading cut off half-way is completed by the next, nothing twice', async () => {
  const { wall } = await loadDemo()
  const whole = (await stateOf(wall)).entries.filter((e) => e.entry.id.includes('-7d3a-8d3a-')).map((e) => e.entry.id)
  await removeDemo(s.owner.db)
  forget(wall)
  // The power goes in the middle of the first wall's story.
  const real = database().pool.query.bind(database().pool)
  let left = 4
  const spy = jest.spyOn(database().pool, 'query').mockImplementation(((...args: unknown[]) => {
    const text = (args[0] as { text?: string } | undefined)?.text ?? ''
    if (text.includes('append_entries') && left-- <= 0) throw new Error('the power went')
    return (real as (...a: unknown[]) => unknown)(...args)
  }) as never)
  await expect(loadDemo()).rejects.toThrow('the power went')
  spy.mockRestore()
  expect(await demoState(s.owner.db)).toBe('partly')
  const again = await loadDemo()
  expect(await demoState(s.owner.db)).toBe('whole')
  const ids = (await chainOf(again.wall)).entries.map((e) => e.entry.id).filter((id) => id.includes('-7d3a-8d3a-'))
  expect(ids).toHaveLength(whole.length)
  expect(new Set(ids).size).toBe(ids.length)
})
