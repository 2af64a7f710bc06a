import {
  admit,
  advance,
  buildable,
  emptyState,
  fillBalance,
  fold,
  materialsOf,
  needsOfCells,
  quantities,
  questionable,
  type StockBook,
  stockBook,
  stockValue,
  stockWords,
  type WallState,
} from '@stone-tally/core'
import { entry, layoutOf, NOW, recorded } from './plans'

const layout = layoutOf()
const stone = materialsOf(layout).find((m) => m.id === 'stone')
if (!stone) throw new Error('no stone')
const item = (id: string) => {
  const m = materialsOf(layout).find((x) => x.id === id)
  if (!m) throw new Error(id)
  return { item: m.id, name: m.name, unit: m.unit }
}
const came = (id: string, amount: number, docket: string, more = {}) => entry('delivery', {}, { ...item(id), amount, docket, ...more })
const of = (entries: ReturnType<typeof entry>[]): WallState => fold([layout], recorded(entries))
const row = (entries: ReturnType<typeof entry>[], id: string) => stockBook(of(entries)).of(id)

describe('what a wall takes as it is bought', () => {
  test('whole units, halves and caps with what the plan orders above; nothing twice', () => {
    const q = (id: string) => quantities(layout).find((x) => x.id === id)?.value ?? 0
    const ids = materialsOf(layout).map((m) => m.id)
    expect(ids).toEqual([...new Set(ids)])
    expect(materialsOf(layout).find((m) => m.id === 'whole')).toMatchObject({ order: q('order'), unit: 'pieces', seen: true })
    expect(stone.order).toBeCloseTo(q('stone-order'), 3)
    for (const not of ['full', 'cut', 'for-cuts', 'order', 'mass', 'face', 'pallets', 'dig', 'spoil', 'stone-order', 'cores'])
      expect(ids).not.toContain(not)
  })
  test('pad material is ordered loose', () => {
    const pad = materialsOf(layout).find((m) => m.id === 'pad')
    expect(pad?.order).toBeCloseTo(quantities(layout).find((x) => x.id === 'pad-order')?.value ?? 0, 3)
    expect(pad?.loose).toBeGreaterThan(1)
  })
  test('courses add up to the wall', () => {
    const sums = materialsOf(layout).map(() => 0)
    for (const c of needsOfCells(layout).values()) {
      for (const { material, upTo } of c.byPiece) sums[material] = (sums[material] ?? 0) + (upTo[upTo.length - 1] ?? 0)
      for (const { material, amount } of c.whole) sums[material] = (sums[material] ?? 0) + amount
    }
    materialsOf(layout).forEach((m, i) => {
      if (m.placed !== 'pad' && m.placed !== 'pipe') expect([m.id, sums[i]]).toEqual([m.id, expect.closeTo(m.planned, 3)])
    })
  })
})

