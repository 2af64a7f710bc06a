import { type Entry, linkOf, publicKeyOf, type RecordedEntry, type RecordReport, readCode, recordLines, whenOf } from '@stone-tally/core'
import sharp from 'sharp'
import { SIGNED } from '../../core/test/plans'
import { checkpointAll, checkpointNow, checkpointsOf } from '../server/checkpoints'
import { database } from '../server/database'
import { recordFile } from '../server/export'
import { aheadOf, knownOf, noteGiven, noteMade } from '../server/given'
import { healthOf } from '../server/health'
import { markHouse, missingWalls } from '../server/house-marks'
import { night } from '../server/nightly'
import { takePhoto } from '../server/photos'
import { codeFor, holdAgainst } from '../server/proof'
import { recordEntries, stateOf } from '../server/record-store'
import { securityLogOf } from '../server/security-log'
import { SUMS } from '../server/sums'
import { faultsOf, lastVerification, lookAtFault, mayLook, saidFault, unlooked, verifyAndKeep, verifyHouse, verifyWall } from '../server/verify'
import { issueRevision, uuid7 } from '../server/walls'
import { newWall, noteFor, planNamed, site } from './site'

const SECRET = '4ccd089b28ff96da9db6c346ec114e0f5b8a319f35aba624da8cf6ed4fb8a6fb'
let s: Awaited<ReturnType<typeof site>>
beforeAll(async () => {
  s = await site()
  process.env.CHECKPOINT_KEY = SECRET
})
afterAll(async () => {
  await s.end()
  delete process.env.CHECKPOINT_KEY
})

const note = (wall: string, ...texts: string[]) =>
  recordEntries(
    wall,
    s.person('crew'),
    texts.map((t) => noteFor(wall, t)),
    Date.now(),
  )
/** As somebody does who owns the database: no trigger and no privilege is in the way. */
async function tamper(work: (query: (sql: string, values?: unknown[]) => Promise<{ rows: Record<string, unknown>[] }>) => Promise<void>) {
  const tables = ['entry', 'revision', 'photo', 'checkpoint', 'record_fault', 'house_mark']
  for (const t of tables) await s.owner.pool.query(`ALTER TABLE ${t} DISABLE TRIGGER USER`)
  await work((sql, values) => s.owner.pool.query(sql, values))
  for (const t of tables) await s.owner.pool.query(`ALTER TABLE ${t} ENABLE TRIGGER USER`)
}
const head = async (wall: string) => (await database().pool.query('SELECT seq, hash FROM chain_head WHERE wall_id = $1', [wall])).rows[0]

/** The chain computed anew from an entry on, head and all: what the record says of itself is in order again. */
const chainAnew = (wall: string, from: number) =>
  tamper(async (query) => {
    let hash = (await query('SELECT hash FROM entry WHERE wall_id = $1 AND seq = $2', [wall, from - 1])).rows[0]?.hash as string
    for (const r of (await query('SELECT seq, received_at, body FROM entry WHERE wall_id = $1 AND seq >= $2 ORDER BY seq', [wall, from])).rows) {
      const entry = { ...(JSON.parse(r.body as string) as Entry), data: { text: 'nothing happened' } }
      hash = linkOf(hash, { seq: r.seq as number, receivedAt: (r.received_at as Date).toISOString(), entry })
      const body = JSON.stringify(entry, Object.keys(entry).sort())
      await query('UPDATE entry SET body = $3, hash = $4 WHERE wall_id = $1 AND seq = $2', [wall, r.seq, canonicalOf(entry) ?? body, hash])
    }
    await query('UPDATE chain_head SET hash = $2 WHERE wall_id = $1', [wall, hash])
  })
const canonicalOf = (e: Entry) => jest.requireActual<typeof import('@stone-tally/core')>('@stone-tally/core').canonical(e)

const cutTail = (wall: string, to: number) =>
  tamper(async (query) => {
    await query('DELETE FROM entry WHERE wall_id = $1 AND seq > $2', [wall, to])
    await query('UPDATE chain_head SET seq = $2, hash = (SELECT hash FROM entry WHERE wall_id = $1 AND seq = $2) WHERE wall_id = $1', [wall, to])
  })

test('a record that was left alone is whole: links, plans, photos, checkpoints', async () => {
  const wall = await newWall(s, 'Whole')
  await note(wall, 'a', 'b')
  await checkpointNow(wall)
  await note(wall, 'c')
  expect(await verifyWall(wall)).toMatchObject({ intact: true, entries: 4, revisions: 1, checkpoints: 1, keys: [publicKeyOf(SECRET)] })
})

