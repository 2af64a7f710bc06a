import type { Entry, RecordedEntry } from '@stone-tally/core'
import { act, renderHook, waitFor } from '@testing-library/react'
import { entry, smallPlan, WALL } from '../../core/test/plans'
import { type Me, useWall } from '../features/wall/use-wall'

const me: Me = { id: 'foreman', name: 'Fay', role: 'foreman' }
const plans = [smallPlan]

/** A server in a few lines: it keeps what it is sent, answers by entry, and can be out of reach. */
class Server {
  readonly kept: RecordedEntry[] = []
  reachable = true
  refuse: string | undefined
  posts = 0
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
      const { entries } = JSON.parse(init.body ?? '{}') as { entries: Entry[] }
      const outcomes = entries.map((e) =>
        this.refuse
          ? { id: e.id, ok: false, problems: [{ field: 'where', message: this.refuse }] }
          : { id: e.id, ok: true, ...this.take({ ...e, by: me }) },
      )
      return { ok: true, status: 200, json: async () => ({ outcomes }) }
    }
    const after = Number(new URL(url, 'http://x').searchParams.get('after'))
    const lines = this.kept
      .filter((k) => k.seq > after)
      .map((k) => `${JSON.stringify(k)}\n`)
      .join('')
    // In two pieces that cut a line in half, as a network does.
    const parts = [lines.slice(0, lines.length / 2), lines.slice(lines.length / 2)]
    let i = 0
    const reader = { read: async () => (i < 2 ? { done: false, value: parts[i++] } : { done: true, value: undefined }) }
    return { ok: true, status: 200, body: { pipeThrough: () => ({ getReader: () => reader }) } }
  }
}

let server: Server
beforeEach(() => {
  server = new Server()
  localStorage.clear()
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
})
const open = async () => {
  const hook = renderHook(() => useWall(WALL, plans, me))
  await waitFor(() => expect(hook.result.current.loaded).toBe(true))
  return hook
}
const services = { kind: 'check', where: { stage: 'services' }, data: { confirmed: ['located'] } }

test('the record comes in pieces and is folded whole', async () => {
  for (let i = 0; i < 5; i++) server.take(entry('note', {}, { text: `n${i}` }))
  const { result } = await open()
  expect(result.current.state.entries).toHaveLength(5)
  expect(result.current.state.seq).toBe(5)
})

test('what is recorded is shown when the server has it, and once only when the stream brings it again', async () => {
  const { result } = await open()
  await act(async () => {
    expect(await result.current.record([services])).toMatchObject({ ok: true })
  })
  act(() => server.streams[0]?.onmessage?.({ data: JSON.stringify(server.kept[0]) }))
  expect(result.current.state.entries).toHaveLength(1)
  expect(result.current.waiting).toBe(0)
})

test('what others record arrives by the stream', async () => {
  const { result } = await open()
  act(() =>
    server.streams[0]?.onmessage?.({
      data: JSON.stringify({ seq: 1, receivedAt: '', entry: entry('note', {}, { text: 'from the inspector' }, { role: 'inspector' }) }),
    }),
  )
  expect(result.current.state.entries).toHaveLength(1)
})

test('what cannot be sent waits on this device and goes when the stream is back', async () => {
  const { result } = await open()
  server.reachable = false
  await act(async () => {
    expect(await result.current.record([services])).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringContaining('kept on this device') }],
    })
  })
  expect(result.current.waiting).toBe(1)
  act(() => server.streams[0]?.onerror?.())
  expect(result.current.live).toBe('lost')
  server.reachable = true
  await act(async () => server.streams[0]?.onopen?.())
  await waitFor(() => expect(result.current.waiting).toBe(0))
  expect(result.current.state.entries).toHaveLength(1)
  expect(server.kept).toHaveLength(1)
})

test('a device that was switched off still has what waited', async () => {
  const first = await open()
  server.reachable = false
  await act(async () => void (await first.result.current.record([services])))
  first.unmount()
  server.reachable = true
  const { result } = await open()
  expect(result.current.waiting).toBe(1)
  await act(async () => server.streams[server.streams.length - 1]?.onopen?.())
  await waitFor(() => expect(server.kept).toHaveLength(1))
})

test('a gate stops it on the device, without asking the server', async () => {
  const { result } = await open()
  await act(async () => {
    expect(await result.current.record([{ kind: 'units', where: { stage: 'units', section: 'B', course: 1 }, data: { set: 1 } }])).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringMatching(/Pad level/) }],
    })
  })
  expect(server.posts).toBe(0)
})

test('what the server refuses is said and does not stay in the way', async () => {
  const { result } = await open()
  server.refuse = 'somebody was faster'
  await act(async () => {
    expect(await result.current.record([services])).toEqual({ ok: false, problems: [{ field: 'where', message: 'somebody was faster' }] })
  })
  expect(result.current.waiting).toBe(0)
  expect(result.current.state.entries).toHaveLength(0)
})
