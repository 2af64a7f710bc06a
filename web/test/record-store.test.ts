import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { issueUnder, type Plan, planHash, readRecordFile, statusOf, stepKey, verifyChain, verifyRecordFile, writeRecordFile } from '@stone-tally/core'
import { SIGNED } from '../../core/test/plans'
import { startCluster } from '../../scripts/cluster'
import { database } from '../server/database'
import { chainOf, recordEntries, stateOf } from '../server/record-store'
import { createWall, issueRevision, revisionsOf, uuid7, wallFor, wallsOf } from '../server/walls'
import { noteFor, planNamed, site, smallPlan } from './site'

/** A plan as a company without rules of its own issues it. */
const frozen = (plan: Plan) => {
  const made = issueUnder(plan, {})
  if (!made.ok) throw new Error(made.problems[0]?.message)
  return made.value
}

let s: Awaited<ReturnType<typeof site>>
const now = () => Date.now()
const newWall = async (name: string) => {
  const made = await createWall(s.person('foreman'), planNamed(name))
  if (!made.ok) throw new Error(made.problems[0]?.message)
  return made.value.id
}
beforeAll(async () => {
  s = await site()
})
afterAll(() => s.end())

test('a wall starts its chain with the revision and its fingerprint', async () => {
  const wall = await newWall('First')
  const { entries, head } = await chainOf(wall)
  expect(entries).toHaveLength(1)
  expect(entries[0]?.entry).toMatchObject({ kind: 'revision', data: { number: 1, plan: planHash(frozen(planNamed('First'))) } })
  expect(verifyChain(wall, entries, head)).toMatchObject({ intact: true })
})

test('planning takes the foreman or the office, and a plan that makes a wall', async () => {
  expect(await createWall(s.person('crew'), smallPlan)).toMatchObject({ ok: false, problems: [{ field: 'role' }] })
  expect(await createWall(s.person('foreman'), { ...smallPlan, length: -1 })).toMatchObject({
    ok: false,
    problems: expect.arrayContaining([expect.objectContaining({ field: 'length' })]),
  })
})

test('another company sees nothing, whatever id it names', async () => {
  const wall = await newWall('Private')
  expect(await wallFor(s.person('foreman', s.theirs), wall)).toBeUndefined()
  expect(await wallFor(s.person('foreman', s.theirs), "'; DROP TABLE wall; --")).toBeUndefined()
  expect((await wallsOf(s.theirs)).length).toBe(0)
  expect(await wallFor(s.person('foreman'), wall)).toMatchObject({ name: 'Private' })
})

test('entries are numbered, chained in the database and verified from an export', async () => {
  const wall = await newWall('Chained')
  const outcomes = await recordEntries(
    wall,
    s.person('crew'),
    [noteFor(wall, 'één'), noteFor(wall, 'two "quoted" \\ line\nbreak'), noteFor(wall, '三')],
    now(),
  )
  expect(outcomes.map((o) => o.ok && o.seq)).toEqual([2, 3, 4])
  const { entries, head } = await chainOf(wall)
  const revisions = (await revisionsOf(wall)).map(({ number, issuedAt, stored }) => ({ number, issuedAt, plan: stored }))
  const read = readRecordFile(writeRecordFile({ wall, revisions, entries, head }, new Date().toISOString()))
  expect(read.ok && verifyRecordFile(read.value)).toMatchObject({ intact: true, entries: 4, head: head.hash })
})

test('the author is who is signed in, whatever the device says', async () => {
  const wall = await newWall('Forged')
  await recordEntries(wall, s.person('crew'), [{ ...noteFor(wall, 'x'), by: { id: 'boss', name: 'Boss', role: 'inspector' } }], now())
  expect((await chainOf(wall)).entries[1]?.entry.by).toEqual({ id: s.person('crew').id, name: 'The crew', role: 'crew' })
})

