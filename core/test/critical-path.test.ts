import { criticalPath, Network, stockPlan } from '@stone-tally/core'
import fc from 'fast-check'

type Task = { id: string; duration: number; after?: { id: string; lag?: number }[]; notBefore?: number }
/** Tasks in any order, with links only from later numbers to earlier ones: never a circle. */
const tasks = fc
  .array(
    fc.record({
      duration: fc.integer({ min: 0, max: 9 }),
      after: fc.array(fc.record({ of: fc.nat(), lag: fc.integer({ min: 0, max: 4 }) }), { maxLength: 4 }),
      notBefore: fc.integer({ min: 0, max: 12 }),
    }),
    { minLength: 1, maxLength: 30 },
  )
  .chain((list) =>
    fc.shuffledSubarray(
      list.map(
        (t, i): Task => ({
          id: `t${i}`,
          duration: t.duration,
          after: i === 0 ? [] : t.after.map((a) => ({ id: `t${a.of % i}`, lag: a.lag })),
          notBefore: t.notBefore,
        }),
      ),
      { minLength: list.length, maxLength: list.length },
    ),
  )

/** The same by following every way there is, from the definition. */
function plainly(list: readonly Task[]) {
  const byId = new Map(list.map((t) => [t.id, t]))
  const [starts, tails] = [new Map<string, number>(), new Map<string, number>()]
  const start = (t: Task): number => {
    const known = starts.get(t.id)
    if (known !== undefined) return known
    const made = Math.max(
      t.notBefore ?? 0,
      ...(t.after ?? []).map((a) => {
        const before = byId.get(a.id) as Task
        return start(before) + before.duration + (a.lag ?? 0)
      }),
    )
    starts.set(t.id, made)
    return made
  }
  const tail = (t: Task): number => {
    const known = tails.get(t.id)
    if (known !== undefined) return known
    const made = Math.max(0, ...list.flatMap((o) => (o.after ?? []).filter((a) => a.id === t.id).map((a) => (a.lag ?? 0) + o.duration + tail(o))))
    tails.set(t.id, made)
    return made
  }
  const end = Math.max(...list.map((t) => start(t) + t.duration))
  return { end, tasks: list.map((t) => ({ id: t.id, start: start(t), float: end - start(t) - t.duration - tail(t) })) }
}

describe('critical path', () => {
  test('what every way says, for any network', () => {
    fc.assert(
      fc.property(tasks, (list) => {
        const made = criticalPath({ tasks: list })
        if (!made.ok) throw new Error(JSON.stringify(made.problems))
        const plain = plainly(list)
        expect(made.value.duration).toBe(plain.end)
        expect(made.value.tasks.map(({ id, start, float }) => ({ id, start, float }))).toEqual(plain.tasks)
        expect(made.value.tasks.filter((t) => t.critical)).toEqual(made.value.tasks.filter((t) => t.float === 0))
        expect(made.value.tasks.some((t) => t.critical)).toBe(true)
      }),
      { numRuns: 150 },
    )
  })
  test('one task changed is the same as all worked anew', () => {
    const change = fc.record({ of: fc.nat(), duration: fc.integer({ min: 0, max: 12 }), notBefore: fc.integer({ min: 0, max: 20 }) })
    fc.assert(
      fc.property(tasks, fc.array(change, { minLength: 1, maxLength: 6 }), (list, changes) => {
        const number = new Map(list.map((t, i) => [t.id, i]))
        const wiring = {
          durations: list.map((t) => t.duration),
          notBefore: list.map((t) => t.notBefore ?? 0),
          after: list.map((t) => (t.after ?? []).map((a) => [number.get(a.id) as number, a.lag ?? 0] as const)),
        }
        const changed = Network.of(wiring) as Network
        for (const c of changes) {
          const i = c.of % list.length
          changed.change(i, { duration: c.duration, notBefore: c.notBefore })
          wiring.durations[i] = c.duration
          wiring.notBefore[i] = c.notBefore
        }
        const anew = Network.of(wiring) as Network
        expect([changed.end, [...changed.start], [...changed.finish], [...changed.tail]]).toEqual([
          anew.end,
          [...anew.start],
          [...anew.finish],
          [...anew.tail],
        ])
        expect(anew.endWith(Float64Array.from(wiring.durations), new Float64Array(list.length))).toBe(anew.end)
      }),
      { numRuns: 150 },
    )
  })
  test('the example of the trade: a lag counts, what waits for nothing may slip', () => {
    const made = criticalPath({
      tasks: [
        { id: 'dig', duration: 2 },
        { id: 'pad', duration: 1, after: [{ id: 'dig' }] },
        { id: 'stone', duration: 1 },
        { id: 'first', duration: 3, after: [{ id: 'pad', lag: 1 }, { id: 'stone' }] },
      ],
    })
    expect(made).toMatchObject({ ok: true, value: { duration: 7 } })
    expect(made.ok && made.value.tasks.map((t) => t.float)).toEqual([0, 0, 3, 0])
  })
  test.each([
    ['a name that is none', [{ id: 'a', duration: 1, after: [{ id: 'z' }] }], 'tasks[0].after', /"z" is no task/],
    [
      'a name twice',
      [
        { id: 'a', duration: 1 },
        { id: 'a', duration: 2 },
      ],
      'tasks[1].id',
      /name of task 1 already/,
    ],
    ['itself', [{ id: 'a', duration: 1, after: [{ id: 'a' }] }], 'tasks[0].after', /"a" waits for itself in the end: "a"/],
  ])('%s is named where it stands', (_, list, field, message) => {
    expect(criticalPath({ tasks: list as Task[] })).toMatchObject({ ok: false, problems: [{ field, message: expect.stringMatching(message) }] })
  })
  test('a circle is named at a task that stands in it, not at one that only waits for it', () => {
    const made = criticalPath({
      tasks: [
        { id: 'a', duration: 2, after: [{ id: 'b' }] },
        { id: 'b', duration: 1, after: [{ id: 'c' }] },
        { id: 'c', duration: 1, after: [{ id: 'd' }] },
        { id: 'd', duration: 1, after: [{ id: 'b' }] },
      ],
    })
    expect(made.ok).toBe(false)
    expect(made.ok ? '' : made.problems[0]?.field).toMatch(/^tasks\[[123]\]\.after$/)
    expect(made.ok ? '' : made.problems[0]?.message).toMatch(/"b".*"c"|"c".*"d"|"d".*"b"/)
  })
})

