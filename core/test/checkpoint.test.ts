import { createHash } from 'node:crypto'
import {
  admit,
  bearsSignature,
  type ChainedEntry,
  type CheckpointCode,
  codeOf,
  type Entry,
  emptyState,
  fold,
  type HeldAgainst,
  isRecordStart,
  layOut,
  linkOf,
  longCodeOf,
  planHash,
  publicKeyOf,
  type RecordFile,
  readCode,
  readEntry,
  recordLines,
  type SignedCheckpoint,
  signCheckpoint,
  underOlder,
  verifyRecordFile,
  writeRecordFile,
} from '@stone-tally/core'
import { built, entry, NOW, smallPlan, WALL } from './plans'

const SECRET = '9d61b19deffd5a60ba844af492ec2cc44449c5697b326919703bac031cae7f60'
const PICTURE = Buffer.from('a picture of the pipe').toString('base64')
const sumOf = (content: string) => createHash('sha256').update(Buffer.from(content, 'base64')).digest('hex')
const PHOTO = { file: '11111111-1111-4111-8111-111111111111', sha256: sumOf(PICTURE), name: 'pipe.jpg', type: 'image/jpeg' }

/** A record with a chain that holds, whatever it says. */
function chained(entries: readonly Entry[]): { entries: ChainedEntry[]; head: { seq: number; hash: string } } {
  const made: ChainedEntry[] = []
  let hash = WALL
  for (const [i, e] of entries.entries()) {
    const recorded = { seq: i + 1, receivedAt: `2026-05-${10 + i}T10:00:00.000Z`, entry: e }
    hash = linkOf(hash, recorded)
    made.push({ ...recorded, hash })
  }
  return { entries: made, head: { seq: made.length, hash } }
}
const entries = () => [
  entry('revision', {}, { number: 1, plan: planHash(smallPlan) }),
  ...Array.from({ length: 6 }, (_, i) => entry('note', {}, { text: `day ${i}` })),
  entry('photo', {}, { ...PHOTO, bytes: 20, width: 4, height: 3, location: 'none' }),
]
const given = entries()
const whole = (): RecordFile => ({
  wall: WALL,
  revisions: [{ number: 1, issuedAt: '2026-05-10T10:00:00.000Z', plan: smallPlan }],
  ...chained(given),
  photos: [{ ...PHOTO, content: PICTURE }],
  withPhotos: 'all',
})
const checkpointAt = (file: RecordFile, seq: number): SignedCheckpoint =>
  signCheckpoint({ wall: WALL, day: `2026-05-${9 + seq}`, seq, hash: file.entries[seq - 1]?.hash as string }, SECRET)
const short = (c: SignedCheckpoint): CheckpointCode => {
  const read = readCode(codeOf(c))
  if (!read.ok) throw new Error(read.problems[0]?.message)
  return read.value
}

/** Both ways to look at a file: whole, and line by line as it is written. */
function bothWays(file: RecordFile, against: HeldAgainst = {}) {
  const [first = '', ...lines] = writeRecordFile(file, '2026-06-01T00:00:00Z').split('\n')
  const read = recordLines(first, against)
  if (!read.ok) throw new Error(read.problems[0]?.message)
  for (const line of lines) if (read.value.take(line)) break
  const byLines = read.value.end()
  expect(byLines).toEqual(verifyRecordFile(file, against))
  return byLines
}

