// Walls put away and brought back, a made-up wall thrown away, templates of a company, what a person has seen.
import { copyOfPlan, issued, layOut, madeUpWall, templateOf } from '@stone-tally/core'
import { addPerson, mayNotAdd } from '../server/accounts'
import { database } from '../server/database'
import { hasSeen, keepTemplate, markSeen, shelve, templatesOf } from '../server/planning'
import { recordEntries, stateOf } from '../server/record-store'
import type { WallRow } from '../server/wall-row'
import { createWall, wallFor, wallsOf } from '../server/walls'
import { yardOf } from '../server/yard'
import { newWall, noteFor, planNamed, site } from './site'

let s: Awaited<ReturnType<typeof site>>
beforeAll(async () => {
  s = await site()
})
afterAll(() => s.end())
const row = async (id: string) => (await wallFor(s.person('foreman'), id)) as WallRow

test('a plan signed on a day that has not come is not issued; one signed today is', async () => {
  const plan = planNamed('Signed ahead')
  const day = (ahead: number) => new Date(Date.now() + ahead * 86_400_000).toISOString().slice(0, 10)
  expect(await createWall(s.person('foreman'), { ...plan, engineerOn: day(3) })).toMatchObject({ ok: false, problems: [{ field: 'engineerOn' }] })
  expect(await createWall(s.person('foreman'), { ...plan, engineerOn: day(0) })).toMatchObject({ ok: true })
})

describe('a wall put away', () => {
  test('goes from the Yard and is kept whole: opened, recorded on by a device that comes late, and brought back', async () => {
    const id = await newWall(s, 'Away wall')
    expect(await shelve(s.person('foreman'), await row(id), { stands: 'away', why: 'done' })).toMatchObject({ ok: true })
    const yard = await yardOf(s.person('foreman'))
    expect(yard.walls.some((w) => w.id === id)).toBe(false)
    expect(yard.away).toMatchObject([{ id, away: { by: 'The foreman', why: 'done' } }])
    const [outcome] = await recordEntries(id, s.person('crew'), [noteFor(id, 'came late')], Date.now())
    expect(outcome?.ok).toBe(true)
    expect((await stateOf(id)).entries.some((e) => e.entry.kind === 'note')).toBe(true)
    expect(await shelve(s.person('office'), await row(id), { stands: 'back' })).toMatchObject({ ok: true })
    expect((await yardOf(s.person('foreman'))).walls.some((w) => w.id === id)).toBe(true)
  })
  test('takes the foreman or the office; twice, or brought back where it stands, is refused in words', async () => {
    const id = await newWall(s, 'Twice away')
    expect(await shelve(s.person('crew'), await row(id), { stands: 'away' })).toMatchObject({ ok: false, problems: [{ field: 'role' }] })
    expect(await shelve(s.person('inspector'), await row(id), { stands: 'away' })).toMatchObject({ ok: false })
    expect(await shelve(s.person('foreman'), await row(id), { stands: 'back' })).toMatchObject({ ok: false, problems: [{ field: 'stands' }] })
    await shelve(s.person('foreman'), await row(id), { stands: 'away' })
    expect(await shelve(s.person('foreman'), await row(id), { stands: 'away' })).toMatchObject({ ok: false, problems: [{ field: 'stands' }] })
    for (const bad of [null, {}, { stands: 'gone' }, { stands: 'away', why: 'x'.repeat(300) }])
      expect((await shelve(s.person('foreman'), await row(id), bad)).ok).toBe(false)
  })
  test('two at the same moment: one of them, the other is told', async () => {
    const id = await newWall(s, 'Both at once')
    const wall = await row(id)
    const both = await Promise.all([shelve(s.person('foreman'), wall, { stands: 'away' }), shelve(s.person('office'), wall, { stands: 'away' })])
    expect(both.filter((b) => b.ok).length).toBeGreaterThanOrEqual(1)
    expect((await row(id)).away).toBeDefined()
  })
  test('a real wall is never thrown away; a made-up one is gone for everybody, and its company cannot open it', async () => {
    const real = await newWall(s, 'Real wall')
    expect(await shelve(s.person('office'), await row(real), { stands: 'thrown' })).toMatchObject({ ok: false, problems: [{ field: 'stands' }] })
    const made = await createWall(s.person('foreman'), madeUpWall(), Date.now(), true)
    if (!made.ok) throw new Error(JSON.stringify(made.problems))
    expect((await row(made.value.id)).madeUp).toBe(true)
    expect(await shelve(s.person('foreman'), await row(made.value.id), { stands: 'thrown' })).toMatchObject({ ok: true })
    expect(await wallFor(s.person('foreman'), made.value.id)).toBeUndefined()
    expect((await wallsOf(s.ours)).some((w) => w.id === made.value.id)).toBe(false)
    // Nothing is erased from the record, of any wall.
    await expect(database().db.deleteFrom('wall_shelf').execute()).rejects.toThrow()
  })
})

