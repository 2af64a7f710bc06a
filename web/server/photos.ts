import { createHash } from 'node:crypto'
import { fail, ok, PHOTO_LIMIT, PHOTO_TYPES, type PhotoData, type Problem, type Result } from '@stone-tally/core'
import exifr from 'exifr'
import sharp from 'sharp'
import type { Person } from './accounts'
import { bytesOf } from './bodies'
import { database } from './database'
import { isUuid } from './ids'
import { PIXELS } from './picture'
import { pictureMade } from './pictures'
import { roomForPiece } from './quotas'
import { markThumb } from './thumbs'

/** A photo as it was taken in: what an entry says of it. */
export type TakenPhoto = Omit<PhotoData, 'caption' | 'of'>

const MB = 1024 * 1024

const tooLarge = (bytes: number) =>
  fail('photo', `is ${(bytes / MB).toFixed(1)} MB; at most ${PHOTO_LIMIT / MB} MB are taken. Take it with less resolution, or make it smaller`)

/** The body of a request, given up as soon as it is larger than a photo may be. */
export async function photoBytes(request: Request): Promise<Result<Buffer>> {
  const bytes = await bytesOf(request, PHOTO_LIMIT, tooLarge)
  return bytes.ok && bytes.value.length === 0 ? fail('photo', 'is empty') : bytes
}

/** Pieces that nobody went on with for so long are let go, days. */
const PIECES_KEPT = 40

/**
 * One piece of a photo. Pieces come in order; one that is not the next changes nothing, so a piece sent twice is there once.
 *
 * @param at - where it begins, bytes
 * @param size - of the whole photo, bytes
 * @returns how much is here by now, or the whole photo
 */
export async function takePiece(
  wall: string,
  person: Pick<Person, 'id'>,
  { upload, at, size, bytes }: { upload: string; at: number; size: number; bytes: Buffer },
): Promise<Result<{ have: number } | { whole: Buffer }>> {
  if (!isUuid(upload)) return fail('upload', 'is not the id of an upload')
  const count = (n: number) => Number.isInteger(n) && n >= 0
  if (!count(at) || !count(size)) return fail('at', 'and size must be numbers of bytes')
  if (size > PHOTO_LIMIT) return tooLarge(size)
  const { db } = database()
  const mine = () => db.selectFrom('photo_piece').where('wall_id', '=', wall).where('person', '=', person.id).where('upload', '=', upload)
  const there = await mine()
    .select((e) => e.fn.sum<string>(e.fn<number>('length', ['bytes'])).as('have'))
    .executeTakeFirst()
  const have = Number(there?.have ?? 0)
  const whole = async () => Buffer.concat((await mine().select('bytes').orderBy('at').execute()).map((p) => p.bytes))
  // All of it came before, and what was to become of it was cut off.
  if (have === size && have > 0) return ok({ whole: await whole() })
  if (at !== have || have + bytes.length > size) return ok({ have })
  if (have === 0 && bytes.length === size) return ok({ whole: bytes })
  const room = await roomForPiece(wall, person.id, upload, bytes.length)
  if (!room.ok) return room
  await db
    .insertInto('photo_piece')
    .values({ wall_id: wall, upload, person: person.id, at, bytes })
    .onConflict((c) => c.doNothing())
    .execute()
  if (at + bytes.length < size) return ok({ have: at + bytes.length })
  const all = await whole()
  return all.length === size ? ok({ whole: all }) : ok({ have: all.length })
}

/** The photo is kept: its pieces are let go, and those nobody went on with. */
export async function dropPieces(wall: string, person: Pick<Person, 'id'>, upload: string): Promise<void> {
  const { db } = database()
  await db.deleteFrom('photo_piece').where('wall_id', '=', wall).where('person', '=', person.id).where('upload', '=', upload).execute()
  await dropOldPieces()
}

/** Lets go of what nobody went on with. */
export async function dropOldPieces(): Promise<void> {
  await database()
    .db.deleteFrom('photo_piece')
    .where('received_at', '<', new Date(Date.now() - PIECES_KEPT * 86_400_000))
    .execute()
}

/** Control signs, signs that turn the direction of writing, and those that mean something to a page or a folder. */
const harmless = (c: string) => {
  const code = c.codePointAt(0) ?? 0
  return code >= 0x20 && code !== 0x7f && !(code >= 0x202a && code <= 0x202e) && !(code >= 0x2066 && code <= 0x2069) && !'<>:"|?*'.includes(c)
}

/** The name a device gave: without folders and signs that do nothing but harm, never used as a path. */
export const cleanName = (name: string) => {
  const last = name.split(/[/\\]/).pop() ?? ''
  const plain = [...last]
    .map((c) => (harmless(c) ? c : ' '))
    .join('')
    .replace(/\s+/g, ' ')
    .trim()
  return (plain || 'photo').slice(0, 120)
}

interface Read {
  readonly taken?: string
  readonly camera?: string
  readonly latitude?: number
  readonly longitude?: number
}

