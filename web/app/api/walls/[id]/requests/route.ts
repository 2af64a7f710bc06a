import { askingAbout, BODY, bodyOf, guarded, refuse } from '@/server/http'
import { linksOf, sendLink } from '@/server/outside'

type Params = { params: Promise<{ id: string }> }

/** Links to people outside that are out: when each was sent and until when it opens. */
export const GET = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  return Response.json({ links: await linksOf(who.wall.id) })
})

/** Sends the link of a request in the record: `{request}`. One that was sent before opens nothing any more. */
export const POST = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const body = await bodyOf(request, BODY.words)
  if (!body.ok) return refuse(400, body.problems)
  const sent = await sendLink(who.person, who.wall, (body.value as { request?: unknown } | null)?.request, request)
  return sent.ok ? Response.json(sent.value, { status: 201 }) : refuse(sent.problems[0]?.field === 'role' ? 403 : 422, sent.problems)
})
