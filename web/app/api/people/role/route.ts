import { ANY_FIELDS, asking, BODY, bodyIn, guarded, refuse, tooOften, wordOf } from '@/server/http'
import { changeRole, removePerson } from '@/server/people'

/** `{id, role}`: changes what somebody may do. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const often = tooOften('people', person.id)
  if (often) return often
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const done = await changeRole(person, wordOf(body, 'id'), wordOf(body, 'role'), request)
  return done.ok ? Response.json({ role: done.value }) : refuse(done.problems[0]?.field === 'id' ? 403 : 422, done.problems)
})

/** Takes somebody out of the company (`?id=`). */
export const DELETE = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const done = await removePerson(person, new URL(request.url).searchParams.get('id') ?? '', request)
  return done.ok ? Response.json({ ok: true }) : refuse(403, done.problems)
})
