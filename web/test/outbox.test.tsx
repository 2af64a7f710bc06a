import { act, renderHook, waitFor } from '@testing-library/react'
import { built, smallPlan, WALL } from '../../core/test/plans'
import { device, type Waiting } from '../device/db'
import { deliver } from '../device/deliver'
import { forgetEarlier } from '../device/earlier'
import { outbox } from '../device/outbox'
import { type Me, useWall } from '../features/wall/use-wall'
import { Server, serveFrom } from './fake-server'

const fay: Me = { id: 'foreman', name: 'Fay', role: 'foreman' }
const mo: Me = { id: 'other', name: 'Mo', role: 'foreman' }
const plans = [built(smallPlan)]
const note = (text: string, id: string, more: object = {}): Waiting => ({
  id,
  wall: WALL,
  revision: 1,
  at: '2026-05-20T08:00:00Z',
  kind: 'note',
  where: {},
  data: { text },
  ...more,
})
const said = (text: string) => ({ kind: 'note', where: {}, data: { text } })
let server: Server
beforeEach(() => {
  server = new Server()
  localStorage.clear()
  serveFrom(server)
})
const open = async (me: Me) => {
  const hook = renderHook(() => useWall(WALL, plans, me))
  await waitFor(() => expect(hook.result.current.loaded).toBe(true))
  return hook
}

test('what one person kept is never sent as another’s; it waits for them and says so', async () => {
  const first = await open(fay)
  server.reachable = false
  await act(async () => void (await first.result.current.record([said('by Fay')])))
  first.unmount()
  server.reachable = true
  const second = await open(mo)
  await act(async () => server.streams.at(-1)?.onopen?.())
  expect(server.kept).toHaveLength(0)
  expect([second.result.current.waiting, second.result.current.others]).toEqual([0, ['Fay']])
  second.unmount()
  const back = await open(fay)
  await act(async () => server.streams.at(-1)?.onopen?.())
  await waitFor(() => expect(server.kept).toHaveLength(1))
  await waitFor(() => expect(back.result.current.waiting).toBe(0))
})

test('pressed again while it waits it waits once', async () => {
  const { result } = await open(fay)
  server.reachable = false
  for (let i = 0; i < 3; i++) await act(async () => void (await result.current.record([said('once')])))
  expect(await outbox(WALL).all()).toHaveLength(1)
  await act(async () => void (await result.current.record([said('another')])))
  expect(await outbox(WALL).all()).toHaveLength(2)
})

test('what cannot be read is put aside under another name, never overwritten', async () => {
  localStorage.setItem(`outbox:${WALL}`, '[{"id":"half')
  const { result } = await open(fay)
  await act(async () => void (await result.current.record([said('new')])))
  const kept = await device().notes.where('key').startsWith(`unreadable outbox:${WALL}`).toArray()
  expect(kept.map((k) => k.value)).toEqual(['[{"id":"half'])
  await waitFor(() => expect(server.kept).toHaveLength(1))
})

test('what an earlier version kept in its own list is taken over and sent', async () => {
  localStorage.setItem(`outbox:${WALL}`, JSON.stringify([note('from before', '018f3f3f-0000-7000-8000-000000000001', { owner: fay.id })]))
  const { result } = await open(fay)
  await waitFor(() => expect(server.kept.map((k) => (k.entry.data as { text: string }).text)).toEqual(['from before']))
  await waitFor(() => expect(result.current.waiting).toBe(0))
  expect(localStorage.getItem(`outbox:${WALL}`)).toBeNull()
})

test('what a tab of an earlier version writes in that very moment is not removed unseen', async () => {
  const key = `outbox:${WALL}`
  const before = note('before', '018f3f3f-0000-7000-8000-000000000011', { owner: fay.id })
  const late = note('meanwhile', '018f3f3f-0000-7000-8000-000000000012', { owner: fay.id })
  localStorage.setItem(key, JSON.stringify([before]))
  const table = device().outbox
  const add = table.bulkAdd.bind(table)
  const spy = jest.spyOn(table, 'bulkAdd').mockImplementation(((list: never) => {
    localStorage.setItem(key, JSON.stringify([before, late]))
    return add(list)
  }) as never)
  expect((await outbox(WALL).all()).map((e) => e.id)).toEqual([before.id])
  spy.mockRestore()
  // Opened the next time.
  forgetEarlier()
  expect((await outbox(WALL).all()).map((e) => e.id)).toEqual([before.id, late.id])
  expect(localStorage.getItem(key)).toBeNull()
})

