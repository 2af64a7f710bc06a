import { accountOptions, addPerson, asked, hasPeople, peopleOf, personOf, type SignedIn, signIn } from '../server/accounts'
import { database } from '../server/database'
import { watch } from '../server/live'
import { addressOf, isSecure, networkOf, PEER } from '../server/network'
import { passkeysOf, passkeyWanted } from '../server/passkeys'
import { hashed, isPassword, PASSWORD, SignInBusy, wrongPassword } from '../server/passwords'
import {
  changePassword,
  changeRole,
  companyByOperator,
  invitationsOf,
  invite,
  LINK_HOURS,
  linkFor,
  removePerson,
  resetLink,
  takeLink,
  withdraw,
} from '../server/people'
import { securityLogOf } from '../server/security-log'
import { cookieGone, deviceOf, endSession, type Person, sessionsOf, setSessionRule, signOut, tokenOf } from '../server/sessions'
import { eventStream } from '../server/streams'
import { tried } from '../server/throttle'
import { site } from './site'

let s: Awaited<ReturnType<typeof site>>
const WORD = 'a long password'
let office: Person
const add = async (name: string, role: Person['role'], companyId = s.ours): Promise<Person> => {
  const email = `${name.toLowerCase()}@site.example`
  const made = await addPerson(companyId, { name, email, password: WORD, role })
  if (!made.ok) throw new Error(made.problems[0]?.message)
  return { id: made.value.id, name, email, role, companyId }
}
beforeAll(async () => {
  s = await site()
  office = await add('Odette', 'office')
})
afterAll(() => s.end())

const from = (peer: string, more: Record<string, string> = {}) => new Headers({ [PEER]: peer, ...more })
const carrying = (into: SignedIn, more: Record<string, string> = {}) =>
  new Headers({ cookie: into.cookies.map((c) => c.split(';')[0]).join('; '), ...more })
const enter = async (email: string, headers = from('10.0.0.1'), password = WORD): Promise<SignedIn> => {
  const into = await signIn({ email, password }, headers)
  if (!into.ok) throw new Error(into.problems[0]?.message)
  return into.value
}
const request = (headers = from('10.0.0.1')) => new Request('http://127.0.0.1/api', { headers })
const said = (r: { ok: boolean; problems?: readonly { message: string }[] }) => (r.ok ? 'ok' : r.problems?.[0]?.message)

describe('passwords', () => {
  test.each([
    'short',
    'elevenlong1',
    'password1234',
    'Password123!',
    'qwertyuiop12',
    'aaaaaaaaaaaa',
    '123456789012',
    'iloveyou1234',
    'passwordpassword',
  ])('%s is refused', (p) => expect(wrongPassword(p, [])).toBeDefined())
  test('what everybody knows of a person is none', () => {
    expect(wrongPassword('odettesaltmarsh', ['Odette Saltmarsh', 'odette@saltmarsh.example'])).toBeDefined()
    expect(wrongPassword('saltmarsh2026', ['Saltmarsh Walls'])).toBeDefined()
  })
  test.each(['a long password', 'quarry-lantern', 'gravel heron brass nine', `${'ß'.repeat(3)} keel mortar fog`])('%s will do', (p) =>
    expect(wrongPassword(p, [])).toBeUndefined(),
  )
  test('longest is refused beyond its limit and looked at quickly before', () => {
    expect(wrongPassword('x'.repeat(PASSWORD.max + 1), [])).toBeDefined()
    expect(wrongPassword('Ax9#'.repeat(32).slice(0, 100), [])).toBeDefined()
  })
  test('are kept as the accounts library keeps them, and told apart', async () => {
    const { hashPassword, verifyPassword } = await import('better-auth/crypto')
    const hash = await hashed('a long pässword')
    expect(await isPassword({ hash, password: 'a long pässword' })).toBe(true)
    expect(await isPassword({ hash, password: 'a long pa\u0308ssword' })).toBe(true)
    expect(await isPassword({ hash, password: 'a long passwörd' })).toBe(false)
    expect(await isPassword({ hash: await hashPassword('kept before us'), password: 'kept before us' })).toBe(true)
    expect(await verifyPassword({ hash, password: 'a long pässword' })).toBe(true)
    expect(await isPassword({ hash: '', password: 'x' })).toBe(false)
  })
  test('a flood of them is told to come again, and holds up nothing else', async () => {
    const flood = Array.from({ length: 80 }, () => hashed(WORD).catch((e) => e))
    let turns = 0
    const clock = setInterval(() => turns++, 5)
    const began = Date.now()
    await database().pool.query('SELECT 1')
    expect(Date.now() - began).toBeLessThan(1000)
    const answers = await Promise.all(flood)
    clearInterval(clock)
    expect(answers.filter((a) => a instanceof SignInBusy)).toHaveLength(80 - 64)
    expect(answers.filter((a) => typeof a === 'string')).toHaveLength(64)
    expect(turns).toBeGreaterThan(20)
  })
})

