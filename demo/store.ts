import { type Layout, materialsOf, proposeSpots } from '@stone-tally/core'
import type { Told } from './told'

const DAY = 86_400_000
const day = (now: number, days: number) => new Date(now + days * DAY).toISOString().slice(0, 10)
const BLOCKS = 'Harbour Block Yard'
const PIT = 'Tarn Pit'

/** What is expected of the days to come: one of them wet. */
const FORECAST = [
  { rain: 0.5, low: 6, high: 14, wind: 16 },
  { rain: 0, low: 7, high: 16, wind: 12 },
  { rain: 18, low: 5, high: 11, wind: 34 },
  { rain: 2, low: 5, high: 13, wind: 20 },
  { rain: 0, low: 8, high: 18, wind: 9 },
] as const

/** Facts of the store of the queue-lane wall: what was ordered, what came short, what was counted, and what was promised. */
export function storeOf(layout: Layout, now: number) {
  const item = (id: string) => {
    const m = materialsOf(layout).find((x) => x.id === id)
    if (!m) throw new Error(`the demo wall takes no ${id}`)
    return { item: m.id, name: m.name, unit: m.unit }
  }
  const week = (days: readonly number[]) => ({
    days,
    starts: 7,
    hours: 9,
    crews: 1,
    notice: 24,
    holidays: [],
    lost: [30, 26, 20, 14, 10, 8, 8, 9, 12, 17, 24, 29],
  })
  const say = (kind: string, data: object): Told => ({ who: 'foreman', kind, where: {}, data })
  return {
    /** Before the first machine comes. */
    begin: [
      say('workdays', week([1, 2, 3, 4, 5])),
      say('supply', { ...item('whole'), supplier: BLOCKS, lead: 6, pack: 40, packName: 'pallet', reserve: 12, load: 9000, access: 3.2 }),
      say('supply', { ...item('stone'), supplier: PIT, lead: 2, pack: 8, packName: 'lorry', reserve: 1, access: 3.2 }),
      say('supply', { ...item('caps'), supplier: BLOCKS, lead: 9, pack: 20, reserve: 2 }),
      say('ordered', { ...item('whole'), amount: 480, supplier: BLOCKS, expected: day(now, -18), reference: 'Q-211' }),
      say('ordered', { ...item('stone'), amount: 16, supplier: PIT, expected: day(now, -18) }),
      {
        ...say('delivery', {
          ...item('whole'),
          amount: 480,
          docket: 'HB-3117',
          supplier: BLOCKS,
          counted: 480,
          refused: 4,
          why: 'corners broken',
          pallets: 12,
          lot: '26-114',
          put: 'east end, clear of the cut',
        }),
        as: 'blocks came',
      },
      {
        ...say('put', {
          name: item('whole').name,
          spot: proposeSpots(layout, 1, layout.plan.length - 8, [], { along: 14.4, across: 1.2 })[0],
          pallets: 12,
        }),
        of: 'blocks came',
      },
      say('hire', { plant: 'excavator', name: 'Three-tonner', count: 1, from: day(now, -20), to: day(now, -6), supplier: 'Quay Hire', perDay: 95 }),
      say('hire', { plant: 'plate', name: 'Heavy plate', count: 1, from: day(now, -16), to: day(now, 30), supplier: 'Quay Hire', perDay: 28 }),
      say('delivery', { ...item('stone'), amount: 16, docket: 'TP-881', supplier: PIT, put: 'two heaps behind the ramp' }),
      say('promise', { finish: day(now, 48), odds: 90, to: 'the harbour office' }),
    ],
    /** A lorry that was not full, found by looking, and a count that says more of it goes than planned. */
    middle: [
      say('ordered', { ...item('stone'), amount: 8, supplier: PIT, expected: day(now, -5) }),
      say('delivery', { ...item('stone'), amount: 8, counted: 6.5, docket: 'TP-902', supplier: PIT, put: 'at the ramp' }),
      { ...say('ordered', { ...item('whole'), amount: 320, supplier: BLOCKS, expected: day(now, 2), reference: 'Q-224' }), as: 'blocks to come' },
      {
        ...say('put', {
          name: item('whole').name,
          spot: proposeSpots(layout, 1, layout.plan.length / 4, [], { along: 9.6, across: 1.2 })[0],
          pallets: 8,
        }),
        of: 'blocks to come',
      },
    ],
    /** Rain took two days; Saturdays win the week back. */
    end: [
      say('workdays', week([1, 2, 3, 4, 5, 6])),
      say('note', { text: 'Two days lost to rain. Saturdays until it stands: a week won back.' }),
      say('promise', { finish: day(now, 41), odds: 90, to: 'the harbour office' }),
      say('hire', { plant: 'saw', name: 'Bench saw', count: 1, from: day(now, 3), to: day(now, 6), supplier: 'Quay Hire', perDay: 40 }),
      say('task', { task: 'bollards', title: 'Set the bollards back on the kerb', hours: 6, after: [], before: [], crew: false, state: 'open' }),
      say('weather', {
        ...FORECAST[0],
        expected: true,
        days: FORECAST.map((w, i) => ({ day: day(now, i), ...w })),
      }),
      say('stock', { ...item('stone'), amount: 12.7, what: 'counted', why: 'heaps measured after the rain' }),
    ],
  }
}
