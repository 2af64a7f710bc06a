import { askingAbout, guarded, refuse } from '@/server/http'
import { photoOf } from '@/server/photos'

type Params = { params: Promise<{ id: string; photo: string }> }

/** A photo of the wall; `?small` for its thumbnail. Whatever it holds, a browser may do nothing with it but show it. */
export const GET = guarded(async (request: Request, { params }: Params) => {
  const { id, photo } = await params
  const who = await askingAbout(request, id)
  if (who instanceof Response) return who
  const small = new URL(request.url).searchParams.has('small')
  const found = await photoOf(who.wall.id, photo, small)
  if (!found) return refuse(404, 'there is no such photo')
  return new Response(new Uint8Array(found.content), {
    headers: {
      'content-type': found.type,
      'content-disposition': `inline; filename="photo-${photo}.${found.type.split('/')[1]}"`,
      'x-content-type-options': 'nosniff',
      'content-security-policy': "default-src 'none'; sandbox",
      'cache-control': 'private, max-age=31536000, immutable',
    },
  })
})