describe('where a request comes from', () => {
  test('is what our front saw, whatever the client says of it', () => {
    const headers = from('203.0.113.9', { 'x-forwarded-for': '198.51.100.1', 'x-forwarded-proto': 'https' })
    expect(addressOf(headers)).toBe('203.0.113.9')
    expect(isSecure(headers)).toBe(false)
  })
  test('behind a proxy of ours the last it wrote, not what stood there before', () => {
    process.env.TRUST_PROXY = '1'
    const headers = from('127.0.0.1', { 'x-forwarded-for': '6.6.6.6, 198.51.100.1', 'x-forwarded-proto': 'http, https' })
    expect(addressOf(headers)).toBe('198.51.100.1')
    expect(isSecure(headers)).toBe(true)
    expect(isSecure(from('127.0.0.1'))).toBe(false)
    delete process.env.TRUST_PROXY
  })
  test.each([
    ['203.0.113.9', '203.0.113.9'],
    ['::ffff:203.0.113.9', '203.0.113.9'],
    ['2001:db8:1:2:3:4:5:6', '2001:db8:1:2::/64'],
    ['2001:db8::6', '2001:db8:0:0::/64'],
    ['::1', '0:0:0:0::/64'],
    ['fe80::1%eth0', 'fe80:0:0:0::/64'],
    ['', ''],
  ])('%s is of the network %s', (address, network) => expect(networkOf(from(address))).toBe(network))
})

describe('the throttle', () => {
  test('an attacker from elsewhere never locks a person out of a device they are known on', async () => {
    const ned = await add('Ned', 'crew')
    const mine = carrying(await enter(ned.email, from('10.0.0.5')), { [PEER]: '10.0.0.5' })
    for (let net = 0; net < 9; net++) for (let i = 0; i < 8; i++) await signIn({ email: ned.email, password: 'wrong wrong' }, from(`198.51.${net}.1`))
    // From everywhere it is not known from it is paused by now, and so is whoever attacks.
    expect(said(await signIn({ email: ned.email, password: WORD }, from('198.51.99.1')))).toMatch(/too many tries for this address/)
    expect(said(await signIn({ email: ned.email, password: WORD }, mine))).toBe('ok')
    // A device that is known for one person is not known for another.
    expect(said(await signIn({ email: office.email, password: 'wrong wrong' }, mine))).toMatch(/is wrong/)
  })
  test('a network that tries many addresses is paused', async () => {
    const answers: (string | undefined)[] = []
    for (let i = 0; i < 62; i++) answers.push(said(await tried('network', '192.0.2.7', 'email', 'from this network')))
    expect(answers.filter((a) => a === 'ok')).toHaveLength(60)
    expect(answers[61]).toMatch(/too many tries from this network/)
  })
  test('a crew of a hundred signs in over one line in the morning', async () => {
    for (let i = 0; i < 100; i++) expect(said(await signIn({ email: office.email, password: WORD }, from('192.0.2.77')))).toBe('ok')
  })
  test('on a known device too a guess is one of eight', async () => {
    const pia = await add('Petra', 'crew')
    const mine = carrying(await enter(pia.email))
    for (let i = 0; i < 8; i++) expect(said(await signIn({ email: pia.email, password: 'wrong wrong' }, mine))).toMatch(/is wrong/)
    expect(said(await signIn({ email: pia.email, password: WORD }, mine))).toMatch(/too many tries/)
  })
})

