import { ANY_FIELDS, askingAbout, BODY, bodyIn, guarded, refuse } from '@/server/http'
import { shelve } from '@/server/planning'

/** Puts a wall away, brings it back, or throws a made-up one away: `{ stands, why? }`. */
export const POST = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const about = await askingAbout(request, (await params).id)
  if (about instanceof Response) return about
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const made = await shelve(about.person, about.wall, body)
  return made.ok ? Response.json(made.value) : refuse(422, made.problems)
})
