import { ANY_FIELDS, asking, BODY, bodyIn, guarded, refuse } from '@/server/http'
import { keepTemplate } from '@/server/planning'

/** Keeps a plan as the template of a name, or takes it out: `{ name, plan }`, `{ name, plan: null }`. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyIn(request, BODY.file, ANY_FIELDS)
  if (body instanceof Response) return body
  const made = await keepTemplate(person, body)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(422, made.problems)
})
