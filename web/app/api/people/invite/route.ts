import { ANY_FIELDS, asking, BODY, bodyIn, guarded, refuse, tooOften } from '@/server/http'
import { invite, withdraw } from '@/server/people'

/** Invites somebody; the link is given out once and stands nowhere. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const often = tooOften('people', person.id)
  if (often) return often
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const made = await invite(person, body, request)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(made.problems[0]?.field === 'role' ? 403 : 422, made.problems)
})

/** Takes one back that nobody has used. */
export const DELETE = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const gone = await withdraw(person, new URL(request.url).searchParams.get('id') ?? '', request)
  return gone.ok ? Response.json({ ok: true }) : refuse(403, gone.problems)
})
