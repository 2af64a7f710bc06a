import { asking, BODY, bodyOf, guarded, refuse, tooOften, wordOf } from '@/server/http'
import { resetLink } from '@/server/people'

/** A link by which `{id}` sets a new password. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const often = tooOften('people', person.id)
  if (often) return often
  const body = await bodyOf(request, BODY.words)
  if (!body.ok) return refuse(400, body.problems)
  const made = await resetLink(person, wordOf(body.value, 'id'), request)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(403, made.problems)
})
