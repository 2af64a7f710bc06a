import { firstCompany } from '@/server/accounts'
import { ANY_FIELDS, BODY, bodyIn, guarded, refuse, sameOrigin } from '@/server/http'

export const POST = guarded(async (request: Request) => {
  if (!sameOrigin(request)) return refuse(403, 'this request did not come from a page of this application')
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const made = await firstCompany(body)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(422, made.problems)
})
