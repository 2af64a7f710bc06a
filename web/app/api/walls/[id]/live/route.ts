import { asked } from '@/server/accounts'
import { askingAbout, guarded } from '@/server/http'
import { watch } from '@/server/live'
import { entriesAfter } from '@/server/record-store'

export const dynamic = 'force-dynamic'

/** Server-sent events: each new entry with its number as event id, so that a reconnect goes on where it was. */
export const GET = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const wall = who.wall.id
  let seq = Number(request.headers.get('last-event-id') ?? new URL(request.url).searchParams.get('after') ?? 0) || 0
  const encoder = new TextEncoder()
  let stop = () => {}
  const stream = new ReadableStream({
    start(controller) {
      let sending = false
      let again = false
      let over = false
      const say = (text: string) => {
        if (!over) controller.enqueue(encoder.encode(text))
      }
      const push = async () => {
        again = true
        if (sending) return
        sending = true
        try {
          while (again && !over) {
            again = false
            const rows = await entriesAfter(wall, seq)
            for (const r of rows) {
              say(`id: ${r.seq}\ndata: {"seq":${r.seq},"receivedAt":"${r.receivedAt}","entry":${r.body}}\n\n`)
              seq = r.seq
            }
            if (rows.length === 2000) again = true
          }
        } catch {
          // The database is away; the browser reconnects and catches up by number.
          stop()
        } finally {
          sending = false
        }
      }
      const unwatch = watch(wall, push)
      const beat = setInterval(async () => {
        // A session ended elsewhere ends its streams too.
        const still = await asked(request.headers, wall).catch(() => undefined)
        if (still?.wall) say(': beat\n\n')
        else stop()
      }, 15_000)
      stop = () => {
        if (over) return
        over = true
        unwatch()
        clearInterval(beat)
        try {
          controller.close()
        } catch {
          // closed by the browser already
        }
      }
      request.signal.addEventListener('abort', stop)
      say('retry: 1000\n\n')
      push()
    },
    cancel: () => stop(),
  })
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store, no-transform', 'x-accel-buffering': 'no' },
  })
})
