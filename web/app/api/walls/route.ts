import { optionalText, readPlanFile, record } from '@stone-tally/core'
import { asking, BODY, bodyIn, guarded, refuse, whatever } from '@/server/http'
import { createWall } from '@/server/walls'

/** Makes a wall from a plan (`{ plan }`) or from the text of a plan file (`{ file }`). */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyIn(request, BODY.file, record({ plan: whatever(), file: optionalText(BODY.file) }))
  if (body instanceof Response) return body
  const { plan, file } = body
  const read = typeof file === 'string' ? readPlanFile(file) : { ok: true as const, value: plan }
  if (!read.ok) return refuse(422, read.problems)
  const made = await createWall(person, read.value)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(422, made.problems)
})
