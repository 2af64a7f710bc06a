import { act, renderHook, waitFor } from '@testing-library/react'
import { built, entry, smallPlan, WALL } from '../../core/test/plans'
import { type Me, useWall } from '../features/wall/use-wall'
import { Server, serveFrom } from './fake-server'

const me: Me = { id: 'foreman', name: 'Fay', role: 'foreman' }
const plans = [built(smallPlan)]

let server: Server
beforeEach(() => {
  server = new Server()
  localStorage.clear()
  serveFrom(server)
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
    expect(await result.current.record([services])).toMatchObject({ ok: true, waiting: true })
  })
  expect(result.current.waiting).toBe(1)
  // Folded like the rest, and marked; the step is done here.
  expect(result.current.state.entries).toMatchObject([{ waiting: true, entry: { kind: 'check' } }])
  await waitFor(() => expect(server.streams).toHaveLength(1))
  act(() => server.streams[0]?.onerror?.())
  expect(result.current.live).toBe('lost')
  server.reachable = true
  await act(async () => server.streams[0]?.onopen?.())
  await waitFor(() => expect(result.current.waiting).toBe(0))
  expect(result.current.state.entries).toEqual([server.kept[0]])
  expect(server.kept).toHaveLength(1)
})

test('a device that was switched off still has what waited', async () => {
  const first = await open()
  server.reachable = false
  await act(async () => void (await first.result.current.record([services])))
  first.unmount()
  server.reachable = true
  const { result } = await open()
  await waitFor(() => expect(server.kept).toHaveLength(1))
  await waitFor(() => expect(result.current.waiting).toBe(0))
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

test('what was kept without signal and then refused is not lost: it stays until a person tries again or puts it aside', async () => {
  const first = await open()
  server.reachable = false
  await act(async () => void (await first.result.current.record([services])))
  first.unmount()
  server.reachable = true
  server.refuse = 'the course below is not set through'
  const { result, unmount } = await open()
  await act(async () => server.streams[server.streams.length - 1]?.onopen?.())
  await waitFor(() => expect(result.current.refused).toHaveLength(1))
  await waitFor(() => expect(result.current.waiting).toBe(0))
  expect(result.current.refused[0]).toMatchObject({ entry: { kind: 'check' }, problems: [{ message: 'the course below is not set through' }] })
  unmount()
  // Still there after the page was closed.
  const again = await open()
  await waitFor(() => expect(again.result.current.refused).toHaveLength(1))
  server.refuse = undefined
  await act(async () => again.result.current.again(again.result.current.refused[0]?.entry.id ?? ''))
  await waitFor(() => expect(server.kept).toHaveLength(1))
  await waitFor(() => expect(again.result.current.refused).toHaveLength(0))
})

test('refused in the very moment in which it is shown as waiting: it is on the device or said by its form, never nowhere', async () => {
  // The answer comes just before, at, and just after the time after which it is shown as waiting.
  for (const thinks of [660, 680, 690, 695, 700, 705, 710, 730]) {
    const { result, unmount } = await open()
    server.refuse = 'the course below is not set'
    server.thinks = thinks
    let answer: { ok: boolean } | undefined
    await act(async () => {
      answer = await result.current.record([{ kind: 'note', where: {}, data: { text: `note ${thinks}` } }])
    })
    const mine = () => result.current.refused.filter((r) => (r.entry.data as { text?: string }).text === `note ${thinks}`)
    if (answer?.ok === false) expect(mine()).toHaveLength(0)
    else await waitFor(() => expect(mine()).toHaveLength(1), { timeout: 3000 })
    await waitFor(() => expect(result.current.waiting).toBe(0))
    server.thinks = 0
    unmount()
  }
})

test('a record that ends without its last line was cut off: it is not taken for the whole', async () => {
  for (let i = 0; i < 3; i++) server.take(entry('note', {}, { text: `n${i}` }))
  server.ends = false
  const { result } = renderHook(() => useWall(WALL, plans, me))
  await waitFor(() => expect(result.current.live).toBe('lost'))
  expect(result.current.loaded).toBe(false)
  server.ends = true
  await waitFor(() => expect(result.current.loaded).toBe(true), { timeout: 6000 })
  expect(result.current.state.entries).toHaveLength(3)
})

test('a photo that is in the record already is not recorded twice, though the device was stopped before it knew', async () => {
  const { result } = await open()
  const id = '018f3f3f-0000-7000-8000-0000000000aa'
  const fact = { id, kind: 'note', where: {}, data: { text: 'as a photo would be' } }
  await act(async () => void (await result.current.record([fact])))
  await act(async () => {
    expect(await result.current.record([fact])).toEqual({ ok: true, verdict: undefined })
  })
  expect(server.kept).toHaveLength(1)
})

test('a device that has less than the page says is no place to record into: the step of before is not shown as now', async () => {
  const first = await open()
  await act(async () => void (await first.result.current.record([services])))
  await waitFor(() => expect(first.result.current.waiting).toBe(0))
  first.unmount()
  // Others went on meanwhile; the page was made after that.
  const more = Array.from({ length: 3 }, (_, i) => server.take(entry('note', {}, { text: `n${i}` })))
  expect(more).toHaveLength(3)
  let letGo = () => {}
  server.holds = new Promise((done) => {
    letGo = done
  })
  const here = () => renderHook(() => useWall(WALL, plans, me, true, undefined, server.kept.length))
  const { result, unmount } = here()
  await waitFor(() => expect(result.current.state.entries.length).toBeGreaterThan(0))
  expect(result.current.loaded).toBe(false)
  await act(async () => {
    expect(await result.current.record([{ kind: 'note', where: {}, data: { text: 'too early' } }])).toMatchObject({ ok: false })
  })
  // What is missing has come.
  await act(async () => letGo())
  await waitFor(() => expect(result.current.loaded).toBe(true))
  expect(result.current.state.entries).toHaveLength(4)
  unmount()
  // It does not come: after a while what is here is shown all the same, and can be worked with.
  server.take(entry('note', {}, { text: 'later' }))
  server.holds = new Promise(() => {})
  const again = here()
  await waitFor(() => expect(again.result.current.loaded).toBe(true), { timeout: 6000 })
})

test('the answer overtakes the line: what another recorded meanwhile is looked at when it comes', async () => {
  const { result } = await open()
  server.reachable = false
  await act(async () => void (await result.current.record([services])))
  await waitFor(() => expect(server.streams).toHaveLength(1))
  act(() => server.streams[0]?.onerror?.())
  const theirs = server.take(entry('check', { stage: 'services' }, { confirmed: ['marked'] }, { role: 'crew' }))
  server.reachable = true
  // The browser takes the stream up again by itself; the answer to what waited comes before anything that was missed.
  await act(async () => server.streams[0]?.onopen?.())
  await waitFor(() => expect(result.current.waiting).toBe(0))
  expect(result.current.away).toEqual([])
  await act(async () => server.streams[0]?.onmessage?.({ data: JSON.stringify(theirs) }))
  await waitFor(() => expect(result.current.away).toMatchObject([{ about: 'recorded-twice' }]))
})
