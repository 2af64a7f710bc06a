// What the odds promise, held against worlds that are not the one they were made for: scatter that all work shares, rain in spells, a crew slower
// than anybody believed.
import { calendarFrom, emptyState, Network, type OddsInput, odds, oddsInput, programmeOf, sharedBy } from '@stone-tally/core'
import { numbers } from './pinned'
import { layoutOf, smallPlan } from './plans'
import { startedLayout } from './started'

const TODAY = '2026-05-18'
const WALLS = [layoutOf(smallPlan), startedLayout('hollow-core', { length: 22 }), startedLayout('gabion', { length: 14 })]
const inputs = WALLS.map((l) => oddsInput(programmeOf(emptyState([l]), TODAY), TODAY, 1000, 5))

type Draw = ReturnType<typeof numbers>
/** Two draws of even odds to one of the normal distribution, by its own way. */
const normal = (draw: Draw) => Math.sqrt(-2 * Math.log(draw(1e-9, 1))) * Math.cos(2 * Math.PI * draw(0, 1))

interface World {
  /** All scatter in one factor for all work; half by its kind and half by itself where left out. */
  readonly together?: true
  readonly slower?: number
  /** How much a lost day draws the next one after it. */
  readonly spells?: number
}
/** The day a wall is done in such a world. */
function doneIn({ wiring, spreads, groups = [], workdays, lost: gone, foreseen = [] }: OddsInput, world: World, draw: Draw): string {
  const network = Network.of(wiring) as Network
  const all = normal(draw)
  const kinds = new Map<number, number>()
  const durations = Float64Array.from(wiring.durations, (d, i) => {
    const g = groups[i] ?? -1 - i
    if (!kinds.has(g)) kinds.set(g, normal(draw))
    const z = world.together ? all : Math.SQRT1_2 * (kinds.get(g) as number) + Math.SQRT1_2 * normal(draw)
    return d * (world.slower ?? 1) * (spreads[i] as number) ** z
  })
  let left = network.endWith(durations, new Float64Array(durations.length))
  const calendar = calendarFrom(workdays, TODAY, new Set(gone))
  for (let k = 0, wet = false; ; k++) {
    const day = calendar.nth(k)
    const share = (workdays.lost[Number(day.slice(5, 7)) - 1] ?? 0) / 100
    const spell = world.spells ?? 0
    wet = !foreseen.includes(day) && draw(0, 1) < (wet ? share + (1 - share) * spell : share * (1 - spell))
    if (wet) continue
    left -= calendar.hoursOn(day)
    if (left <= 1e-9) return day
  }
}
const FAMILIES: readonly (readonly [string, World])[] = [
  ['as believed', {}],
  ['scatter that all work shares', { together: true }],
  ['rain in spells', { spells: 0.5 }],
  ['all work 15 % slower', { slower: 1.15 }],
]
const RUNS = 1500
/** Of so many such worlds, in which share it is done by the day promised with so many per cent. */
const held = (world: World, percent: number, seed: number) => {
  const shares = inputs.map((input, w) => {
    const promised = odds(input).at(percent)
    const draw = numbers(seed + 97 * w)
    let kept = 0
    for (let r = 0; r < RUNS; r++) if (doneIn(input, world, draw) <= promised) kept++
    return kept / RUNS
  })
  return shares.reduce((a, b) => a + b, 0) / shares.length
}

test('90 holds at least 87 in each kind of world, and is not bought with a date nobody needs', () => {
  const shares = FAMILIES.map(([name, world], i) => ({ name, held: held(world, 90, 1009 * (i + 1)) }))
  for (const s of shares) expect([s.name, s.held >= 0.87]).toEqual([s.name, true])
  expect(shares.reduce((n, s) => n + s.held, 0) / shares.length).toBeLessThanOrEqual(0.97)
})
test('what is not known together is much at first, and less with every day that was recorded', () => {
  const seen = (days: number) => sharedBy({ paces: { units: { seen: { days } } } } as never)
  expect(seen(0)).toBeCloseTo(1.16, 9)
  for (let d = 0; d < 200; d += 5) expect(seen(d + 5)).toBeLessThan(seen(d))
  expect(seen(10_000)).toBeGreaterThan(1.05)
})
