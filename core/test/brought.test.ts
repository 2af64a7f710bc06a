import {
  admit,
  allTasksOf,
  emptyState,
  fold,
  type Layout,
  layerSchedule,
  loadOf,
  materialsOf,
  mixesOf,
  mixOrders,
  openOrders,
  orderList,
  PALLET,
  packsFor,
  plantDays,
  plantSheet,
  programmeIcs,
  programmeOf,
  proposeSpots,
  rollNeed,
  rowsOfCsv,
  type Spot,
  sheetCsv,
  spotPoint,
  spotWrong,
  standsOf,
  stockBook,
  stockSheet,
  taskSheet,
  tasksIn,
  tomorrowOf,
  trenchOf,
} from '@stone-tally/core'
import fc from 'fast-check'
import { entry, layoutOf, recorded, smallPlan } from './plans'
import { startedLayout } from './started'

const TODAY = '2026-05-18'
const foreman = { role: 'foreman' } as const
const say = (kind: string, data: object, more: object = {}) => entry(kind, {}, data, { ...foreman, ...more })
const layout = layoutOf()
const of = (l: Layout, id: string) => {
  const m = materialsOf(l).find((x) => x.id === id)
  if (!m) throw new Error(`no ${id}`)
  return m
}

describe('where a delivery is put down', () => {
  const wall = startedLayout('landscape', { length: 20 })
  const spot = (station: number, out: number): Spot => ({ station, out })
  test('not behind the wall, not on the edge of the dig, not in the swing; in front there is room', () => {
    expect(spotWrong(wall, spot(10, -1.5)).join()).toMatch(/behind a wall that holds .*: it pushes on it/)
    expect(spotWrong(wall, spot(10, -30))).toEqual([])
    expect(spotWrong(wall, spot(10, 0.5)).join()).toMatch(/where the dig and the work are; at least/)
    expect(spotWrong(wall, spot(10, 6))).toEqual([])
    expect(spotWrong(wall, spot(60, 6)).join()).toMatch(/past the end of the wall/)
    const big = startedLayout('big-block', { length: 20 })
    const stands = big.building.lifting?.stands ?? 0
    expect(spotWrong(big, spot(10, stands)).join()).toMatch(/swings .* to either side/)
    expect(spotWrong(big, spot(10, stands + 8))).toEqual([])
  })
  test('clear of services, trees and buildings of the plan, by what each asks', () => {
    const at = spotPoint(wall, spot(10, 6))
    const with_ = (o: object) => startedLayout('landscape', { length: 20, obstacles: [{ name: 'Gas main', clearance: 1, ...o }] } as never)
    const near = with_({ kind: 'service', points: [at, { ...at, easting: at.easting + 4 }] })
    expect(spotWrong(near, spot(10, 6)).join()).toMatch(/it stands on Gas main; .* clear is asked/)
    expect(spotWrong(near, spot(10, 12))).toEqual([])
    const house = with_({
      kind: 'structure',
      points: [
        { easting: at.easting - 3, northing: at.northing - 3 },
        { easting: at.easting + 3, northing: at.northing - 3 },
        { easting: at.easting + 3, northing: at.northing + 3 },
        { easting: at.easting - 3, northing: at.northing + 3 },
      ],
    })
    expect(spotWrong(house, spot(10, 6)).join()).toMatch(/it stands in Gas main/)
  })
  test('proposals stand free of each other and of all that speaks against them, near to where they are wanted', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 24 }), fc.integer({ min: 0, max: 20 }), (count, near) => {
        const made = proposeSpots(wall, count, near)
        expect(made).toHaveLength(count)
        made.forEach((a, i) => {
          expect(spotWrong(wall, a)).toEqual([])
          made.forEach((b, j) => {
            if (i < j) expect(Math.abs(a.station - b.station) >= PALLET.along - 1e-9 || Math.abs(a.out - b.out) >= PALLET.across - 1e-9).toBe(true)
          })
        })
        expect(Math.abs((made[0]?.station ?? 99) - near)).toBeLessThan(1.3)
      }),
      { numRuns: 25 },
    )
    expect(proposeSpots(startedLayout('landscape', { front: { slope: 0.5, erodible: false } } as never), 3, 4)).toEqual([])
  })
  test('recorded with its spot; what speaks against it wants somebody who said so; the newest holds', () => {
    const came = say('delivery', { item: 'whole', name: 'Whole blocks', unit: 'pieces', amount: 60, docket: 'D-1', pallets: 2 })
    const known = fold([layout], recorded([came]))
    const put = (more: object) => say('put', { of: came.id, name: 'Whole blocks', spot: spot(4, 6), pallets: 2, ...more })
    const check = (e: ReturnType<typeof say>) => admit(known, e, Date.parse(e.at))
    expect(check(put({})).ok).toBe(true)
    expect(check(put({ spot: spot(4, -1) }))).toMatchObject({
      ok: false,
      problems: [{ field: 'data.spot', message: expect.stringMatching(/Choose another place/) }],
    })
    expect(check(put({ spot: spot(4, -1), why: 'the engineer, by letter' })).ok).toBe(true)
    expect(check(put({ of: 'nothing' }))).toMatchObject({ problems: [{ field: 'data.of' }] })
    const order = say('ordered', { item: 'stone', name: 'Drainage stone', unit: 'm³', amount: 8, expected: '2026-05-20' })
    const stands = standsOf(fold([layout], recorded([came, order, put({}), put({ spot: spot(5, 7) })])))
    expect(stands.map((s) => [s.name, s.spot, s.expected])).toEqual([
      ['Drainage stone', undefined, '2026-05-20'],
      ['Whole blocks', spot(5, 7), undefined],
    ])
    const arrived = say('delivery', { item: 'stone', name: 'Drainage stone', unit: 'm³', amount: 8, docket: 'D-2' })
    expect(standsOf(fold([layout], recorded([came, order, arrived]))).map((s) => s.expected)).toEqual([undefined, undefined])
  })
  test('what comes is of what was ordered first: the newer order is still to come, whatever came after it', () => {
    const order = (amount: number, expected: string, reference: string) =>
      say('ordered', { item: 'stone', name: 'Drainage stone', unit: 'm³', amount, expected, reference })
    const first = order(8, '2026-05-19', 'A')
    const second = order(6, '2026-05-19', 'B')
    const came = say('delivery', { item: 'stone', name: 'Drainage stone', unit: 'm³', amount: 8, counted: 7, docket: 'D-9' })
    const state = fold([layout], recorded([first, second, came]))
    // One of eight is missing: it is still to come, and so is the second.
    expect(openOrders(state).map((o) => [o.data.reference, o.open])).toEqual([
      ['A', 1],
      ['B', 6],
    ])
    expect(openOrders(state).reduce((n, o) => n + o.open, 0)).toBeCloseTo(stockBook(state).of('stone')?.expected ?? -1, 9)
    expect(tomorrowOf(state, programmeOf(state, TODAY), TODAY).comes).toEqual([
      expect.stringMatching(/Drainage stone \(A\)/),
      expect.stringMatching(/\(B\)/),
    ])
    expect(standsOf(state).map((s) => [s.expected !== undefined, s.amount])).toEqual([
      [false, 7],
      [true, 6],
      [true, 1],
    ])
  })
  test('the trench of the plan is where the code says it is', () => {
    expect(spotWrong(wall, spot(10, -trenchOf(wall.plan).front)).length).toBeGreaterThan(0)
  })
})

