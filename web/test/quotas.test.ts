// Nobody uses up what is another's: what a device gives back, photos left half-way, tries of a shared line, streams, large pictures.
import childProcess from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { PHOTO_LIMIT } from '@stone-tally/core'
import { buildSync } from 'esbuild'
import sharp from 'sharp'
import { addPerson, signIn } from '../server/accounts'
import { database } from '../server/database'
import { PEER } from '../server/network'
import { takePhoto, takePiece } from '../server/photos'
import { leftOf, QUOTAS, UNFINISHED, within } from '../server/quotas'
import { setAside } from '../server/set-aside'
import { eventStream, STREAMS } from '../server/streams'
import { triedSignIn } from '../server/throttle'
import { uuid7 } from '../server/walls'
import { newWall, noteFor, site } from './site'

let s: Awaited<ReturnType<typeof site>>
let wall = ''
beforeAll(async () => {
  s = await site()
  wall = await newWall(s, 'Shares')
})
afterAll(() => s.end())

describe('shares of a day', () => {
  const who = () => ({ device: uuid7(), person: uuid7(), wall: uuid7(), company: uuid7() })
  test.each(['device', 'person', 'wall', 'company'] as const)('the share of a %s is counted over all that stand in it', async (share) => {
    const one = who()
    const others = () => ({ ...who(), [share]: one[share] })
    const most = QUOTAS['set-aside'][share]
    // In pieces that no narrower share refuses, each by somebody else.
    for (let left = most; left > 0; left -= 1500) expect(await within('set-aside', others(), Math.min(1500, left))).toEqual({ ok: true, value: true })
    const over = await within('set-aside', others())
    expect(over).toMatchObject({ ok: false, problems: [{ field: 'quota', message: expect.stringMatching(/are used up; .*goes in 24 h/) }] })
    expect(await leftOf('set-aside', others())).toMatchObject({ ok: false, problems: [{ field: 'quota' }] })
    expect(await leftOf('set-aside', who())).toEqual({ ok: true, value: true })
    // Whoever shares nothing with them goes on.
    expect(await within('set-aside', who())).toEqual({ ok: true, value: true })
  })

  test('what a device gives back beyond its share stays on it, and what it sends again takes nothing', async () => {
    const added = await Promise.all(
      ['una', 'vic'].map((name) => addPerson(s.ours, { name, email: `${name}@share.example`, password: 'a long password', role: 'crew' })),
    )
    const [una = '', vic = ''] = added.map((a) => (a.ok ? a.value.id : ''))
    const from = { person: una, companyId: s.ours, device: uuid7() }
    const thousand = () => Array.from({ length: 1000 }, (_, i) => noteFor(wall, `n${i}`))
    const first = thousand()
    expect(await setAside(wall, from, first)).toMatchObject({ ok: true })
    for (let i = 0; i < 3; i++) expect(await setAside(wall, from, first)).toMatchObject({ ok: true })
    expect(await setAside(wall, from, thousand())).toMatchObject({ ok: false, problems: [{ field: 'quota' }] })
    const kept = await database()
      .db.selectFrom('set_aside')
      .select((e) => e.fn.countAll<string>().as('n'))
      .executeTakeFirstOrThrow()
    expect(Number(kept.n)).toBe(1000)
    expect(await setAside(wall, { ...from, device: uuid7(), person: vic }, [noteFor(wall, 'honest')])).toMatchObject({ ok: true })
  })
})

test('a photo that is here whole, and of which nothing became, is taken in whichever piece comes next', async () => {
  const [mine, upload, bytes] = [s.person('crew'), uuid7(), randomBytes(900)]
  const send = (at: number, to: number) => takePiece(wall, mine, { upload, at, size: bytes.length, bytes: bytes.subarray(at, to) })
  await send(0, 500)
  expect(await send(500, 900)).toMatchObject({ ok: true, value: { whole: bytes } })
  expect(await send(0, 500)).toMatchObject({ ok: true, value: { whole: bytes } })
  await database().db.deleteFrom('photo_piece').execute()
})

test('photos left half-way: the oldest of the same person makes room, nobody else’s does', async () => {
  const [mine, other] = [s.person('crew'), s.person('foreman')]
  const part = randomBytes(PHOTO_LIMIT / 4)
  const begin = (person: typeof mine, upload: string) => takePiece(wall, person, { upload, at: 0, size: PHOTO_LIMIT, bytes: part })
  const theirs = uuid7()
  await begin(other, theirs)
  const uploads = Array.from({ length: 12 }, () => uuid7())
  for (const upload of uploads) expect(await begin(mine, upload)).toEqual({ ok: true, value: { have: part.length } })
  const lying = await database().db.selectFrom('photo_piece').select(['person', 'upload', 'bytes']).execute()
  const own = lying.filter((p) => p.person === mine.id)
  expect(own.reduce((sum, p) => sum + p.bytes.length, 0)).toBeLessThanOrEqual(UNFINISHED.person)
  expect(own.map((p) => p.upload)).toContain(uploads[11])
  expect(lying.some((p) => p.upload === theirs)).toBe(true)
  // What was let go begins anew.
  const gone = uploads.find((u) => !own.some((p) => p.upload === u)) ?? ''
  expect(await takePiece(wall, mine, { upload: gone, at: part.length, size: PHOTO_LIMIT, bytes: part })).toEqual({ ok: true, value: { have: 0 } })
  await database().db.deleteFrom('photo_piece').execute()
})

