import { madeUpWall } from '@stone-tally/core'
import { asking, guarded, refuse } from '@/server/http'
import { createWall } from '@/server/walls'

/** Makes a made-up wall to try things on; it can be thrown away whole. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const made = await createWall(person, madeUpWall(), Date.now(), true)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(422, made.problems)
})
