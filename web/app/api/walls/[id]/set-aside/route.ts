import { record } from '@stone-tally/core'
import { endedSession } from '@/server/accounts'
import { askingAbout, BODY, bodyIn, foreign, guarded, refuse, tooMuch, whatever } from '@/server/http'
import { setAside, setAsideOf } from '@/server/set-aside'

type Params = { params: Promise<{ id: string }> }

/** Takes in `{ entries: [...] }` of a device that the office signed out: not recorded, kept for the foreman to look at. */
export const POST = guarded(async (request: Request, { params }: Params) => {
  const wrong = foreign(request)
  if (wrong) return wrong
  const who = await endedSession(request.headers)
  if (!who) return refuse(401, 'this is for a device that was signed out by the office')
  const body = await bodyIn(request, BODY.entries, record({ entries: whatever() }))
  if (body instanceof Response) return body
  const entries = body.entries
  if (!Array.isArray(entries) || entries.length === 0) return refuse(422, [{ field: 'entries', message: 'needs at least one entry' }])
  const kept = await setAside((await params).id, who, entries)
  if (kept.ok) return Response.json({ kept: kept.value })
  return tooMuch(kept.problems) ?? refuse(kept.problems[0]?.field === 'wall' ? 404 : 422, kept.problems)
})

/** What was set aside for this wall. */
export const GET = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  return who instanceof Response ? who : Response.json({ list: await setAsideOf(who.wall.id) })
})