test('a checkpoint is made once for an end, and one for every wall that went on', async () => {
  const wall = await newWall(s, 'Marked')
  const [one, two] = await Promise.all([checkpointNow(wall), checkpointNow(wall)])
  expect(one).toEqual(two)
  expect(await checkpointsOf(wall)).toEqual([one])
  await note(wall, 'more')
  expect(await checkpointAll()).toBeGreaterThanOrEqual(1)
  expect((await checkpointsOf(wall)).map((c) => c.seq)).toEqual([1, 2])
  expect(await checkpointAll()).toBe(0)
})

describe('what the record says of itself is in order, and it was changed all the same', () => {
  test('the tail cut off and the head set back', async () => {
    const wall = await newWall(s, 'Cut')
    await note(wall, 'a', 'b', 'c')
    const given = await codeFor(wall)
    await cutTail(wall, 2)
    expect(await verifyWall(wall)).toMatchObject({ intact: false, fault: 'removed', seq: 3 })
    expect(await holdAgainst(wall, given?.code ?? '')).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringMatching(/Entries were taken out/) }],
    })
  })
  test('the chain computed anew over changed words: by the checkpoint, and by the code where that was taken out too', async () => {
    const wall = await newWall(s, 'Anew')
    await note(wall, 'a', 'b', 'c')
    const given = await codeFor(wall)
    await chainAnew(wall, 3)
    expect(await verifyWall(wall)).toMatchObject({ intact: false, fault: 'checkpoint', seq: 4 })
    await tamper(async (query) => void (await query('DELETE FROM checkpoint WHERE wall_id = $1', [wall])))
    expect(await verifyWall(wall)).toMatchObject({ intact: true })
    expect(await holdAgainst(wall, given?.code ?? '')).toMatchObject({ ok: false, problems: [{ message: expect.stringMatching(/does not fit/) }] })
  })
  test('a revision without its entry', async () => {
    const wall = await newWall(s, 'Forged')
    await s.owner.pool.query(
      'INSERT INTO revision (wall_id, number, plan, issued_by) SELECT wall_id, 2, plan, issued_by FROM revision WHERE wall_id = $1',
      [wall],
    )
    expect(await verifyWall(wall)).toMatchObject({ intact: false, fault: 'revision' })
  })
  test('a photo changed for another', async () => {
    const wall = await newWall(s, 'Photo')
    const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#884' } })
      .jpeg()
      .toBuffer()
    const taken = await takePhoto(wall, s.person('crew'), picture, { name: 'pipe.jpg', strip: true })
    if (!taken.ok) throw new Error('a photo')
    const shown = { ...noteFor(wall, ''), kind: 'photo', data: taken.value }
    expect(await recordEntries(wall, s.person('crew'), [shown], Date.now())).toMatchObject([{ ok: true }])
    expect(await verifyWall(wall)).toMatchObject({ intact: true, photos: 1 })
    await tamper(async (query) => void (await query("UPDATE photo SET content = content || '\\x00' WHERE wall_id = $1", [wall])))
    expect(await verifyWall(wall)).toMatchObject({ intact: false, fault: 'photo', seq: 2 })
  })
  test('who issued a revision and when, the wall’s name, a small picture: what stands beside the record is held against it', async () => {
    const beside = async (name: string, change: string, says: RegExp, fault = 'revision') => {
      const wall = await newWall(s, name)
      const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#884' } })
        .jpeg()
        .toBuffer()
      expect(await takePhoto(wall, s.person('crew'), picture, { name: 'pipe.jpg', strip: true })).toMatchObject({ ok: true })
      const code = (await codeFor(wall))?.code ?? ''
      expect(await holdAgainst(wall, code)).toMatchObject({ ok: true })
      const dark = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#003' } })
        .jpeg()
        .toBuffer()
      await tamper(async (query) => void (await query(change, change.includes('$2') ? [wall, dark] : [wall])))
      expect(await verifyWall(wall)).toMatchObject({ intact: false, fault, message: expect.stringMatching(says) })
      // The code is of the same last entry, and still it does not fit.
      expect(await holdAgainst(wall, code)).toMatchObject({ ok: false, problems: [{ message: expect.stringMatching(says) }] })
    }
    await beside('Who', "UPDATE revision SET issued_by = 'Somebody Else' WHERE wall_id = $1", /kept as issued by Somebody Else; the record says/)
    await beside('When', "UPDATE revision SET issued_at = issued_at - interval '2 days' WHERE wall_id = $1", /kept as issued on/)
    await beside('Called', "UPDATE wall SET name = 'Other' WHERE id = $1", /kept as “Other”.*first plan says “Called”/)
    await beside('Small', 'UPDATE photo SET thumb = $2 WHERE wall_id = $1', /small picture of pipe.jpg shows something else/, 'photo')
  })
  test('a small picture that lost its mark is held against its photo, once', async () => {
    const wall = await newWall(s, 'Marks')
    const picture = await sharp({ create: { width: 400, height: 300, channels: 3, background: '#884' } })
      .jpeg()
      .toBuffer()
    await takePhoto(wall, s.person('crew'), picture, { name: 'pipe.jpg', strip: false })
    await tamper(async (query) => void (await query('DELETE FROM thumb_mark')))
    expect(await verifyWall(wall)).toMatchObject({ intact: true })
    expect(await database().db.selectFrom('thumb_mark').selectAll().execute()).toHaveLength(1)
  })
  test('a tail that was written anew is not signed', async () => {
    const wall = await newWall(s, 'Unsigned')
    await note(wall, 'a')
    await checkpointNow(wall)
    await note(wall, 'b', 'c')
    await tamper(
      async (query) => void (await query('UPDATE entry SET body = replace(body, \'"b"\', \'"x"\') WHERE wall_id = $1 AND seq = 3', [wall])),
    )
    expect(await checkpointNow(wall)).toBeUndefined()
    expect(await checkpointsOf(wall)).toHaveLength(1)
  })
})

