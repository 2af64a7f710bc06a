import { glimpseFor } from '@/server/glimpses'
import { askingAbout, guarded } from '@/server/http'

/** How the wall looks at the end of its record, for a device that does not have the record yet. */
export const GET = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const headers = { 'content-type': 'application/json; charset=utf-8', 'cache-control': 'no-store', 'x-glimpse': '1' }
  return new Response(await glimpseFor(who.wall.id), { headers })
})
