import { askingAbout, bodyOf, guarded, refuse } from '@/server/http'
import { issueRevision } from '@/server/walls'

export const POST = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const body = await bodyOf(request)
  if (!body.ok) return refuse(400, body.problems)
  const made = await issueRevision(who.person, who.wall.id, (body.value as { plan?: unknown } | null)?.plan)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(422, made.problems)
})