test('what does not verify is kept once, holds every release, and only its look lets them go on', async () => {
  const wall = await newWall(s, 'Held')
  await note(wall, 'a', 'b')
  const work = (kind: string, stage: string, data: object) => ({ ...noteFor(wall, ''), kind, where: { stage }, data })
  const done = await recordEntries(
    wall,
    s.person('foreman'),
    [
      work('check', 'services', { confirmed: ['located', 'marked', 'revision'], detail: 'T-4711', until: '2099-12-31' }),
      work('check', 'set-out', { confirmed: ['line', 'second', 'benchmark'] }),
    ],
    Date.now(),
  )
  expect(done).toMatchObject([{ ok: true }, { ok: true }])
  const release = () => work('release', 'set-out', { decision: 'released', reason: 'seen and measured', signature: SIGNED })
  const by = (role: 'inspector') => recordEntries(wall, s.person(role), [release(), noteFor(wall, 'work goes on')], Date.now())
  await tamper(async (query) => void (await query('UPDATE entry SET body = replace(body, \'"a"\', \'"x"\') WHERE wall_id = $1 AND seq = 2', [wall])))
  for (let i = 0; i < 2; i++) expect(await verifyAndKeep(wall)).toMatchObject({ intact: false, seq: 2, fault: 'altered' })
  expect(await faultsOf(wall)).toMatchObject([{ number: 1, seq: 2, message: 'entry 2 was altered, or another was put in its place' }])
  expect(await by('inspector')).toMatchObject([{ ok: false, problems: [{ message: expect.stringMatching(/does not verify/) }] }, { ok: true }])
  expect(await codeFor(wall)).toBeUndefined()
  expect(await mayLook(s.person('crew'))).toBe(false)
  expect(await mayLook(s.person('inspector'))).toBe(true)
  expect(await lookAtFault(wall, 1, s.person('inspector'), 'Restored from the backup of Tuesday')).toBe(true)
  expect(await lookAtFault(wall, 1, s.person('office'), 'Seen as well')).toBe(false)
  expect(await unlooked(wall)).toBeUndefined()
  expect(await by('inspector')).toMatchObject([{ ok: true }, { ok: true }])
  expect(await faultsOf(wall)).toMatchObject([{ look: { name: 'The inspector', words: 'Restored from the backup of Tuesday' } }])
})