describe('packs, loads and rolls', () => {
  test.each([
    ['adhesive', /cartridge/],
    ['stone', /lorry|big bag/],
    ['pipe', /length|coil/],
    ['whole', /pallet of/],
  ])('%s is offered as it is sold', (id, name) => {
    const kinds = packsFor(layout, of(layout, id))
    expect(kinds[0]?.name).toMatch(name)
    for (const k of kinds) expect(k.holds).toBeGreaterThan(0)
  })
  test('poured concrete comes by the mixer, stone does not', () => {
    const masonry = startedLayout('masonry')
    expect(packsFor(masonry, of(masonry, 'pad')).map((p) => p.name)).toEqual(['mixer of 6 m³'])
    expect(packsFor(layout, of(layout, 'pad')).some((p) => /mixer/.test(p.name))).toBe(false)
  })
  test('geogrid is ordered by the rolls its strips are cut from, never fewer than its area asks for', () => {
    const own = layoutOf(smallPlan)
    const grid = materialsOf(own).find((m) => m.placed === 'layers')
    if (!grid) throw new Error('the small wall has no layers')
    const need = rollNeed(own, grid)
    expect(need?.rolls).toBeGreaterThanOrEqual(need?.bound ?? 99)
    const area = layerSchedule(own).reduce((n, l) => n + l.strips * l.length * (need ? need.holds / 50 : 0), 0)
    expect((need?.rolls ?? 0) * (need?.holds ?? 0)).toBeGreaterThanOrEqual(Math.min(area, grid.planned) - 1e-6)
    const supply = say('supply', { item: grid.id, name: grid.name, unit: grid.unit, lead: 3, pack: need?.holds, reserve: 0, packName: 'roll' })
    const state = fold([own], recorded([supply]))
    const lines = orderList(stockBook(state), programmeOf(state, TODAY, { stocked: true }), TODAY).filter((o) => o.id === grid.id)
    expect(lines.reduce((n, o) => n + o.packs, 0)).toBeGreaterThanOrEqual(need?.rolls ?? 99)
    expect(lines[0]?.rolls).toEqual(need)
  })
  test('an order has its mass, its lorries and its way; a pack the machine does not lift is said', () => {
    const whole = of(layout, 'whole')
    const unit = layout.building.course(1).mass
    expect(loadOf(layout, whole, { amount: 100, pack: 50 }, undefined)).toMatchObject({
      mass: 100 * unit,
      pack: 50 * unit,
      lorries: Math.ceil((100 * unit) / 18_000),
      wrong: undefined,
    })
    expect(loadOf(layout, whole, { amount: 100, pack: 50 }, { mass: 40, load: 1000, access: 3 })).toEqual({
      mass: 4000,
      pack: 2000,
      lorries: 4,
      access: 3,
      wrong: undefined,
    })
    expect(loadOf(layout, of(layout, 'pipe'), { amount: 10, pack: 10 }, undefined)).toMatchObject({ mass: undefined, lorries: undefined })
    const big = startedLayout('big-block')
    expect(loadOf(big, of(big, 'whole'), { amount: 8, pack: 8 }, undefined).wrong).toMatch(/lifts .* at the best of its table/)
    expect(loadOf(big, of(big, 'whole'), { amount: 8, pack: 1 }, undefined).wrong).toBeUndefined()
  })
})

