import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { record, text } from '@stone-tally/core'
import pg from 'pg'
import { layoutOf } from '../../core/test/plans'
import { freePort, isRunning, startCluster, stopCluster } from '../../scripts/cluster'
import { bodyOf, SHAPE } from '../server/bodies'
import { database } from '../server/database'
import { databaseAnswers, healthOf } from '../server/health'
import { BODY, bodyIn, guarded, refuse, sameOrigin } from '../server/http'
import { watch } from '../server/live'
import { migrate } from '../server/migrations'
import { recordEntries } from '../server/record-store'
import { createWall, issueRevision, revisionsOf } from '../server/walls'
import { yardOf } from '../server/yard'
import { newWall, noteFor, planNamed, site, until } from './site'

let s: Awaited<ReturnType<typeof site>>
beforeAll(async () => {
  s = await site()
})
afterAll(() => s.end())

describe('the private cluster', () => {
  test('keeps its passwords to its owner and listens on loopback alone', async () => {
    expect(statSync(join(s.cluster.folder, 'cluster.json')).mode & 0o077).toBe(0)
    const { rows } = await s.owner.pool.query("SELECT setting FROM pg_settings WHERE name IN ('listen_addresses', 'fsync') ORDER BY name")
    expect(rows.map((r: { setting: string }) => r.setting)).toEqual(['on', '127.0.0.1'])
  })
  test('starting it again while it runs changes nothing', async () => {
    const pid = () => readFileSync(join(s.cluster.folder, 'data', 'postmaster.pid'), 'utf8').split('\n')[0]
    const before = pid()
    const again = await startCluster(s.cluster.folder)
    expect([pid(), again.port, again.appUrl]).toEqual([before, s.cluster.port, s.cluster.appUrl])
  })
  test('a wrong password is turned away', async () => {
    const wrong = new pg.Client({ connectionString: s.cluster.appUrl.replace(/:[0-9a-f]+@/, ':nonsense@') })
    wrong.on('error', () => {})
    await expect(wrong.connect()).rejects.toThrow(/password authentication failed/)
  })
  test('migrating again does nothing', async () => {
    expect(await migrate(s.owner.db as never)).toEqual([])
  })
  test('a port that is taken is not handed out', async () => {
    expect(await freePort(s.cluster.port)).not.toBe(s.cluster.port)
    const free = await freePort()
    expect(await freePort(free)).toBe(free)
  })
})

describe('live', () => {
  // A test that fails half way must not leave its watchers behind for the next.
  const left: (() => void)[] = []
  afterEach(() => {
    for (const leave of left.splice(0)) leave()
  })
  test('a watcher hears of its own wall only, and nothing after it has left', async () => {
    const [one, two] = [await newWall(s, 'Heard'), await newWall(s, 'Unheard')]
    const heard: string[] = []
    const leave = [watch(one, () => heard.push('one')), watch(two, () => heard.push('two'))]
    left.push(...leave)
    // The first call comes when listening has begun, in case something was recorded meanwhile.
    await until(() => heard.length >= 2)
    heard.length = 0
    await recordEntries(one, s.person('crew'), [noteFor(one, 'x')], Date.now())
    await until(() => heard.length > 0)
    expect(heard).toEqual(['one'])
    leave[0]?.()
    await recordEntries(one, s.person('crew'), [noteFor(one, 'y')], Date.now())
    await new Promise((r) => setTimeout(r, 200))
    expect(heard).toEqual(['one'])
    leave[1]?.()
  })
  test('after the database was away watchers look again by themselves', async () => {
    const wall = await newWall(s, 'Restarted')
    let calls = 0
    const leave = watch(wall, () => calls++)
    left.push(leave)
    await until(() => calls > 0)
    // Without a word to anyone, as in a power cut.
    stopCluster(s.cluster.folder, 'immediate')
    expect(isRunning(s.cluster.folder)).toBe(false)
    expect(await databaseAnswers()).toBe(false)
    calls = 0
    await startCluster(s.cluster.folder)
    await until(() => calls > 0)
    expect(calls).toBeGreaterThan(0)
    calls = 0
    await recordEntries(wall, s.person('crew'), [noteFor(wall, 'after')], Date.now())
    await until(() => calls > 0)
    expect(calls).toBe(1)
    expect(await databaseAnswers()).toBe(true)
    leave()
  })
})

