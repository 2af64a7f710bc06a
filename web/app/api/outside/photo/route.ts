import { optionalText, record } from '@stone-tally/core'
import { BODY, bodyIn, foreign, guarded, refuse } from '@/server/http'
import { outsidePhoto } from '@/server/outside'

/** A photo of what a link is about: `{token, file}`. */
export const POST = guarded(async (request: Request) => {
  const refused = foreign(request)
  if (refused) return refused
  const body = await bodyIn(request, BODY.words, record({ token: optionalText(200), file: optionalText(80) }))
  if (body instanceof Response) return body
  const { token, file } = body
  const found = await outsidePhoto(token, file, request.headers)
  if (!found) return refuse(404, 'there is no such photo')
  return new Response(new Uint8Array(found.content), {
    headers: {
      'content-type': found.type,
      'x-content-type-options': 'nosniff',
      'cache-control': 'no-store',
      'content-security-policy': "default-src 'none'; sandbox",
    },
  })
})