describe('links', () => {
  test('an invitation makes one account in its role, once, and signs in', async () => {
    const made = await invite(office, { name: 'Rory', role: 'crew' }, request())
    if (!made.ok) throw new Error(said(made))
    const { token } = made.value
    expect(token).toMatch(/^[\w-]{43}$/)
    const kept = await s.owner.pool.query('SELECT token_hash FROM one_time_link')
    expect(kept.rows.map((r) => r.token_hash)).not.toContain(token)
    expect(await linkFor(token)).toMatchObject({ what: 'invite', name: 'Rory', role: 'crew', company: 'Ours', made_by: 'Odette' })
    const use = (more: object = {}) => takeLink({ token, email: 'rory@site.example', password: WORD, ...more }, from('10.0.0.8'))
    expect(said(await use({ password: 'short' }))).toMatch(/at least 12/)
    expect(said(await use({ email: office.email }))).toMatch(/has an account already/)
    expect(await linkFor(token)).toBeDefined()
    const both = await Promise.all([use(), use({ email: 'rory2@site.example' })])
    expect(both.filter((b) => b.ok)).toHaveLength(1)
    const into = both.find((b) => b.ok)
    if (into?.ok) expect(await personOf(carrying(into.value))).toMatchObject({ name: 'Rory', role: 'crew', companyId: s.ours })
    expect(said(await use({ email: 'third@site.example' }))).toMatch(/was used, or its time is over/)
  })
  test('it ends by itself, and nobody invites above what they may', async () => {
    const made = await invite(office, { role: 'inspector' }, request())
    if (!made.ok) throw new Error(said(made))
    expect(await linkFor(made.value.token, Date.now() + LINK_HOURS.invite * 3_600_000 + 1)).toBeUndefined()
    const foreman = await add('Fay', 'foreman')
    expect(said(await invite(foreman, { role: 'office' }, request()))).toMatch(/added by the office/)
    expect(said(await invite(foreman, { role: 'crew' }, request()))).toBe('ok')
    expect(said(await invite(await add('Cal', 'crew'), { role: 'crew' }, request()))).toMatch(/takes the office or the foreman/)
    for (const token of ['', 'x', "'; DROP TABLE one_time_link; --", 'a'.repeat(43)]) expect(await linkFor(token)).toBeUndefined()
  })
  test('a crew of thirty joins over one line in one morning', async () => {
    for (let i = 0; i < 30; i++) {
      const made = await invite(office, { role: 'crew' }, request())
      if (!made.ok) throw new Error(said(made))
      const who = { token: made.value.token, name: `Hand ${i}`, email: `hand${i}@site.example`, password: WORD }
      expect(said(await takeLink(who, from('192.0.2.99')))).toBe('ok')
    }
  })
  test('one by which a password is set anew: by the office, for its own people; the old one and every session end', async () => {
    const lee = await add('Lee', 'crew')
    const before = carrying(await enter(lee.email))
    expect(said(await resetLink({ ...office, companyId: s.theirs }, lee.id, request()))).toMatch(/not a person of your company/)
    expect(said(await resetLink(lee, office.id, request()))).toMatch(/takes the office/)
    const made = await resetLink(office, lee.id, request())
    if (!made.ok) throw new Error(said(made))
    expect(await personOf(before)).toBeDefined()
    const into = await takeLink({ token: made.value.token, password: 'gravel heron brass nine' }, from('10.0.0.2'))
    if (!into.ok) throw new Error(said(into))
    expect(await personOf(before)).toBeUndefined()
    expect(await personOf(carrying(into.value))).toMatchObject({ id: lee.id })
    expect(said(await signIn({ email: lee.email, password: WORD }, from('10.0.0.3')))).toMatch(/is wrong/)
    expect(said(await signIn({ email: lee.email, password: 'gravel heron brass nine' }, from('10.0.0.3')))).toBe('ok')
    expect(said(await takeLink({ token: made.value.token, password: 'another heron brass ten' }, from('10.0.0.2')))).toMatch(/was used/)
  })
  test('a company by the operator is one of its own, with nobody in it but who takes the link', async () => {
    const made = await companyByOperator('Third Walls', 'office', 'operator')
    const into = await takeLink({ token: made.token, name: 'Zoe', email: 'zoe@third.example', password: WORD }, from('10.0.0.9'))
    if (!into.ok) throw new Error(said(into))
    const zoe = await personOf(carrying(into.value))
    expect(zoe).toMatchObject({ companyId: made.companyId, role: 'office' })
    expect((await peopleOf(made.companyId)).map((p) => p.name)).toEqual(['Zoe'])
    expect(await hasPeople()).toBe(true)
    if (zoe) expect(said(await removePerson(zoe, office.id, request()))).toMatch(/not a person of your company/)
  })
})

