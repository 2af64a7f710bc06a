import { asking, BODY, bodyOf, guarded, refuse } from '@/server/http'
import { keepTemplate } from '@/server/planning'

/** Keeps a plan as the template of a name, or takes it out: `{ name, plan }`, `{ name, plan: null }`. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyOf(request, BODY.file)
  if (!body.ok) return refuse(400, body.problems)
  const made = await keepTemplate(person, body.value)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(422, made.problems)
})
