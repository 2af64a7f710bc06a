import { askingAbout, guarded } from '@/server/http'
import { yardWall } from '@/server/yard'

/** How the wall stands, as a row of the Yard; or `{ why }` it cannot be shown. */
export const GET = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  return Response.json(await yardWall(who.wall), { headers: { 'cache-control': 'no-store' } })
})