describe('roles and leaving', () => {
  test('a role that is changed ends every session, open streams too, at once', async () => {
    const kim = await add('Kim', 'crew')
    const headers = carrying(await enter(kim.email))
    const leave = watch('any wall', () => {})
    await new Promise((r) => setTimeout(r, 300))
    const stream = eventStream(new Request('http://x/live', { headers }), 'kim', undefined, () => () => {})
    const reader = (stream.body as ReadableStream<Uint8Array>).getReader()
    const began = Date.now()
    expect(await changeRole(office, kim.id, 'foreman', request())).toEqual({ ok: true, value: 'foreman' })
    let text = ''
    for (;;) {
      const { done, value } = await reader.read()
      if (done) break
      text += new TextDecoder().decode(value)
    }
    leave()
    expect(text).toContain('event: lost')
    expect(Date.now() - began).toBeLessThan(5_000)
    expect(await personOf(headers)).toBeUndefined()
    expect(await personOf(carrying(await enter(kim.email)))).toMatchObject({ role: 'foreman' })
  })
  test('only who looks after the company changes it, to roles there are, and never away from its last office', async () => {
    const una = await add('Una', 'crew')
    expect(said(await changeRole(una, una.id, 'office', request()))).toMatch(/takes the office/)
    expect(said(await changeRole(office, una.id, 'boss', request()))).toMatch(/must be one of/)
    expect(said(await changeRole(office, office.id, 'crew', request()))).toMatch(/last of the office/)
    expect(said(await changeRole({ ...office, companyId: s.theirs }, una.id, 'office', request()))).toMatch(/not a person of your company/)
  })
  test('who is removed is out at once and stays in what they recorded; the address can be invited again', async () => {
    const tom = await add('Tom', 'crew')
    const headers = carrying(await enter(tom.email))
    expect(said(await removePerson(office, office.id, request()))).toMatch(/nobody removes themselves/)
    expect(said(await removePerson(office, tom.id, request()))).toBe('ok')
    expect(await personOf(headers)).toBeUndefined()
    expect(said(await signIn({ email: tom.email, password: WORD }, from('10.0.1.1')))).toMatch(/is wrong/)
    expect((await peopleOf(s.ours)).map((p) => p.name)).not.toContain('Tom')
    expect((await add('Tom', 'crew')).id).not.toBe(tom.id)
    expect(said(await removePerson(office, tom.id, request()))).toMatch(/not a person of your company/)
  })
})