test('put right it is no fault any more; the same done again is another, and holds again', async () => {
  const wall = await newWall(s, 'Again')
  await note(wall, 'a', 'b')
  const change = (from: string, to: string) =>
    tamper(async (query) => void (await query('UPDATE entry SET body = replace(body, $2, $3) WHERE wall_id = $1 AND seq = 2', [wall, from, to])))
  await change('"a"', '"x"')
  expect(await verifyAndKeep(wall)).toMatchObject({ intact: false, isNew: true })
  expect(await verifyAndKeep(wall)).toMatchObject({ intact: false, isNew: false })
  expect(await saidFault(wall)).toMatchObject({ looked: undefined })
  await change('"x"', '"a"')
  expect(await verifyAndKeep(wall)).toMatchObject({ intact: true })
  // Mended by itself or not: until somebody has looked nothing is released.
  expect(await unlooked(wall)).toMatchObject({ number: 1 })
  await lookAtFault(wall, 1, s.person('office'), 'Put back by hand')
  expect(await unlooked(wall)).toBeUndefined()
  expect(await saidFault(wall)).toBeUndefined()
  expect(await verifyAndKeep(wall)).toMatchObject({ intact: true })
  await change('"a"', '"x"')
  expect(await verifyAndKeep(wall)).toMatchObject({ intact: false, isNew: true })
  expect(await unlooked(wall)).toMatchObject({ number: 3 })
  expect((await faultsOf(wall)).map((f) => f.fault)).toEqual(['altered', 'mended', 'altered'])
})

test('what cannot even be read is a fault of its wall, and keeps no other from being looked at', async () => {
  const [garbled, headless] = [await newWall(s, 'Garbled'), await newWall(s, 'Headless')]
  for (const wall of [garbled, headless]) await note(wall, 'a', 'b')
  await tamper(async (query) => {
    await query("UPDATE entry SET body = '{' || body WHERE wall_id = $1 AND seq = 2", [garbled])
    await query('DELETE FROM chain_head WHERE wall_id = $1', [headless])
  })
  const seen = await verifyHouse({ keep: false })
  const of = (wall: string) => seen?.faults.find((f) => f.wall === wall)?.fault
  expect(of(garbled)).toMatchObject({ fault: 'altered', seq: 2, message: 'entry 2 is not an entry' })
  expect(of(headless)).toMatchObject({ fault: 'removed' })
  await tamper(async (query) => {
    await query('INSERT INTO chain_head (wall_id, seq, hash) SELECT wall_id, seq, hash FROM entry WHERE wall_id = $1 ORDER BY seq DESC LIMIT 1', [
      headless,
    ])
  })
})

test('the house looks at everything by night, one process at a time, and keeps what came of it', async () => {
  const [one, two] = await Promise.all([verifyHouse({ keep: false }), verifyHouse({ keep: false })])
  const seen = one ?? two
  expect([one, two].filter((r) => r === undefined)).toHaveLength(1)
  expect(seen?.faults.map((f) => f.name).sort()).toEqual(expect.arrayContaining(['Cut', 'Forged', 'Held', 'Photo', 'Unsigned']))
  await s.owner.pool.query("INSERT INTO sign_in_throttle (key, points, expire) VALUES ('old', 3, 1), ('new', 3, 99999999999999)")
  const before = new Set((await s.owner.pool.query('SELECT wall_id FROM record_fault')).rows.map((r) => r.wall_id))
  await night()
  expect(await lastVerification()).toMatchObject({ walls: expect.any(Number), faults: seen?.faults.length })
  const left = await s.owner.pool.query('SELECT key FROM sign_in_throttle')
  expect(left.rows.map((r) => r.key)).toEqual(['new'])
  const log = await s.owner.pool.query("SELECT detail FROM security_log WHERE what = 'record does not verify'")
  // Each once, and not again the night after; those that were found before stand there already.
  const news = (seen?.faults ?? []).filter((f) => !before.has(f.wall)).map((f) => `${f.name}: ${f.fault.message}`)
  expect(news.length).toBeGreaterThan(3)
  expect(log.rows.map((r) => r.detail).sort()).toEqual(news.sort())
  await night()
  expect((await s.owner.pool.query("SELECT 1 FROM security_log WHERE what = 'record does not verify'")).rows).toHaveLength(news.length)
})

