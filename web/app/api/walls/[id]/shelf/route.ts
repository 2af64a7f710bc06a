import { askingAbout, BODY, bodyOf, guarded, refuse } from '@/server/http'
import { shelve } from '@/server/planning'

/** Puts a wall away, brings it back, or throws a made-up one away: `{ stands, why? }`. */
export const POST = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const about = await askingAbout(request, (await params).id)
  if (about instanceof Response) return about
  const body = await bodyOf(request, BODY.words)
  if (!body.ok) return refuse(400, body.problems)
  const made = await shelve(about.person, about.wall, body.value)
  return made.ok ? Response.json(made.value) : refuse(422, made.problems)
})
