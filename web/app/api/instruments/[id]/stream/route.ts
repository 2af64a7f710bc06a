import type { InstrumentReading } from '@stone-tally/core'
import { personOf } from '@/server/accounts'
import { asking, guarded, refuse } from '@/server/http'
import { knownInstrument, streamReadings } from '@/server/instruments'

export const dynamic = 'force-dynamic'

/** Readings as server-sent events, gathered for a twentieth of a second so that a fast instrument does not flood the page. */
export const GET = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await asking(request)
  if (who instanceof Response) return who
  const { id } = await params
  if (!knownInstrument(id)) return refuse(404, 'there is no such instrument')
  const rate = Math.min(500, Math.max(1, Number(new URL(request.url).searchParams.get('rate') ?? 10) || 10))
  const encoder = new TextEncoder()
  let stop = (_why?: string) => {}
  const stream = new ReadableStream({
    start(controller) {
      let waiting: (readonly [number, Readonly<Record<string, number>>])[] = []
      let over = false
      const say = (text: string) => !over && controller.enqueue(encoder.encode(text))
      const line = streamReadings(
        id,
        rate,
        (r: InstrumentReading) => waiting.push([r.seq, r.values]),
        (why) => stop(why),
      )
      const flush = setInterval(() => {
        if (waiting.length === 0) return
        say(`data: ${JSON.stringify({ readings: waiting, ...line.trouble() })}\n\n`)
        waiting = []
      }, 50)
      const beat = setInterval(async () => {
        // A session ended elsewhere ends its streams too.
        if (!(await personOf(request.headers).catch(() => undefined))) stop('you are signed out; sign in again')
      }, 15_000)
      stop = (why) => {
        if (over) return
        if (why) say(`event: lost\ndata: ${JSON.stringify({ message: why })}\n\n`)
        over = true
        clearInterval(flush)
        clearInterval(beat)
        line.end()
        try {
          controller.close()
        } catch {
          // closed by the browser already
        }
      }
      request.signal.addEventListener('abort', () => stop())
      say('retry: 60000\n\n')
    },
    cancel: () => stop(),
  })
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store, no-transform', 'x-accel-buffering': 'no' },
  })
})
