import { ANY_FIELDS, asking, BODY, bodyIn, guarded, refuse } from '@/server/http'
import { markSeen } from '@/server/planning'

/** What the person has seen once and for all: `{ what }`. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const made = await markSeen(person, body)
  return made.ok ? Response.json(made.value) : refuse(422, made.problems)
})
