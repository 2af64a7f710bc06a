import type { InstrumentReading } from '@stone-tally/core'
import { askingWith, guarded, refuse } from '@/server/http'
import { knownInstrument, streamReadings } from '@/server/instruments'
import { eventStream } from '@/server/streams'

export const dynamic = 'force-dynamic'

/** Readings as server-sent events, gathered for a twentieth of a second so that a fast instrument does not flood the page. */
export const GET = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingWith(request)
  if (who instanceof Response) return who
  const { id } = await params
  if (!knownInstrument(id)) return refuse(404, 'there is no such instrument')
  const rate = Math.min(500, Math.max(1, Number(new URL(request.url).searchParams.get('rate') ?? 10) || 10))
  return eventStream(request, who.session.id, undefined, ({ say, end }) => {
    let waiting: (readonly [number, Readonly<Record<string, number>>])[] = []
    const lost = (why: string) => end(`event: lost\ndata: ${JSON.stringify({ message: why })}\n\n`)
    const line = streamReadings(id, rate, (r: InstrumentReading) => waiting.push([r.seq, r.values]), lost)
    const flush = setInterval(() => {
      if (waiting.length === 0) return
      say(`data: ${JSON.stringify({ readings: waiting, ...line.trouble() })}\n\n`)
      waiting = []
    }, 50)
    say('retry: 60000\n\n')
    return () => {
      clearInterval(flush)
      line.end()
    }
  })
})
