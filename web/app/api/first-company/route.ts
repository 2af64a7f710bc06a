import { firstCompany } from '@/server/accounts'
import { BODY, bodyOf, guarded, refuse, sameOrigin } from '@/server/http'

export const POST = guarded(async (request: Request) => {
  if (!sameOrigin(request)) return refuse(403, 'this request did not come from a page of this application')
  const body = await bodyOf(request, BODY.words)
  if (!body.ok) return refuse(400, body.problems)
  const made = await firstCompany(body.value)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(422, made.problems)
})
