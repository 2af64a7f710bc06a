import {
  barriers,
  calendarFrom,
  emptyState,
  endsOf,
  fold,
  level,
  materialsOf,
  Network,
  odds,
  oddsInput,
  orderList,
  paces,
  programmeOf,
  promised,
  quantities,
  RATES,
  SYSTEMS,
  shareCrews,
  slips,
  statusOf,
  stockBook,
  threats,
  type WallState,
  type WorkdaysData,
  winBack,
  workdaysOf,
  workOfStep,
} from '@stone-tally/core'
import fc from 'fast-check'
import { good } from './build'
import { entry, layoutOf, plain, recorded } from './plans'
import { started } from './started'

const week: WorkdaysData = { days: [1, 2, 3, 4, 5], starts: 7, hours: 8, crews: 1, notice: 24, holidays: [], lost: new Array(12).fill(0) }
const layout = layoutOf()
const TODAY = '2026-05-18'

describe('the calendar', () => {
  const c = calendarFrom({ ...week, holidays: ['2026-05-25'] }, '2026-05-22')
  test.each([
    [0, '2026-05-22'],
    [8, '2026-05-22'],
    [8.1, '2026-05-26'],
    [16, '2026-05-26'],
    [24.5, '2026-05-28'],
  ])('%s h of work from a Friday end on %s: the weekend and a holiday are stepped over', (hours, day) => {
    expect(c.dayOf(hours)).toBe(day)
  })
  test('and back: hours until a day', () => {
    expect(['2026-05-22', '2026-05-23', '2026-05-26', '2026-05-27'].map((d) => c.hoursUntil(d))).toEqual([0, 8, 8, 16])
  })
  test('begun on a Sunday it is Monday; over a change of the clock a day stays a day', () => {
    expect(calendarFrom(week, '2026-05-24').from).toBe('2026-05-25')
    expect(calendarFrom(week, '2026-10-23').dayOf(16)).toBe('2026-10-26')
    expect(calendarFrom(week, '2026-03-27').dayOf(16)).toBe('2026-03-30')
  })
})

/** Programmes as walls make them: sections of courses, each with a few stages, with a wait now and then. */
const programmes = fc
  .record({
    sections: fc.integer({ min: 1, max: 4 }),
    courses: fc.integer({ min: 1, max: 8 }),
    stages: fc.integer({ min: 1, max: 5 }),
    crews: fc.integer({ min: 1, max: 4 }),
    hours: fc.array(fc.integer({ min: 1, max: 12 }), { minLength: 20, maxLength: 20 }),
    lags: fc.array(fc.integer({ min: 0, max: 10 }), { minLength: 20, maxLength: 20 }),
  })
  .map(({ sections, courses, stages, crews, hours, lags }) => {
    const at = (s: number, c: number, k: number) => (s * courses + c) * stages + k
    const after: [number, number][][] = []
    const durations: number[] = []
    for (let s = 0; s < sections; s++)
      for (let c = 0; c < courses; c++)
        for (let k = 0; k < stages; k++) {
          const i = at(s, c, k)
          durations[i] = hours[i % 20] as number
          const own: [number, number][] = []
          if (k > 0) own.push([at(s, c, k - 1), i % 7 === 0 ? (lags[i % 20] as number) : 0])
          else if (c > 0) own.push([at(s, c - 1, stages - 1), 0])
          after[i] = own
        }
    return { wiring: { durations, after }, crews }
  })