describe('a code of a checkpoint', () => {
  const mark = checkpointAt(whole(), 5)
  test('is signed by the key of the installation, as RFC 8032 has it', () => {
    expect(publicKeyOf(SECRET)).toBe('d75a980182b10ab7d54bfed3c964073a0ee172f3daa62325af021a68f707511a')
    expect(bearsSignature(mark)).toBe(true)
    for (const change of [{ seq: 4 }, { day: '2026-05-15' }, { hash: 'a'.repeat(64) }, { signature: '00'.repeat(64) }, { key: 'zz' }])
      expect(bearsSignature({ ...mark, ...change })).toBe(false)
  })
  test('is read as it was kept: groups, capitals, none', () => {
    const said = { wall: WALL.replace(/-/g, '').slice(0, 8), day: '2026-05-14', seq: 5, hash: mark.hash.slice(0, 20) }
    for (const text of [codeOf(mark), codeOf(mark).toUpperCase(), ` ${codeOf(mark).replace(/ /g, '')} `, codeOf(mark).replace(/ /g, '-')])
      expect(readCode(text)).toEqual({ ok: true, value: said })
    expect(codeOf(mark).length).toBeLessThan(60)
  })
  test('a sign that is wrong, missing or doubled is noticed, each of them', () => {
    const code = codeOf(mark).replace(/ /g, '')
    for (let i = 6; i < code.length; i++) {
      const other = code[i] === 'q' ? 'p' : 'q'
      expect(readCode(code.slice(0, i) + other + code.slice(i + 1)).ok).toBe(false)
      expect(readCode(code.slice(0, i) + code.slice(i + 1)).ok).toBe(false)
    }
    expect(readCode('').ok).toBe(false)
    expect(readCode('stone1').ok).toBe(false)
    expect(readCode('another1qqqq')).toMatchObject({ problems: [{ message: expect.stringMatching(/begins with stone1/) }] })
  })
  test('the long one holds all of it and its signature', () => {
    expect(readCode(longCodeOf(mark))).toMatchObject({ ok: true, value: { seq: 5, hash: mark.hash, signed: { key: mark.key } } })
    expect(readCode(longCodeOf({ ...mark, seq: 6 }))).toMatchObject({ problems: [{ message: expect.stringMatching(/signature/) }] })
    expect(readCode(longCodeOf(mark).slice(0, -3))).toMatchObject({ problems: [{ message: expect.stringMatching(/not complete/) }] })
  })
})

