import { mkdtempSync, readdirSync, readFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { stepKey } from '@stone-tally/core'
import { addPerson, signIn } from '../server/accounts'
import { PEER } from '../server/network'
import { decideOutside, linksOf, outsidePhoto, outsideShown, sendLink, sendLinks } from '../server/outside'
import { recordEntries, stateOf } from '../server/record-store'
import type { Person } from '../server/sessions'
import { createWall } from '../server/walls'
import { newWall, noteFor, planNamed, site } from './site'

const FOLDER = mkdtempSync(join(tmpdir(), 'stone-tally-post-'))
const WORD = 'a long password'
let s: Awaited<ReturnType<typeof site>>
let foreman: Person
beforeAll(async () => {
  s = await site()
  process.env.DATA_FOLDER = FOLDER
  process.env.SERVED_AS = 'tally.example'
  const made = await addPerson(s.ours, { name: 'Mara Quill', email: 'mara@ours.example', password: WORD, role: 'foreman' })
  if (!made.ok) throw new Error(made.problems[0]?.message)
  foreman = { id: made.value.id, name: 'Mara Quill', email: 'mara@ours.example', role: 'foreman', companyId: s.ours }
})
afterAll(() => s.end())

const request = (host = 'tally.example:3000') => new Request('http://tally.example/api', { headers: { host } })
const outside = (more: Record<string, string> = {}) => new Headers({ [PEER]: '198.51.100.7', ...more })
const letters = () =>
  readdirSync(join(FOLDER, 'post'))
    .sort()
    .map((f) => readFileSync(join(FOLDER, 'post', f), 'utf8'))
/** The link of the newest letter, as whoever gets it reads it: quoted-printable where lines are long. */
const newest = () =>
  letters()
    .pop()
    ?.replace(/=\r\n/g, '')
    .match(/\/outside#([\w-]{43})/)?.[1] ?? ''
const said = (r: { ok: boolean; problems?: readonly { field: string; message: string }[] }) => (r.ok ? 'ok' : (r.problems?.[0]?.message ?? ''))

let count = 0
/** A wall whose line waits to be released, and the request for it; its link is sent as the house takes the request in. */
async function asked(address = 'imre@vale.example') {
  const wall = { id: await newWall(s, `Outside ${count++}`), name: 'Outside', site: 'Saltmarsh', madeUp: false }
  const work = (kind: string, stage: string, data: object) => ({ ...noteFor(wall.id, ''), kind, where: { stage }, data })
  const entries = [
    work('check', 'services', { confirmed: ['located', 'marked', 'revision'], detail: 'T-4711', until: '2099-12-31' }),
    work('check', 'set-out', { confirmed: ['line', 'second', 'benchmark'] }),
    work('request', 'set-out', { name: 'Imre Vale', as: 'engineer', address }),
  ]
  const outcomes = await recordEntries(wall.id, foreman, entries, Date.now())
  await sendLinks(request(), foreman, wall, entries, outcomes)
  return { wall, id: entries[2]?.id as string, outcomes, last: outcomes[2] }
}
const decision = (token: string, more: object = {}) => ({
  token,
  name: 'Imre Vale',
  licence: 'E-2231',
  decision: 'released',
  reason: 'seen and measured',
  ...more,
})

test('the link goes to the address in the record and nowhere else; it shows what was recorded and decides once', async () => {
  const { wall, id } = await asked()
  const letter = letters().pop() ?? ''
  expect(letter).toMatch(/^To: imre@vale\.example\r$/m)
  const token = newest()
  expect(JSON.stringify(await linksOf(wall.id))).not.toContain(token)
  expect((await s.owner.pool.query('SELECT * FROM outside_link')).rows.every((r) => !JSON.stringify(r).includes(token))).toBe(true)
  const shown = await outsideShown(token, 'metric', outside())
  expect(shown).toMatchObject({ ok: true, value: { by: 'Mara Quill', name: 'Imre Vale', as: 'Engineer', missing: [] } })
  expect(shown.ok && shown.value.lines.map((l) => l.text)).toEqual([
    'Plan revision 1 issued',
    expect.stringMatching(/T-4711/),
    expect.stringMatching(/^Set-out verified/),
  ])
  expect(shown.ok && shown.value.facts.join(' ')).toMatch(/^Shows up to .* Engineer: /)
  expect(said(await decideOutside(decision(token, { licence: '-' }), outside()))).toMatch(/licence or register number/)
  // Twice at once, from two places: one decision.
  const both = await Promise.all([decideOutside(decision(token), outside()), decideOutside(decision(token, { decision: 'rejected' }), outside())])
  expect(both.filter((b) => b.ok)).toHaveLength(1)
  const state = await stateOf(wall.id)
  const log = state.logs.get(stepKey({ stage: 'set-out' }))
  expect(log?.releases).toHaveLength(1)
  expect(log?.releases[0]?.entry).toMatchObject({
    by: { id: `outside ${id}`, name: 'Imre Vale' },
    data: { outside: { request: id, licence: 'E-2231' } },
  })
  expect(said(await decideOutside(decision(token), outside()))).toMatch(/was used/)
  expect(said(await outsideShown(token, 'metric', outside()))).toMatch(/was used/)
  expect(said(await sendLink(foreman, wall, id, request()))).toMatch(/was answered already/)
})

describe('does not open', () => {
  let at: Awaited<ReturnType<typeof asked>>
  let token = ''
  beforeAll(async () => {
    at = await asked()
    token = newest()
  })
  test('on a session of the company, nor on a device where one was, whoever is signed in there now', async () => {
    const into = await signIn({ email: 'mara@ours.example', password: WORD }, outside())
    if (!into.ok) throw new Error(said(into))
    const cookies = into.value.cookies.map((c) => c.split(';')[0] as string)
    expect(said(await outsideShown(token, 'metric', outside({ cookie: cookies.join('; ') })))).toMatch(/device of your own/)
    expect(said(await decideOutside(decision(token), outside({ cookie: cookies.join('; ') })))).toMatch(/device of your own/)
    const place = cookies.find((c) => c.startsWith('place=')) as string
    expect(said(await decideOutside(decision(token), outside({ cookie: place })))).toMatch(/device of your own/)
    expect(await outsidePhoto(token, 'x', outside({ cookie: place }))).toBeUndefined()
  })
  test('what is no link', async () => {
    for (const t of ['', 'x', 'a'.repeat(43), null, { toString: 1 }, ['a'], 7])
      expect(said(await outsideShown(t, 'metric', outside()))).toMatch(/ask for another|was used/)
    expect((await decideOutside({ token: { toString: 1 } }, outside())).ok).toBe(false)
  })
  test('one that was sent before, once another was', async () => {
    expect(said(await sendLink(foreman, at.wall, at.id, request()))).toBe('ok')
    expect(newest()).not.toBe(token)
    expect(said(await outsideShown(token, 'metric', outside()))).toMatch(/sent anew/)
    expect(said(await outsideShown(newest(), 'metric', outside()))).toBe('ok')
  })
  test('what was taken back, and what ran out', async () => {
    const other = await asked('second@vale.example')
    const its = newest()
    await recordEntries(
      other.wall.id,
      foreman,
      [{ ...noteFor(other.wall.id, ''), kind: 'strike', where: { stage: 'set-out' }, data: { reason: 'the wrong address' }, supersedes: other.id }],
      Date.now(),
    )
    expect(said(await outsideShown(its, 'metric', outside()))).toMatch(/withdrawn/)
    await s.owner.pool.query("UPDATE outside_link SET ends_at = now() - interval '1 minute'")
    expect(said(await outsideShown(newest(), 'metric', outside()))).toMatch(/time is over/)
  })
})

test('what a release would be refused for stands before the signature', async () => {
  const { engineer: _e, engineerBy: _b, engineerLicence: _l, engineerOn: _o, engineerCovers: _c, ...unsigned } = planNamed('Not signed')
  const made = await createWall(foreman, unsigned)
  if (!made.ok) throw new Error(said(made))
  const wall = { id: made.value.id, name: 'Not signed', site: 'Saltmarsh', madeUp: false }
  const work = (kind: string, stage: string, data: object) => ({ ...noteFor(wall.id, ''), kind, where: { stage }, data })
  const entries = [
    work('check', 'services', { confirmed: ['located', 'marked', 'revision'], detail: 'T-4711', until: '2099-12-31' }),
    work('check', 'set-out', { confirmed: ['line', 'second', 'benchmark'] }),
    work('request', 'set-out', { name: 'Imre Vale', as: 'engineer', address: 'third@vale.example' }),
  ]
  await sendLinks(request(), foreman, wall, entries, await recordEntries(wall.id, foreman, entries, Date.now()))
  const shown = await outsideShown(newest(), 'metric', outside())
  if (!shown.ok) throw new Error(said(shown))
  expect(shown.value.missing.join(' ')).toMatch(/engineer/)
  expect(said(await decideOutside(decision(newest()), outside()))).toMatch(/engineer/)
})
test('nobody of the company is asked from outside', async () => {
  const { last } = await asked('Mara@ours.example')
  expect(last).toMatchObject({ ok: false, problems: [{ field: 'data.address', message: expect.stringMatching(/Mara Quill, of your own company/) }] })
})
test('nobody who is signed in records as somebody from outside', async () => {
  const { wall, id } = await asked()
  const forged = {
    ...noteFor(wall.id, ''),
    kind: 'release',
    where: { stage: 'set-out' },
    by: { id: `outside ${id}`, name: 'Imre Vale', role: 'inspector' },
    data: {
      decision: 'released',
      reason: 'seen',
      signature: { typed: 'Mara Quill' },
      outside: { request: id, as: 'engineer', licence: 'E-2231' },
    },
  }
  const [outcome] = await recordEntries(wall.id, foreman, [forged], Date.now())
  expect(outcome).toMatchObject({ ok: false, problems: [{ message: expect.stringMatching(/nobody who is signed in/) }] })
})
test('a link leads to this house alone, whatever host a request claims', async () => {
  const { wall, id } = await asked()
  expect(said(await sendLink(foreman, wall, id, request('elsewhere.example')))).toMatch(/SERVED_AS/)
  expect(said(await sendLink(s.person('crew'), wall, id, request()))).toMatch(/foreman or the office/)
})
test('over a mail server; and what none takes is said, nothing opens, and it can be sent again', async () => {
  const { wall, id } = await asked()
  const got: string[] = []
  const server = createServer((socket) => {
    let body = false
    socket.write('220 here\r\n')
    socket.on('data', (chunk) => {
      const text = chunk.toString()
      got.push(text)
      if (body) {
        if (!text.endsWith('\r\n.\r\n')) return
        body = false
        return socket.write('250 taken\r\n')
      }
      if (/^DATA/i.test(text)) {
        body = true
        return socket.write('354 go on\r\n')
      }
      socket.write(/^QUIT/i.test(text) ? '221 bye\r\n' : '250 yes\r\n')
    })
  })
  await new Promise<void>((r) => server.listen(0, '127.0.0.1', r))
  const { port } = server.address() as { port: number }
  process.env.POST_SMTP = `smtp://127.0.0.1:${port}`
  expect(said(await sendLink(foreman, wall, id, request()))).toBe('ok')
  expect(got.join('')).toMatch(/RCPT TO:<imre@vale\.example>/)
  await new Promise((r) => server.close(r))
  expect(said(await sendLink(foreman, wall, id, request()))).toMatch(/could not be handed over/)
  expect(await linksOf(wall.id)).toEqual([])
  delete process.env.POST_SMTP
  expect(said(await sendLink(foreman, wall, id, request()))).toBe('ok')
})
