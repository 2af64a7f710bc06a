import { ANY_FIELDS, asking, BODY, bodyIn, guarded, refuse } from '@/server/http'
import { logged } from '@/server/security-log'
import { setSessionRule } from '@/server/sessions'

/** `{idle, most}`: days that people of the company stay signed in. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const set = await setSessionRule(person, body)
  if (!set.ok) return refuse(set.problems[0]?.field === 'role' ? 403 : 422, set.problems)
  await logged('session rule', request, person, `${set.value.idle} days without use, ${set.value.most} in all`)
  return Response.json(set.value)
})
