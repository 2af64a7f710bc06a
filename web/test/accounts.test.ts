import { getMigrations } from 'better-auth/db/migration'
import { accountOptions, addPerson, firstCompany, hasCompany, peopleOf, personOf, signIn, signOutEverywhere } from '../server/accounts'
import { database } from '../server/database'
import { site } from './site'

let s: Awaited<ReturnType<typeof site>>
beforeAll(async () => {
  s = await site()
})
afterAll(() => s.end())
const none = new Headers()
const cookieOf = (response: Response) =>
  new Headers({
    cookie: response.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; '),
  })

test('our tables are the ones the accounts library wants', async () => {
  const { toBeCreated, toBeAdded } = await getMigrations(accountOptions() as never)
  expect([toBeCreated.map((t) => t.table), toBeAdded.map((t) => [t.table, Object.keys(t.fields)])]).toEqual([[], []])
})

test('a first company is made once, and only once', async () => {
  expect(await hasCompany()).toBe(true)
  expect(await firstCompany({ company: 'Late', name: 'L', email: 'l@x.example', password: 'long enough now' })).toMatchObject({
    ok: false,
    problems: [{ field: 'company' }],
  })
})

test('people sign in, are known by their cookie, and are gone when signed out everywhere', async () => {
  const added = await addPerson(s.ours, { name: 'Ida', email: 'Ida@Site.example', password: 'a long password', role: 'inspector' })
  expect(added.ok).toBe(true)
  const into = await signIn({ email: 'ida@site.example', password: 'a long password' }, none)
  if (!into.ok) throw new Error(into.problems[0]?.message)
  expect(into.value.headers.get('set-cookie')).toMatch(/HttpOnly/i)
  const headers = cookieOf(into.value)
  expect(await personOf(headers)).toMatchObject({ name: 'Ida', role: 'inspector', companyId: s.ours })
  expect((await peopleOf(s.ours))[0]).toMatchObject({ name: 'Ida', devices: '1' })
  if (!added.ok) return
  expect(await signOutEverywhere(s.theirs, added.value.id)).toMatchObject({ ok: false })
  expect(await signOutEverywhere(s.ours, added.value.id)).toEqual({ ok: true, value: 1 })
  expect(await personOf(headers)).toBeUndefined()
})

test('a session that ran out is nobody', async () => {
  const into = await signIn({ email: 'ida@site.example', password: 'a long password' }, none)
  if (!into.ok) throw new Error(into.problems[0]?.message)
  await database()
    .db.updateTable('session')
    .set({ expiresAt: new Date(Date.now() - 1000) })
    .execute()
  expect(await personOf(cookieOf(into.value))).toBeUndefined()
})

test('passwords are kept by a memory-hard function, never as they are', async () => {
  const { rows } = await s.owner.pool.query('SELECT password FROM account')
  expect(rows[0].password).not.toContain('a long password')
  // scrypt: salt and key in hex.
  expect(rows[0].password).toMatch(/^[0-9a-f]{32}:[0-9a-f]{128}$/)
})

test('wrong tries are counted and then paused, right password or not', async () => {
  await addPerson(s.ours, { name: 'Tim', email: 'tim@site.example', password: 'another long one', role: 'crew' })
  for (let i = 0; i < 8; i++)
    expect(await signIn({ email: 'tim@site.example', password: 'wrong wrong' }, none)).toMatchObject({ ok: false, problems: [{ field: 'password' }] })
  expect(await signIn({ email: 'TIM@site.example', password: 'another long one' }, none)).toMatchObject({
    ok: false,
    problems: [{ message: expect.stringMatching(/too many tries.*wait 5 min/) }],
  })
  expect((await signIn({ email: 'nobody@site.example', password: 'wrong wrong' }, none)).ok).toBe(false)
})

test.each([
  [{ name: 'A', email: 'ida@site.example', password: 'long enough now', role: 'crew' }, 'email'],
  [{ name: 'A', email: 'not an address', password: 'long enough now', role: 'crew' }, 'email'],
  [{ name: 'A', email: 'a@x.example', password: 'short', role: 'crew' }, 'password'],
  [{ name: 'A', email: 'a@x.example', password: 'long enough now', role: 'king' }, 'role'],
  [{ name: 'A', email: 'a@x.example', password: 'long enough now', role: 'crew', companyId: 'other' }, 'companyId'],
])('a person like %j is refused by field', async (value, field) => {
  expect(await addPerson(s.ours, value)).toMatchObject({ ok: false, problems: [{ field }] })
})

test('on an empty installation the first company and its owner are made, however many ask at once', async () => {
  await s.owner.pool.query('DELETE FROM company')
  expect(await hasCompany()).toBe(false)
  const ask = (n: number) => firstCompany({ company: `Firm ${n}`, name: 'Owner', email: `owner${n}@firm.example`, password: 'a long password' })
  const made = await Promise.all([ask(1), ask(2), ask(3)])
  expect(made.filter((m) => m.ok)).toHaveLength(1)
  const n = made.findIndex((m) => m.ok) + 1
  const into = await signIn({ email: `owner${n}@firm.example`, password: 'a long password' }, none)
  expect(into.ok && (await personOf(cookieOf(into.value)))).toMatchObject({ role: 'office' })
})

test('a first company without a proper owner is not half made', async () => {
  await s.owner.pool.query('DELETE FROM company')
  expect(await firstCompany({ company: 'Firm', name: 'Owner', email: 'o@firm.example', password: 'short' })).toMatchObject({
    ok: false,
    problems: [{ field: 'password' }],
  })
  expect(await hasCompany()).toBe(false)
})