describe('requests', () => {
  const request = (headers: Record<string, string>, body?: string) =>
    new Request('http://127.0.0.1:3080/api/x', {
      method: 'POST',
      headers: { host: '127.0.0.1:3080', ...headers },
      ...(body === undefined ? {} : { body }),
    })
  test.each([
    ['our own page', { origin: 'http://127.0.0.1:3080' }, true],
    ['no origin', {}, false],
    ['another site', { origin: 'http://evil.example' }, false],
    ['another port', { origin: 'http://127.0.0.1:9999' }, false],
    ['a name that begins like ours', { origin: 'http://127.0.0.1:3080.evil.example' }, false],
    ['an opaque origin', { origin: 'null' }, false],
  ])('%s', (_name, headers, ours) => expect(sameOrigin(request(headers as Record<string, string>))).toBe(ours))
  test('a body is JSON or says why not', async () => {
    expect(await bodyOf(request({}, '{"a":1}'), BODY.words)).toEqual({ ok: true, value: { a: 1 } })
    expect(await bodyOf(request({}, '{"a":'), BODY.words)).toMatchObject({ ok: false, problems: [{ field: 'body' }] })
    expect(await bodyOf(request({ 'content-length': `${22 * 1024 * 1024}` }, '{}'), BODY.file)).toMatchObject({
      ok: false,
      problems: [{ message: 'is over the limit of 8 MB' }],
    })
  })
  test('a body that is longer than said is given up while it comes in', async () => {
    let given = 0
    const endless = new ReadableStream({
      pull(c) {
        given += 65_536
        c.enqueue(new Uint8Array(65_536).fill(0x20))
      },
    })
    const chunked = new Request('http://127.0.0.1:3080/api/x', { method: 'POST', body: endless, duplex: 'half' } as never)
    expect(await bodyOf(chunked, BODY.words)).toMatchObject({ ok: false, problems: [{ message: 'is over the limit of 4 kB' }] })
    expect(given).toBeLessThan(400_000)
  })
  test('nesting is counted before anything is built from it', async () => {
    const nested = (n: number) => `${'[{"a":'.repeat(n / 2)}1${'}]'.repeat(n / 2)}`
    expect((await bodyOf(request({}, nested(64)), BODY.words)).ok).toBe(true)
    expect(await bodyOf(request({}, nested(66)), BODY.words)).toMatchObject({ ok: false, problems: [{ message: 'is nested more than 64 deep' }] })
    expect((await bodyOf(request({}, '['.repeat(4000)), BODY.words)).ok).toBe(false)
    expect((await bodyOf(request({}, JSON.stringify({ a: '[[{"'.repeat(100) })), BODY.words)).ok).toBe(true)
  })
  test.each([
    ['a list that is too long', `[${'1,'.repeat(SHAPE.items)}1]`, /a list of more than 100,000 items/],
    [
      'an object of too many fields',
      `{${Array.from({ length: SHAPE.fields + 1 }, (_, i) => `"f${i}":1`).join(',')}}`,
      /an object of more than 1,000 fields/,
    ],
    [
      'too many of both, in lists that are each short',
      `[${Array.from({ length: 50 }, () => `[${'{},'.repeat(900)}1]`).join(',')}]`,
      /more than 40,000 objects and lists/,
    ],
    ['what only looks like it, inside a word', JSON.stringify({ a: `${'{,['.repeat(60_000)}\\"` }), undefined],
    ['words that end in backslashes', JSON.stringify(['\\', '\\\\', ',"[{']), undefined],
  ])('%s is measured before anything is built from it', async (_name, content, says) => {
    const body = await bodyOf(request({}, content), BODY.entries)
    expect(body).toMatchObject(says ? { ok: false, problems: [{ message: expect.stringMatching(says) }] } : { ok: true, value: JSON.parse(content) })
  })
  test('a schema reads a body before anything touches it', async () => {
    const asked = record({ token: text(20) })
    const answer = async (content: string) => bodyIn(request({}, content), BODY.words, asked)
    expect(await answer('{"token":"x"}')).toEqual({ token: 'x' })
    for (const odd of ['[]', 'null', '7', '"x"']) expect(((await answer(odd)) as Response).status).toBe(422)
    for (const odd of ['{"token":{"toString":1}}', '{}', '{"token":"x","more":1}', `{"token":"${'x'.repeat(21)}"}`])
      expect(((await answer(odd)) as Response).status).toBe(422)
  })
  test('what the database cannot keep is refused, not said to be away', async () => {
    const quiet = jest.spyOn(console, 'error').mockImplementation(() => {})
    const run = (text: string) => guarded(async () => Response.json((await database().pool.query(text)).rows))()
    expect((await run('SELECT 99999999999::int')).status).toBe(422)
    expect((await run("SELECT 'x'::uuid")).status).toBe(422)
    quiet.mockRestore()
  })
  test('a handler that fails says what to do, and nothing of the inside', async () => {
    const quiet = jest.spyOn(console, 'error').mockImplementation(() => {})
    const answer = await guarded(async () => {
      throw new Error('password=secret at 10.0.0.1')
    })()
    expect([answer.status, await answer.text()]).toEqual([503, expect.stringMatching(/^(?!.*(secret|lost)).*try again/)])
    quiet.mockRestore()
    expect(await refuse(422, [{ field: 'a', message: 'b' }]).json()).toEqual({ problems: [{ field: 'a', message: 'b' }] })
  })
})

