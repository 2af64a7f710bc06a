import { askingAbout, guarded } from '@/server/http'
import { seenElsewhere } from '@/server/pace'

/** How fast work of the same system went on the company's other walls, a day a piece: what a wall with a short record learns from. */
export const GET = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  return Response.json({ seen: await seenElsewhere(who.person.companyId, who.wall.id) }, { headers: { 'cache-control': 'no-store' } })
})
