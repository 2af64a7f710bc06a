// A Yard of many walls costs what is shown of it, not what was ever recorded.
import { forget, isFolded, recordEntries } from '../server/record-store'
import type { WallRow } from '../server/wall-row'
import { wallFor } from '../server/walls'
import { AT_ONCE, yardOf, yardWall } from '../server/yard'
import { newWall, noteFor, site } from './site'

let s: Awaited<ReturnType<typeof site>>
let ids: string[]
const before = process.env.BUILT_FROM
beforeAll(async () => {
  process.env.BUILT_FROM = 'this build'
  s = await site()
  ids = []
  // The wall last worked on comes first.
  for (let i = AT_ONCE + 2; i >= 0; i--) ids.unshift(await newWall(s, `Wall ${i}`))
  for (const id of ids) forget(id)
})
afterAll(async () => {
  if (before === undefined) delete process.env.BUILT_FROM
  else process.env.BUILT_FROM = before
  await s.end()
})
const foldedNow = () => ids.filter(isFolded).length
const row = async (id: string) => (await wallFor(s.person('foreman'), id)) as WallRow
const yard = async () => (await yardOf(s.person('foreman'))).walls
const at = (i: number) => ids[i] as string

test('the first are looked at for the page, the others when they are asked for; the next page folds nothing', async () => {
  const first = await yard()
  expect(first.map((w) => w.id)).toEqual(ids)
  expect(first.filter((w) => 'unseen' in w).map((w) => w.name)).toEqual(['Wall 12', 'Wall 13', 'Wall 14'])
  expect(foldedNow()).toBe(AT_ONCE)

  expect(await yardWall(await row(at(13)))).toMatchObject({ id: at(13), set: 0, plan: { name: 'Wall 13' } })
  for (const id of ids) forget(id)
  const next = await yard()
  expect(next[0]).toEqual(first[0])
  // Of those further down nothing is sent but what is due, where somebody looked a moment ago.
  expect(next.slice(AT_ONCE).map((w) => [w.name, w.due !== undefined, 'plan' in w])).toEqual([
    ['Wall 12', false, false],
    ['Wall 13', true, false],
    ['Wall 14', false, false],
  ])
  expect(foldedNow()).toBe(0)
})

test('what was recorded since is never hidden by what was kept; nor by a newer application', async () => {
  const id = at(1)
  const entry = noteFor(id, 'half past')
  await recordEntries(id, s.person('crew'), [entry], Date.now())
  expect((await yard()).find((w) => w.id === id)).toMatchObject({ last: { at: entry.at } })
  await recordEntries(at(13), s.person('crew'), [noteFor(at(13), 'later')], Date.now())
  // Further down a moment ago: what was worked on comes to the top, looked at anew.
  expect((await yard())[0]).toMatchObject({ id: at(13), due: expect.anything(), plan: { name: 'Wall 13' } })
  process.env.BUILT_FROM = 'the next build'
  for (const w of ids) forget(w)
  await yard()
  expect(foldedNow()).toBe(AT_ONCE)
  process.env.BUILT_FROM = 'this build'
})

test('what is kept and was changed where it lies is not shown: of the first, and of what is due further down', async () => {
  await yard()
  await yardWall(await row(at(14)))
  const last = (await yard()).at(-1)?.id ?? ''
  await yardWall(await row(last))
  const change = (id: string) =>
    s.owner.pool.query(`UPDATE overview SET body = replace(body, '"due":[', '"due":[{"forged":true},') WHERE wall_id = $1`, [id])
  for (const id of ids) await change(id)
  for (const id of ids) forget(id)
  expect(JSON.stringify(await yard())).not.toContain('forged')
})

test('what was looked at a while ago is looked at anew, since the clock goes on', async () => {
  await yardWall(await row(at(14)))
  expect((await yard()).find((w) => w.id === at(14))?.due).toBeDefined()
  const age = (id: string, by: string) => s.owner.pool.query('UPDATE overview SET made_at = made_at - $2::interval WHERE wall_id = $1', [id, by])
  // What is due of a day is due all of that day; on another it is not known before somebody looks.
  await age(at(14), '1 day')
  await age(at(0), '1 hour')
  for (const w of ids) forget(w)
  expect((await yard()).find((w) => w.id === at(14))?.due).toBeUndefined()
  expect(isFolded(at(0))).toBe(true)
  forget(at(14))
  await yardWall(await row(at(14)))
  expect(isFolded(at(14))).toBe(true)
})

test('a record that cannot be folded hides its own wall and no other', async () => {
  await s.owner.pool.query('ALTER TABLE entry DISABLE TRIGGER USER')
  await s.owner.pool.query(`UPDATE entry SET body = '{"kind":' WHERE wall_id = $1 AND seq = 1`, [at(2)])
  // And one of which nothing says where it ends.
  await s.owner.pool.query('DELETE FROM chain_head WHERE wall_id = $1', [at(3)])
  for (const id of [at(2), at(3)]) forget(id)
  await s.owner.pool.query('DELETE FROM overview')
  const { walls, hidden } = await yardOf(s.person('foreman'))
  expect(hidden).toMatchObject([at(3), at(2)].map((id) => ({ id, why: expect.stringContaining('could not be looked at') })))
  expect(walls).toHaveLength(ids.length - 2)
})