describe('the store by its record', () => {
  test('ordered, come, counted and sent back', () => {
    const r = row(
      [
        entry('ordered', {}, { ...item('stone'), amount: 10, expected: '2026-05-22' }),
        came('stone', 6, 'D-1', { counted: 5.5, refused: 0.5, why: 'full of clay' }),
      ],
      'stone',
    )
    expect(r).toMatchObject({ ordered: 10, delivered: 5.5, refused: 0.5, left: 5, expected: 5, kept: true })
  })
  test('pieces set are whole units, halves and shares of what is sawn; those thrown out are broken', () => {
    const cell = [...layout.cells.values()].find((c) => c.course === 1)
    if (!cell) throw new Error()
    const n = cell.pieces.length
    const set = (k: number, rejected?: number) =>
      entry('units', { stage: 'units', section: cell.section, course: 1 }, { set: k, ...(rejected ? { rejected } : {}) })
    const all = row([set(n)], 'whole')
    const halves = row([set(Math.floor(n / 2)), set(n - Math.floor(n / 2))], 'whole')
    expect(all?.placed).toBeGreaterThan(0)
    expect(halves?.placed).toBeCloseTo(all?.placed ?? 0, 9)
    // More than there are places for builds nothing in.
    expect(row([set(n), set(5)], 'whole')?.placed).toBeCloseTo(all?.placed ?? 0, 9)
    expect(row([set(n, 3)], 'whole')).toMatchObject({ damaged: 3 })
  })
  test('stone of a course goes in when it is filled, once; struck out it is out again', () => {
    const fill = { stage: 'fill', section: layout.plan.sections[0]?.id ?? 'A', course: 1 }
    const data = { confirmed: ['cores', 'stone', 'swept'] }
    const first = entry('check', fill, data)
    const once = row([first], 'stone')?.placed ?? 0
    expect(once).toBeGreaterThan(0)
    expect(row([first, entry('check', fill, data)], 'stone')?.placed).toBeCloseTo(once, 9)
    expect(row([first, entry('strike', {}, { reason: 'the wrong course' }, { supersedes: first.id })], 'stone')?.placed).toBe(0)
  })
  test('a count stands over what was reckoned, and what moves after it goes on from there', () => {
    const r = row([came('stone', 8, 'D-1'), entry('stock', {}, { ...item('stone'), amount: 5, what: 'counted' }), came('stone', 2, 'D-2')], 'stone')
    expect(r).toMatchObject({ left: 7, counted: { amount: 5, reckoned: 8, used: 3 } })
  })
  test('taken to another wall and brought from one', () => {
    const move = (what: string, amount: number) => entry('stock', {}, { ...item('stone'), amount, what, other: 'the terrace' })
    expect(row([came('stone', 8, 'D-1'), move('moved-out', 3), move('moved-in', 1)], 'stone')).toMatchObject({ left: 6, out: 3, in: 1 })
  })
  test('what no plan of the wall knows gets a row of its own', () => {
    const data = { item: 'flint', name: 'Flint nodules', unit: 'kg', amount: 200, docket: 'F-9' }
    const book = stockBook(of([entry('delivery', {}, data)]))
    expect(book.of('flint')).toMatchObject({ delivered: 200, material: undefined })
    expect(stockWords(of([entry('delivery', {}, data)]), book).map((w) => w.of)).toContain('unplanned')
  })
  test('entry by entry it is what it is from the whole record, corrections too', () => {
    const a = came('stone', 8, 'D-1')
    const list = [
      a,
      entry('units', { stage: 'units', section: 'A', course: 1 }, { set: 4, rejected: 1 }),
      entry('check', { stage: 'fill', section: 'A', course: 1 }, { confirmed: ['cores', 'stone', 'swept'] }),
      entry('stock', {}, { ...item('stone'), amount: 5, what: 'counted' }),
      { ...came('stone', 7, 'D-1', {}), supersedes: a.id, reason: 'typed an eight' },
      entry('units', { stage: 'units', section: 'A', course: 1 }, { set: 3 }),
      entry('supply', {}, { ...item('stone'), lead: 2, pack: 6, reserve: 1 }),
    ]
    let state = emptyState([layout])
    let book: StockBook | undefined
    for (const r of recorded(list)) {
      state = advance(state, r)
      book = stockBook(state, book)
    }
    const plain = (b: StockBook) => b.rows().map((r) => ({ ...r, entries: Object.keys(r.entries).length }))
    expect(plain(book as StockBook)).toEqual(plain(stockBook(of(list))))
    expect(book?.supplies.get('stone')).toMatchObject({ pack: 6 })
    expect(book?.of('stone')).toMatchObject({ delivered: 7 })
  })
})

describe('what it is worth, and the soil', () => {
  const priced = entry('supply', {}, { ...item('stone'), lead: 1, pack: 1, reserve: 0, price: 40 }, { role: 'foreman' })
  test('with a price: ordered, come, left; without one nothing is said', () => {
    const book = stockBook(
      of([
        priced,
        entry('ordered', {}, { ...item('stone'), amount: 6, expected: '2026-05-22' }),
        came('stone', 4, 'D-1', { refused: 1, why: 'clay' }),
      ]),
    )
    expect(stockValue(book)).toEqual({ ordered: 240, came: 120, placed: 0, left: 120, priced: 1 })
    expect(stockValue(stockBook(of([came('stone', 4, 'D-1')])))).toBeUndefined()
  })
  test('what is dug swells, what is filled in wants more loose than it is', () => {
    const b = fillBalance(layout)
    const q = (id: string) => quantities(layout).find((x) => x.id === id)?.value ?? 0
    expect([b.bank, b.loose, b.compacted]).toEqual([q('dig'), q('spoil'), q('backfill')])
    expect(b.wanted).toBeCloseTo(1.25 * q('backfill'), 6)
    expect(b.toBring).toBeCloseTo(Math.max(0, b.wanted - b.loose), 6)
  })
})

describe('dockets are taken for what they are', () => {
  const admitted = (entries: ReturnType<typeof entry>[], next: ReturnType<typeof entry>) => admit(of(entries), next, NOW)
  test('a docket twice is refused by its number; of another supplier, or as a correction, it is not', () => {
    const first = came('stone', 8, ' d-1 ', { supplier: 'Quarry' })
    expect(admitted([first], came('stone', 8, 'D-1', { supplier: 'quarry' }))).toMatchObject({
      ok: false,
      problems: [{ field: 'data.docket', message: expect.stringContaining('no. 1') }],
    })
    expect(admitted([first], came('stone', 8, 'D-1', { supplier: 'Another' })).ok).toBe(true)
    expect(admitted([first], came('whole', 8, 'D-1', { supplier: 'Quarry' })).ok).toBe(true)
    expect(admitted([first], { ...came('stone', 9, 'D-1', { supplier: 'Quarry' }), supersedes: first.id, reason: 'a nine' }).ok).toBe(true)
  })
  test.each([
    ['more sent back than came', came('stone', 4, 'x', { refused: 5, why: 'clay' }), 'data.refused'],
    ['sent back without a reason', came('stone', 4, 'x', { refused: 1 }), 'data.why'],
    ['no docket', came('stone', 4, ' '), 'data.docket'],
    ['nothing ordered', entry('ordered', {}, { ...item('stone'), amount: 0, expected: '2026-05-22' }), 'data.amount'],
    ['moved nowhere', entry('stock', {}, { ...item('stone'), amount: 1, what: 'moved-out' }), 'data.other'],
    ['broken without a word', entry('stock', {}, { ...item('stone'), amount: 1, what: 'damaged' }), 'data.why'],
    ['packs of nothing', entry('supply', {}, { ...item('stone'), lead: 1, pack: 0, reserve: 0 }), 'data.pack'],
  ])('%s', (_, e, field) => {
    expect(admitted([], e)).toMatchObject({ ok: false, problems: [{ field }] })
  })
  test('forty typed for four is asked about; what the wall wants is not', () => {
    const book = stockBook(of([came('stone', stone.order - 4, 'D-1')]))
    expect(questionable(book, 'stone', 40)).toMatch(/far more than/)
    expect(questionable(book, 'stone', 4)).toBeUndefined()
    expect(questionable(book, 'flint', 4000)).toBeUndefined()
  })
})