test('a process that dies over it is followed by the one that waited, and one that ends it is not', async () => {
  const other = await s.owner.pool.connect()
  const held = async () => other.query('SELECT pg_advisory_lock(7423001)')
  const looks = async () => (await s.owner.pool.query('SELECT count(*)::int AS n FROM house_check')).rows[0].n as number
  const before = await looks()
  try {
    await held()
    const waiting = night({ turn: 200 })
    await new Promise((r) => setTimeout(r, 500))
    expect(await looks()).toBe(before)
    // It is gone, and has not looked at everything.
    await other.query('SELECT pg_advisory_unlock_all()')
    await waiting
    expect(await looks()).toBe(before + 1)
    await held()
    const again = night({ turn: 200 })
    await new Promise((r) => setTimeout(r, 300))
    await s.owner.pool.query('INSERT INTO house_check (began_at, walls, entries, photos, faults) VALUES (now(), 1, 1, 0, 0)')
    await other.query('SELECT pg_advisory_unlock_all()')
    await again
    expect(await looks()).toBe(before + 2)
  } finally {
    other.release(true)
  }
})

describe('the export', () => {
  const read = async (wall: string, photos: 'all' | 'left out'): Promise<{ report: RecordReport; text: string }> => {
    let text = ''
    for await (const piece of recordFile({ id: wall, name: 'A wall' }, photos, '2026-06-01T00:00:00Z')) text += piece
    const [first = '', ...lines] = text.split('\n')
    const check = recordLines(first, { sums: SUMS })
    if (!check.ok) throw new Error(check.problems[0]?.message)
    for (const line of lines) if (check.value.take(line)) break
    return { report: check.value.end(), text }
  }
  test('holds revisions, checkpoints, entries and pictures, and verifies line by line and as one JSON', async () => {
    const wall = await newWall(s, 'Out')
    const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#488' } })
      .jpeg()
      .toBuffer()
    const taken = await takePhoto(wall, s.person('crew'), picture, { name: 'pad.jpg', strip: true })
    await recordEntries(wall, s.person('crew'), [{ ...noteFor(wall, ''), kind: 'photo', data: taken.ok ? taken.value : {} }], Date.now())
    await note(wall, ...Array.from({ length: 700 }, (_, i) => `line ${i}\nwith "words"`))
    await issueRevision(s.person('foreman'), wall, { ...planNamed('Out'), drawing: 'W-2' }, 1)
    await checkpointNow(wall)
    const { report, text } = await read(wall, 'all')
    expect(report).toMatchObject({ intact: true, entries: 703, revisions: 2, photos: 1, photosLeftOut: 0, checkpoints: 1 })
    expect(JSON.parse(text)).toMatchObject({ wall, withPhotos: 'all', entries: { length: 703 }, photos: { length: 1 }, key: publicKeyOf(SECRET) })
    expect((await read(wall, 'left out')).report).toMatchObject({ intact: true, photosLeftOut: 1 })
    expect(readCode((await codeFor(wall))?.code ?? '')).toMatchObject({ ok: true, value: { seq: 703 } })
  })
  test('a company without a key gives out no code and exports all the same', async () => {
    delete process.env.CHECKPOINT_KEY
    const wall = await newWall(s, 'Keyless')
    expect(await codeFor(wall)).toBeUndefined()
    expect((await read(wall, 'all')).report).toMatchObject({ intact: true, checkpoints: 0 })
    process.env.CHECKPOINT_KEY = SECRET
  })
})

