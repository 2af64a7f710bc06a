import { type BaseStepsInput, baseSteps, embedment, lifts, rod } from '@stone-tally/core'
import fc from 'fast-check'
import { value } from './plans'

describe('rod', () => {
  test('height of instrument, target rod and deviation', () => {
    const r = rod({ benchmark: 10, backsight: 1.5, points: [{ target: 9.8, reading: 1.696 }] })
    expect(r.heightOfInstrument).toBe(11.5)
    expect(r.points[0]?.targetRod).toBeCloseTo(1.7, 12)
    expect(r.points[0]?.deviation).toBeCloseTo(0.004, 12)
  })
  test('reading the target rod is no deviation, anywhere', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -100, max: 100, noNaN: true }),
        fc.double({ min: 0, max: 5, noNaN: true }),
        fc.double({ min: -100, max: 100, noNaN: true }),
        (benchmark, backsight, target) => {
          const first = rod({ benchmark, backsight, points: [{ target, reading: 0 }] })
          const again = rod({ benchmark, backsight, points: [{ target, reading: first.points[0]?.targetRod ?? 0 }] })
          expect(again.points[0]?.deviation).toBeCloseTo(0, 9)
        },
      ),
    )
  })
})

describe('lifts', () => {
  test('equal lifts no thicker than allowed', () =>
    expect(value(lifts({ thickness: 0.3, maxLift: 0.2, looseFactor: 1.25 }))).toEqual({ count: 2, compacted: 0.15, loose: 0.1875 }))
  test('0.6 in lifts of 0.2 is three, whatever binary says', () =>
    expect(value(lifts({ thickness: 0.6, maxLift: 0.2, looseFactor: 1 })).count).toBe(3))
  test('nothing to place is refused', () =>
    expect(lifts({ thickness: 0, maxLift: 0.2, looseFactor: 1.2 })).toMatchObject({ ok: false, problems: [{ field: 'thickness' }] }))
})

describe('embedment', () => {
  const wall = { exposedHeight: 2, unitHeight: 0.2 }
  test('the deepest rule governs', () => {
    expect(
      value(
        embedment({
          ...wall,
          rules: [
            { kind: 'fixed', depth: 0.15 },
            { kind: 'perHeight', base: 0.15, perMetre: 0.1 },
            { kind: 'courses', count: 1 },
          ],
        }),
      ),
    ).toEqual({ depth: 0.35, governing: 1, courses: 2 })
  })
  test('the first of equals governs', () =>
    expect(
      value(
        embedment({
          ...wall,
          rules: [
            { kind: 'fixed', depth: 0.2 },
            { kind: 'fraction', fraction: 0.1 },
          ],
        }),
      ).governing,
    ).toBe(0))
  test('a rule without its field is named', () =>
    expect(embedment({ ...wall, rules: [{ kind: 'fraction' }] })).toMatchObject({ ok: false, problems: [{ field: 'rules[0].fraction' }] }))
  test('a field of another rule is refused', () =>
    expect(embedment({ ...wall, rules: [{ kind: 'fixed', depth: 1, count: 2 }] })).toMatchObject({
      ok: false,
      problems: [{ field: 'rules[0].count' }],
    }))
})

describe('base steps', () => {
  const unit = { height: 0.2, length: 0.45 }
  test('the worked example', () => {
    const r = value(
      baseSteps({
        datum: 9,
        minEmbedment: 0.2,
        minRun: 1.2,
        unit,
        profile: [
          { station: 0, toe: 10 },
          { station: 9, toe: 10.1 },
          { station: 15, toe: 10.75 },
        ],
      }),
    )
    expect(r.steps).toEqual([
      { start: 0, end: 10.125, elevation: 9.8 },
      { start: 10.125, end: 11.925, elevation: 10 },
      { start: 11.925, end: 13.725, elevation: 10.2 },
      { start: 13.725, end: 15, elevation: 10.4 },
    ])
    expect(r.buriedArea).toBeCloseTo(4.155, 9)
  })

  /** Every way to break the wall into runs, tried one by one. */
  function exhaustive(input: BaseStepsInput): number {
    const start = input.profile[0]?.station ?? 0
    const end = input.profile[input.profile.length - 1]?.station ?? 0
    const cell = input.unit.length / 2
    const edges: number[] = []
    for (let s = start; s < end - 1e-9; s += cell) edges.push(s)
    edges.push(end)
    const toe = (s: number) => {
      const i = Math.max(
        1,
        input.profile.findIndex((p) => p.station >= s - 1e-9),
      )
      const [a, b] = [input.profile[i - 1], input.profile[i]]
      return a && b ? a.toe + ((b.toe - a.toe) * (s - a.station)) / (b.station - a.station) : 0
    }
    const lowest = (a: number, b: number) =>
      Math.min(toe(a), toe(b), ...input.profile.filter((p) => p.station > a && p.station < b).map((p) => p.toe))
    const level = (a: number, b: number) => Math.floor((lowest(a, b) - input.minEmbedment - input.datum) / input.unit.height + 1e-9)
    const best = new Map<number, number>([[0, 0]])
    for (let j = 1; j < edges.length; j++) {
      for (let i = 0; i < j; i++) {
        const [a, b] = [edges[i] as number, edges[j] as number]
        const only = i === 0 && j === edges.length - 1
        const before = best.get(i)
        if (before === undefined || (!only && b - a < input.minRun - 1e-9)) continue
        const sum = before + level(a, b) * (b - a)
        if (sum > (best.get(j) ?? Number.NEGATIVE_INFINITY)) best.set(j, sum)
      }
    }
    return best.get(edges.length - 1) ?? Number.NaN
  }

  test('is the optimum of an exhaustive search on generated grades', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ run: fc.integer({ min: 3, max: 40 }), rise: fc.integer({ min: -12, max: 12 }) }), { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 0, max: 20 }),
        (legs, run) => {
          let [station, toe] = [0, 10]
          const profile = [{ station, toe }]
          for (const l of legs) {
            station = Math.round((station + l.run / 10) * 1000) / 1000
            toe = Math.round((toe + l.rise / 20) * 1000) / 1000
            profile.push({ station, toe })
          }
          const input = { datum: 9.03, minEmbedment: 0.17, minRun: run / 10, unit, profile }
          const r = value(baseSteps(input))
          const sum = r.steps.reduce((t, s) => t + ((s.elevation - input.datum) / unit.height) * (s.end - s.start), 0)
          expect(sum).toBeCloseTo(exhaustive(input), 4)
          if (r.steps.length > 1) for (const s of r.steps) expect(s.end - s.start).toBeGreaterThanOrEqual(input.minRun - 1e-6)
        },
      ),
      { numRuns: 150 },
    )
  })
  test('stations out of order are named', () => {
    expect(
      baseSteps({
        datum: 9,
        minEmbedment: 0.2,
        minRun: 1,
        unit,
        profile: [
          { station: 5, toe: 10 },
          { station: 5, toe: 11 },
        ],
      }),
    ).toMatchObject({ ok: false, problems: [{ field: 'profile[1].station' }] })
  })
})