describe('levelling', () => {
  test('nothing begins before what it waits for, no crew does two things at once, nothing ends below the bound', () => {
    fc.assert(
      fc.property(programmes, ({ wiring, crews }) => {
        const l = level(
          wiring,
          wiring.durations.map(() => true),
          { crews },
        )
        if (!l) throw new Error()
        wiring.after.forEach((a, i) => {
          for (const [b, lag] of a) expect(l.start[i] as number).toBeGreaterThanOrEqual((l.finish[b] as number) + lag - 1e-9)
        })
        for (let c = 0; c < crews; c++) {
          const own = [...l.crew].flatMap((k, i) => (k === c ? [i] : [])).sort((a, b) => (l.start[a] as number) - (l.start[b] as number))
          own.forEach((i, k) => {
            if (k > 0) expect(l.start[i] as number).toBeGreaterThanOrEqual((l.finish[own[k - 1] as number] as number) - 1e-9)
          })
        }
        expect(l.end).toBeGreaterThanOrEqual(l.bound - 1e-9)
        // With the crews' order in it the network says the same.
        expect((Network.of(l.wiring) as Network).end).toBeCloseTo(l.end, 6)
      }),
      { numRuns: 120 },
    )
  })
  test('on two hundred programmes within 15 % of the bound on average', () => {
    const ratios = fc.sample(programmes, { numRuns: 200, seed: 7 }).map(({ wiring, crews }) => {
      const l = level(
        wiring,
        wiring.durations.map(() => true),
        { crews },
      )
      return (l?.end ?? 0) / (l?.bound ?? 1)
    })
    expect(Math.min(...ratios)).toBeGreaterThanOrEqual(1 - 1e-9)
    expect(ratios.reduce((a, b) => a + b, 0) / ratios.length).toBeLessThanOrEqual(1.15)
  })
  test('what takes no crew waits beside the work', () => {
    const l = level({ durations: [4, 4, 4], after: [[], [], []] }, [true, false, true], { crews: 1 })
    expect([l?.end, l?.crew[1]]).toEqual([8, -1])
  })
  test('a circle has no order', () => {
    expect(level({ durations: [1, 1], after: [[[1, 0]], [[0, 0]]] }, [true, true], { crews: 1 })).toBeUndefined()
  })
})

describe('what is left of a wall', () => {
  const fresh = emptyState([layout])
  const p = programmeOf(fresh, TODAY)
  test('every step that is not cleared, and every release; nothing twice', () => {
    expect(new Set(p.tasks.map((t) => t.id)).size).toBe(p.tasks.length)
    expect(p.tasks.filter((t) => t.kind === 'work' && t.step).map((t) => t.step?.key)).toEqual(fresh.steps.map((s) => s.key))
    expect(p.tasks.filter((t) => t.kind === 'release').length).toBe(fresh.holds.length)
  })
  test('it never contradicts the Board: what stands before a step ends before it begins', () => {
    const ends = new Map(p.tasks.map((t) => [t.id, t.finish]))
    for (const t of p.tasks) {
      if (t.kind !== 'work' || !t.step) continue
      for (const b of barriers(fresh, t.step)) {
        if (!b.step || b.step.key === t.step.key) continue
        expect([t.id, t.start >= (ends.get(b.step.key) ?? 0) - 1e-6]).toEqual([t.id, true])
        if (b.force === 'hold') expect(t.start).toBeGreaterThanOrEqual((ends.get(`release ${b.step.key}`) ?? 0) - 1e-6)
      }
    }
  })
  test('critical is what may not slip, from the first hour to the last', () => {
    expect(p.tasks.some((t) => t.critical && t.start < 1e-6)).toBe(true)
    expect(Math.max(...p.tasks.map((t) => t.finish))).toBeCloseTo(p.hours, 6)
    expect(p.tasks.filter((t) => t.critical).every((t) => t.float < 1e-6)).toBe(true)
    expect(p.hours).toBeGreaterThanOrEqual(p.bound - 1e-6)
  })
  test('what is done falls out; a started course is half as long', () => {
    const [services] = fresh.steps
    if (!services) throw new Error()
    const state = fold([layout], recorded(good(services, layout)))
    expect(statusOf(state, services).state).toBe('done')
    const after = programmeOf(state, TODAY)
    expect(after.tasks.map((t) => t.id)).not.toContain(services.key)
    expect(after.hours).toBeLessThan(p.hours)
    const units = fresh.steps.find((s) => s.stage.id === 'units')
    if (!units) throw new Error()
    const half = fold(
      [layout],
      recorded([entry('units', { stage: 'units', section: units.section, course: units.course } as never, { set: Math.floor(units.planned / 2) })]),
    )
    const hours = (x: WallState) => programmeOf(x, TODAY).tasks.find((t) => t.id === units.key)?.hours ?? 0
    expect(hours(half) / hours(fresh)).toBeCloseTo(1 - Math.floor(units.planned / 2) / units.planned, 3)
  })
  test('a day that is not worked on moves the end, not the work', () => {
    const off = (data: Partial<WorkdaysData>) => fold([layout], recorded([entry('workdays', {}, { ...week, ...data }, { role: 'foreman' })]))
    const plain = programmeOf(off({}), TODAY)
    const holiday = programmeOf(off({ holidays: ['2026-05-19'] }), TODAY)
    expect(holiday.hours).toBeCloseTo(plain.hours, 6)
    expect(holiday.finish > plain.finish).toBe(true)
    expect(workdaysOf(off({ crews: 3 })).crews).toBe(3)
  })
  test('another crew and an inspector who is there at once win days, or are not offered', () => {
    for (const w of winBack(fresh, p, TODAY)) {
      expect(w.days).toBeGreaterThanOrEqual(0.5)
      expect(w.finish <= p.finish).toBe(true)
    }
  })
  test.each(SYSTEMS.map((s) => s.id))('%s: its stages make a programme without a circle', (id) => {
    const own = emptyState([layoutOf(started(id))])
    const made = programmeOf(own, TODAY)
    expect(made.hours).toBeGreaterThan(8)
    expect(orderList(stockBook(own), made, TODAY).length).toBeGreaterThan(0)
  })
})

