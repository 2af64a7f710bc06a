// What devices need of the house: photos in pieces, a glimpse that is never trusted over the record, and what a signed-out device gives back.
import { randomBytes } from 'node:crypto'
import { type Glimpse, PHOTO_LIMIT } from '@stone-tally/core'
import { addPerson, endedSession, signIn, signOutEverywhere } from '../server/accounts'
import { database } from '../server/database'
import { glimpseFor } from '../server/glimpses'
import { keptMark } from '../server/kept-mark'
import { dropPieces, takePiece } from '../server/photos'
import { chainOf, isLink, recordEntries } from '../server/record-store'
import { setAside, setAsideOf } from '../server/set-aside'
import { uuid7 } from '../server/walls'
import { newWall, noteFor, site } from './site'

let s: Awaited<ReturnType<typeof site>>
let wall = ''
beforeAll(async () => {
  s = await site()
  wall = await newWall(s, 'Devices')
})
afterAll(() => s.end())

describe('a photo in pieces', () => {
  const bytes = randomBytes(1000)
  const send = (upload: string, at: number, to: number, person = s.person('crew'), size = bytes.length) =>
    takePiece(wall, person, { upload, at, size, bytes: bytes.subarray(at, to) })
  test('goes on where it was, is there once however often a piece is sent, and is whole in the end', async () => {
    const upload = uuid7()
    expect(await send(upload, 0, 400)).toEqual({ ok: true, value: { have: 400 } })
    expect(await send(upload, 0, 400)).toEqual({ ok: true, value: { have: 400 } })
    // Out of turn: it says how far it is.
    expect(await send(upload, 800, 1000)).toEqual({ ok: true, value: { have: 400 } })
    expect(await send(upload, 400, 800)).toEqual({ ok: true, value: { have: 800 } })
    const last = await send(upload, 800, 1000)
    expect(last.ok && 'whole' in last.value && last.value.whole.equals(bytes)).toBe(true)
    await dropPieces(wall, s.person('crew'), upload)
    expect(await database().db.selectFrom('photo_piece').selectAll().execute()).toEqual([])
  })
  test('another person’s pieces are theirs, two at once are one, too much is refused', async () => {
    const upload = uuid7()
    await send(upload, 0, 400)
    expect(await send(upload, 400, 800, s.person('foreman'))).toEqual({ ok: true, value: { have: 0 } })
    await Promise.all([send(upload, 400, 700), send(upload, 400, 700)])
    expect(await send(upload, 0, 10)).toEqual({ ok: true, value: { have: 700 } })
    expect(await send(uuid7(), 0, 10, undefined, PHOTO_LIMIT + 1)).toMatchObject({ ok: false, problems: [{ field: 'photo' }] })
    expect(await takePiece(wall, s.person('crew'), { upload: 'x', at: 0, size: 10, bytes })).toMatchObject({ ok: false })
    expect(await send(uuid7(), Number.NaN, 10)).toMatchObject({ ok: false, problems: [{ field: 'at' }] })
  })
})

describe('a glimpse', () => {
  const read = async () => JSON.parse(await glimpseFor(wall)) as Glimpse
  test('stands at the end of the record; one that was tampered with, or is of another build, is made anew', async () => {
    process.env.BUILT_FROM = 'this build'
    await recordEntries(wall, s.person('crew'), [noteFor(wall, 'one')], Date.now())
    const first = await read()
    const { head } = await chainOf(wall)
    expect([first.seq, first.hash]).toEqual([head.seq, head.hash])
    const { db } = database()
    const spoil = (row: object) =>
      db
        .updateTable('glimpse')
        .set({ body: '{"seq":1,"spoiled":true}', ...row })
        .where('wall_id', '=', wall)
        .execute()
    const body = '{"seq":1,"spoiled":true}'
    const mark = () => keptMark(body, wall, `${head.seq}`, head.hash)
    // Used as it is where it stands at the very link and bears the mark of the installation.
    await spoil({ made_by: mark() })
    expect(await read()).toEqual({ seq: 1, spoiled: true })
    process.env.BUILT_FROM = 'another build'
    const other = mark()
    process.env.BUILT_FROM = 'this build'
    for (const row of [{ hash: 'f'.repeat(64) }, { seq: 1 }, { made_by: other }, { made_by: 'this build' }, { body: `${body} ` }]) {
      await spoil({ ...{ hash: head.hash, seq: head.seq, made_by: mark() }, ...row })
      expect(await read()).toEqual(first)
    }
    await recordEntries(wall, s.person('crew'), [noteFor(wall, 'two')], Date.now())
    expect((await read()).seq).toBe(head.seq + 1)
  })
  test('a device that has another record is told', async () => {
    const { head } = await chainOf(wall)
    expect(await Promise.all([isLink(wall, head.seq, head.hash), isLink(wall, head.seq, undefined)])).toEqual([true, true])
    expect(await Promise.all([isLink(wall, head.seq, '0'.repeat(64)), isLink(wall, head.seq + 5, undefined)])).toEqual([false, false])
  })
})

test('what a signed-out device gives back is set aside once, under its person, and never recorded', async () => {
  const added = await addPerson(s.ours, { name: 'Lea', email: 'lea@site.example', password: 'a long password', role: 'crew' })
  const into = await signIn({ email: 'lea@site.example', password: 'a long password' }, new Headers())
  if (!added.ok || !into.ok) throw new Error('not signed in')
  const headers = new Headers({ cookie: into.value.cookies.map((c) => c.split(';')[0]).join('; ') })
  expect(await endedSession(headers)).toBeUndefined()
  await signOutEverywhere(s.ours, added.value.id, 'The office')
  const who = await endedSession(headers)
  expect(who).toEqual({ person: added.value.id, companyId: s.ours, device: expect.any(String) })
  if (!who) return
  const before = (await chainOf(wall)).head
  const [one, two] = [noteFor(wall, 'waited'), noteFor(wall, 'waited too')]
  const by = { id: 'somebody', name: 'Somebody Else', role: 'office' }
  const kept = await setAside(wall, who, [{ ...one, by }, two, { nonsense: true }, { ...two, wall: uuid7(), id: uuid7() }])
  expect(kept).toEqual({ ok: true, value: [one.id, two.id] })
  await setAside(wall, who, [one])
  const list = await setAsideOf(wall)
  expect(list.map((x) => x.entry.id).sort()).toEqual([one.id, two.id].sort())
  expect(list.map((x) => x.entry.by.name)).toEqual(['Lea', 'Lea'])
  expect((await chainOf(wall)).head).toEqual(before)
  expect(await setAside(wall, { ...who, companyId: s.theirs }, [one])).toMatchObject({ ok: false })
  await expect(database().pool.query('DELETE FROM set_aside')).rejects.toThrow()
})