/** What the camera wrote into the picture; nothing where it wrote nothing or rubbish. */
async function metadata(content: Buffer): Promise<Read> {
  // As text: a camera knows no time zone, so its time is kept as it stands.
  const exif = (await exifr
    .parse(content, {
      pick: ['DateTimeOriginal', 'Make', 'Model', 'GPSLatitude', 'GPSLongitude', 'GPSLatitudeRef', 'GPSLongitudeRef'],
      reviveValues: false,
      gps: true,
    })
    .catch(() => undefined)) as { DateTimeOriginal?: string; Make?: string; Model?: string; latitude?: number; longitude?: number } | undefined
  const time = /^(\d{4}):(\d\d):(\d\d)[ T](\d\d:\d\d:\d\d)/.exec(String(exif?.DateTimeOriginal ?? ''))
  const camera = [exif?.Make, exif?.Model]
    .filter((x) => typeof x === 'string')
    .join(' ')
    .trim()
    .slice(0, 80)
  const place = Number.isFinite(exif?.latitude) && Number.isFinite(exif?.longitude)
  return {
    ...(time ? { taken: `${time[1]}-${time[2]}-${time[3]}T${time[4]}` } : {}),
    ...(camera ? { camera } : {}),
    ...(place ? { latitude: exif?.latitude as number, longitude: exif?.longitude as number } : {}),
  }
}

/**
 * Takes a photo in: looked at by what it holds, not by what it is called; with a thumbnail; its place taken out on request.
 * The same photo sent twice is kept once.
 *
 * @param strip - take the place out
 * @returns what an entry says of it, or what is wrong with it
 * @example await takePhoto(wall, person, bytes, { name: 'pipe.jpg', strip: true })
 */
export async function takePhoto(
  wall: string,
  person: Pick<Person, 'id'>,
  bytes: Buffer,
  { name, strip }: { name: string; strip: boolean },
): Promise<Result<TakenPhoto>> {
  if (bytes.length > PHOTO_LIMIT) return tooLarge(bytes.length)
  const notOne = fail('photo', `"${cleanName(name)}" is not a photo that can be read; JPEG, PNG and WebP are taken`)
  const seen = await sharp(bytes, { limitInputPixels: PIXELS })
    .metadata()
    .catch((e: Error) => e)
  if (seen instanceof Error)
    return /pixel/i.test(seen.message) ? fail('photo', 'has too many pixels to be unpacked; take it with less resolution') : notOne
  const type = PHOTO_TYPES.find((t) => t === `image/${seen.format}`)
  if (!type) return notOne
  const meta = await metadata(bytes)
  const located = meta.latitude !== undefined
  try {
    const { taken, camera } = meta
    const made = await pictureMade((seen.width ?? 0) * (seen.height ?? 0), { bytes, type, strip, taken, camera })
    const { content, thumb, width, height } = made
    const photo = {
      sha256: createHash('sha256').update(content).digest('hex'),
      name: cleanName(name),
      type,
      bytes: content.length,
      width,
      height,
      ...(meta.taken ? { taken: meta.taken } : {}),
      ...(meta.camera ? { camera: meta.camera } : {}),
      location: strip && located ? ('stripped' as const) : located ? ('kept' as const) : ('none' as const),
      ...(located && !strip ? { latitude: meta.latitude, longitude: meta.longitude } : {}),
    }
    const { db } = database()
    const row = {
      wall_id: wall,
      ...{ sha256: photo.sha256, name: photo.name, type, width: photo.width, height: photo.height },
      content,
      thumb,
      meta: JSON.stringify(beside(photo)),
      added_by: person.id,
    }
    await db
      .insertInto('photo')
      .values(row)
      .onConflict((c) => c.columns(['wall_id', 'sha256']).doNothing())
      .execute()
    const kept = await db.selectFrom('photo').select('id').where('wall_id', '=', wall).where('sha256', '=', photo.sha256).executeTakeFirstOrThrow()
    await markThumb(kept.id, photo.sha256, createHash('sha256').update(thumb).digest('hex'))
    return ok({ file: kept.id, ...photo } as TakenPhoto)
  } catch (error) {
    if (error instanceof Error && /Input|corrupt|premature|unsupported|pixel|VipsJpeg|pngload|webp/i.test(error.message)) return notOne
    throw error
  }
}
/** Beside the picture, for whoever looks into the table. */
const beside = (p: { taken?: string; camera?: string; location: string }) => ({ taken: p.taken, camera: p.camera, location: p.location })

/** A photo of this wall, whole or small. */
export async function photoOf(wall: string, id: string, small: boolean): Promise<{ type: string; content: Buffer } | undefined> {
  if (!isUuid(id)) return undefined
  const row = await database()
    .db.selectFrom('photo')
    .select(['type', small ? 'thumb' : 'content'])
    .where('wall_id', '=', wall)
    .where('id', '=', id)
    .executeTakeFirst()
  if (!row) return undefined
  const content = (row as { thumb?: Buffer; content?: Buffer })[small ? 'thumb' : 'content'] as Buffer
  return { type: small ? 'image/jpeg' : row.type, content }
}

/** An entry may only show a photo that was sent in for this wall, and exactly that one. */
export async function missingPhoto(wall: string, data: PhotoData): Promise<Problem | undefined> {
  if (!isUuid(data.file)) return { field: 'data.file', message: 'is not the id of a photo' }
  const row = await database().db.selectFrom('photo').select('sha256').where('wall_id', '=', wall).where('id', '=', data.file).executeTakeFirst()
  if (!row) return { field: 'data.file', message: 'no such photo was sent in for this wall; send the photo first' }
  return row.sha256 === data.sha256 ? undefined : { field: 'data.sha256', message: 'is not that of the photo that was sent in' }
}
