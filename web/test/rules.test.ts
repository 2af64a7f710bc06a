// The rule book of a company in a real database: who may, two at once, what a wall is issued under, and what stays for ever.
import { emptyRules, limitsOf, type Plan, type Rules } from '@stone-tally/core'
import { database } from '../server/database'
import { changesAt, levelsFor, putRules, rulesAt, sitesOf, wallsUnderOther } from '../server/rules'
import { createWall, issueRevision, revisionsOf, uuid7 } from '../server/walls'
import { planNamed, site } from './site'

let s: Awaited<ReturnType<typeof site>>
beforeAll(async () => {
  s = await site()
})
afterAll(() => s.end())

const COMPANY = { level: 'company' } as const
const strict = (value: number, why = 'our guarantee'): Rules => ({ ...emptyRules(), limits: [{ limit: 'compaction', value, why }] })
const put = (
  rules: unknown,
  base: unknown,
  reason: unknown = 'since the last claim',
  role: 'office' | 'foreman' | 'crew' = 'office',
  at: Parameters<typeof putRules>[1] = COMPANY,
) => putRules(s.person(role), at, rules, base, reason)

test('nothing was changed yet: what ships', async () => {
  expect(await rulesAt(s.ours, COMPANY)).toEqual({ number: 0, rules: emptyRules() })
  expect(await changesAt(s.ours, COMPANY)).toEqual([])
})

test('who may not, no reason, no base, rules that do not read: nothing is written', async () => {
  expect(await put(strict(97), 0, 'why', 'crew')).toMatchObject({ ok: false, problems: [{ field: 'role' }] })
  expect(await put(strict(97), 0, '')).toMatchObject({ ok: false, problems: [{ field: 'reason' }] })
  expect(await put(strict(97), undefined)).toMatchObject({ ok: false, problems: [{ field: 'base' }] })
  expect(await put(strict(400), 0)).toMatchObject({ ok: false, problems: [{ field: 'limits[0].value' }] })
  expect(await put('rules', 0)).toMatchObject({ ok: false })
  expect(await put({ ...strict(97), limits: [{ limit: 'shoreAbove', value: 2, why: 'deep' }] }, 0)).toMatchObject({
    ok: false,
    problems: [{ field: 'company.limits[0].value' }],
  })
  expect((await rulesAt(s.ours, COMPANY)).number).toBe(0)
})

test('a change is kept with author, day and reason; the same again is no change; another company sees nothing', async () => {
  expect(await put(strict(97), 0)).toEqual({ ok: true, value: { number: 1, misfits: [] } })
  const { rules } = await rulesAt(s.ours, COMPANY)
  expect(rules.limits?.[0]).toMatchObject({ value: 97, by: 'The office' })
  expect(await put(strict(97), 1)).toMatchObject({ ok: false, problems: [{ field: 'rules' }] })
  expect(await changesAt(s.ours, COMPANY)).toMatchObject([
    { number: 1, reason: 'since the last claim', by: 'The office', changes: [{ rule: 'limit.compaction' }] },
  ])
  expect((await rulesAt(s.theirs, COMPANY)).number).toBe(0)
})

test('what is changed later keeps the author of what was there', async () => {
  const both = { ...strict(97), choices: [{ choice: 'stone', option: 'plated', why: 'settles less' }] }
  expect(await put(both, 1, 'after the yard test', 'foreman')).toMatchObject({ ok: true })
  const { rules } = await rulesAt(s.ours, COMPANY)
  expect(rules.limits?.[0]?.by).toBe('The office')
  expect(rules.choices?.[0]?.by).toBe('The foreman')
})

test('two people at once: one change is made, the other learns whose', async () => {
  const answers = await Promise.all([96, 97.5, 98, 99].map((v) => put(strict(v), 2, `to ${v}`)))
  expect(answers.filter((a) => a.ok)).toHaveLength(1)
  for (const a of answers)
    if (!a.ok) expect(a.problems[0]).toMatchObject({ field: 'base', message: expect.stringContaining('made by The office meanwhile') })
  expect((await rulesAt(s.ours, COMPANY)).number).toBe(3)
})

test('the table refuses to forget', async () => {
  await expect(database().pool.query('DELETE FROM rule_set')).rejects.toThrow(/permission denied/)
  await expect(s.owner.pool.query("UPDATE rule_set SET reason = 'x'")).rejects.toThrow(/append-only/)
})

