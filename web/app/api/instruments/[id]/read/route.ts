import { asking, BODY, bodyOf, guarded, refuse } from '@/server/http'
import { setFault, takeReading } from '@/server/instruments'

export const dynamic = 'force-dynamic'

/** Takes one reading; the body may say what a stand-in should meet, and which bad day it should play. */
export const POST = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await asking(request)
  if (who instanceof Response) return who
  const body = await bodyOf(request, BODY.words)
  if (!body.ok) return refuse(400, body.problems)
  const { scene, fault } = (body.value ?? {}) as { scene?: Record<string, number>; fault?: string }
  const { id } = await params
  if (fault) {
    await setFault(id, fault)
    return Response.json({ fault })
  }
  const taken = await takeReading(id, scene ?? {})
  return taken.ok ? Response.json(taken.value) : refuse(503, taken.problems)
})
