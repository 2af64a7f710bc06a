import {
  type DrainTask,
  drain,
  drainSeat,
  filter,
  finesOf,
  type Outlet,
  pipeCapacity,
  rationalFlow,
  regraded,
  seepageFlow,
  sizeAt,
  solveDrain,
  swaleDepth,
} from '@stone-tally/core'
import { numbers } from './pinned'
import { plain, value } from './plans'

const said = (r: { ok: boolean; problems?: readonly { field: string; message: unknown }[] }) =>
  r.problems?.map((p) => [p.field, plain(p.message as never)])

/** Whole metres and quarters of a fall of a half: what is exactly at a limit comes up again and again. */
const FALL = 0.5
const places = (seed: number, count: number, length: number): Outlet[] => {
  const next = numbers(seed)
  return Array.from({ length: count }, () => ({ station: Math.floor(next(0, length + 0.999)), invert: 10 + Math.floor(next(0, 5)) / 4 }))
}
/** Where water goes, walked: to an outlet whose line is lowest at a place, the nearest of those alike. */
const wayAt = (outlets: readonly Outlet[], fall: number, s: number) => {
  const line = (o: Outlet) => o.invert + fall * Math.abs(s - o.station)
  const lowest = Math.min(...outlets.map(line))
  return Math.min(...outlets.filter((o) => line(o) <= lowest + 1e-9).map((o) => Math.abs(s - o.station)))
}
const longestWay = (outlets: readonly Outlet[], fall: number, length: number) => {
  let way = 0
  for (let s = 1 / 64; s < length; s += 1 / 32) way = Math.max(way, wayAt(outlets, fall, s))
  return way
}

describe('the toe drain, walked', () => {
  test.each(Array.from({ length: 60 }, (_, n) => n))('the longest way of made-up outlets %i', (n) => {
    const length = 6 + (n % 5)
    const fall = n % 4 === 3 ? 0 : FALL
    const outlets = places(n + 1, 1 + (n % 4), length)
      .filter((o, i, all) => all.findIndex((a) => a.station === o.station) === i)
      .map((o) => (fall === 0 ? { ...o, invert: n % 8 === 3 ? 10 : o.invert } : o))
    const ceiling = Array.from({ length: length + 1 }, (_, station) => ({ station, elevation: 10 + (station % 4) / 2 }))
    const p = value(drain({ length, fall, maxOutletSpacing: 3, outlets, ceiling }))
    expect(p.longestRun).toBeGreaterThan(longestWay(outlets, fall, length) - 1e-9)
    expect(p.longestRun).toBeLessThan(longestWay(outlets, fall, length) + 1 / 16)
    const stations = outlets.map((o) => o.station).sort((a, b) => a - b)
    expect(p.spacingOk).toBe(p.longestRun <= 3 && stations.every((s, i) => i === 0 || s - (stations[i - 1] as number) <= 3))
    const invert = (s: number) => Math.min(...outlets.map((o) => o.invert + fall * Math.abs(s - o.station)))
    expect(p.inverts).toEqual(ceiling.map((c) => ({ station: c.station, invert: invert(c.station) })))
    expect(p.violations).toEqual(
      ceiling.filter((c) => invert(c.station) > c.elevation).map((c) => ({ station: c.station, by: invert(c.station) - c.elevation })),
    )
  })
  test('what cannot be, by field', () => {
    const input = { length: 20, fall: 0.01, maxOutletSpacing: 15, outlets: [{ station: 20, invert: 9 }], ceiling: [{ station: 20, elevation: 9 }] }
    expect(drain(input).ok).toBe(true)
    expect(said(drain({ ...input, ceiling: [...input.ceiling, { station: 20.01, elevation: 9 }] }))?.[0]?.[0]).toBe('ceiling[1].station')
    expect(said(drain({ ...input, outlets: [...input.outlets, { station: 20.01, invert: 9 }] }))?.[0]?.[0]).toBe('outlets[1].station')
    const twice = [
      { station: 4, invert: 9.2 },
      { station: 0, invert: 9 },
      { station: 4, invert: 9.1 },
    ]
    expect(said(drain({ ...input, outlets: twice }))).toEqual([['outlets[2].station', 'there are two outlets at 4 m']])
  })
})