test('the same batch twice is recorded once, also both at the same time', async () => {
  const wall = await newWall('Twice')
  const batch = [noteFor(wall, 'a'), noteFor(wall, 'b')]
  const [first, second] = await Promise.all([
    recordEntries(wall, s.person('crew'), batch, now()),
    recordEntries(wall, s.person('crew'), batch, now()),
  ])
  expect(second.map((o) => o.ok && o.seq)).toEqual(first.map((o) => o.ok && o.seq))
  expect((await recordEntries(wall, s.person('crew'), [batch[0], batch[0]], now())).map((o) => o.ok && o.seq)).toEqual([2, 2])
  expect((await chainOf(wall)).head.seq).toBe(3)
})

test('another entry under a used id is refused', async () => {
  const wall = await newWall('Reused')
  const id = uuid7()
  await recordEntries(wall, s.person('crew'), [noteFor(wall, 'a', id)], now())
  expect(await recordEntries(wall, s.person('crew'), [noteFor(wall, 'b', id)], now())).toMatchObject([{ ok: false, problems: [{ field: 'id' }] }])
})

test('in a batch each entry stands or falls by itself, and sees those before it', async () => {
  const wall = await newWall('Mixed')
  const at = { revision: 1, wall, at: new Date().toISOString() }
  const outcomes = await recordEntries(
    wall,
    s.person('foreman'),
    [
      {
        ...at,
        id: uuid7(),
        kind: 'check',
        where: { stage: 'services' },
        data: { confirmed: ['located', 'marked', 'revision'], until: '2099-12-31' },
      },
      { ...at, id: uuid7(), kind: 'check', where: { stage: 'set-out' }, data: { confirmed: ['line', 'second', 'benchmark'] } },
      { ...at, id: uuid7(), kind: 'units', where: { stage: 'units', section: 'A', course: 2 }, data: { set: 1 } },
      {
        ...at,
        id: uuid7(),
        kind: 'release',
        where: { stage: 'set-out' },
        data: { decision: 'released', reason: 'agreed', signature: SIGNED },
      },
      { ...at, id: uuid7(), kind: 'revision', where: {}, data: { number: 2, plan: 'x' } },
      { ...at, id: uuid7(), wall: uuid7(), kind: 'note', where: {}, data: { text: 'elsewhere' } },
    ],
    now(),
  )
  expect(outcomes.map((o) => o.ok)).toEqual([true, true, false, true, false, false])
  const state = await stateOf(wall)
  const step = state.byKey.get(stepKey({ stage: 'set-out' }))
  expect(step && statusOf(state, step).hold).toBe('released')
  expect(state.seq).toBe(4)
})

test('a record that moved on in another process is looked at again, never overwritten', async () => {
  const wall = await newWall('Moved')
  await stateOf(wall)
  // Another process: straight into the table, as the application's role may.
  const { pool } = database()
  const other = { ...noteFor(wall, 'from elsewhere'), by: { id: 'o', name: 'O', role: 'crew' } }
  await pool.query('INSERT INTO entry (wall_id, id, body) VALUES ($1, $2, $3)', [wall, other.id, JSON.stringify(other)])
  expect(await recordEntries(wall, s.person('crew'), [noteFor(wall, 'mine')], now())).toMatchObject([{ ok: true, seq: 3 }])
  expect((await stateOf(wall)).entries.map((e) => e.seq)).toEqual([1, 2, 3])
})

test('two people record on one wall at once: all there, in one order', async () => {
  const wall = await newWall('Busy')
  await Promise.all(Array.from({ length: 30 }, (_, i) => recordEntries(wall, s.person(i % 2 ? 'crew' : 'foreman'), [noteFor(wall, `n${i}`)], now())))
  const { entries, head } = await chainOf(wall)
  expect(entries).toHaveLength(31)
  expect(verifyChain(wall, entries, head)).toMatchObject({ intact: true })
})

test('a revision is issued as a link of the record', async () => {
  const wall = await newWall('Revised')
  expect(await issueRevision(s.person('office'), wall, { ...planNamed('Revised'), drawing: 'B' }, 1)).toEqual({ ok: true, value: { number: 2 } })
  expect((await stateOf(wall)).layouts).toHaveLength(2)
  expect((await chainOf(wall)).entries[1]?.entry).toMatchObject({ kind: 'revision', data: { number: 2 } })
})