describe('a record held against itself and against what was given out', () => {
  test('whole, it says what was looked at', () => {
    const file = { ...whole(), checkpoints: [checkpointAt(whole(), 3), checkpointAt(whole(), 8)] }
    expect(bothWays(file, { codes: [short(checkpointAt(file, 5))], key: publicKeyOf(SECRET) })).toMatchObject({
      ...{ intact: true, entries: 8, revisions: 1, photos: 1, photosLeftOut: 0, checkpoints: 2, codes: 1, keys: [publicKeyOf(SECRET)] },
    })
  })
  const code = short(checkpointAt(whole(), 6))
  test('its end cut off and the head set back: seen by the code, and by a checkpoint that is still there', () => {
    const cut = { ...whole(), ...chained(given.slice(0, 4)), withPhotos: 'left out' as const }
    expect(bothWays(cut)).toMatchObject({ intact: true })
    expect(bothWays(cut, { codes: [code] })).toMatchObject({
      intact: false,
      fault: 'removed',
      seq: 5,
      message: expect.stringMatching(/went up to 6/),
    })
    expect(bothWays({ ...cut, checkpoints: [checkpointAt(whole(), 7)] })).toMatchObject({ intact: false, fault: 'removed', seq: 5 })
  })
  test('its chain computed anew over a changed entry: seen by the code', () => {
    const anew = { ...whole(), ...chained(given.map((e, i) => (i === 3 ? ({ ...e, data: { text: 'sunny' } } as Entry) : e))) }
    expect(bothWays(anew)).toMatchObject({ intact: true })
    expect(bothWays(anew, { codes: [code] })).toMatchObject({ intact: false, fault: 'checkpoint', seq: 6 })
    // A code of before the change says nothing against it.
    expect(bothWays(anew, { codes: [short(checkpointAt(whole(), 2))] })).toMatchObject({ intact: true })
  })
  test('a revision that nobody issued, one that is there twice, one issued out of turn', () => {
    const [first] = whole().revisions
    const two = { number: 2, issuedAt: '2026-05-12T10:00:00.000Z', plan: { ...smallPlan, drawing: 'W-9' } }
    expect(bothWays({ ...whole(), revisions: [first as never, two] })).toMatchObject({
      ...{ fault: 'revision', message: expect.stringMatching(/revision 2 of the plan has no entry/) },
    })
    expect(bothWays({ ...whole(), revisions: [first as never, first as never] })).toMatchObject({ fault: 'revision' })
    const jumped = chained([...given, entry('revision', {}, { number: 3, plan: planHash(two.plan) })])
    expect(bothWays({ ...whole(), ...jumped, revisions: [first as never, { ...two, number: 3 }] })).toMatchObject({ fault: 'revision', seq: 9 })
    expect(bothWays({ ...whole(), revisions: [{ ...(first as RecordFile['revisions'][number]), plan: two.plan }] })).toMatchObject({
      seq: 1,
      fault: 'altered',
    })
  })
  test('a photo that was changed for another, or taken out; left out on purpose it is counted', () => {
    const other = [{ ...PHOTO, content: Buffer.from('another picture').toString('base64') }]
    expect(bothWays({ ...whole(), photos: other })).toMatchObject({ fault: 'photo', seq: 8 })
    expect(bothWays({ ...whole(), photos: [{ ...PHOTO, content: '!' }] })).toMatchObject({ fault: 'photo' })
    expect(bothWays({ ...whole(), photos: [] })).toMatchObject({ fault: 'photo', message: expect.stringMatching(/missing/) })
    expect(bothWays({ ...whole(), photos: [], withPhotos: 'left out' })).toMatchObject({ intact: true, photosLeftOut: 1 })
  })
  test('a code of another wall, a checkpoint of another key or with a forged signature', () => {
    const mark = checkpointAt(whole(), 3)
    const elsewhere = { ...short(mark), wall: 'ffffffff' }
    expect(bothWays(whole(), { codes: [elsewhere] })).toMatchObject({ fault: 'checkpoint', message: expect.stringMatching(/another wall/) })
    const key = publicKeyOf('11'.repeat(32))
    expect(bothWays({ ...whole(), checkpoints: [mark] }, { key })).toMatchObject({ message: expect.stringMatching(/another installation/) })
    expect(bothWays({ ...whole(), checkpoints: [{ ...mark, seq: 4 }] })).toMatchObject({ message: expect.stringMatching(/signature/) })
  })
  test('a file cut off half-way, with lines behind its end, or with rubbish between', () => {
    const text = writeRecordFile(whole(), '2026-06-01T00:00:00Z')
    expect(JSON.parse(text)).toMatchObject({ wall: WALL, entries: { length: 8 } })
    const check = (lines: readonly string[]) => {
      const read = recordLines(lines[0] ?? '')
      if (!read.ok) return read
      for (const line of lines.slice(1)) read.value.take(line)
      return read.value.end()
    }
    const lines = text.split('\n')
    expect(check(lines)).toMatchObject({ intact: true })
    for (let n = 1; n < lines.length - 2; n++) expect(check(lines.slice(0, n))).toMatchObject({ intact: false })
    expect(check([...lines, '{"more":1}'])).toMatchObject({ intact: false })
    expect(check([...lines.slice(0, 6), '12', ...lines.slice(6)])).toMatchObject({ intact: false })
    expect(check([...lines.slice(0, 6), '{"cut', ...lines.slice(6)])).toMatchObject({ intact: false })
    expect(check([...lines.slice(0, 6), '],"entries":[', ...lines.slice(6)])).toMatchObject({ intact: false })
    expect(check(['{"format":"other","revisions":['])).toMatchObject({ ok: false })
    expect(isRecordStart('{')).toBe(false)
  })
})