describe('outlets chosen, against every choice', () => {
  const fits = (task: DrainTask, chosen: readonly Outlet[]) => {
    const { length, fall, maxOutletSpacing } = task
    const sorted = [...chosen].sort((a, b) => a.station - b.station)
    const ends = [0, ...sorted.map((o) => o.station), length]
    const line = (s: number) => Math.min(...chosen.map((o) => o.invert + fall * Math.abs(s - o.station)))
    return (
      ends.every((s, i) => i === 0 || s - (ends[i - 1] as number) <= maxOutletSpacing) &&
      sorted.every((o) => line(o.station) >= o.invert) &&
      sorted.every((o, i) => i === 0 || o.station > (sorted[i - 1] as Outlet).station) &&
      task.ceiling.every((c) => line(c.station) <= c.elevation)
    )
  }
  const taskOf = (n: number): DrainTask => {
    const next = numbers(100 + n)
    const length = 7 + (n % 3)
    return {
      length,
      fall: n % 5 === 4 ? 0 : FALL,
      maxOutletSpacing: 3 + (n % 3),
      possible: places(500 + n, 3 + (n % 5), length),
      ceiling: Array.from({ length: n % 4 }, () => ({ station: Math.floor(next(0, length + 0.999)), elevation: 10.5 + Math.floor(next(0, 6)) / 4 })),
    }
  }
  test.each(Array.from({ length: 200 }, (_, n) => n))('made-up places %i', (n) => {
    const task = taskOf(n)
    let best: { count: number; way: number } | undefined
    for (let mask = 1; mask < 1 << task.possible.length; mask++) {
      const chosen = task.possible.filter((_, i) => mask & (1 << i))
      if (!fits(task, chosen)) continue
      const way = value(drain({ ...task, outlets: chosen, ceiling: [] })).longestRun
      if (!best || chosen.length < best.count || (chosen.length === best.count && way < best.way)) best = { count: chosen.length, way }
    }
    const solved = solveDrain(task)
    if (!best) return expect(said(solved)?.[0]?.[0]).toMatch(/^(possible|ceiling)$/)
    const { outlets, profile } = value(solved)
    expect(fits(task, outlets)).toBe(true)
    expect([outlets.length, profile.longestRun]).toEqual([best.count, best.way])
    expect(outlets).toEqual(outlets.toSorted((a, b) => a.station - b.station))
    expect(profile).toEqual(value(drain({ ...task, outlets: [...outlets], ceiling: [...task.ceiling] })))
  })
  test('some of them can be drained and some cannot', () => {
    const kinds = Array.from({ length: 200 }, (_, n) => solveDrain(taskOf(n)))
    expect(kinds.filter((k) => k.ok).length).toBeGreaterThan(40)
    expect(kinds.filter((k) => !k.ok).length).toBeGreaterThan(40)
  })
  const base: DrainTask = { length: 20, fall: 0.01, maxOutletSpacing: 10, possible: [], ceiling: [] }
  test('an outlet at the very end, and the first of those beyond it', () => {
    const at = (station: number) => ({ station, invert: 9 })
    expect(solveDrain({ ...base, possible: [at(10), at(20)] }).ok).toBe(true)
    expect(said(solveDrain({ ...base, possible: [at(10), at(20.001)] }))?.[0]?.[0]).toBe('possible[1].station')
  })
  test('the gap is named where it is, and one of just the length allowed is none', () => {
    const at = (station: number) => ({ station, invert: 9 })
    expect(said(solveDrain({ ...base, length: 32, possible: [at(10), at(20.02)] }))).toEqual([
      ['possible', 'there is no place for an outlet on 10.02 m of wall, from 10 m to 20.02 m; 10 m is allowed between two'],
    ])
    expect(said(solveDrain({ ...base, length: 32, possible: [at(10), at(20)] }))?.[0]?.[1]).toMatch(/on 12 m of wall, from 20 m to 32 m/)
  })
  test('the place where the pipe stands highest above what it may is named, with how much', () => {
    const ceiling = [
      { station: 2, elevation: 9.03 },
      { station: 5, elevation: 9.0 },
      { station: 8, elevation: 9.03 },
      { station: 15, elevation: 9.0 },
    ]
    const r = solveDrain({ ...base, possible: [0, 10, 20].map((station) => ({ station, invert: 9 })), ceiling })
    expect(said(r)?.[0]).toEqual(['ceiling', expect.stringContaining('at 5 m the pipe would stand 50 mm too high even with every outlet')])
  })
  test('of two places one above the other, the one the fall can reach from its neighbour', () => {
    const possible = [
      { station: 5, invert: 9 },
      { station: 15, invert: 8 },
      { station: 15, invert: 9.1 },
    ]
    expect(value(solveDrain({ ...base, possible })).outlets).toEqual([possible[0], possible[2]])
  })
  test('what differs by more than the fall is said with the fall', () => {
    const r = solveDrain({
      ...base,
      fall: 0.025,
      possible: [
        { station: 8, invert: 9 },
        { station: 14, invert: 10 },
      ],
    })
    expect(said(r)?.[0]).toEqual(['possible', expect.stringContaining('more than the fall of 2.5 % between them')])
  })
})