describe('what to order by when', () => {
  const plan = { onHand: 40, reserve: 10, lead: 3, pack: 60, today: 0 }
  test('the example: the first is late, the second in time', () => {
    expect(
      stockPlan({
        ...plan,
        needs: [
          { day: 2, amount: 35 },
          { day: 5, amount: 60 },
        ],
      }),
    ).toEqual({
      ok: true,
      value: {
        orders: [
          { order: 0, arrive: 3, amount: 60, late: true },
          { order: 2, arrive: 5, amount: 60, late: false },
        ],
        end: 65,
      },
    })
  })
  test.each([
    ['just the reserve is enough', { needs: [{ day: 9, amount: 30 }] }, [], 10],
    ['a hair less is not', { needs: [{ day: 9, amount: 30.001 }] }, [[6, 9, 60, false]], 69.999],
    ['what is expected counts on its day', { needs: [{ day: 9, amount: 60 }], expected: [{ day: 9, amount: 30 }] }, [], 10],
    ['and not the day before', { needs: [{ day: 8, amount: 60 }], expected: [{ day: 9, amount: 30 }] }, [[5, 8, 60, false]], 70],
    ['whole packs, several at once', { needs: [{ day: 9, amount: 160 }] }, [[6, 9, 180, false]], 60],
    ['already below the reserve: at the first need', { onHand: 5, needs: [{ day: 4, amount: 0 }] }, [[1, 4, 60, false]], 65],
    ['no need, no order', { onHand: -5, needs: [], expected: [{ day: 3, amount: 7 }] }, [], 2],
  ])('%s', (_, change, orders, end) => {
    const made = stockPlan({ ...plan, ...change })
    expect(made).toEqual({ ok: true, value: { orders: orders.map(([order, arrive, amount, late]) => ({ order, arrive, amount, late })), end } })
  })
  test('for any needs: never below the reserve, and no order that could be left out', () => {
    const need = fc.record({ day: fc.integer({ min: 0, max: 30 }), amount: fc.integer({ min: 0, max: 90 }) })
    fc.assert(
      fc.property(fc.array(need, { maxLength: 20 }), fc.integer({ min: 0, max: 80 }), fc.integer({ min: 1, max: 70 }), (list, onHand, pack) => {
        const needs = [...list].sort((a, b) => a.day - b.day)
        const made = stockPlan({ ...plan, onHand, pack, needs })
        if (!made.ok) throw new Error()
        let left = onHand
        let bought = 0
        const orders = [...made.value.orders]
        for (const n of needs) {
          left -= n.amount
          if (left >= 10) continue
          const o = orders.shift()
          expect(o?.arrive).toBe(Math.max(n.day, (o?.order ?? 0) + 3))
          expect((o?.amount ?? 0) % pack).toBe(0)
          left += o?.amount ?? 0
          bought += o?.amount ?? 0
          expect(left).toBeGreaterThanOrEqual(10)
          expect(left - pack).toBeLessThan(10)
        }
        expect(orders).toEqual([])
        expect(made.value.end).toBe(onHand + bought - needs.reduce((s, n) => s + n.amount, 0))
      }),
    )
  })
  test('a need out of its order is named', () => {
    expect(
      stockPlan({
        ...plan,
        needs: [
          { day: 5, amount: 1 },
          { day: 2, amount: 1 },
        ],
      }),
    ).toMatchObject({ ok: false, problems: [{ field: 'needs[1].day' }] })
  })
})