describe('walls that share crews', () => {
  const p = programmeOf(emptyState([layout]), TODAY)
  const three = ['a', 'b', 'c'].map((id) => ({ id, programme: p }))
  test('with a crew each nobody waits for another; with one among them they take about as long as all of them', () => {
    const many = shareCrews(three, 3)
    expect(many.hours).toBeLessThanOrEqual(p.hours * 1.25)
    const one = shareCrews(three, 1)
    expect(one.hours).toBeGreaterThanOrEqual(one.bound - 1e-6)
    expect(one.hours).toBeGreaterThan(many.hours)
    const work = 3 * p.tasks.filter((t) => t.kind === 'work').reduce((n, t) => n + t.hours, 0)
    expect(one.bound).toBeCloseTo(work, 6)
    // While one wall waits for its inspector another goes on: sooner than one after the other.
    expect(one.hours).toBeLessThan(3 * p.hours)
    for (const w of one.walls) expect(w.finish >= w.alone).toBe(true)
    // A crew is on one wall at a time: the day it leaves one is the day it comes to the next, at the soonest.
    for (const { walls } of [many, one]) {
      const stays = walls.flatMap((w) => w.stays.map((s) => ({ ...s, wall: w.id }))).sort((a, b) => (a.from + a.to < b.from + b.to ? -1 : 1))
      expect(stays.length).toBeGreaterThan(2)
      for (const crew of new Set(stays.map((s) => s.crew))) {
        const own = stays.filter((s) => s.crew === crew)
        own.slice(1).forEach((s, i) => expect(s.from >= (own[i]?.to ?? '')).toBe(true))
      }
      for (const w of walls) expect(w.stays.every((s) => s.to <= w.finish)).toBe(true)
    }
  })
  test('what was promised soonest goes first, then what is nearest to done', () => {
    const half = programmeOf(
      fold(
        [layout],
        recorded(
          emptyState([layout])
            .steps.slice(0, 6)
            .flatMap((s) => good(s, layout)),
        ),
      ),
      TODAY,
    )
    const finish = (list: Parameters<typeof shareCrews>[0]) => Object.fromEntries(shareCrews(list, 1).walls.map((w) => [w.id, w.finish]))
    const plain = finish([
      { id: 'long', programme: p },
      { id: 'short', programme: half },
    ])
    expect((plain.short ?? '') < (plain.long ?? '')).toBe(true)
    const said = finish([
      { id: 'late', programme: half, promised: '2026-09-01' },
      { id: 'soon', programme: p, promised: '2026-06-15' },
    ])
    expect((said.soon ?? '') <= (said.late ?? '')).toBe(true)
  })
  test('one wall by itself is what its own page says, and none is nothing', () => {
    const [own] = shareCrews([{ id: 'a', programme: p }], 1).walls
    expect(own?.finish).toBe(p.finish)
    expect(shareCrews([], 2)).toEqual({ walls: [], bound: 0, hours: 0 })
  })
})

