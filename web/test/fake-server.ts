import type { Entry, RecordedEntry } from '@stone-tally/core'

/** A server in a few lines: it keeps what it is sent, answers by entry, and can be out of reach. */
export class Server {
  readonly kept: RecordedEntry[] = []
  reachable = true
  refuse: string | undefined
  posts = 0
  /** Does the record come with its last line? */
  ends = true
  /** Entries are asked for and do not come until this is let go. */
  holds: Promise<void> | undefined
  /** How long the house thinks before it answers to what is sent, ms. */
  thinks = 0
  streams: { onopen?: () => void; onmessage?: (e: { data: string }) => void; onerror?: () => void; readyState: number }[] = []
  take(e: Entry) {
    const known = this.kept.find((k) => k.entry.id === e.id)
    if (known) return known
    const recorded = { seq: this.kept.length + 1, receivedAt: '2026-05-20T10:00:00.000Z', entry: e }
    this.kept.push(recorded)
    return recorded
  }
  readonly fetch = async (url: string, init?: { method?: string; body?: string }) => {
    if (!this.reachable) throw new TypeError('Failed to fetch')
    if (init?.method === 'POST') {
      this.posts++
      if (this.thinks > 0) await new Promise((done) => setTimeout(done, this.thinks))
      const { entries } = JSON.parse(init.body ?? '{}') as { entries: Entry[] }
      const outcomes = entries.map((e) =>
        this.refuse
          ? { id: e.id, ok: false, problems: [{ field: 'where', message: this.refuse }] }
          : { id: e.id, ok: true, ...this.take({ ...e, by: { id: 'foreman', name: 'Fay', role: 'foreman' } }) },
      )
      return { ok: true, status: 200, json: async () => ({ outcomes }) }
    }
    await this.holds
    const after = Number(new URL(url, 'http://x').searchParams.get('after'))
    const list = this.kept.filter((k) => k.seq > after).map((k) => `${JSON.stringify(k)}\n`)
    if (list.length > 0 && this.ends) list.push(`{"head":{"seq":${this.kept.length},"hash":"h${this.kept.length}"}}\n`)
    const lines = list.join('')
    // In two pieces that cut a line in half, as a network does.
    const parts = [lines.slice(0, lines.length / 2), lines.slice(lines.length / 2)]
    let i = 0
    const reader = { read: async () => (i < 2 ? { done: false, value: parts[i++] } : { done: true, value: undefined }) }
    return {
      ok: true,
      status: 200,
      headers: { get: (name: string) => (name === 'x-record' ? '1' : null) },
      body: { pipeThrough: () => ({ getReader: () => reader }) },
    }
  }
}

/** Puts the server behind fetch and the stream of this page. */
export function serveFrom(server: Server) {
  class Source {
    onopen?: () => void
    onmessage?: (e: { data: string }) => void
    onerror?: () => void
    readyState = 1
    static CLOSED = 2
    constructor() {
      server.streams.push(this)
    }
    close() {
      this.readyState = 2
    }
  }
  Object.assign(globalThis, {
    fetch: server.fetch,
    EventSource: Source,
    TextDecoderStream: class {},
    crypto: { getRandomValues: (a: Uint8Array) => a.map((_, i) => (i * 37 + server.posts * 11) % 256) },
  })
}