describe('gradings', () => {
  const of = (...points: readonly (readonly [size: number, passing: number])[]) => points.map(([size, passing]) => ({ size, passing }))
  test('straight lines over the logarithm, at and between sieves', () => {
    const g = of([0.1, 10], [1, 10], [10, 60], [100, 100])
    expect(value(sizeAt(g, 10, 'soil'))).toBe(0.1)
    expect(value(sizeAt(g, 60, 'soil'))).toBe(10)
    expect(value(sizeAt(g, 35, 'soil'))).toBeCloseTo(10 ** 0.5, 9)
    expect(value(sizeAt(g, 80, 'soil'))).toBeCloseTo(10 ** 1.5, 9)
  })
  test.each<[string, ReturnType<typeof of>, number, string, string]>([
    ['a sieve twice, next to itself', of([2, 20], [1, 10], [2, 30]), 15, 'soil[2].size', 'the sieve of 2 mm is given twice'],
    ['less through the coarser', of([2, 20], [1, 30], [4, 90]), 15, 'soil[0].passing', '20 % pass 2 mm, but 30 % pass the finer 1 mm'],
    [
      'not fine enough',
      of([1, 16], [4, 90]),
      15,
      'soil',
      'its finest sieve lets 16 % pass already; a finer one that lets less than 15 % pass is needed',
    ],
    ['not coarse enough', of([1, 5], [4, 14]), 15, 'soil', 'its coarsest sieve lets 14 % pass; a sieve that lets 15 % pass is needed'],
  ])('%s', (_, grading, share, field, message) => expect(said(sizeAt(grading, share, 'soil'))).toEqual([[field, message]]))
  test('the rules of the filter hold at their very limits, and no further', () => {
    const stone = (d15: number) => of([d15 / 2, 5], [d15, 15], [d15 * 4, 100])
    // d85 of the soil is 1 mm: D15 of 5 mm is just fine enough.
    const soil = of([0.05, 5], [0.1, 15], [1, 85], [2, 100])
    expect(value(filter({ soil, stone: stone(5) }))).toMatchObject({ retention: 5, permeability: 50, ok: true })
    expect(value(filter({ soil, stone: stone(5.01) })).ok).toBe(false)
    // d15 of the soil is 1 mm: D15 of 5 mm is just open enough.
    const even = of([0.5, 5], [1, 15], [4, 85], [8, 100])
    expect(value(filter({ soil: even, stone: stone(5) }))).toMatchObject({ permeability: 5, ok: true })
    expect(value(filter({ soil: even, stone: stone(4.99) })).ok).toBe(false)
    expect(said(filter({ soil: of([0.5, 15], [1, 80]), stone: stone(5) }))?.[0]?.[0]).toBe('soil')
    expect(said(filter({ soil: of([0.5, 16], [1, 90]), stone: stone(5) }))?.[0]?.[0]).toBe('soil')
  })
  test('a soil with gravel is looked at without it', () => {
    const g = of([75, 100], [0.075, 20], [4.75, 50])
    expect(regraded(g)).toEqual(of([0.075, 40], [4.75, 100]))
    // The sieve lies between two others: half way over the logarithm.
    const between = regraded(of([0.0475, 20], [475, 100]))
    expect(between).toEqual([
      { size: 0.0475, passing: expect.closeTo((100 * 20) / 60, 9) },
      { size: 4.75, passing: 100 },
    ])
  })
  test.each<[string, ReturnType<typeof of>]>([
    ['no gravel at all', of([0.075, 20], [4.75, 90])],
    ['all passes the sieve of sand', of([0.075, 20], [4.75, 100], [75, 100])],
    ['nothing finer passes', of([1, 0], [4.75, 0], [75, 100])],
    ['nothing passes it', of([4.75, 0], [20, 50], [75, 100])],
    ['no sieve as fine', of([10, 20], [75, 100])],
    ['none below it', of([4.75, 30], [75, 100])],
  ])('is left as it is: %s', (_, g) => expect(regraded(g)).toBe(g))
  test('fines are what passes the finest sieve, where there is one that fine', () => {
    expect(finesOf(of([4, 30], [0.075, 3]))).toBeCloseTo(3, 9)
    expect(finesOf(of([0.0075, 2], [0.75, 4]))).toBeCloseTo(3, 9)
    // Converted from inches and back, it is the same sieve still.
    expect(finesOf(of([0.075 * (1 + 1e-12), 3], [4, 30]))).toBeCloseTo(3, 9)
    expect(finesOf(of([0.01, 1], [0.075 * (1 - 1e-12), 3]))).toBeCloseTo(3, 9)
    expect(finesOf(of([0.08, 3], [4, 30]))).toBeUndefined()
    expect(finesOf(of([0.01, 3], [0.05, 30]))).toBeUndefined()
  })
})