describe('what the store says early', () => {
  const fill = (course: number) => entry('check', { stage: 'fill', section: 'A', course }, { confirmed: ['cores', 'stone', 'swept'] })
  const two = row([fill(1), fill(2)], 'stone')?.placed ?? 0
  test('a count that finds less than it should: it runs over, and is short from a course', () => {
    const list = [
      came('stone', stone.planned, 'D-1'),
      fill(1),
      fill(2),
      entry('stock', {}, { ...item('stone'), amount: stone.planned - 1.5 * two, what: 'counted' }),
    ]
    const state = of(list)
    const word = stockWords(state, stockBook(state)).find((w) => w.id === 'stone')
    expect(word?.of).toBe('short')
    expect(word?.text).toMatch(/Drainage stone runs 50 % over: .* short, from course \d+ of section [AB]; likely/)
    // Ordered as much again, it is over and not short.
    const more = of([...list, entry('ordered', {}, { ...item('stone'), amount: stone.planned, expected: '2026-06-01' })])
    expect(stockWords(more, stockBook(more)).find((w) => w.id === 'stone')?.of).toBe('over')
  })
  test('a count that finds more than ever came makes nothing need less', () => {
    const state = of([fill(1), fill(2), entry('stock', {}, { ...item('stone'), amount: 1, what: 'counted' })])
    const lit = buildable(stockBook(state))
    expect(lit.some((l) => !l.lit && l.lacks.includes(stone.name))).toBe(true)
  })
  test('built in without having come: a docket is missing', () => {
    const state = of([came('stone', 0.001, 'D-1'), fill(1), fill(2), fill(3)])
    expect(stockWords(state, stockBook(state)).find((w) => w.id === 'stone')).toMatchObject({
      of: 'missing',
      text: expect.stringContaining('docket is missing'),
    })
  })
  test('two lots of what is seen in the face are said; of stone nobody minds', () => {
    const lots = (id: string) => {
      const state = of([came(id, 1, 'D-1', { lot: '26-1' }), came(id, 1, 'D-2', { lot: '26-2' }), came(id, 1, 'D-3', { lot: '26-2' })])
      return stockWords(state, stockBook(state)).find((w) => w.of === 'lots')?.text
    }
    expect(lots('whole')).toMatch(/2 lots \(26-1, 26-2\)/)
    expect(lots('stone')).toBeUndefined()
  })
  test('nobody keeps account of it: nothing is said', () => {
    const state = of([fill(1), fill(2)])
    expect(stockWords(state, stockBook(state))).toEqual([])
  })
  test('promised, and not here when the wall went on', () => {
    const state = of([entry('ordered', {}, { ...item('stone'), amount: 5, expected: '2026-05-01' }), came('stone', stone.order, 'D-1'), fill(1)])
    expect(stockBook(state).of('stone')?.expected).toBe(0)
    const late = of([entry('ordered', {}, { ...item('stone'), amount: 99, expected: '2026-05-01' }), came('stone', 1, 'D-1')])
    expect(stockWords(late, stockBook(late)).map((w) => w.of)).toContain('waits')
  })
  test('courses that can be built with what is here, from the bottom', () => {
    const [a, b] = ['A/1', 'B/1'].map(
      (k) =>
        needsOfCells(layout)
          .get(k)
          ?.whole.find((w) => materialsOf(layout)[w.material]?.id === 'stone')?.amount ?? 0,
    )
    const state = of([came('stone', (a ?? 0) + (b ?? 0) + 0.01, 'D-1')])
    const lit = buildable(stockBook(state))
    expect(lit).toHaveLength(layout.cells.size)
    expect(lit.slice(0, 3).map((l) => [l.section, l.course, l.lit])).toEqual([
      ['A', 1, true],
      ['B', 1, true],
      ['A', 2, false],
    ])
    expect(lit[2]?.lacks).toEqual([stone.name])
    // What is on its way counts where it is asked for.
    const ordered = of([came('stone', 0.01, 'D-1'), entry('ordered', {}, { ...item('stone'), amount: 20, expected: '2026-06-01' })])
    expect(buildable(stockBook(ordered)).some((l) => l.lit)).toBe(false)
    expect(buildable(stockBook(ordered), true).every((l) => l.lit)).toBe(true)
  })
})
