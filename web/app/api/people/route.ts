import { addPerson, mayNotAdd, signOutEverywhere } from '@/server/accounts'
import { ANY_FIELDS, asking, BODY, bodyIn, guarded, refuse, wordOf } from '@/server/http'
import { logged } from '@/server/security-log'

/** Adds a person. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const why = await mayNotAdd(person, body.role)
  if (why) return refuse(403, why)
  const made = await addPerson(person.companyId, body)
  if (made.ok) await logged('person added', request, person, wordOf(body, 'role'))
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(422, made.problems)
})

/** Signs a person out on every device: oneself, or anyone for the office. */
export const DELETE = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const id = new URL(request.url).searchParams.get('id') ?? person.id
  if (id !== person.id && person.role !== 'office') return refuse(403, 'signing others out takes the office')
  const ended = await signOutEverywhere(person.companyId, id, person.name)
  if (ended.ok) await logged('sessions ended', request, person, id === person.id ? 'all of their own' : `all of ${id}`)
  return ended.ok ? Response.json({ ended: ended.value }) : refuse(404, ended.problems)
})