test('a wall is issued under the rules of its day, whole; what the company changes later touches it with the next revision only', async () => {
  const plan = { ...planNamed('Ruled'), site: 'North quay' }
  const made = await createWall(s.person('foreman'), plan)
  if (!made.ok) throw new Error(made.problems[0]?.message)
  const first = (await revisionsOf(made.value.id))[0]?.plan as Plan
  const before = limitsOf(first).compaction.value
  expect(first.book?.set.map((x) => x.rule)).toEqual(['limit.compaction'])
  expect(await put(strict(99.5, 'new guarantee'), 3)).toMatchObject({ ok: true })
  expect(limitsOf((await revisionsOf(made.value.id))[0]?.plan as Plan).compaction.value).toBe(before)
  expect(await wallsUnderOther(s.ours, COMPANY)).toMatchObject([
    { name: 'Ruled', revision: 1, changes: [{ rule: 'limit.compaction', is: '99.5 %' }] },
  ])
  expect(await issueRevision(s.person('office'), made.value.id, { ...plan, drawing: 'B' }, 1)).toMatchObject({ ok: true })
  expect(limitsOf((await revisionsOf(made.value.id))[1]?.plan as Plan).compaction.value).toBe(99.5)
  expect(await wallsUnderOther(s.ours, COMPANY)).toEqual([])
})

test('a site says what is different there; where it no longer fits its company’s that is told, and no revision is issued there', async () => {
  const at = { level: 'site', site: 'North quay' } as const
  expect(await sitesOf(s.ours)).toContain('North quay')
  const close: Rules = { ...emptyRules(), limits: [{ limit: 'gridFrontMax', value: 0.03, why: 'thin stones' }] }
  expect(await put(close, 0, 'thin stones', 'office', at)).toMatchObject({ ok: true, value: { number: 1 } })
  expect((await levelsFor(s.ours, 'North quay')).site.limits?.[0]?.value).toBe(0.03)
  expect((await levelsFor(s.ours, 'South quay')).site.limits).toBeUndefined()
  const answer = await put({ ...emptyRules(), limits: [{ limit: 'gridFrontMin', value: 0.04, why: 'wide lugs' }] }, 4)
  expect(answer).toMatchObject({
    ok: true,
    value: { misfits: [{ field: 'North quay', message: expect.stringContaining('over geogrid behind the face') }] },
  })
  const other = await createWall(s.person('foreman'), { ...planNamed('Second'), site: 'North quay' })
  expect(other).toMatchObject({ ok: false, problems: [{ field: 'site.limits' }] })
  expect(await createWall(s.person('foreman'), { ...planNamed('Third'), site: 'South quay' })).toMatchObject({ ok: true })
  expect(await put(close, 1, 'x', 'office', { level: 'site', site: '' })).toMatchObject({ ok: false })
})

test('the roles that keep the book are the company’s to name', async () => {
  const base = (await rulesAt(s.ours, COMPANY)).number
  expect(await put({ ...emptyRules(), keepers: [] }, base)).toMatchObject({ ok: false, problems: [{ field: 'keepers' }] })
  expect(await put({ ...emptyRules(), keepers: ['inspector'] }, base, 'the inspector alone')).toMatchObject({
    ok: false,
    problems: [{ field: 'keepers', message: expect.stringContaining('nobody of the company is inspector') }],
  })
  expect(await put({ ...emptyRules(), keepers: ['office'] }, base, 'the office alone')).toMatchObject({ ok: true })
  expect(await put(strict(97), base + 1, 'foreman again', 'foreman')).toMatchObject({
    ok: false,
    problems: [{ field: 'role', message: 'the rule book is kept by the office' }],
  })
})

test('a point of a wall’s own at a course that is not there, or a stage it has not, is refused with its field', async () => {
  const point = (at: object) => ({
    ...planNamed('Pointed'),
    site: 'South quay',
    rules: { added: [{ id: 'look', title: 'Look', kind: 'hold', roles: ['inspector'], own: false, why: 'contract', at }] },
  })
  const make = (at: object) => createWall(s.person('office'), point(at))
  expect(await make({ stage: 'level', section: 'B', course: 40 })).toMatchObject({ ok: false, problems: [{ field: 'rules.added[0].at.course' }] })
  expect(await make({ stage: 'lacing', section: 'B' })).toMatchObject({ ok: false, problems: [{ field: 'rules.added[0].at.stage' }] })
  expect(await make({ stage: 'level', section: 'Z' })).toMatchObject({ ok: false, problems: [{ field: 'rules.added[0].at.section' }] })
  expect(await make({ stage: 'level', section: 'B', course: 2 })).toMatchObject({ ok: true })
})

