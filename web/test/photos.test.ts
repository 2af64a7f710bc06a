import { PHOTO_LIMIT, type PhotoData, type Result } from '@stone-tally/core'
import exifr from 'exifr'
import sharp from 'sharp'
import { database } from '../server/database'
import { cleanName, photoBytes, photoOf, type TakenPhoto, takePhoto } from '../server/photos'
import { recordEntries, stateOf } from '../server/record-store'
import { createWall, uuid7 } from '../server/walls'
import { planNamed, site } from './site'

let s: Awaited<ReturnType<typeof site>>
let wall = ''
beforeAll(async () => {
  s = await site()
  const made = await createWall(s.person('foreman'), planNamed('Photos'))
  if (!made.ok) throw new Error(made.problems[0]?.message)
  wall = made.value.id
})
afterAll(() => s.end())

/** A picture as a camera makes it: lying on its side, with time, maker and place. */
const camera = (width = 900, height = 600) =>
  sharp({ create: { width, height, channels: 3, background: '#8a7f6a' } })
    .withExif({
      IFD0: { Make: 'Tidewrack', Model: 'Trench 2', Orientation: '6' },
      IFD2: { DateTimeOriginal: '2026:05:20 09:15:30' },
      IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '57/1 30/1 0/1', GPSLongitudeRef: 'W', GPSLongitude: '4/1 15/1 0/1' },
    })
    .jpeg()
    .toBuffer()
const take = (bytes: Buffer, name = 'pipe.jpg', strip = false) => takePhoto(wall, s.person('crew'), bytes, { name, strip })
const got = (r: Result<TakenPhoto>) => {
  if (!r.ok) throw new Error(JSON.stringify(r.problems))
  return r.value
}