test('a revision late in a long record is folded, not looked for again and again', async () => {
  const wall = await newWall('Long and revised')
  const notes = Array.from({ length: 2100 }, (_, i) => noteFor(wall, `n${i}`))
  for (let i = 0; i < 3; i++) await recordEntries(wall, s.person('crew'), notes.slice(i * 700, i * 700 + 700), now())
  await issueRevision(s.person('office'), wall, { ...planNamed('Long and revised'), drawing: 'C' }, 1)
  const state = await stateOf(wall)
  expect([state.seq, state.layouts.length]).toEqual([2102, 2])
}, 20_000)

test('eight revisions at once: one is issued, the others learn by whom they were overtaken', async () => {
  const wall = await newWall('Contested')
  const made = await Promise.all(
    Array.from({ length: 8 }, (_, i) => issueRevision(s.person('office'), wall, { ...planNamed('Contested'), drawing: `D${i}` }, 1)),
  )
  expect(made.filter((m) => m.ok)).toHaveLength(1)
  for (const m of made.filter((x) => !x.ok)) {
    expect(m).toMatchObject({
      ok: false,
      problems: [{ field: 'base', message: expect.stringMatching(/revision 2 was issued by The office meanwhile/) }],
    })
  }
  expect(await revisionsOf(wall)).toHaveLength(2)
  expect((await chainOf(wall)).entries).toHaveLength(2)
  expect(await issueRevision(s.person('office'), wall, planNamed('Contested'), 1)).toMatchObject({ ok: false, problems: [{ field: 'base' }] })
  expect(await issueRevision(s.person('office'), wall, planNamed('Contested'), undefined)).toMatchObject({ ok: false, problems: [{ field: 'base' }] })
  expect(await issueRevision(s.person('office'), wall, planNamed('Contested'), 7)).toMatchObject({ ok: false, problems: [{ field: 'base' }] })
})

test('one entry that cannot be read, kept or judged never takes its batch with it', async () => {
  const wall = await newWall('Odd ones')
  const deep = (n: number): unknown => (n === 0 ? 'x' : { a: deep(n - 1) })
  const batch: unknown[] = [
    noteFor(wall, 'first'),
    noteFor(wall, `NUL ${String.fromCharCode(0)} in it`),
    noteFor(wall, `half a character ${String.fromCharCode(0xd800)}`),
    { ...noteFor(wall, 'x'), id: 'not-an-id' },
    { ...noteFor(wall, 'x'), id: '------------------------------------' },
    { ...noteFor(wall, 'x'), revision: 1e308 },
    { ...noteFor(wall, 'x'), revision: Number.POSITIVE_INFINITY },
    { ...noteFor(wall, 'x'), where: { station: 1e300 } },
    { ...noteFor(wall, 'x'), data: deep(40) },
    { ...noteFor(wall, 'x'), supersedes: '00000000-0000-0000-0000-00000000000g' },
    { ...noteFor(wall, 'x'), kind: '__proto__' },
    { ...noteFor(wall, 'x'), kind: 'constructor' },
    {
      ...noteFor(wall, 'x'),
      kind: 'photo',
      data: { file: '-'.repeat(36), sha256: 'a'.repeat(64), name: 'a', type: 'image/jpeg', bytes: 1, width: 1, height: 1, location: 'none' },
    },
    null,
    7,
    [],
    noteFor(wall, 'last'),
  ]
  const quiet = jest.spyOn(console, 'error').mockImplementation(() => {})
  const outcomes = await recordEntries(wall, s.person('foreman'), batch, now())
  quiet.mockRestore()
  expect(outcomes.map((o) => o.ok)).toEqual(batch.map((_, i) => i === 0 || i === batch.length - 1))
  for (const o of outcomes) if (!o.ok) expect(o.problems[0]?.message.length).toBeGreaterThan(5)
  expect((await chainOf(wall)).head.seq).toBe(3)
})