describe('the revision an entry is made under', () => {
  const layout = layOut(built(smallPlan))
  if (!layout.ok) throw new Error('the plan makes a wall')
  const layouts = [layout.value, layout.value]
  const at = (minutes: number) => new Date(NOW + minutes * 60_000).toISOString()
  const note = (minutes: number, more: Partial<Entry> = {}) => ({ ...entry('note', {}, { text: 'x' }), at: at(minutes), revision: 1, ...more })
  const state = fold(layouts, [
    { seq: 1, receivedAt: at(-60), entry: { ...entry('revision', {}, { number: 1, plan: 'a' }), at: at(-60) } },
    { seq: 2, receivedAt: at(0), entry: { ...entry('revision', {}, { number: 2, plan: 'b' }), at: at(0), revision: 2 } },
  ])
  const now = NOW + 600 * 60_000
  test('one of a device that did not have the newer one is kept, and shown as made under the older', () => {
    const late = note(30)
    expect(admit(state, late, now).ok).toBe(true)
    expect(admit(state, late, now, { revisions: [{ revision: 2, since: NOW + 40 * 60_000 }] }).ok).toBe(true)
    expect(admit(state, late, now, { revisions: [{ revision: 1, since: 0 }] }).ok).toBe(true)
    expect(underOlder(state, late)).toEqual({ inForce: 2, since: NOW, otherwise: undefined })
    expect(underOlder(state, note(-10))).toBeUndefined()
    expect(underOlder(state, note(30, { revision: 2 }))).toBeUndefined()
  })
  test('one of a device that had the newer is refused by name, whatever its clock says', () => {
    // Given a third since, which it may not have yet: that takes nothing from what it had.
    const known = {
      revisions: [
        { revision: 3, since: NOW + 400 * 60_000 },
        { revision: 2, since: NOW + 20 * 60_000 },
      ],
    }
    expect(admit(state, note(30), now, known)).toMatchObject({
      ok: false,
      problems: [{ field: 'revision', message: expect.stringMatching(/had revision 2/) }],
    })
    // Half an hour slow: what it calls before was after.
    expect(admit(state, note(10, { clock: -1800 }), now, known).ok).toBe(false)
    expect(admit(state, note(10), now, known).ok).toBe(true)
    expect(admit(state, note(30, { revision: 2 }), now, known).ok).toBe(true)
    // Four hours back, from a device that has recorded of later since: it was kept back, and is no older for being said to be.
    const since = { ...known, newest: NOW + 300 * 60_000 }
    expect(admit(state, note(-240), now, since)).toMatchObject({ ok: false, problems: [{ field: 'revision' }] })
    expect(admit(state, note(-240, { clock: 0 }), now, since).ok).toBe(false)
    // What comes in the order it was made is believed.
    expect(admit(state, note(10), now, { ...known, newest: NOW }).ok).toBe(true)
  })
  test('a day ahead of the house is no day; what the clock is known to be ahead by is taken off', () => {
    const days = (n: number, more: Partial<Entry> = {}) => note(600 + n * 1440, { revision: 2, ...more })
    const at = (e: Entry, ahead?: number) => admit(state, e, now, { revisions: [], ahead, seen: true }).ok
    expect([at(days(0.9)), at(days(1.1)), at(days(399)), at(days(399), 0)]).toEqual([true, false, false, false])
    expect([at(days(399), 399 * 86_400), at(days(399, { clock: 399 * 86_400 })), at(days(2), 86_400)]).toEqual([true, true, true])
    // On the device itself nobody compares: a year and more is no day there either.
    expect([admit(state, days(399), now).ok, admit(state, days(401), now).ok]).toEqual([true, false])
    // The entry's own word on its clock comes first: it was made when the clock was off.
    expect(at(days(399, { clock: 399 * 86_400 }), 0)).toBe(true)
  })
  test('nothing stands in force that the record does not have', () => expect(underOlder(emptyState(layouts), note(30))).toBeUndefined())
  test.each(['2026-02-31', '2026-13-01', '2026-00-10', '2025-02-29'])('%s is no day: not of a calibration, not of a ticket', (day) => {
    const instrument = { name: 'Level', serial: 'L1', calibratedUntil: day }
    expect(readEntry({ ...note(1), instrument })).toMatchObject({ ok: false, problems: [{ field: 'instrument.calibratedUntil' }] })
    expect(readEntry({ ...note(1), kind: 'check', data: { confirmed: [], until: day } })).toMatchObject({
      ok: false,
      problems: [{ field: 'data.until' }],
    })
  })
})