test('a photo is kept with what the camera knew, and a thumbnail', async () => {
  const bytes = await camera()
  const photo = got(await take(bytes))
  expect(photo).toMatchObject({
    name: 'pipe.jpg',
    type: 'image/jpeg',
    bytes: bytes.length,
    location: 'kept',
    taken: '2026-05-20T09:15:30',
    camera: 'Tidewrack Trench 2',
  })
  expect(photo.latitude).toBeCloseTo(57.5, 6)
  expect(photo.longitude).toBeCloseTo(-4.25, 6)
  expect((await photoOf(wall, photo.file, false))?.content.equals(bytes)).toBe(true)
  const small = await sharp((await photoOf(wall, photo.file, true))?.content).metadata()
  expect(Math.max(small.width ?? 0, small.height ?? 0)).toBe(480)
  expect((await photoOf(wall, '01900000-0000-7000-8000-000000000000', false)) ?? 'none').toBe('none')
})
test('sent twice it is kept once', async () => {
  const bytes = await camera(901)
  const [a, b] = [got(await take(bytes)), got(await take(bytes, 'again.jpg'))]
  expect(b.file).toBe(a.file)
})
test('its place is taken out on request, time and camera stay', async () => {
  const photo = got(await take(await camera(902), 'pipe.jpg', true))
  expect(photo).toMatchObject({ location: 'stripped', taken: '2026-05-20T09:15:30' })
  expect(photo).not.toHaveProperty('latitude')
  const kept = (await photoOf(wall, photo.file, false))?.content ?? Buffer.alloc(0)
  expect((await exifr.gps(kept)) ?? undefined).toBeUndefined()
  expect(String((await exifr.parse(kept, { pick: ['DateTimeOriginal'], reviveValues: false }))?.DateTimeOriginal)).toBe('2026:05:20 09:15:30')
  // The place is in no other form left in the bytes.
  expect(kept.includes(Buffer.from('GPS'))).toBe(false)
})
test.each<[string, () => Promise<Buffer> | Buffer, string, RegExp]>([
  [
    'a text with the name of a photo',
    () => Buffer.from('<html><script>alert(1)</script></html>'),
    'trench.jpg',
    /"trench.jpg" is not a photo that can be read/,
  ],
  [
    'a drawing that can hold a script',
    () => Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>1</script><rect width="9" height="9"/></svg>'),
    'a.svg',
    /is not a photo/,
  ],
  ['half a photo', async () => (await camera(903)).subarray(0, 1200), 'half.jpg', /is not a photo/],
  ['nothing but a head', () => Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 16]), 'head.jpg', /is not a photo/],
  ['60 MB', () => Buffer.alloc(60 * 1024 * 1024), 'big.jpg', /is 60.0 MB; at most 12 MB are taken/],
])('%s is refused', async (_name, bytes, name, message) => {
  const before = await database().db.selectFrom('photo').select('id').execute()
  const answer = await take(await bytes(), name)
  expect(answer.ok ? '' : answer.problems[0]?.message).toMatch(message)
  expect(await database().db.selectFrom('photo').select('id').execute()).toHaveLength(before.length)
})
test('a small file that unpacks to a huge picture', async () => {
  const bomb = await sharp({ create: { width: 12_000, height: 9_000, channels: 3, background: '#000' }, limitInputPixels: false })
    .png({ compressionLevel: 9 })
    .toBuffer()
  expect(bomb.length).toBeLessThan(PHOTO_LIMIT)
  expect(await take(bomb, 'bomb.png')).toMatchObject({ ok: false, problems: [{ message: expect.stringContaining('too many pixels') }] })
})
test('a script in the name does nothing', () => {
  expect(cleanName('../../etc/<script>alert(1)</script>.jpg')).toBe('script .jpg')
  expect(cleanName('a\u0000b\u202egpj.exe')).toBe('a b gpj.exe')
  expect(cleanName('   ')).toBe('photo')
  expect(cleanName('x'.repeat(400))).toHaveLength(120)
})
test('a body that is too large is given up before it has come in', async () => {
  const said = new Request('http://x/', { method: 'POST', body: 'x', headers: { 'content-length': `${60 * 1024 * 1024}` } })
  expect(await photoBytes(said)).toMatchObject({ ok: false, problems: [{ message: expect.stringContaining('60.0 MB') }] })
  let sent = 0
  const stream = new ReadableStream({
    pull(c) {
      sent += 1024 * 1024
      c.enqueue(new Uint8Array(1024 * 1024))
    },
  })
  const lying = new Request('http://x/', { method: 'POST', body: stream, duplex: 'half' } as RequestInit)
  expect((await photoBytes(lying)).ok).toBe(false)
  expect(sent).toBeLessThan(20 * 1024 * 1024)
  expect(await photoBytes(new Request('http://x/', { method: 'POST', body: '' }))).toMatchObject({ ok: false })
})
test('an entry shows only a photo that was sent in for its wall, and exactly that one', async () => {
  const photo = got(await take(await camera(904)))
  const entry = (data: PhotoData) => ({ id: uuid7(Date.now()), wall, revision: 1, at: new Date().toISOString(), kind: 'photo', where: {}, data })
  const record = (data: object) => recordEntries(wall, s.person('crew'), [entry(data as PhotoData)], Date.now())
  expect(await record({ ...photo, file: '01900000-0000-7000-8000-000000000000' })).toMatchObject([{ ok: false, problems: [{ field: 'data.file' }] }])
  expect(await record({ ...photo, sha256: 'b'.repeat(64) })).toMatchObject([{ ok: false, problems: [{ field: 'data.sha256' }] }])
  expect(await record({ ...photo, caption: 'outlet' })).toMatchObject([{ ok: true }])
  expect((await stateOf(wall)).entries.filter((e) => e.entry.kind === 'photo')).toHaveLength(1)
})
test('a photo cannot be changed or taken out', async () => {
  const { db } = database()
  await expect(db.deleteFrom('photo').execute()).rejects.toThrow(/permission denied|append-only/)
  await expect(s.owner.db.deleteFrom('photo' as never).execute()).rejects.toThrow(/append-only/)
})
