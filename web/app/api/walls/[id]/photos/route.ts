import { askingAbout, guarded, refuse } from '@/server/http'
import { photoBytes, takePhoto } from '@/server/photos'

type Params = { params: Promise<{ id: string }> }

/** Takes a photo in, as the bytes of the body; `name` and `strip=1` in the address. The answer is what an entry says of it. */
export const POST = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const bytes = await photoBytes(request)
  if (!bytes.ok) return refuse(413, bytes.problems)
  const query = new URL(request.url).searchParams
  const photo = await takePhoto(who.wall.id, who.person, bytes.value, { name: query.get('name') ?? 'photo', strip: query.get('strip') === '1' })
  return photo.ok ? Response.json(photo.value, { status: 201 }) : refuse(422, photo.problems)
})