test('what is dug and filled is what the quantities have, not a figure of its own', () => {
  const state = emptyState([layout])
  const amount = (of: (s: (typeof state.steps)[number]) => boolean) => state.steps.filter(of).reduce((n, s) => n + workOfStep(state, s).amount, 0)
  const q = (id: string) => quantities(layout).find((x) => x.id === id)?.value ?? 0
  expect(amount((s) => s.stage.id === 'dig')).toBeCloseTo(q('dig'), 3)
  // Layers of fill by their area: as thick as they are, they are about the fill of the wall.
  const volume = state.steps.filter((s) => s.stage.id === 'backfill').reduce((n, s) => n + workOfStep(state, s).amount * (s.lifts?.compacted ?? 0), 0)
  expect(volume / q('backfill')).toBeGreaterThan(0.95)
  expect(volume / q('backfill')).toBeLessThan(1.05)
})

describe('the odds', () => {
  const state = emptyState([layout])
  const input = oddsInput(programmeOf(state, TODAY), TODAY, 400, 5)
  test('the same seed says the same; more certain is later', () => {
    const [a, b] = [odds(input), odds(input)]
    expect(a.days).toEqual(b.days)
    expect(a.at(10) <= a.at(50) && a.at(50) <= a.at(90)).toBe(true)
    expect(odds({ ...input, seed: 6 }).days).not.toEqual(a.days)
  })
  test('without scatter and weather it is the programme', () => {
    const sure = odds({ ...input, shared: 1, spreads: input.spreads.map(() => 1), workdays: { ...input.workdays, lost: new Array(12).fill(0) } })
    expect(new Set(sure.days)).toEqual(new Set([programmeOf(state, TODAY).finish]))
  })
  test('half of the days lost to weather makes it about twice as long', () => {
    const clear = { ...input, shared: 1, spreads: input.spreads.map(() => 1) }
    const days = (lost: number) => {
      const o = odds({ ...clear, workdays: { ...input.workdays, lost: new Array(12).fill(lost) } })
      return calendarFrom(week, TODAY).hoursUntil(o.at(50)) / 8
    }
    expect(days(50) / days(0)).toBeGreaterThan(1.7)
    expect(days(50) / days(0)).toBeLessThan(2.4)
  })
  test('who is slow at one course is slow at all: what is shared does not even out', () => {
    // In hours, not in days: a day is too coarse for a small wall.
    const scatter = (groups: readonly number[] | undefined) => {
      const { groups: _, shared: _s, ...rest } = input
      const ends = endsOf(Network.of(rest.wiring) as Network, { ...rest, runs: 800, ...(groups ? { groups } : {}) })
      const mean = ends.reduce((a, b) => a + b, 0) / ends.length
      return Math.sqrt(ends.reduce((a, b) => a + (b - mean) ** 2, 0) / ends.length)
    }
    expect(scatter(input.groups)).toBeGreaterThan(1.2 * scatter(undefined))
  })
  test('stopped half-way it says what it has', () => {
    expect(odds(input, (runs) => runs < 100).days).toHaveLength(100)
  })
})

