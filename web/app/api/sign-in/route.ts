import { signIn } from '@/server/accounts'
import { BODY, bodyOf, guarded, refuse, sameOrigin } from '@/server/http'

export const POST = guarded(async (request: Request) => {
  if (!sameOrigin(request)) return refuse(403, 'this request did not come from a page of this application')
  const body = await bodyOf(request, BODY.words)
  if (!body.ok) return refuse(400, body.problems)
  const result = await signIn(body.value, request.headers)
  if (!result.ok) return refuse(result.problems[0]?.message.startsWith('too many') ? 429 : 401, result.problems)
  // The library's body repeats the session token; only the HttpOnly cookie goes out.
  const headers = new Headers()
  for (const cookie of result.value.headers.getSetCookie()) headers.append('set-cookie', cookie)
  return Response.json({ ok: true }, { headers })
})