test('the Yard tells what is next and what is in the way, of one’s own walls', async () => {
  const wall = await newWall(s, 'In the yard')
  const mine = (await yardOf(s.person('inspector'))).walls.find((w) => w.id === wall)
  expect(mine).toMatchObject({
    set: 0,
    findings: 0,
    holds: [],
    next: [{ section: 'A', title: 'Services located', blocked: undefined }, { section: 'B' }],
    last: { by: 'The foreman' },
  })
  expect(mine && 'total' in mine && mine.total).toBe([...layoutOf().cells.values()].reduce((n, c) => n + c.pieces.length, 0))
  expect(await yardOf(s.person('foreman', s.theirs))).toEqual({ walls: [], hidden: [], away: [] })
  expect(database().url).toBe(s.cluster.appUrl)
})
test('a wall whose system is gone hides no other: it is said why, and its record is given out as it was stored', async () => {
  const made = await createWall(s.person('foreman'), planNamed('Gone'))
  if (!made.ok) throw new Error('not made')
  const stored = { ...planNamed('Gone'), system: { id: 'mud-brick', data: { bricks: 12 } } }
  await s.owner.pool.query('INSERT INTO revision (wall_id, number, plan, issued_by) VALUES ($1, 2, $2, $3)', [
    made.value.id,
    JSON.stringify(stored),
    'The house',
  ])
  const { walls, hidden } = await yardOf(s.person('foreman'))
  expect(walls.length).toBeGreaterThan(0)
  expect(walls.some((w) => w.id === made.value.id)).toBe(false)
  expect(hidden).toEqual([
    { id: made.value.id, name: 'Gone', site: planNamed('Gone').site, why: expect.stringMatching(/Revision 2 .* "mud-brick" is not a system/) },
  ])
  expect((await revisionsOf(made.value.id)).map((r) => r.stored)[1]).toEqual(stored)
  // What is wrong with it is nobody else's; it can still be planned anew.
  expect(await issueRevision(s.person('foreman'), made.value.id, planNamed('Gone'), 2)).toMatchObject({ ok: true, value: { number: 3 } })
})

describe('health by part', () => {
  const folder = mkdtempSync(join(tmpdir(), 'tally-health-'))
  const part = async (name: string, now = Date.now()) => (await healthOf(now)).find((p) => p.part === name)
  let hours = 0
  /** Past what is remembered of the last look. */
  const later = () => Date.now() + ++hours * 10_000
  beforeAll(() => {
    process.env.DATA_FOLDER = folder
  })
  afterAll(() => {
    delete process.env.DATA_FOLDER
    rmSync(folder, { recursive: true })
  })
  test('says what is ill and what to do, of each', async () => {
    expect(await part('database')).toMatchObject({ is: 'well' })
    expect(await part('disk', later())).toMatchObject({ says: expect.stringMatching(/GB free/) })
    expect(await part('backup')).toMatchObject({ is: 'watch', says: expect.stringMatching(/bin\/tally backup/) })
    writeFileSync(join(folder, 'last-backup.json'), JSON.stringify({ to: '/backups/one' }))
    expect(await part('backup')).toMatchObject({ is: 'well', says: expect.stringMatching(/\/backups\/one/) })
    expect(await part('backup', Date.now() + 27 * 3_600_000)).toMatchObject({ is: 'ill', says: expect.stringMatching(/27 hours old.*would be lost/) })
    process.env.DATA_FOLDER = '/nowhere/at/all'
    expect(await part('disk', later())).toMatchObject({ is: 'watch' })
    process.env.DATA_FOLDER = folder
  })
  test('records that were not looked at, that verify, and that do not', async () => {
    const { db } = database()
    expect(await part('records', later())).toMatchObject({ is: 'watch', says: expect.stringMatching(/not looked at yet/) })
    const looked = (faults: number) =>
      db.insertInto('house_check').values({ began_at: new Date(), walls: 3, entries: 9, photos: 0, faults }).execute()
    await looked(0)
    expect(await part('records', later())).toMatchObject({ is: 'well', says: expect.stringMatching(/all of them verify/) })
    expect(await part('records', Date.now() + 30 * 3_600_000)).toMatchObject({ is: 'watch' })
    await looked(1)
    expect(await part('records', later())).toMatchObject({ is: 'ill', says: expect.stringMatching(/1 of them do not verify/) })
  })
})
