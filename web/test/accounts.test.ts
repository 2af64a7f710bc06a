import { getMigrations } from 'better-auth/db/migration'
import { accountOptions, addPerson, firstCompany, hasPeople, peopleOf, personOf, type SignedIn, signIn, signOutEverywhere } from '../server/accounts'
import { database } from '../server/database'
import { site } from './site'

let s: Awaited<ReturnType<typeof site>>
beforeAll(async () => {
  s = await site()
})
afterAll(() => s.end())
const none = new Headers()
const cookieOf = (into: SignedIn) => new Headers({ cookie: into.cookies.map((c) => c.split(';')[0]).join('; ') })

test('our tables are the ones the accounts library wants', async () => {
  const { toBeCreated, toBeAdded } = await getMigrations(accountOptions() as never)
  expect([toBeCreated.map((t) => t.table), toBeAdded.map((t) => [t.table, Object.keys(t.fields)])]).toEqual([[], []])
})

test('people sign in, are known by their cookie, and are gone when signed out everywhere', async () => {
  const added = await addPerson(s.ours, { name: 'Ida', email: 'Ida@Site.example', password: 'a long password', role: 'inspector' })
  expect(added.ok).toBe(true)
  const into = await signIn({ email: 'ida@site.example', password: 'a long password' }, none)
  if (!into.ok) throw new Error(into.problems[0]?.message)
  expect(into.value.cookies.join()).toMatch(/HttpOnly/i)
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

describe('the first page of an empty installation', () => {
  const code = 'abcd-2345'
  const ask = (n: number, more: object = {}) =>
    firstCompany({ code, company: `Firm ${n}`, name: 'Owner', email: `owner${n}@firm.example`, password: 'a long password', ...more })
  const left = async () => (await s.owner.pool.query('SELECT count(*)::int AS n FROM company')).rows[0].n
  beforeEach(async () => {
    process.env.SETUP_CODE = code
    for (const table of ['account', 'session', 'ended_session', '"user"', 'company', 'sign_in_throttle'])
      await s.owner.pool.query(`DELETE FROM ${table}`)
  })
  test('thirty ask at once: one company with its owner is made, nothing is left hanging', async () => {
    expect(await hasPeople()).toBe(false)
    const made = await Promise.all(Array.from({ length: 30 }, (_, n) => ask(n)))
    expect(made.filter((m) => m.ok)).toHaveLength(1)
    expect(await left()).toBe(1)
    const n = made.findIndex((m) => m.ok)
    const into = await signIn({ email: `owner${n}@firm.example`, password: 'a long password' }, none)
    expect(into.ok && (await personOf(cookieOf(into.value)))).toMatchObject({ role: 'office' })
    expect(database().pool.waitingCount).toBe(0)
    expect(await ask(40)).toMatchObject({ ok: false })
  }, 60_000)
  test('without a proper owner nothing is made, and a company left without a person does not stop the next', async () => {
    expect(await ask(1, { password: 'short' })).toMatchObject({ ok: false, problems: [{ field: 'password' }] })
    expect(await left()).toBe(0)
    await s.owner.pool.query("INSERT INTO company (name) VALUES ('Half made before')")
    expect(await hasPeople()).toBe(false)
    expect(await ask(2)).toMatchObject({ ok: true })
  })
  test('it takes the code that was printed at the start, and guessing it is paused', async () => {
    expect(await ask(1, { code: 'wrong-code' })).toMatchObject({ ok: false, problems: [{ field: 'code' }] })
    process.env.SETUP_CODE = ''
    expect(await ask(1, { code: '' })).toMatchObject({ ok: false })
    process.env.SETUP_CODE = code
    for (let i = 0; i < 8; i++) await ask(1, { code: `guess-${i}` })
    expect(await ask(1)).toMatchObject({ ok: false, problems: [{ field: 'code', message: expect.stringMatching(/too many tries/) }] })
    expect(await left()).toBe(0)
  })
})