describe('a request that fails half-way', () => {
  test('costs the wall nothing: it stays folded, and what was not committed is not in it', async () => {
    const wall = await newWall(s, 'Failing')
    await note(wall, 'a')
    const before = await stateOf(wall)
    const query = jest.spyOn(database().pool, 'query')
    query.mockImplementationOnce(() => Promise.reject(Object.assign(new Error('the connection was lost'), { code: '57P01' })) as never)
    await expect(note(wall, 'lost')).rejects.toThrow('the connection was lost')
    query.mockRestore()
    const after = await stateOf(wall)
    expect(after.steps).toBe(before.steps)
    expect(after.entries.map((e) => (e.entry.data as { text?: string }).text)).toEqual([undefined, 'a'])
    expect(await note(wall, 'b')).toMatchObject([{ ok: true, seq: 3 }])
    expect((await stateOf(wall)).steps).toBe(before.steps)
  })
  test('committed though nobody heard of it: it is there with the next look, once', async () => {
    const wall = await newWall(s, 'Unheard')
    await note(wall, 'a')
    const entry = noteFor(wall, 'arrived')
    const { pool } = database()
    const real = pool.query.bind(pool) as (...args: unknown[]) => Promise<unknown>
    const query = jest.spyOn(pool, 'query')
    query.mockImplementationOnce((async (...args: unknown[]) => {
      await real(...args)
      throw Object.assign(new Error('the answer was lost'), { code: '57P01' })
    }) as never)
    await expect(recordEntries(wall, s.person('crew'), [entry], Date.now())).rejects.toThrow('lost')
    query.mockRestore()
    expect(await recordEntries(wall, s.person('crew'), [entry], Date.now())).toMatchObject([{ ok: true, seq: 3 }])
    expect((await stateOf(wall)).entries).toHaveLength(3)
  })
  test('sent again by way of another process while others came between: what those recorded is not left out', async () => {
    const wall = await newWall(s, 'Between')
    await note(wall, 'a')
    const mine = { ...noteFor(wall, 'mine'), by: { id: s.person('crew').id, name: 'The crew', role: 'crew' } }
    const other = { ...noteFor(wall, 'theirs'), by: mine.by }
    const append = (e: typeof mine) =>
      s.owner.pool.query('INSERT INTO entry (wall_id, id, body) VALUES ($1, $2, $3)', [wall, e.id, canonicalOf(e as never)])
    await append(other)
    await append(mine)
    expect(await recordEntries(wall, s.person('crew'), [mine], Date.now())).toMatchObject([{ ok: true, seq: 4 }])
    const state = await stateOf(wall)
    expect(state.entries.map((e) => e.entry.id)).toEqual(expect.arrayContaining([mine.id, other.id]))
    expect(await head(wall)).toMatchObject({ seq: 4 })
    expect(await note(wall, 'next')).toMatchObject([{ ok: true, seq: 5 }])
  })
})

describe('under which revision a device may record', () => {
  const entry = (wall: string, revision: number, at: number) => ({ ...noteFor(wall, `under ${revision}`), revision, at: new Date(at).toISOString() })
  const begin = async (wall: string, began: Date) => {
    const id = uuid7()
    await s.owner.pool.query(`INSERT INTO "user" (id, name, email, role, "companyId") VALUES ($1, 'Device', $1 || '@site.example', 'crew', $2)`, [
      id,
      s.ours,
    ])
    await s.owner.pool.query(
      `INSERT INTO session (id, "expiresAt", token, "updatedAt", "createdAt", "userId") VALUES ($1, now() + interval '1 day', $1, now(), $2, $1)`,
      [id, began],
    )
    const session = { id, began }
    const send = (...entries: ReturnType<typeof entry>[]) => sendAt(Date.now(), ...entries)
    const sendAt = async (now: number, ...entries: ReturnType<typeof entry>[]) => {
      const outcomes = await recordEntries(wall, s.person('crew'), entries, now, { more: () => knownOf(session, wall) })
      await noteMade(id, wall, entries, outcomes)
      return outcomes.map((o) => (o.ok ? 'recorded' : o.problems[0]?.field))
    }
    return { session, send, sendAt }
  }
  test('the one it has; not an older one again once it recorded under the newer, nor one from before it signed in', async () => {
    const wall = await newWall(s, 'Revised')
    const soon = Date.now() + 1000
    const offline = await begin(wall, new Date(Date.now() - 5 * 86_400_000))
    expect(await issueRevision(s.person('foreman'), wall, { ...planNamed('Revised'), drawing: 'W-2' }, 1)).toMatchObject({ ok: true })
    // It never heard of the second: what it did under the first is kept as it is.
    expect(await offline.send(entry(wall, 1, soon))).toEqual(['recorded'])
    // It was given it; a day later it has it for certain.
    await noteGiven(offline.session.id, wall, 2, Date.now())
    expect(await offline.sendAt(soon + 25 * 3_600_000, entry(wall, 1, soon + 60_000), entry(wall, 1, soon + 25 * 3_600_000))).toEqual([
      'recorded',
      'revision',
    ])
    // It recorded under it: from then on nothing under the first, whatever it says; what was seen before that may still come.
    expect(await offline.send(entry(wall, 2, soon + 120_000))).toEqual(['recorded'])
    expect(await offline.send(entry(wall, 1, soon + 130_000), entry(wall, 1, soon + 100_000), entry(wall, 2, soon + 130_000))).toEqual([
      'revision',
      'recorded',
      'recorded',
    ])
    // A third revision, given today: that it may not be there yet takes nothing from what the device had.
    expect(await issueRevision(s.person('foreman'), wall, { ...planNamed('Revised'), drawing: 'W-3' }, 2)).toMatchObject({ ok: true })
    await noteGiven(offline.session.id, wall, 3, Date.now())
    expect(await offline.send(entry(wall, 1, soon + 140_000), entry(wall, 2, soon + 140_000))).toEqual(['revision', 'recorded'])
    const fresh = await begin(wall, new Date(Date.now() + 2000))
    expect(await fresh.sendAt(soon + 25 * 3_600_000, entry(wall, 1, soon + 25 * 3_600_000))).toEqual(['revision'])
    expect(await fresh.sendAt(soon + 25 * 3_600_000, entry(wall, 3, soon + 25 * 3_600_000))).toEqual(['recorded'])
  })
  test('what is sent out of its order is taken in, and what it says of its clock is not believed; sent twice it is there once', async () => {
    const wall = await newWall(s, 'Kept back')
    const device = await begin(wall, new Date(Date.now() - 5 * 86_400_000))
    const hours = (n: number) => ({ ...entry(wall, 1, Date.now() + n * 3_600_000), clock: 0 })
    const [first, second, back] = [hours(-6), hours(-2), hours(-5)]
    // Two days without a signal, sent in order: each is believed.
    expect(await device.send(first, second)).toEqual(['recorded', 'recorded'])
    expect(await device.send(back)).toEqual(['recorded'])
    // The answer was lost: sent again it hears the same.
    const again = await recordEntries(wall, s.person('crew'), [back], Date.now(), { more: () => knownOf(device.session, wall) })
    expect(again).toMatchObject([{ ok: true, uncompared: true }])
    const kept = (await stateOf(wall)).entries.filter((e) => e.entry.kind === 'note')
    expect(kept.map((e) => e.entry.clock)).toEqual([0, 0, undefined])
    const [, , late] = kept
    const { earliest, latest } = whenOf(await stateOf(wall), late as RecordedEntry)
    expect([earliest, latest]).toEqual([Date.parse(back.at), Date.parse(late?.receivedAt ?? '')])
    // Another entry under its name is another entry.
    expect(await device.send({ ...back, data: { text: 'other' } })).toEqual(['id'])
  })
  test.each([
    ['', undefined],
    ['soon', undefined],
    ['1e400', undefined],
    [`${Date.UTC(2026, 4, 20) + 30_000}`, 0],
    [`${Date.UTC(2026, 4, 20) + 7_200_000}`, 7200],
    [`${Date.UTC(2026, 4, 19)}`, -86_400],
  ])('a device that says "%s" of its clock is ahead by %s s', (said, ahead) =>
    expect(aheadOf(new Headers(said === '' ? {} : { 'x-clock': said }), Date.UTC(2026, 4, 20))).toBe(ahead),
  )
})

