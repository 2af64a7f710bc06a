import { record } from '@stone-tally/core'
import { askingAbout, BODY, bodyIn, guarded, refuse, whatever } from '@/server/http'
import { issueRevision } from '@/server/walls'

/** Issues `{ plan, base }`: the next revision, made from revision `base`; 409 where another was issued since. */
export const POST = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const body = await bodyIn(request, BODY.file, record({ plan: whatever(), base: whatever() }))
  if (body instanceof Response) return body
  const { plan, base } = body
  const made = await issueRevision(who.person, who.wall.id, plan, base)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(made.problems[0]?.field === 'base' ? 409 : 422, made.problems)
})
