import { SYSTEMS } from '@stone-tally/core'
import { catalogueOf, leaveOut, putUnits } from '../server/catalogue'
import { createWall, issueRevision, revisionsOf } from '../server/walls'
import { planNamed, site } from './site'

let s: Awaited<ReturnType<typeof site>>
beforeAll(async () => {
  s = await site()
})
afterAll(() => s.end())
const shipped = SYSTEMS.flatMap((x) => x.units)
const first = shipped[0]
if (!first) throw new Error('no units')

describe('the catalogue of a company', () => {
  test('is what ships until something is changed, and then only its own', async () => {
    expect(await catalogueOf(s.ours)).toHaveLength(shipped.length)
    expect(await putUnits(s.person('foreman'), [{ system: 'hollow-core', unit: { ...first, mass: 41 } }])).toEqual({ ok: true, value: 1 })
    const mine = (await catalogueOf(s.ours)).find((u) => u.unit.id === first.id)
    expect(mine).toMatchObject({ own: true, unit: { mass: 41 } })
    expect((await catalogueOf(s.theirs)).find((u) => u.unit.id === first.id)).toMatchObject({ own: false, unit: { mass: first.mass } })
  })
  test('a unit left out is gone until it is put in again', async () => {
    const ids = async () => (await catalogueOf(s.ours)).map((u) => u.unit.id)
    expect(await leaveOut(s.person('office'), 'garden-100')).toMatchObject({ ok: true })
    expect(await ids()).not.toContain('garden-100')
    expect(await leaveOut(s.person('office'), 'garden-100')).toMatchObject({ ok: false, problems: [{ field: 'id' }] })
    const garden = shipped.find((u) => u.id === 'garden-100')
    expect(await putUnits(s.person('office'), [{ system: 'hollow-core', unit: garden }])).toMatchObject({ ok: true })
    expect(await ids()).toContain('garden-100')
  })
  test('one bad unit takes none in, and names its field', async () => {
    const put = await putUnits(s.person('foreman'), [
      { system: 'hollow-core', unit: { ...first, id: 'fresh' } },
      { system: 'hollow-core', unit: { ...first, id: 'bad', height: 90 } },
      { system: 'ice', unit: first },
    ])
    expect(put).toMatchObject({ ok: false, problems: [{ field: 'units[1].unit.height' }, { field: 'units[2].system' }] })
    expect((await catalogueOf(s.ours)).map((u) => u.unit.id)).not.toContain('fresh')
    expect(await putUnits(s.person('foreman'), [])).toMatchObject({ ok: false })
  })
  test.each(['crew', 'inspector'] as const)('the %s may not keep it', async (role) => {
    expect(await putUnits(s.person(role), [{ system: 'hollow-core', unit: first }])).toMatchObject({ ok: false, problems: [{ field: 'role' }] })
    expect(await leaveOut(s.person(role), first.id)).toMatchObject({ ok: false, problems: [{ field: 'role' }] })
  })
  test('the application may not delete from it', async () => {
    const { database } = await import('../server/database')
    await expect(database().pool.query('DELETE FROM catalogue_unit')).rejects.toThrow(/permission denied/)
  })
})

test('a plan with a line that cannot be is refused before anything is written; a good one keeps its line', async () => {
  const bad = {
    ...planNamed('Crossed'),
    alignment: {
      vertices: [
        [0, 0],
        [9, 0],
        [9, 4],
        [4, -4],
      ].map(([easting, northing]) => ({ easting, northing })),
      closed: false,
    },
  }
  expect(await createWall(s.person('foreman'), bad)).toMatchObject({
    ok: false,
    problems: [{ field: 'alignment.vertices[2]', message: expect.stringContaining('crosses itself') }],
  })
  const made = await createWall(s.person('foreman'), planNamed('Lined'))
  if (!made.ok) throw new Error('no wall')
  const line = {
    vertices: [
      { easting: 100, northing: 50, bulge: 0 },
      { easting: 109, northing: 50, bulge: 0 },
    ],
    closed: false,
  }
  expect(await issueRevision(s.person('foreman'), made.value.id, { ...planNamed('Lined'), alignment: line }, 1)).toEqual({
    ok: true,
    value: { number: 2 },
  })
  expect((await revisionsOf(made.value.id))[1]?.plan.alignment).toEqual(line)
})
