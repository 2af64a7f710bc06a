import { asking, BODY, bodyOf, guarded, refuse } from '@/server/http'
import { markSeen } from '@/server/planning'

/** What the person has seen once and for all: `{ what }`. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyOf(request, BODY.words)
  if (!body.ok) return refuse(400, body.problems)
  const made = await markSeen(person, body.value)
  return made.ok ? Response.json(made.value) : refuse(422, made.problems)
})
