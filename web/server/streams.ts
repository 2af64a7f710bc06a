import { refuse } from './http'
import { hear } from './live'
import { asked } from './sessions'

/** A client that does not read what it is sent is let go before it fills the memory, characters. It comes back by number. */
const BACKLOG = 4_000_000
/** How often a stream shows that it is alive, ms, and every how many times its session is looked at: one that was ended is told of at once. */
const BEAT = 15_000
const LOOK = 4

/** Streams that one device may hold at once in a process: more tabs than anybody has; a browser itself opens fewer. */
export const STREAMS = 24

interface Open {
  readonly ends: Set<() => void>
  /** How many are open, by session. */
  readonly held: Map<string, number>
  closing: boolean
}
const shared = globalThis as { __tallyStreams?: Open }

/** Streams that are open in this process. When it is told to end they end first: a server waits for every answer it has begun. */
function open(): Open {
  if (!shared.__tallyStreams) {
    const made: Open = { ends: new Set(), held: new Map(), closing: false }
    shared.__tallyStreams = made
    const close = () => {
      made.closing = true
      for (const end of [...made.ends]) end()
    }
    process.once('SIGTERM', close)
    process.once('SIGINT', close)
  }
  return shared.__tallyStreams
}

/** One end of a stream of server-sent events. */
export interface Line {
  /** Sends text as it stands. */
  say(text: string): void
  /** Ends the stream, with a last word if there is one. */
  end(last?: string): void
}

/**
 * A stream of server-sent events that ends with its session, its client or its process.
 *
 * @param session - whose it is: one holds {@link STREAMS} of them at once, the next is refused
 * @param wall - ends too when this wall is no longer the person's
 * @param begin - begins to send; returns how to stop
 */
export function eventStream(request: Request, session: string, wall: string | undefined, begin: (line: Line) => () => void): Response {
  const { held } = open()
  const mine = held.get(session) ?? 0
  if (mine >= STREAMS && process.env.RATE_LIMITS !== 'off')
    return refuse(429, `this device listens ${STREAMS} times already; close a page of it and try again`, 30)
  held.set(session, mine + 1)
  const letGo = () => {
    const left = (held.get(session) ?? 1) - 1
    if (left > 0) held.set(session, left)
    else held.delete(session)
  }
  const encoder = new TextEncoder()
  let end: Line['end'] = () => {}
  const stream = new ReadableStream<Uint8Array>(
    {
      start(controller) {
        let over = false
        let waiting = 0
        const say = (text: string) => {
          if (over) return
          waiting = -(controller.desiredSize ?? 0)
          if (waiting > BACKLOG) end()
          else controller.enqueue(encoder.encode(text))
        }
        const look = async () => {
          const still = await asked(request.headers, wall).catch(() => undefined)
          if (still && (wall === undefined || still.wall)) {
            whose = still.person.id
            say(': beat\n\n')
          } else end('event: lost\ndata: {"message":"you are signed out; sign in again"}\n\n')
        }
        let whose = ''
        // Streams that were opened together (a process that came back) neither beat nor look at once: each has a phase of its own.
        let beats = Math.floor(Math.random() * LOOK)
        const once = () => (++beats % LOOK === 0 || whose === '' ? look() : say(': beat\n\n'))
        let beat = setTimeout(() => {
          once()
          beat = setInterval(once, BEAT)
        }, Math.random() * BEAT)
        // Somebody's sessions were ended: theirs look now, and those that do not know yet whose they are.
        const unhear = hear('tally_session', (person) => (whose === '' || whose === person ? look() : undefined))
        let stop = () => {}
        end = (last) => {
          if (over) return
          if (last) say(last)
          over = true
          letGo()
          clearInterval(beat)
          unhear()
          open().ends.delete(end)
          stop()
          try {
            controller.close()
          } catch {
            // closed by the browser already
          }
        }
        open().ends.add(end)
        request.signal.addEventListener('abort', () => end())
        stop = begin({ say, end })
        if (over) stop()
        if (open().closing) end()
      },
      cancel: () => end(),
    },
    { highWaterMark: 0, size: (chunk) => chunk?.byteLength ?? 0 },
  )
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store, no-transform', 'x-accel-buffering': 'no' },
  })
}

/** An answer that is written while it is made, a piece each time the client has taken the one before; a client that hangs up ends the making. */
export function streamed(pieces: AsyncGenerator<string>, headers: HeadersInit): Response {
  const encoder = new TextEncoder()
  const stream = new ReadableStream<Uint8Array>({
    pull: async (controller) => {
      const { value, done } = await pieces.next()
      if (done) controller.close()
      else controller.enqueue(encoder.encode(value))
    },
    cancel: async () => {
      await pieces.return(undefined)
    },
  })
  return new Response(stream, { headers })
}