describe('seats, exactly where one ends and the next begins', () => {
  const facts = { open: true, padBottom: 9.25, padTop: 9.5, bed: 0.25 }
  test.each([
    [9.5, true, 'in-pad', 9.5],
    [9.51, true, 'on-bed', 9.75],
    [9.75, true, 'on-bed', 9.75],
    [9.76, true, 'raised', 9.76],
    [9.5, false, 'on-bed', 9.75],
  ])('outlet at %d, open %s', (outlet, open, school, invert) => expect(drainSeat({ ...facts, outlet, open })).toMatchObject({ school, invert }))
  test('says why', () => {
    expect(plain(drainSeat({ ...facts, outlet: 10 }).why)).toBe('The lowest outlet lies 250 mm above a bed on the pad.')
    expect(drainSeat({ ...facts, outlet: 9.6 }).why).toMatch(/not low enough to empty the open pad/)
    expect(drainSeat({ ...facts, outlet: 9.6, open: false }).why).toMatch(/pad is dense/)
  })
})

describe('flows by hand', () => {
  test('what seeps is what does not run off, from twice the height or from all there is', () => {
    expect(seepageFlow({ runoff: 0.4, rain: 55, area: 620, height: 2, length: 36 })).toBeCloseTo((0.6 * 0.055 * 144) / 3600, 12)
    expect(seepageFlow({ runoff: 0.4, rain: 55, area: 100, height: 2, length: 36 })).toBeCloseTo((0.6 * 0.055 * 100) / 3600, 12)
    expect(rationalFlow(0.5, 36, 100)).toBeCloseTo(0.0005, 12)
  })
  test('a swale of its depth carries the flow it was asked for', () => {
    for (const [flow, fall] of [
      [0.0038, 0.01],
      [0.02, 0.03],
    ] as const) {
      const d = swaleDepth(flow, fall)
      const [area, wetted] = [3 * d * d, 2 * d * Math.sqrt(10)]
      expect((area / 0.03) * (area / wetted) ** (2 / 3) * Math.sqrt(fall)).toBeCloseTo(flow, 9)
    }
  })
  test('a pipe of another roughness', () => expect(pipeCapacity(0.1, 0.01, 0.008)).toBeCloseTo(2 * pipeCapacity(0.1, 0.01), 12))
})