describe('nobody comes back', () => {
  const token = (made: Awaited<ReturnType<typeof invite>>) => {
    if (!made.ok) throw new Error(said(made))
    return made.value.token
  }
  const joining = (t: string, email: string) => takeLink({ token: t, name: 'Back', email, password: WORD }, from('10.0.4.1'))

  test('an invitation dies with the right of who made it: removed, demoted, or never right', async () => {
    const [ona, quinn] = [await add('Ona', 'office'), await add('Wanda', 'foreman')]
    const [asOffice, asCrew, byForeman] = [
      token(await invite(ona, { role: 'office' }, request())),
      token(await invite(ona, { role: 'crew', name: 'Ed' }, request())),
      token(await invite(quinn, { role: 'crew' }, request())),
    ]
    expect((await invitationsOf(s.ours)).filter((i) => ['Ona', 'Wanda'].includes(i.by))).toHaveLength(3)
    // A foreman may still invite the crew, and nobody for the office.
    expect(said(await changeRole(office, ona.id, 'foreman', request()))).toBe('ok')
    expect(await linkFor(asOffice)).toBeUndefined()
    expect(said(await joining(asOffice, 'back@site.example'))).toMatch(/was used, or its time is over/)
    expect(await linkFor(asCrew)).toBeDefined()
    expect(said(await removePerson(office, quinn.id, request()))).toBe('ok')
    expect(said(await joining(byForeman, 'back@site.example'))).toMatch(/was used, or its time is over/)
    expect((await invitationsOf(s.ours)).filter((i) => ['Ona', 'Wanda'].includes(i.by)).map((i) => i.name)).toEqual(['Ed'])
  })
  test('is withdrawn by whoever may make one like it, and by nobody of another company', async () => {
    const t = token(await invite(office, { role: 'office', name: 'Vera' }, request()))
    const vera = (await invitationsOf(s.ours)).find((i) => i.name === 'Vera')
    expect(JSON.stringify(vera)).not.toContain(t)
    const foreman = await add('Rolf', 'foreman')
    expect(said(await withdraw(foreman, vera?.id ?? '', request()))).toMatch(/added by the office/)
    expect(said(await withdraw({ ...office, companyId: s.theirs }, vera?.id ?? '', request()))).toMatch(/no invitation of your company/)
    expect(said(await withdraw(office, 'nothing', request()))).toMatch(/no invitation of your company/)
    expect(said(await withdraw(office, vera?.id ?? '', request()))).toBe('ok')
    expect(said(await withdraw(office, vera?.id ?? '', request()))).toMatch(/no invitation/)
    expect(said(await joining(t, 'vera@site.example'))).toMatch(/was used, or its time is over/)
  })
  test('of links for a new password the newest alone serves, none after any change of it, none of who was removed', async () => {
    const [nan, helper] = [await add('Nan', 'crew'), await add('Hal', 'office')]
    const set = (t: string, more: object = {}) => takeLink({ token: t, password: 'gravel heron brass nine', ...more }, from('10.0.4.2'))
    const [first, second] = [token(await resetLink(office, nan.id, request())), token(await resetLink(office, nan.id, request()))]
    expect(await linkFor(first)).toBeUndefined()
    expect(await linkFor(second)).toBeDefined()
    const here = await asked(carrying(await enter(nan.email)))
    expect(said(await changePassword(nan, here?.session.id ?? '', { current: WORD, password: 'gravel heron brass nine' }, request()))).toBe('ok')
    expect(said(await set(second))).toMatch(/was used, or its time is over/)
    const third = token(await resetLink(helper, nan.id, request()))
    expect(said(await removePerson(office, helper.id, request()))).toBe('ok')
    expect(said(await set(third))).toMatch(/was used, or its time is over/)
    // A passkey somebody left there is named, and decided about.
    await s.owner.pool.query(
      `INSERT INTO passkey (id, person, public_key, counter, transports, name) VALUES ('left', $1, '', 0, '[]', 'Old phone')`,
      [nan.id],
    )
    const fourth = token(await resetLink(office, nan.id, request()))
    expect(said(await set(fourth))).toMatch(/say whether they stay/)
    expect(said(await set(fourth, { passkeys: 'remove' }))).toBe('ok')
    expect(await passkeysOf(nan.id)).toEqual([])
  })
  test('another passkey is given to who has the password, not to who has the device', async () => {
    const lou = await add('Lou', 'crew')
    const named = new Headers({ origin: 'http://localhost:3080' })
    expect(said(await passkeyWanted(lou, '', named))).toMatch(/not your password/)
    expect(said(await passkeyWanted(lou, 'nonsense', named))).toMatch(/not your password/)
    expect(said(await passkeyWanted(lou, WORD, named))).toBe('ok')
  })
  test('two of the office who remove or demote each other at once never leave a company without one, 100 times', async () => {
    const made = await companyByOperator('Race Walls', 'office', 'operator')
    const two = [await add('Rhea', 'office', made.companyId), await add('Saul', 'office', made.companyId)] as const
    for (let round = 0; round < 100; round++) {
      const each = (a: Person, b: Person) =>
        (round + (a === two[0] ? 0 : 1)) % 2 === 0 || round % 3 === 0 ? removePerson(a, b.id, request()) : changeRole(a, b.id, 'crew', request())
      const done = await Promise.all([each(two[0], two[1]), each(two[1], two[0])])
      expect(done.filter((d) => d.ok)).toHaveLength(1)
      const left = (await peopleOf(made.companyId)).filter((p) => p.role === 'office')
      expect(left).toHaveLength(1)
      for (const p of two) await s.owner.pool.query(`UPDATE "user" SET removed_at = NULL, role = 'office', email = $2 WHERE id = $1`, [p.id, p.email])
    }
  })
})

