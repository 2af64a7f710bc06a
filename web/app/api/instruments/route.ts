import { asking, guarded } from '@/server/http'
import { listInstruments } from '@/server/instruments'

export const dynamic = 'force-dynamic'

/** The instruments within reach. */
export const GET = guarded(async (request: Request) => {
  const who = await asking(request)
  return who instanceof Response ? who : Response.json({ instruments: await listInstruments() })
})