describe('what the weather expected threatens', () => {
  const at = '2026-05-18T05:00:00Z'
  const sky = (data: object, when = '2026-05-17T18:00:00Z') =>
    entry('weather', {}, { rain: 0, low: 9, wind: 10, expected: true, ...data }, { at: when })
  // Up to the first layer of the pad.
  const far = fresh().steps.slice(
    0,
    fresh().steps.findIndex((s) => s.stage.work.type === 'lifts'),
  )
  const of = (w: ReturnType<typeof entry>) => {
    const state = fold([layout], recorded([...far.flatMap((s) => good(s, layout)), w]))
    return threats(state, programmeOf(state, TODAY), at).map((t) => t.text)
  }
  function fresh() {
    return emptyState([layout])
  }
  test('frost on the layers of tomorrow, rain on the fill; fair weather says nothing', () => {
    expect(of(sky({ low: -3 })).join()).toMatch(/nothing is placed on or with frozen soil/)
    expect(of(sky({ rain: 12 })).join()).toMatch(/fill takes up more water/)
    expect(of(sky({}))).toEqual([])
  })
  test('an old forecast is none, and weather that was is no forecast', () => {
    expect(of(sky({ low: -3 }, '2026-05-14T18:00:00Z'))).toEqual([])
    expect(of(sky({ low: -3, expected: false }))).toEqual([])
  })
})

describe('what the record says of the pace', () => {
  const set = (minutes: number, count: number, day = 20) =>
    entry(
      'units',
      { stage: 'units', section: 'A', course: 2 },
      { set: count },
      { at: new Date(Date.UTC(2026, 4, day, 8, minutes)).toISOString().replace('.000', '') },
    )
  const of = (entries: ReturnType<typeof entry>[]): WallState => fold([layout], recorded(entries))
  test('a day is its units between its entries, without what came before the first and without the break', () => {
    const state = of([set(0, 9), set(30, 10), set(60, 10), set(60 + 240, 3)])
    expect(paces(state).units.seen).toMatchObject({ median: 20, days: 1 })
    // One day moves it a little; it is between what ships and what was seen.
    expect(paces(state).units.value).toBeGreaterThan(RATES.units.value)
    expect(paces(state).units.value).toBeLessThan(20)
  })
  test('the more days, the nearer to them', () => {
    const value = (days: number) => paces(of(Array.from({ length: days }, (_, d) => [set(0, 1, 1 + d), set(60, 28, 1 + d)]).flat())).units.value
    expect(value(1)).toBeLessThan(value(4))
    expect(value(4)).toBeLessThan(value(12))
    expect(value(12)).toBeGreaterThan(23)
  })
  test('two entries at once, or one alone, say nothing', () => {
    expect(paces(of([set(0, 5)])).units.seen).toBeUndefined()
    expect(paces(of([set(0, 5), set(1, 5)])).units.seen).toBeUndefined()
  })
})

describe('what to order by when', () => {
  const stone = materialsOf(layout).find((m) => m.id === 'stone')
  const item = { item: 'stone', name: stone?.name ?? '', unit: stone?.unit ?? 'm³' }
  const lines = (entries: ReturnType<typeof entry>[]) => {
    const state = fold([layout], recorded(entries))
    return orderList(stockBook(state), programmeOf(state, TODAY, { stocked: true }), TODAY).filter((l) => l.id === 'stone')
  }
  test('without a word of how it is bought: all that is wanted, once', () => {
    expect(lines([])).toHaveLength(1)
    expect(lines([])[0]?.amount).toBeCloseTo(Math.ceil((stone?.order ?? 0) * 10) / 10, 6)
  })
  test('in its packs, its days ahead, by its supplier', () => {
    const list = lines([entry('supply', {}, { ...item, supplier: 'Quarry', lead: 2, pack: 2, reserve: 0 }, { role: 'foreman' })])
    expect(list.length).toBeGreaterThan(1)
    expect(list.every((l) => l.amount % 2 === 0 && l.supplier === 'Quarry')).toBe(true)
    expect(list.reduce((n, l) => n + l.amount, 0)).toBeGreaterThanOrEqual(stone?.order ?? 0)
    for (const l of list) if (!l.late) expect(Date.parse(l.arrive) - Date.parse(l.order)).toBeGreaterThanOrEqual(2 * 86_400_000)
  })
  test('longer on its way than the wall has time for it is late, though the days of the wall wait for it', () => {
    const bought = entry('supply', {}, { ...item, lead: 60, pack: 50, reserve: 0 }, { role: 'foreman' })
    expect(lines([bought])[0]).toMatchObject({ order: TODAY, arrive: '2026-07-17', late: true })
  })
  test('what is here and what is expected is not ordered again', () => {
    expect(lines([entry('delivery', {}, { ...item, amount: 100, docket: 'D' })])).toEqual([])
    expect(lines([entry('ordered', {}, { ...item, amount: 100, expected: TODAY })])).toEqual([])
  })
})

