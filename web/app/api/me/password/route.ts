import { askingWith, BODY, bodyOf, guarded, refuse } from '@/server/http'
import { changePassword } from '@/server/people'

/** Changes one's own password. */
export const POST = guarded(async (request: Request) => {
  const who = await askingWith(request)
  if (who instanceof Response) return who
  const body = await bodyOf(request, BODY.words)
  if (!body.ok) return refuse(400, body.problems)
  const done = await changePassword(who.person, who.session.id, body.value, request)
  return done.ok ? Response.json({ ok: true }) : refuse(422, done.problems)
})
