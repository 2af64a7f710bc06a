import { ANY_FIELDS, asking, BODY, bodyIn, guarded, refuse, tooOften, wordOf } from '@/server/http'
import { resetLink } from '@/server/people'

/** A link by which `{id}` sets a new password. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const often = tooOften('people', person.id)
  if (often) return often
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const made = await resetLink(person, wordOf(body, 'id'), request)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(403, made.problems)
})