describe('what the work waits for to come', () => {
  const stone = materialsOf(layout).find((m) => m.id === 'stone')
  const item = { item: 'stone', name: stone?.name ?? '', unit: stone?.unit ?? 'm³' }
  const made = (entries: ReturnType<typeof entry>[]) => programmeOf(fold([layout], recorded(entries)), TODAY)
  const fills = (p: ReturnType<typeof programmeOf>) => p.tasks.filter((t) => t.step?.stage.places === 'stone')
  const half = entry('delivery', {}, { ...item, amount: (stone?.planned ?? 0) / 2, docket: 'D-1' })
  test('what is here is used up first; then it waits for the day it is expected', () => {
    const p = made([half, entry('ordered', {}, { ...item, amount: 20, expected: '2026-08-03' })])
    const [first] = fills(p)
    expect(first?.waitsFor).toBeUndefined()
    const waiting = fills(p).filter((t) => t.waitsFor)
    expect(waiting.length).toBeGreaterThan(0)
    for (const t of waiting) {
      expect(t.waitsFor).toEqual({ material: stone?.name, day: '2026-08-03', ordered: true })
      expect(t.from >= '2026-08-03').toBe(true)
    }
    expect(p.finish > '2026-08-03').toBe(true)
    expect(
      plain(slips(fold([layout], recorded([half, entry('ordered', {}, { ...item, amount: 20, expected: '2026-08-03' })])), p, TODAY))
        .map((s) => s.why)
        .join(),
    ).toMatch(/waits for drainage stone, expected Mon 3 Aug/)
  })
  test('not ordered: as soon as it could come if it were ordered today', () => {
    const bought = entry('supply', {}, { ...item, lead: 60, pack: 1, reserve: 0 }, { role: 'foreman' })
    const waiting = fills(made([half, bought])).filter((t) => t.waitsFor)
    expect(waiting[0]?.waitsFor).toEqual({ material: stone?.name, day: '2026-07-17', ordered: false })
  })
  test('promised for a day that is over it comes tomorrow at the soonest; what nobody keeps account of makes nobody wait', () => {
    const late = made([half, entry('ordered', {}, { ...item, amount: 20, expected: '2026-05-01' })])
    expect(fills(late).find((t) => t.waitsFor)?.waitsFor?.day).toBe('2026-05-19')
    expect(made([]).tasks.some((t) => t.waitsFor)).toBe(false)
  })
  test('the odds wait too', () => {
    const p = made([half, entry('ordered', {}, { ...item, amount: 20, expected: '2026-08-03' })])
    expect(odds(oddsInput(p, TODAY, 50)).at(1) > '2026-08-03').toBe(true)
  })
})

test('the newest promise stands; struck out, the one before it', () => {
  const first = entry('promise', {}, { finish: '2026-06-30', odds: 90 }, { role: 'foreman' })
  const second = entry('promise', {}, { finish: '2026-06-20', odds: 50 }, { role: 'foreman' })
  const strike = entry('strike', {}, { reason: 'was never said' }, { supersedes: second.id, role: 'foreman' })
  const at = (list: ReturnType<typeof entry>[]) => promised(fold([layout], recorded(list)))?.data.finish
  expect([at([]), at([first, second]), at([first, second, strike])]).toEqual([undefined, '2026-06-20', '2026-06-30'])
  const state = fold([layout], recorded([first]))
  expect(slips(state, programmeOf(state, TODAY), TODAY)).toEqual([])
})