describe('the installation’s own checkpoint', () => {
  test('a wall that is gone with all of its record is missed by name, and nothing is signed over it', async () => {
    const [gone, kept] = [await newWall(s, 'Taken away'), await newWall(s, 'Stays')]
    expect(await markHouse()).toBe(true)
    expect(await markHouse()).toBe(false)
    expect(await missingWalls()).toEqual([])
    await recordEntries(kept, s.person('crew'), [noteFor(kept, 'more')], Date.now())
    expect(await markHouse()).toBe(true)
    await tamper(async (query) => {
      for (const table of ['entry', 'revision', 'chain_head', 'glimpse', 'overview', 'checkpoint', 'record_fault'])
        await query(`DELETE FROM ${table} WHERE wall_id = $1`, [gone])
      await query('DELETE FROM wall WHERE id = $1', [gone])
    })
    expect(await missingWalls()).toMatchObject([
      { id: gone, company: s.ours, name: 'Taken away', says: expect.stringMatching(/is gone with its record.*had 1 entry/) },
    ])
    expect(await markHouse()).toBe(false)
    for (let i = 0; i < 2; i++) await night()
    const said = (await securityLogOf(s.ours)).filter((l) => l.what === 'wall missing')
    expect(said).toMatchObject([{ detail: expect.stringMatching(/^Taken away: is gone/) }])
    expect((await healthOf(Date.now() + 60_000)).find((p) => p.part === 'records')).toMatchObject({ is: 'ill' })
  })
  test('a record that was made shorter, and a list that was written anew, are seen', async () => {
    await tamper(async (query) => void (await query("UPDATE house_mark SET walls = replace(walls, 'Stays', 'Stood')")))
    expect(await missingWalls()).toMatchObject([{ name: 'The list of walls' }])
  })
})
