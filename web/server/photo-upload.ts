import { refuse, tooMuch } from './http'
import { dropPieces, photoBytes, takePhoto, takePiece } from './photos'
import { leftOf, type Sharer, within } from './quotas'

/**
 * Takes in what a request sends of a photo: all of it, or its next piece.
 *
 * @returns 201 with what an entry says of it; 202 with how much is here; or what is wrong with it
 */
export async function takeUpload(who: Sharer, request: Request): Promise<Response> {
  const { wall, person } = who
  const query = new URL(request.url).searchParams
  const left = await leftOf('photo', who)
  if (!left.ok) return tooMuch(left.problems) ?? refuse(429, left.problems)
  const bytes = await photoBytes(request)
  if (!bytes.ok) return refuse(413, bytes.problems)
  const upload = query.get('upload')
  let whole = bytes.value
  if (upload !== null) {
    const piece = { upload, at: Number(query.get('at')), size: Number(query.get('size')), bytes: whole }
    const taken = await takePiece(wall, { id: person }, piece)
    if (!taken.ok) return tooMuch(taken.problems) ?? refuse(taken.problems[0]?.field === 'photo' ? 413 : 422, taken.problems)
    if ('have' in taken.value) return Response.json(taken.value, { status: 202 })
    whole = taken.value.whole
  }
  const photo = await takePhoto(wall, { id: person }, whole, { name: query.get('name') ?? 'photo', strip: query.get('strip') === '1' })
  if (upload !== null && (photo.ok || photo.problems.length > 0)) await dropPieces(wall, { id: person }, upload)
  if (photo.ok) await within('photo', who)
  return photo.ok ? Response.json(photo.value, { status: 201 }) : refuse(422, photo.problems)
}