describe('pallets of a mix', () => {
  const pattern = startedLayout('pattern')
  const shapes = materialsOf(pattern).filter((m) => m.id.startsWith('shape-'))
  const mix = (holds: object[], more: object = {}) => say('mix', { mix: 'A', holds, state: 'sold', ...more })
  const all = (count: number) => shapes.map((m) => ({ item: m.id, name: m.name, count }))
  test('as many as bring every shape, and what they bring besides; a few by themselves may save the last', () => {
    const state = fold([pattern], recorded([mix(all(12))]))
    const [order] = mixOrders(stockBook(state), mixesOf(state))
    for (const s of order?.shapes ?? []) {
      expect(s.brought).toBeGreaterThanOrEqual(s.wanted)
      expect(s.over).toBe(s.brought - s.wanted)
    }
    const most = Math.max(...(order?.shapes ?? []).map((s) => s.wanted))
    expect(order?.pallets).toBe(Math.ceil(most / 12))
    const uneven = fold([pattern], recorded([mix([...all(12).slice(1), { ...all(12)[0], count: 4 }])]))
    const [worse] = mixOrders(stockBook(uneven), mixesOf(uneven))
    expect(worse?.by).toMatchObject({ name: shapes[0]?.name, saves: (worse?.pallets ?? 0) - (order?.pallets ?? 0) })
  })
  test('what came is taken off; sold no longer it is gone; a shape given twice is refused', () => {
    const came = shapes.map((m, i) => say('delivery', { item: m.id, name: m.name, unit: 'pieces', amount: 1000, docket: `D-${i}` }))
    const full = fold([pattern], recorded([mix(all(12)), ...came]))
    expect(mixOrders(stockBook(full), mixesOf(full))).toEqual([])
    expect(mixesOf(fold([pattern], recorded([mix(all(12)), mix(all(12), { state: 'gone' })])))).toEqual([])
    const twice = mix([...all(2).slice(0, 1), ...all(3).slice(0, 1)])
    expect(admit(emptyState([pattern]), twice, Date.parse(twice.at))).toMatchObject({ problems: [{ field: 'data.holds[1].item' }] })
  })
})