test('an entry the core itself fails on is refused by name, the others are recorded', async () => {
  const wall = await newWall('Faulty')
  const quiet = jest.spyOn(console, 'error').mockImplementation(() => {})
  const bad = noteFor(wall, 'bad')
  // A fault of the core for one entry, wherever it comes from: this one when its time is read.
  const real = Date.parse
  const spy = jest.spyOn(Date, 'parse').mockImplementation((t) => {
    if (t === '2026-01-01T00:00:00Z') throw new Error('fault')
    return real(t)
  })
  const outcomes = await recordEntries(
    wall,
    s.person('crew'),
    [noteFor(wall, 'a'), { ...bad, at: '2026-01-01T00:00:00Z' }, noteFor(wall, 'b')],
    now(),
  )
  spy.mockRestore()
  quiet.mockRestore()
  expect(outcomes.map((o) => o.ok)).toEqual([true, false, true])
  expect(outcomes[1]).toMatchObject({ id: bad.id, problems: [{ message: expect.stringContaining('could not be judged') }] })
  expect((await stateOf(wall)).seq).toBe(3)
})

describe('the record refuses to be changed', () => {
  test.each([
    'UPDATE entry SET body = body',
    'DELETE FROM entry',
    'TRUNCATE entry',
    'UPDATE revision SET plan = plan',
    'DELETE FROM revision',
    'UPDATE chain_head SET seq = 0',
    'ALTER TABLE entry DISABLE TRIGGER ALL',
    'DROP TABLE entry CASCADE',
  ])("%s by the application's own role", async (statement) => {
    await expect(database().pool.query(statement)).rejects.toThrow(/permission denied|must be owner|append-only/)
  })
  test.each(['UPDATE entry SET body = body', 'DELETE FROM entry', 'TRUNCATE entry', 'UPDATE revision SET number = 9'])(
    '%s by the owner of the tables',
    async (statement) => {
      await expect(s.owner.pool.query(statement)).rejects.toThrow(/append-only/)
    },
  )
  test('number, time and link are made by the database, whatever is sent', async () => {
    const wall = await newWall('Insistent')
    await database().pool.query("INSERT INTO entry (wall_id, seq, id, body, received_at, hash) VALUES ($1, 99, $2, '{}', '2001-01-01', 'mine')", [
      wall,
      uuid7(),
    ])
    const { rows } = await database().pool.query('SELECT seq, hash, received_at FROM entry WHERE wall_id = $1 ORDER BY seq DESC LIMIT 1', [wall])
    expect(rows[0].seq).toBe(2)
    expect(rows[0].hash).toMatch(/^[0-9a-f]{64}$/)
    expect(new Date(rows[0].received_at).getFullYear()).toBeGreaterThan(2020)
  })
})

test('PostgreSQL killed during batches and started again: every acknowledged entry is there and the chain holds', async () => {
  const wall = await newWall('Killed')
  const acknowledged: string[] = []
  let refused = 0
  let stop = false
  const writer = (async () => {
    while (!stop) {
      const batch = Array.from({ length: 10 }, (_, i) => noteFor(wall, `b${i}`))
      try {
        for (const o of await recordEntries(wall, s.person('crew'), batch, now())) if (o.ok) acknowledged.push(o.id)
      } catch {
        refused++
        await new Promise((r) => setTimeout(r, 20))
      }
    }
  })()
  const until = async (done: () => boolean) => {
    for (let i = 0; i < 4000 && !done(); i++) await new Promise((r) => setTimeout(r, 20))
  }
  await until(() => acknowledged.length >= 50)
  const pid = readFileSync(join(s.cluster.folder, 'data', 'postmaster.pid'), 'utf8').split('\n')[0] ?? ''
  // The whole server at once, as a power cut would.
  spawnSync('pkill', ['-9', '-P', pid])
  process.kill(Number(pid), 'SIGKILL')
  await until(() => refused > 0)
  const before = acknowledged.length
  await startCluster(s.cluster.folder)
  await until(() => acknowledged.length > before + 20)
  stop = true
  await writer
  expect(refused).toBeGreaterThan(0)
  const { entries, head } = await chainOf(wall)
  const there = new Set(entries.map((e) => e.entry.id))
  expect(acknowledged.filter((id) => !there.has(id))).toEqual([])
  expect(verifyChain(wall, entries, head)).toMatchObject({ intact: true })
}, 180_000)
