import { optionalText, record } from '@stone-tally/core'
import { asking, BODY, bodyIn, guarded, refuse, whatever } from '@/server/http'
import { setFault, takeReading } from '@/server/instruments'

export const dynamic = 'force-dynamic'

/** Takes one reading; the body may say what a stand-in should meet, and which bad day it should play. */
export const POST = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await asking(request)
  if (who instanceof Response) return who
  const body = await bodyIn(request, BODY.words, record({ scene: whatever(), fault: optionalText(40) }))
  if (body instanceof Response) return body
  const { fault } = body
  const scene = Object.fromEntries(
    Object.entries(body.scene ?? {}).filter((s): s is [string, number] => typeof s[1] === 'number' && Number.isFinite(s[1])),
  )
  const { id } = await params
  if (fault) {
    await setFault(id, fault)
    return Response.json({ fault })
  }
  const taken = await takeReading(id, scene)
  return taken.ok ? Response.json(taken.value) : refuse(503, taken.problems)
})