test('a new device of a shared line gets in beside whoever guesses there; whoever guesses gets no further', async () => {
  const network = '203.0.113.9'
  for (let i = 0; i < 90; i++) await triedSignIn(`nobody${i % 9}@guess.example`, network, undefined)
  // Nothing is let through of what is tried again and again.
  expect(await triedSignIn('nobody1@guess.example', network, undefined)).toMatchObject({ ok: false })
  const headers = new Headers({ [PEER]: network })
  const wrong = await signIn({ email: 'crew@ours.example', password: 'not that one' }, headers)
  expect(wrong).toMatchObject({ ok: false, problems: [{ message: 'e-mail or password is wrong' }] })
  // It is the same for an address that nobody has: nothing is learned from it.
  expect(await triedSignIn('never-seen@guess.example', network, undefined)).toEqual({ ok: true, value: true })
  // All of it has an end.
  let through = 0
  for (let i = 0; i < 700; i++) if ((await triedSignIn(`fresh${i}@guess.example`, network, undefined)).ok) through++
  expect(through).toBeLessThan(600)
  expect(await triedSignIn('one-more@guess.example', network, undefined)).toMatchObject({ ok: false })
})

test('streams: six hundred of one device are refused politely, another device listens', async () => {
  const gone = new AbortController()
  const open = (session: string) => eventStream(new Request('http://x/live', { signal: gone.signal }), session, undefined, () => () => {})
  const answers = Array.from({ length: 600 }, () => open('greedy'))
  expect(answers.filter((a) => a.status === 200)).toHaveLength(STREAMS)
  const refused = answers.find((a) => a.status !== 200)
  expect([refused?.status, refused?.headers.get('retry-after')]).toEqual([429, '30'])
  expect((await refused?.json())?.problems[0].message).toMatch(/listens 24 times already/)
  expect(open('another').status).toBe(200)
  // Closed they are free again.
  gone.abort()
  await new Promise((r) => setTimeout(r, 10))
  expect(open('greedy').status).toBe(200)
})

describe('a large picture', () => {
  const script = resolve(mkdtempSync(join('node_modules', '.picture-')), 'picture-process.mjs')
  beforeAll(() => {
    buildSync({
      entryPoints: [join('web', 'server', 'picture-process.ts')],
      outfile: script,
      bundle: true,
      platform: 'node',
      format: 'esm',
      external: ['sharp'],
    })
    process.env.PICTURE_PROCESS = script
  })
  afterAll(() => {
    rmSync(dirname(script), { recursive: true })
    delete process.env.PICTURE_PROCESS
  })
  test('is unpacked in a process of its own, as one is here; what is none is said', async () => {
    expect(existsSync(script)).toBe(true)
    const large = await sharp({ create: { width: 6000, height: 5000, channels: 3, background: '#876' } })
      .withExif({ IFD0: { Model: 'Pocket' } })
      .jpeg()
      .toBuffer()
    const taken = await takePhoto(wall, s.person('crew'), large, { name: 'wide.jpg', strip: true })
    expect(taken).toMatchObject({ ok: true, value: { width: 6000, height: 5000, type: 'image/jpeg' } })
    const row = await database().db.selectFrom('photo').select(['thumb', 'content']).where('name', '=', 'wide.jpg').executeTakeFirstOrThrow()
    expect([(await sharp(row.thumb).metadata()).width, (await sharp(row.content).metadata()).width]).toEqual([480, 6000])
    const cut = large.subarray(0, large.length / 2)
    expect(await takePhoto(wall, s.person('crew'), cut, { name: 'cut.jpg', strip: true })).toMatchObject({
      ok: false,
      problems: [{ field: 'photo' }],
    })
  })
  test('whose process ends half-way is no bad picture: it is sent again', async () => {
    const large = await sharp({ create: { width: 6000, height: 5000, channels: 3, background: '#678' } })
      .jpeg()
      .toBuffer()
    process.env.PICTURE_PROCESS = join(tmpdir(), 'nowhere.mjs')
    await expect(takePhoto(wall, s.person('crew'), large, { name: 'lost.jpg', strip: false })).rejects.toThrow(/stays on the device/)
    process.env.PICTURE_PROCESS = script
    // One that cannot even be started never ends.
    const nowhere = () => childProcess.spawn(join(tmpdir(), 'no-such-node'), { stdio: ['ignore', 'ignore', 'ignore', 'ipc'] })
    const fork = jest.spyOn(childProcess, 'fork').mockImplementation(nowhere as never)
    const none = takePhoto(wall, s.person('crew'), large, { name: 'lost.jpg', strip: false })
    await expect(none).rejects.toThrow(/stays on the device/)
    fork.mockRestore()
    // Nobody's place was lost over it: more than there are places for come through, each in its turn.
    const many = Array.from({ length: 4 }, () => takePhoto(wall, s.person('crew'), large, { name: 'lost.jpg', strip: false }))
    expect((await Promise.all(many)).map((m) => m.ok)).toEqual([true, true, true, true])
  })
})
