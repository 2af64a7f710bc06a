import { askingAbout, guarded, refuse } from '@/server/http'
import { dropPieces, photoBytes, takePhoto, takePiece } from '@/server/photos'

type Params = { params: Promise<{ id: string }> }

/**
 * Takes a photo in, as the bytes of the body; `name` and `strip=1` in the address. The answer is what an entry says of it. With `upload`,
 * `at` and `size` the body is a piece of it: the answer (202) says how much is here until it is whole.
 */
export const POST = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const query = new URL(request.url).searchParams
  const maker = query.get('person')
  if (maker !== null && maker !== who.person.id) return refuse(403, 'another person is signed in; this photo waits for the one who took it')
  const bytes = await photoBytes(request)
  if (!bytes.ok) return refuse(413, bytes.problems)
  const upload = query.get('upload')
  let whole = bytes.value
  if (upload !== null) {
    const piece = { upload, at: Number(query.get('at')), size: Number(query.get('size')), bytes: whole }
    const taken = await takePiece(who.wall.id, who.person, piece)
    if (!taken.ok) return refuse(taken.problems[0]?.field === 'photo' ? 413 : 422, taken.problems)
    if ('have' in taken.value) return Response.json(taken.value, { status: 202 })
    whole = taken.value.whole
  }
  const photo = await takePhoto(who.wall.id, who.person, whole, { name: query.get('name') ?? 'photo', strip: query.get('strip') === '1' })
  if (upload !== null && (photo.ok || photo.problems.length > 0)) await dropPieces(who.wall.id, who.person, upload)
  return photo.ok ? Response.json(photo.value, { status: 201 }) : refuse(422, photo.problems)
})
