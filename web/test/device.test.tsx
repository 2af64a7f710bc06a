// What a device keeps: records in pieces that never have a gap, walls that make room for others, people it knows for a while.
import { webcrypto } from 'node:crypto'
import { canonical, type RecordedEntry } from '@stone-tally/core'
import { built, entry, smallPlan } from '../../core/test/plans'
import { type Desk, device } from '../device/db'
import { keepWall, plansOf, removeWall, setKeep, waitingIn, wallHere, wallsHere } from '../device/kept'
import { appendLog, asideLogs, asideText, putLogAside, readLog, removeAside } from '../device/log'
import { outbox } from '../device/outbox'
import { daysHere, emptyDevice, hasPin, PIN_TRIES, sessionHere, setPin, signedIn, signedOff, tryPin } from '../device/session'
import { agoWords } from '../ui/ago'

const WALL = '018f3f3f-0000-7000-8000-00000000000a'
const fay = { id: 'fay', name: 'Fay', role: 'foreman' as const }
const entries: RecordedEntry[] = Array.from({ length: 400 }, (_, i) => ({
  seq: i + 1,
  receivedAt: '2026-05-20T10:00:00.000Z',
  entry: entry('note', {}, { text: `note ${i} ${'x'.repeat(300)}` }),
}))
const text = (from: number, to: number) =>
  entries
    .slice(from - 1, to)
    .map((e) => `${JSON.stringify(e)}\n`)
    .join('')
async function read(after = 0) {
  const got: RecordedEntry[] = []
  const head = await readLog(WALL, after, (list) => void got.push(...list))
  return { seqs: got.map((e) => e.seq), got, head }
}
const upTo = (n: number, from = 1) => Array.from({ length: n - from + 1 }, (_, i) => i + from)

describe('the record in pieces', () => {
  test('comes back as it went in, however it came: in bulk, one by one, twice', async () => {
    await appendLog(WALL, text(1, 250), 'h250')
    for (let i = 251; i <= 400; i++) await appendLog(WALL, text(i, i), `h${i}`)
    await appendLog(WALL, text(200, 300), 'wrong')
    const { seqs, got, head } = await read()
    expect(seqs).toEqual(upTo(400))
    expect(canonical(got)).toBe(canonical(entries))
    expect(head).toEqual({ seq: 400, hash: 'h400' })
    // One by one they share pieces.
    expect(await device().pages.count()).toBeLessThan(12)
    expect((await read(390)).seqs).toEqual(upTo(400, 391))
  })
  test('what does not follow is left out: a gap is worse than asking again', async () => {
    await appendLog(WALL, text(1, 10))
    await appendLog(WALL, text(15, 20))
    expect((await read()).head.seq).toBe(10)
    await appendLog(WALL, text(8, 16))
    expect((await read()).seqs).toEqual(upTo(16))
  })
  test.each([
    ['is gone', (from: number) => device().pages.delete([WALL, from])],
    ['cannot be read', (from: number) => device().pages.update([WALL, from], { text: '{"half' })],
    ['is not what its key says', (from: number) => device().pages.update([WALL, from], { text: text(1, 3) })],
  ])('a piece that %s ends it; the rest is asked for anew', async (_, spoil) => {
    await appendLog(WALL, text(1, 100))
    await appendLog(WALL, text(101, 200))
    await appendLog(WALL, text(201, 300), 'h300')
    await spoil(101)
    expect((await read()).head).toEqual({ seq: 100 })
    // From there it goes on.
    await appendLog(WALL, text(101, 400), 'h400')
    expect(await read()).toMatchObject({ seqs: upTo(400), head: { seq: 400, hash: 'h400' } })
    // The house has another record: what is here is perhaps all that is left of it.
    house()
    await keepWall(WALL, 'fay')
    await putLogAside(WALL, new Date('2026-05-20T10:00:00Z'))
    expect(await read()).toMatchObject({ seqs: [], head: { seq: 0 } })
    await appendLog(WALL, text(1, 3))
    const [aside] = await asideLogs('fay')
    expect(aside).toMatchObject({ wall: WALL, at: '2026-05-20T10:00:00.000Z', entries: 400 })
    expect((await asideText(aside?.id ?? '')).trim().split('\n')).toHaveLength(400)
    expect(await asideLogs('mo')).toEqual([])
    // Taking the wall off the device takes none of it away; only a person does.
    await removeWall(WALL)
    await keepWall(WALL, 'fay')
    expect(await asideLogs('fay')).toHaveLength(1)
    await removeAside(aside?.id ?? '')
    expect(await asideLogs('fay')).toEqual([])
  })
})

const deskOf = (id: string): Desk => ({
  id,
  name: `Wall ${id.slice(-2)}`,
  site: 'Yard',
  revisions: [{ number: 1, issuedAt: '2026-05-01T00:00:00.000Z', issuedBy: 'Fay', plan: built(smallPlan) }],
  levels: { company: {}, site: {} } as unknown as Desk['levels'],
  catalogue: [],
  scatter: {},
  keepers: ['office'],
})
/** A house that knows every wall, and says when nothing changed. */
function house() {
  const asked: string[] = []
  globalThis.fetch = (async (url: string) => {
    asked.push(url)
    const id = url.split('/')[3] as string
    const known = url.includes('have=mark')
    return {
      ok: true,
      status: known ? 204 : 200,
      headers: { get: (n: string) => (n === 'x-desk' ? 'mark' : null) },
      json: async () => deskOf(id),
    }
  }) as never
  return asked
}
const wallNo = (n: number) => `018f3f3f-0000-7000-8000-0000000001${String(n).padStart(2, '0')}`
const waits = (wall: string) => ({
  id: `w${wall}`,
  wall,
  revision: 1,
  at: '2026-05-20T08:00:00Z',
  kind: 'note',
  where: {},
  data: { text: 'x' },
  owner: 'fay',
})