describe('tasks in from a table', () => {
  const fresh = emptyState([layout])
  const p = programmeOf(fresh, TODAY)
  const read = (csv: string, state = fresh) => tasksIn(state, programmeOf(state, TODAY), rowsOfCsv(csv))
  test('what this program wrote says nothing new', () => {
    const back = read(sheetCsv(taskSheet(fresh, p)))
    expect([back.tasks, back.fixed, back.bad]).toEqual([[], [], []])
    expect(back.same).toBe(p.tasks.filter((t) => t.kind === 'work').length)
  })
  test('another’s table: tasks with links and a day, in an order in which each can be told', () => {
    const back = read(
      '\uFEFFid,title,hours,after,section,crew,plant,not_before\nfence,Fence,"6,5",hedge,,no,,2026-06-20\nhedge,Move the hedge,4,,,yes,excavator,\n\n',
    )
    expect(back.bad).toEqual([])
    expect(back.tasks).toEqual([
      { task: 'hedge', title: 'Move the hedge', hours: 4, after: [], before: [], crew: true, plant: 'excavator', state: 'open' },
      { task: 'fence', title: 'Fence', hours: 6.5, after: ['hedge'], before: [], crew: false, state: 'open' },
    ])
    expect(back.fixed).toEqual([{ task: 'fence', title: 'Fence', day: '2026-06-20' }])
    // Recorded, written out and read again it says nothing new.
    const state = fold([layout], recorded([...back.tasks.map((d) => say('task', d)), ...back.fixed.map((d) => say('fixed', d))]))
    const again = read(sheetCsv(taskSheet(state, programmeOf(state, TODAY))), state)
    expect([again.tasks, again.fixed, again.bad]).toEqual([[], [], []])
    expect(allTasksOf(state)).toHaveLength(2)
  })
  test.each([
    ['id,title,hours\na,A,', /has no hours/],
    ['id,title,hours\na,A,four', /hours are "four"/],
    ['id,title,hours,section\na,A,4,Z', /section is "Z"; this wall has/],
    ['id,title,hours,not_before\na,A,4,31.5.2026', /a day is written 2026-05-31/],
    ['id,title,hours,not_before\na,A,4,2026-02-30', /a day is written/],
    ['id,title,hours,plant\na,A,4,ship', /plant is "ship"; one of/],
    ['id,title,hours\na,A,4\na,B,5', /"a" stands in line 2 already/],
    ['id,title,hours,state\na,A,4,half', /state is "half"/],
    ['name,hours\na,4', /has no column "id" or "title"/],
    ['id,title,hours,after\na,A,4,b\nb,B,4,a', /a, b wait for each other in a circle \(lines 2, 3\)/],
    ['id,title,hours\n,,4', /has neither an id nor a title/],
  ])('%j is named by its line', (csv, message) => {
    expect(
      read(csv)
        .bad.map((b) => b.message)
        .join(),
    ).toMatch(message)
  })
  test('far too many rows are not read', () => {
    expect(read(`id,title,hours\n${Array.from({ length: 5001 }, (_, i) => `t${i},T,1`).join('\n')}`).bad[0]?.message).toMatch(/at most 5000/)
  })
  test('plant and stock as sheets; hires in the calendar, nothing in a cell a formula', () => {
    const state = fold(
      [layout],
      recorded([say('hire', { plant: 'saw', name: '=SAW()', count: 1, from: '2026-05-20', to: '2026-06-30', perDay: 30 })]),
    )
    const made = programmeOf(state, TODAY)
    const csv = sheetCsv(plantSheet(plantDays(state, made, TODAY)))
    expect(csv).toContain("'=SAW()")
    expect(csv.split('\n')[0]).toBe('plant,needed_first,needed_last,days_needed,hired,from,to,days_ahead,idle_ahead,cost')
    expect(stockSheet(stockBook(state).rows()).rows).toHaveLength(materialsOf(layout).length)
    const ics = programmeIcs(state, made, 'Wall')
    expect(ics).toContain('=SAW() comes')
    expect(ics).toContain('DTSTART;VALUE=DATE:20260630')
  })
})