test('a link that two use at once makes one account, whoever comes first, 100 times', async () => {
  const made = await companyByOperator('Once Walls', 'office', 'operator')
  const host = await add('Hedda', 'office', made.companyId)
  for (let round = 0; round < 100; round++) {
    const link = await invite(host, { name: `Twin ${round}`, role: 'crew' }, request())
    if (!link.ok) throw new Error(said(link))
    const { token } = link.value
    const take = (who: string) =>
      takeLink({ token, name: who, email: `${who}${round}@once.example`.toLowerCase(), password: WORD }, from(`10.7.${round}.1`))
    const done = await Promise.all([take('Ann'), take('Ben')])
    expect(done.filter((d) => d.ok)).toHaveLength(1)
    expect(said(await take('Late'))).not.toBe('ok')
  }
  expect(await peopleOf(made.companyId)).toHaveLength(101)
})

describe('sessions', () => {
  test('are listed with what they are on, ended one by one or all but this one', async () => {
    const ada = await add('Ada', 'crew')
    const agent = { 'user-agent': 'Mozilla/5.0 (Linux) Mobile', [PEER]: '10.9.0.1' }
    const [one, two, three] = [await enter(ada.email, new Headers(agent)), await enter(ada.email), await enter(ada.email)]
    const list = await sessionsOf(ada.id)
    expect(list).toHaveLength(3)
    expect(list.map((l) => l.device)).toContain('Phone')
    expect(list.map((l) => l.network)).toContain('10.9.0.1')
    const here = await asked(carrying(one))
    expect(await endSession(s.ours, ada.id, (await asked(carrying(two)))?.session.id ?? '', 'Ada')).toBe(true)
    expect(await personOf(carrying(two))).toBeUndefined()
    expect(await endSession(s.ours, ada.id, 'none', 'Ada')).toBe(false)
    expect(said(await changePassword(ada, here?.session.id ?? '', { current: 'nonsense', password: 'gravel heron brass nine' }, request()))).toMatch(
      /not your password/,
    )
    expect(said(await changePassword(ada, here?.session.id ?? '', { current: WORD, password: 'password1234' }, request()))).toMatch(/tried first/)
    expect(said(await changePassword(ada, here?.session.id ?? '', { current: WORD, password: 'gravel heron brass nine' }, request()))).toBe('ok')
    expect(await personOf(carrying(one))).toBeDefined()
    expect(await personOf(carrying(three))).toBeUndefined()
    await signOut(carrying(one))
    expect(await personOf(carrying(one))).toBeUndefined()
  })
  test('end by the company’s own rule: without use, and in all', async () => {
    const bea = await add('Bea', 'crew')
    const headers = carrying(await enter(bea.email))
    const age = (column: string, days: number) =>
      s.owner.pool.query(`UPDATE session SET "${column}" = now() - make_interval(days => $2) WHERE "userId" = $1`, [bea.id, days])
    expect(said(await setSessionRule(bea, { idle: 1, most: 2 }))).toMatch(/set by the office/)
    expect(said(await setSessionRule(office, { idle: 30, most: 7 }))).toMatch(/must be 7 days or less/)
    await age('updatedAt', 5)
    expect(await personOf(headers)).toBeDefined()
    // That it was used is noted beside the answer.
    await new Promise((r) => setTimeout(r, 300))
    await age('updatedAt', 5)
    expect(said(await setSessionRule(office, { idle: 3, most: 20 }))).toBe('ok')
    expect(await personOf(headers)).toBeUndefined()
    await age('updatedAt', 0)
    expect(await personOf(headers)).toBeDefined()
    await age('createdAt', 21)
    expect(await personOf(headers)).toBeUndefined()
    expect(await personOf(carrying(await enter(office.email)))).toBeDefined()
  })
  test('over TLS the cookie is one nobody else can set, and no other is taken', async () => {
    process.env.TRUST_PROXY = '1'
    const tls = new Headers({ [PEER]: '127.0.0.1', 'x-forwarded-proto': 'https', 'x-forwarded-for': '10.0.0.1' })
    const into = await enter(office.email, tls)
    for (const c of into.cookies) expect(c).toMatch(/^__Host-[^;]+; Path=\/; Max-Age=\d+; HttpOnly; SameSite=Lax; Secure$/)
    expect(await personOf(carrying(into, { 'x-forwarded-proto': 'https' }))).toBeDefined()
    expect(tokenOf(carrying(into))).toBeUndefined()
    const plain = new Headers({
      cookie: into.cookies.map((c) => c.split(';')[0]?.replace('__Host-stone-tally', 'better-auth.session_token')).join('; '),
    })
    plain.set('x-forwarded-proto', 'https')
    expect(tokenOf(plain)).toBeUndefined()
    expect(cookieGone(tls)).toMatch(/Max-Age=0.*Secure/)
    delete process.env.TRUST_PROXY
  })
  test.each([
    ['Mozilla/5.0 (X; Mobile)', 'Phone'],
    ['Mozilla/5.0 (Tablet)', 'Tablet'],
    ['Mozilla/5.0 (X11)', 'Computer'],
    ['', 'Unknown device'],
  ])('%s is a %s', (agent, device) => expect(deviceOf(agent)).toBe(device))
})

test('what concerns security is kept where nobody changes it, without any password or token, and each company sees its own', async () => {
  const log = await securityLogOf(s.ours)
  expect(log.map((l) => l.what)).toEqual(
    expect.arrayContaining([
      'sign-in',
      'sign-in refused',
      'invitation made',
      'invitation used',
      'reset link made',
      'role changed',
      'person removed',
      'password changed',
    ]),
  )
  expect(JSON.stringify(log)).not.toMatch(new RegExp(`${WORD}|gravel heron`))
  expect(await securityLogOf(s.theirs)).toEqual([])
  await expect(database().pool.query('DELETE FROM security_log')).rejects.toThrow(/permission denied|append-only/)
  expect(accountOptions().emailAndPassword.minPasswordLength).toBe(12)
})