test('the made-up wall can be built by a crew without anybody else', () => {
  const laid = layOut(issued(madeUpWall()))
  expect(laid.ok && laid.value.cautions.filter((c) => c.blocks)).toEqual([])
  expect(laid.ok && laid.value.steps.length).toBeGreaterThan(1)
})

describe('templates', () => {
  const plan = () => templateOf(planNamed('Usual'), 'Usual')
  test('are the company’s own, the newest of a name, and taken out without a trace on the list', async () => {
    expect(await keepTemplate(s.person('foreman'), { name: ' Usual ', plan: plan() })).toEqual({ ok: true, value: { name: 'Usual' } })
    expect(await keepTemplate(s.person('office'), { name: 'Usual', plan: { ...plan(), frost: 0.5 } })).toMatchObject({ ok: true })
    expect(await templatesOf(s.ours)).toMatchObject([{ name: 'Usual', by: 'The office', plan: { frost: 0.5 } }])
    expect(await templatesOf(s.theirs)).toEqual([])
    expect(await keepTemplate(s.person('foreman'), { name: 'Usual', plan: null })).toMatchObject({ ok: true })
    expect(await templatesOf(s.ours)).toEqual([])
    expect(await keepTemplate(s.person('foreman'), { name: 'Usual', plan: null })).toMatchObject({ ok: false, problems: [{ field: 'name' }] })
  })
  test('what is no plan, no name, or from somebody who may not, is refused', async () => {
    expect(await keepTemplate(s.person('crew'), { name: 'A', plan: plan() })).toMatchObject({ ok: false, problems: [{ field: 'role' }] })
    for (const bad of [null, {}, { name: 'A' }, { name: '', plan: plan() }, { name: 'A', plan: { name: 'A' } }, { name: 7, plan: plan() }])
      expect((await keepTemplate(s.person('foreman'), bad)).ok).toBe(false)
    expect(await templatesOf(s.ours)).toEqual([])
  })
  test('one of a system that is gone is listed with what became of it, and begins nothing', async () => {
    const { owner } = s
    await owner.db
      .insertInto('template')
      .values({
        company_id: s.ours,
        name: 'Old',
        number: 1,
        plan: JSON.stringify({ ...plan(), system: { id: 'straw', data: {} } }),
        changed_by: 'Fay',
      })
      .execute()
    const [old] = await templatesOf(s.ours)
    expect(old).toMatchObject({ name: 'Old', why: expect.stringContaining('straw') })
    expect(old?.plan).toBeUndefined()
  })
  test('keep nothing of the place: no line, drawing, engineer, nor what stood there', () => {
    const kept = templateOf(
      { ...planNamed('X'), drawing: 'D', found: { points: [{ station: 0, behind: 0, level: 1 }] }, stands: [{ kind: 'pool' }] } as never,
      'T',
    )
    for (const gone of ['alignment', 'drawing', 'engineer', 'engineerBy', 'found', 'stands', 'openings', 'builtIn', 'padSteps'])
      expect(kept).not.toHaveProperty(gone)
    expect(copyOfPlan(planNamed('X'), 'Y')).not.toHaveProperty('found')
  })
})

test('what a person has seen is seen on every device, and only theirs; anything else is no such thing', async () => {
  const [fay, ian] = [s.person('foreman'), s.person('inspector')]
  expect(await hasSeen(fay, 'walk')).toBe(false)
  expect(await markSeen(fay, { what: 'walk' })).toMatchObject({ ok: true })
  expect(await markSeen(fay, { what: 'walk' })).toMatchObject({ ok: true })
  expect([await hasSeen(fay, 'walk'), await hasSeen(ian, 'walk')]).toEqual([true, false])
  expect((await markSeen(fay, { what: 'everything' })).ok).toBe(false)
})

test('who begins alone adds everybody; once there is an office a foreman adds the people of the site alone', async () => {
  const [foreman, crew, office] = [s.person('foreman'), s.person('crew'), s.person('office')]
  for (const role of ['crew', 'inspector', 'foreman', 'office']) expect(await mayNotAdd(foreman, role)).toBeUndefined()
  expect((await addPerson(s.ours, { name: 'Olu', email: 'olu@site.example', password: 'long-enough-1', role: 'office' })).ok).toBe(true)
  expect(await mayNotAdd(foreman, 'office')).toMatch(/added by the office/)
  expect(await mayNotAdd(foreman, 'inspector')).toBeUndefined()
  expect(await mayNotAdd(office, 'office')).toBeUndefined()
  for (const who of [crew, s.person('inspector')]) expect(await mayNotAdd(who, 'crew')).toMatch(/takes the office or the foreman/)
  // Another company's office is nobody's here.
  expect(await mayNotAdd(s.person('foreman', s.theirs), 'office')).toBeUndefined()
})