test('a device without room says so before anything counts as recorded', async () => {
  const { result } = await open(fay)
  const full = jest.spyOn(device().outbox, 'bulkAdd').mockImplementation((() => {
    throw new DOMException('full', 'QuotaExceededError')
  }) as never)
  let answer: unknown
  await act(async () => {
    answer = await result.current.record([said('no room')])
  })
  full.mockRestore()
  expect(answer).toMatchObject({ ok: false, problems: [{ message: expect.stringMatching(/no room left; nothing was recorded/) }] })
  expect(server.kept).toHaveLength(0)
  await expect(outbox(WALL).put([note('x', 'a')])).resolves.toEqual(['a'])
})

describe('delivery', () => {
  const alive = async () => true
  const list = Array.from({ length: 5 }, (_, i) => note(`n${i}`, `e${i}`))
  const ok = (entries: readonly Waiting[]) => ({ status: 200, outcomes: entries.map((e) => ({ id: e.id, ok: true })), problems: [] })
  test('a batch refused as a whole is sent one by one: only the bad one is refused, the others are recorded', async () => {
    const done = await deliver(
      list,
      async (entries) =>
        entries.some((e) => e.id === 'e2') ? { status: 422, outcomes: undefined, problems: [{ field: '', message: 'no' }] } : ok(entries),
      alive,
    )
    expect(done.outcomes.map((o) => o.id)).toEqual(['e0', 'e1', 'e3', 'e4'])
    expect(done.refused.map((r) => r.entry.id)).toEqual(['e2'])
  })
  test('one that makes the server fail is named, and blocks nobody', async () => {
    const done = await deliver(
      list,
      async (entries) => (entries.some((e) => e.id === 'e0') ? { status: 503, outcomes: undefined, problems: [] } : ok(entries)),
      alive,
    )
    expect([done.failed, done.outcomes.length, done.stopped]).toEqual([['e0'], 4, false])
  })
  test('a server that is away is not the entry’s fault', async () => {
    const away = await deliver(
      list,
      async () => ({ status: 503, outcomes: undefined, problems: [] }),
      async () => false,
    )
    expect([away.failed, away.refused, away.stopped]).toEqual([[], [], true])
    // Told to come later: nothing is refused for it.
    const often = await deliver(list, async () => ({ status: 429, outcomes: undefined, problems: [] }), alive)
    expect([often.failed, often.refused, often.stopped]).toEqual([[], [], true])
    const signedOut = await deliver(list, async () => ({ status: 401, outcomes: undefined, problems: [] }), alive)
    expect([signedOut.failed, signedOut.refused, signedOut.stopped]).toEqual([[], [], true])
  })
  test('entries added while a batch is on its way stay in the box', async () => {
    const box = outbox(WALL)
    await box.put([note('a', 'a')])
    await deliver(
      await box.all(),
      async (entries) => {
        await box.put([note('b', 'b')])
        return ok(entries)
      },
      alive,
    )
    await box.settle(new Set(['a']))
    expect((await box.all()).map((e) => e.id)).toEqual(['b'])
  })
  test('after three failures of the server on it a person is shown the entry', async () => {
    const { result } = await open(fay)
    const real = globalThis.fetch
    globalThis.fetch = (async (url: string, init?: { method?: string }) =>
      init?.method === 'POST'
        ? { ok: false, status: 503, json: async () => ({ problems: [] }) }
        : url === '/api/health'
          ? { ok: true }
          : (real as never as (u: string) => unknown)(url)) as never
    await act(async () => void (await result.current.record([said('poison')])))
    for (let i = 0; i < 3; i++) await act(async () => void window.dispatchEvent(new Event('online')))
    await waitFor(() => expect(result.current.refused).toHaveLength(1))
    expect(result.current.refused[0]?.problems[0]?.message).toMatch(/failed on it several times/)
    expect(result.current.waiting).toBe(0)
  })
})