test('who does not keep the book changes no school or point by way of a plan; limits of a drawing are the planner’s', async () => {
  // The office keeps it alone by now.
  const plan = { ...planNamed('Back door'), site: 'South quay' }
  const slack = { choices: [{ choice: 'pad-test', option: 'method', why: 'quicker' }] }
  const refused = { ok: false, problems: [{ field: 'rules.choices', message: 'is a rule; the rule book is kept by the office' }] }
  expect(await createWall(s.person('foreman'), { ...plan, rules: slack })).toMatchObject(refused)
  const made = await createWall(s.person('office'), { ...plan, rules: slack })
  if (!made.ok) throw new Error(made.problems[0]?.message)
  const { id } = made.value
  // A foreman revises the plan and leaves the rules as they are; taking one out is changing it.
  const drawn = { ...slack, limits: [{ limit: 'compaction', value: 98, source: 'drawing 4, note 2' }] }
  expect(await issueRevision(s.person('foreman'), id, { ...plan, drawing: 'B', rules: drawn }, 1)).toMatchObject({ ok: true })
  expect(await issueRevision(s.person('foreman'), id, { ...plan, drawing: 'C' }, 2)).toMatchObject(refused)
  expect(await issueRevision(s.person('foreman'), id, { ...plan, rules: { ...drawn, ownRelease: true } }, 2)).toMatchObject({
    ok: false,
    problems: [{ field: 'rules.ownRelease' }],
  })
  const hold = { point: 'subgrade', kind: 'off', roles: [], own: false, why: 'quicker' }
  expect(await issueRevision(s.person('foreman'), id, { ...plan, rules: { ...drawn, points: [hold] } }, 2)).toMatchObject({
    ok: false,
    problems: [{ field: 'rules.points' }],
  })
})

test('a wall stands where it stands: calling its site otherwise does not get it out of that site’s rules', async () => {
  const at = { level: 'site', site: 'Strict quay' } as const
  expect(
    await put({ ...emptyRules(), limits: [{ limit: 'padLevel', value: 0.002, why: 'long units' }] }, 0, 'long units', 'office', at),
  ).toMatchObject({ ok: true })
  const plan = { ...planNamed('Moved in words'), site: 'Strict quay' }
  const made = await createWall(s.person('office'), plan)
  if (!made.ok) throw new Error(made.problems[0]?.message)
  expect(await issueRevision(s.person('office'), made.value.id, { ...plan, site: 'Other quay' }, 1)).toMatchObject({ ok: true })
  for (const r of await revisionsOf(made.value.id)) expect(limitsOf(r.plan as Plan).padLevel.value).toBe(0.002)
})

test('a site does not say who keeps the book; a wall of earlier shipped rules is listed with what its next revision would take up', async () => {
  const at = { level: 'site', site: 'Strict quay' } as const
  expect(await put({ ...emptyRules(), keepers: ['crew'] }, 1, 'the crew', 'office', at)).toMatchObject({
    ok: false,
    problems: [{ field: 'keepers' }],
  })
  const id = uuid7()
  const old = { ...planNamed('Of table 1'), site: 'Old quay' }
  await s.owner.db.insertInto('wall').values({ id, company_id: s.ours, name: old.name, site: old.site }).execute()
  await s.owner.db
    .insertInto('revision')
    .values({ wall_id: id, number: 1, plan: JSON.stringify(old), issued_by: 'somebody' })
    .execute()
  const [listed] = await wallsUnderOther(s.ours, { level: 'site', site: 'Old quay' })
  expect(listed).toMatchObject({ name: 'Of table 1', revision: 1 })
  expect(listed?.changes).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ rule: 'limit.cutSlope', was: '0.75H:1V', is: '1.5H:1V' }),
      expect.objectContaining({ rule: 'limit.ladder', was: 'none' }),
    ]),
  )
})

test('who set a rule is who put it in force, whatever a file says', async () => {
  const at = { level: 'site', site: 'Forged quay' } as const
  const forged = { by: 'Somebody else', on: '2001-01-01' }
  expect(
    await put({ ...emptyRules(), limits: [{ limit: 'padLevel', value: 0.004, why: 'long units', ...forged }] }, 0, 'from a file', 'office', at),
  ).toMatchObject({ ok: true })
  expect((await rulesAt(s.ours, at)).rules.limits?.[0]).toMatchObject({ by: 'The office' })
  const plan = {
    ...planNamed('Signed'),
    site: 'Forged quay',
    rules: { choices: [{ choice: 'stone', option: 'plated', why: 'settles less', ...forged }] },
  }
  const made = await createWall(s.person('office'), plan)
  if (!made.ok) throw new Error(made.problems[0]?.message)
  const first = (await revisionsOf(made.value.id))[0]?.plan as Plan
  expect(first.rules?.choices?.[0]).toMatchObject({ by: 'The office' })
  expect(first.book?.set.map((x) => x.by)).toEqual(['The office', 'The office'])
  // The next revision by another keeps who set it.
  expect(await issueRevision(s.person('foreman'), made.value.id, { ...first, drawing: 'B' }, 1)).toMatchObject({ ok: true })
  expect(((await revisionsOf(made.value.id))[1]?.plan as Plan).rules?.choices?.[0]).toEqual(first.rules?.choices?.[0])
})
