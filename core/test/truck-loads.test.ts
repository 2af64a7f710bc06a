import { truckLoads } from '@stone-tally/core'
import fc from 'fast-check'
import { plain } from './plans'

const of = (masses: readonly number[], mass: number, count: number) =>
  truckLoads({ units: masses.map((m) => ({ mass: m })), capacity: { mass, count } })
const runs = (masses: readonly number[], mass: number, count: number) => {
  const made = of(masses, mass, count)
  return made.ok ? made.value.loads.map((l) => [l.from, l.to, l.mass]) : plain(made.problems)
}

describe('trucks in setting order', () => {
  test('the worked example', () =>
    expect(runs([800, 800, 400, 1100, 1100], 2000, 3)).toEqual([
      [0, 2, 2000],
      [3, 3, 1100],
      [4, 4, 1100],
    ]))
  test.each([
    ['none', [], 2000, 3, []],
    [
      'full to the kilogram',
      [1000, 1000, 1],
      2000,
      9,
      [
        [0, 1, 2000],
        [2, 2, 1],
      ],
    ],
    [
      'by pieces',
      [1, 1, 1, 1, 1],
      2000,
      2,
      [
        [0, 1, 2],
        [2, 3, 2],
        [4, 4, 1],
      ],
    ],
    [
      'by mass',
      [900, 900, 900],
      1000,
      9,
      [
        [0, 0, 900],
        [1, 1, 900],
        [2, 2, 900],
      ],
    ],
  ] as const)('%s', (_name, masses, mass, count, loads) => expect(runs(masses, mass, count)).toEqual(loads))
  test('a tenth added ten times fills a truck of one', () =>
    expect(
      runs(
        Array.from({ length: 10 }, () => 0.1),
        1,
        99,
      ),
    ).toHaveLength(1))
  test('every unit over the capacity is named', () =>
    expect(runs([500, 2500, 100, 3000], 2000, 3)).toEqual([
      { field: 'units[1].mass', message: expect.stringMatching(/2,?500 kg is over the 2,?000 kg/) },
      { field: 'units[3].mass', message: expect.stringMatching(/3,?000 kg/) },
    ]))
  test('fewest there can be, each a run, every unit on one', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 12 }), { maxLength: 14 }),
        fc.integer({ min: 12, max: 30 }),
        fc.integer({ min: 1, max: 5 }),
        (masses, mass, count) => {
          const made = of(masses, mass, count)
          if (!made.ok) throw new Error('within the capacity')
          // By dynamic programming over where the last truck begins.
          const best = [0]
          for (let end = 1; end <= masses.length; end++) {
            best[end] = Number.POSITIVE_INFINITY
            let sum = 0
            for (let begin = end - 1; begin >= 0 && end - begin <= count; begin--) {
              sum += masses[begin] as number
              if (sum > mass) break
              best[end] = Math.min(best[end] as number, (best[begin] as number) + 1)
            }
          }
          expect(made.value.count).toBe(best[masses.length])
          expect(made.value.loads.flatMap((l) => Array.from({ length: l.to - l.from + 1 }, (_, k) => l.from + k))).toEqual(masses.map((_, i) => i))
        },
      ),
      { numRuns: 300, seed: 12 },
    ))
})
