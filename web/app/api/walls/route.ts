import { readPlanFile } from '@stone-tally/core'
import { asking, BODY, bodyOf, guarded, refuse } from '@/server/http'
import { createWall } from '@/server/walls'

/** Makes a wall from a plan (`{ plan }`) or from the text of a plan file (`{ file }`). */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyOf(request, BODY.file)
  if (!body.ok) return refuse(400, body.problems)
  const { plan, file } = (body.value ?? {}) as { plan?: unknown; file?: unknown }
  const read = typeof file === 'string' ? readPlanFile(file) : { ok: true as const, value: plan }
  if (!read.ok) return refuse(422, read.problems)
  const made = await createWall(person, read.value)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(422, made.problems)
})
