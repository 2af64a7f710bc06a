import { createHmac, timingSafeEqual } from 'node:crypto'
import sharp from 'sharp'
import { database } from './database'
import { pictureMade } from './pictures'

/** Edge of the picture two are compared by, and how far two of the same may be apart on average, of 255: packing changes little, another picture much. */
const EDGE = 32
const APART = 10

const markOf = (photo: string, content: string, thumb: string) =>
  createHmac('sha256', process.env.AUTH_SECRET ?? '')
    .update(`thumb\n${photo}\n${content}\n${thumb}`)
    .digest('base64url')

/** It is the small picture of this photo. @param content - sum of the photo. @param thumb - of the small one, both in hex */
export async function markThumb(photo: string, content: string, thumb: string): Promise<void> {
  await database()
    .db.insertInto('thumb_mark')
    .values({ photo, mark: markOf(photo, content, thumb) })
    .onConflict((c) => c.doNothing())
    .execute()
}

const bears = (mark: string, photo: string, content: string, thumb: string) => {
  const [own, given] = [Buffer.from(markOf(photo, content, thumb)), Buffer.from(mark)]
  return own.length === given.length && timingSafeEqual(own, given)
}

const small = (bytes: Buffer) => sharp(bytes).rotate().resize(EDGE, EDGE, { fit: 'fill' }).greyscale().raw().toBuffer()

/**
 * Does the small picture of a photo show what the photo shows? What was seen to before bears a mark; any other is made anew and held against it.
 *
 * @param content - sum of the photo. @param thumb - of the small one, both in hex
 */
export async function thumbFits(photo: string, content: string, thumb: string): Promise<boolean> {
  const { db } = database()
  const marks = await db.selectFrom('thumb_mark').select('mark').where('photo', '=', photo).execute()
  if (marks.some((m) => bears(m.mark, photo, content, thumb))) return true
  const row = await db.selectFrom('photo').select(['content', 'thumb', 'type', 'width', 'height']).where('id', '=', photo).executeTakeFirst()
  if (!row) return true
  try {
    const made = await pictureMade(row.width * row.height, { bytes: row.content, type: row.type, strip: false })
    const [own, kept] = await Promise.all([small(made.thumb), small(row.thumb)])
    const apart = own.reduce((sum, v, i) => sum + Math.abs(v - (kept[i] ?? 0)), 0) / own.length
    if (apart > APART) return false
  } catch {
    // No picture any more, the one or the other.
    return false
  }
  await markThumb(photo, content, thumb)
  return true
}
