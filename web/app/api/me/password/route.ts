import { ANY_FIELDS, askingWith, BODY, bodyIn, guarded, refuse } from '@/server/http'
import { changePassword } from '@/server/people'

/** Changes one's own password. */
export const POST = guarded(async (request: Request) => {
  const who = await askingWith(request)
  if (who instanceof Response) return who
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const done = await changePassword(who.person, who.session.id, body, request)
  return done.ok ? Response.json({ ok: true }) : refuse(422, done.problems)
})
