import { optionalText, record } from '@stone-tally/core'
import { askingAbout, BODY, bodyIn, guarded, refuse } from '@/server/http'
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
  const body = await bodyIn(request, BODY.words, record({ request: optionalText(80) }))
  if (body instanceof Response) return body
  const sent = await sendLink(who.person, who.wall, body.request, request)
  return sent.ok ? Response.json(sent.value, { status: 201 }) : refuse(sent.problems[0]?.field === 'role' ? 403 : 422, sent.problems)
})
