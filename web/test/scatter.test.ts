// What a company's walls say of its crews, from records in a real database.
import { canonical, issued, scatterIn, scatterOf } from '@stone-tally/core'
import { Site } from '../../core/test/site'
import { database } from '../server/database'
import { scatterFor } from '../server/scatter'
import { uuid7 } from '../server/walls'
import { newWall, planNamed, site } from './site'

let s: Awaited<ReturnType<typeof site>>
beforeAll(async () => {
  s = await site()
})
afterAll(() => s.end())

/** A wall built to its second course, put into the record as it stands: its photos are of no matter here. */
async function built(name: string) {
  const wall = await newWall(s, name)
  const made = new Site(issued(planNamed(name))).toBackfill().work('units', 'B', 2).work('level', 'B', 2)
  const entries = made.entries.map((e) => ({ ...e, id: uuid7(), wall }))
  await database().pool.query('SELECT id FROM append_entries($1::uuid, 1, $2::uuid[], $3::text[])', [
    wall,
    entries.map((e) => e.id),
    entries.map((e) => canonical(e)),
  ])
  return made
}

test('a company without readings has no scatter of its own; what its walls say is its own and nobody else’s', async () => {
  expect(await scatterFor(s.ours)).toEqual({})
  await newWall(s, 'Nothing read')
  expect(await scatterFor(s.ours)).toEqual({})
  const made = await built('Read to course 2')
  const level = scatterOf([scatterIn(made.state).level], 'level') as number
  expect(level).toBeGreaterThan(0)
  expect((await scatterFor(s.ours)).level).toBeCloseTo(level, 12)
  await built('Another')
  const seen = scatterIn(made.state).level
  expect((await scatterFor(s.ours)).level).toBeCloseTo(scatterOf([seen, seen], 'level') as number, 12)
  expect(await scatterFor(s.theirs)).toEqual({})
})