describe('walls kept', () => {
  test('opened once it is here for who opened it, and asked for again only by its mark', async () => {
    const asked = house()
    await keepWall(WALL, 'fay')
    await keepWall(WALL, 'mo')
    expect(asked).toEqual([`/api/walls/${WALL}/desk`, `/api/walls/${WALL}/desk?have=mark`])
    const kept = await wallHere(WALL, 'mo')
    expect(kept && plansOf(kept)).toHaveLength(1)
    expect(await wallHere(WALL, 'stranger')).toBeUndefined()
    expect(await wallsHere('stranger')).toEqual([])
  })
  test('a page in between that answers everything keeps nothing and spoils nothing', async () => {
    house()
    await keepWall(WALL, 'fay')
    globalThis.fetch = (async () => ({ ok: true, status: 200, headers: { get: () => null }, json: async () => ({ welcome: true }) })) as never
    await keepWall(WALL, 'fay')
    expect((await wallHere(WALL, 'fay'))?.desk.site).toBe('Yard')
  })
  test('walls that were only looked at make room; never one that is to be kept, or in which something waits', async () => {
    house()
    for (let n = 0; n < 18; n++) {
      await keepWall(wallNo(n), 'fay')
      // The newer, the later its last contact.
      await device().walls.update(wallNo(n), { contact: n })
      if (n === 0) await setKeep(wallNo(0), true)
      if (n === 1) await outbox(wallNo(1)).put([waits(wallNo(1))])
    }
    const here = (await wallsHere('fay')).map((h) => h.wall.id)
    expect(here).toContain(wallNo(0))
    expect(here).toContain(wallNo(1))
    expect(here).not.toContain(wallNo(2))
    expect(here).toContain(wallNo(17))
    expect(here.length).toBeLessThanOrEqual(15)
  })
  test('taken off, what is on this device alone stays', async () => {
    house()
    await keepWall(WALL, 'fay')
    await appendLog(WALL, text(1, 10))
    await outbox(WALL).put([waits(WALL)])
    await removeWall(WALL)
    expect([await wallHere(WALL, 'fay'), (await read()).seqs, await waitingIn(WALL)]).toEqual([undefined, [], 1])
    await emptyDevice()
    expect(await waitingIn(WALL)).toBe(1)
  })
})

describe('people of a device', () => {
  const DAY = 86_400_000
  test('known for a while without a word of the house; a clock set back makes it no longer', async () => {
    expect(await sessionHere()).toBeUndefined()
    await signedIn(fay)
    const DAYS = await daysHere()
    expect(DAYS).toBe(14)
    const now = Date.now()
    expect((await sessionHere(now + (DAYS - 1) * DAY))?.is).toBe('open')
    expect((await sessionHere(now + (DAYS + 1) * DAY))?.is).toBe('over')
    expect((await sessionHere(now))?.is).toBe('over')
    // The house speaks again: whatever the clock said meanwhile is forgotten.
    await signedIn(fay)
    expect((await sessionHere(now + 1000))?.is).toBe('open')
    await signedOff()
    expect(await sessionHere(now)).toBeUndefined()
  })
  test('a PIN is right or wrong, and after too many wrong ones only the house helps', async () => {
    Object.defineProperty(globalThis, 'crypto', { value: webcrypto, configurable: true })
    expect(await tryPin('fay', '')).toEqual({ is: 'right' })
    await setPin('fay', '4711')
    expect([await hasPin('fay'), await hasPin('mo')]).toEqual([true, false])
    expect(await tryPin('fay', '4711')).toEqual({ is: 'right' })
    expect(await tryPin('fay', '1234')).toEqual({ is: 'wrong', left: PIN_TRIES - 1 })
    expect(await tryPin('fay', '4711')).toEqual({ is: 'right' })
    for (let i = 1; i < PIN_TRIES; i++) expect((await tryPin('fay', '0000')).is).toBe('wrong')
    expect(await tryPin('fay', '0000')).toEqual({ is: 'shut' })
    expect(await tryPin('fay', '4711')).toEqual({ is: 'shut' })
    // Nothing of it can be read where it is kept.
    const kept = JSON.stringify(await device().notes.toArray())
    // Salt and hash are chance: four digits in a row are found in them now and then.
    expect(kept.replace(/"[0-9a-f]{32,}"/g, '"…"')).not.toContain('4711')
    await setPin('fay', undefined)
    expect(await tryPin('fay', '')).toEqual({ is: 'right' })
  })
})

test('how long ago, in the words people use', () => {
  const now = Date.parse('2026-05-20T12:00:00Z')
  expect([1000, 5 * 60_000, 3 * 3_600_000, 30 * 86_400_000].map((ms) => agoWords(now - ms, now))).toEqual([
    'just now',
    '5 minutes ago',
    '3 hours ago',
    '30 days ago',
  ])
})
