import {
  type DrainInput,
  type DrainTask,
  drain,
  drainInvert,
  drainPlan,
  drainSeat,
  filter,
  issued,
  pipeCapacity,
  proposeHeel,
  quantities,
  rationalFlow,
  readPlan,
  sizeAt,
  solveDrain,
  stepsOf,
  verdictOf,
} from '@stone-tally/core'
import fc from 'fast-check'
import { good } from './build'
import { built, entry, layoutOf, plain, plain as plainly, smallPlan, value } from './plans'
import { Site } from './site'
import { startedLayout } from './started'

const field = (r: { ok: boolean; problems?: readonly { field: string }[] }) => (r.ok ? undefined : r.problems?.[0]?.field)

describe('drain', () => {
  const input: DrainInput = {
    length: 20,
    fall: 0.01,
    maxOutletSpacing: 15,
    outlets: [
      { station: 0, invert: 9 },
      { station: 20, invert: 9 },
    ],
    ceiling: [
      { station: 0, elevation: 9.05 },
      { station: 10, elevation: 9.05 },
    ],
  }
  test('rises from each outlet, peaks in the middle, and is too high there', () =>
    expect(value(drain(input))).toEqual({
      inverts: [
        { station: 0, invert: 9 },
        { station: 10, invert: expect.closeTo(9.1, 9) },
      ],
      longestRun: 10,
      violations: [{ station: 10, by: expect.closeTo(0.05, 9) }],
      spacingOk: false,
    }))
  test('a lower outlet draws from further: the lines meet nearer to the higher one', () => {
    const p = value(
      drain({
        ...input,
        outlets: [
          { station: 0, invert: 9.06 },
          { station: 20, invert: 9 },
        ],
      }),
    )
    expect(p.longestRun).toBeCloseTo(13, 9)
  })
  test('an outlet above the line of another drains nothing', () => {
    const p = value(
      drain({
        ...input,
        outlets: [
          { station: 0, invert: 9.5 },
          { station: 20, invert: 9 },
        ],
      }),
    )
    expect(p.longestRun).toBe(20)
    expect(p.inverts[0]?.invert).toBeCloseTo(9.2, 9)
  })
  test('one outlet in the middle: the longer end counts, and nothing is too far apart', () => {
    const p = value(drain({ ...input, outlets: [{ station: 8, invert: 9 }] }))
    expect(p).toMatchObject({ longestRun: 12, spacingOk: true })
  })
  test('without fall water goes to the nearer of two level outlets', () => expect(value(drain({ ...input, fall: 0 })).longestRun).toBe(10))
  test.each([
    [{ outlets: [{ station: 21, invert: 9 }] }, 'outlets[0].station'],
    [
      {
        outlets: [
          { station: 3, invert: 9 },
          { station: 3, invert: 8 },
        ],
      },
      'outlets[1].station',
    ],
    [{ ceiling: [{ station: 25, elevation: 9 }] }, 'ceiling[0].station'],
  ])('%j is refused', (change, at) => expect(field(drain({ ...input, ...change }))).toBe(at))
  test('nowhere is the way longer than said, and nowhere does water run up', () => {
    const outlet = fc.record({ station: fc.integer({ min: 0, max: 40 }), invert: fc.integer({ min: 900, max: 930 }).map((v) => v / 100) })
    fc.assert(
      fc.property(
        fc.uniqueArray(outlet, { minLength: 1, maxLength: 6, selector: (o) => o.station }),
        fc.integer({ min: 1, max: 5 }),
        (outlets, f) => {
          const fall = f / 100
          const p = value(drain({ length: 40, fall, maxOutletSpacing: 15, outlets, ceiling: [] }))
          for (let s = 0; s <= 40; s += 0.25) {
            const invert = drainInvert(outlets, fall, s)
            // The outlet the water reaches is the one whose line is lowest here.
            const way = Math.min(
              ...outlets.filter((o) => Math.abs(o.invert + fall * Math.abs(s - o.station) - invert) < 1e-9).map((o) => Math.abs(s - o.station)),
            )
            expect(way).toBeLessThanOrEqual(p.longestRun + 1e-9)
          }
        },
      ),
    )
  })
})

describe('filter', () => {
  const soil = [
    { size: 0.02, passing: 5 },
    { size: 0.2, passing: 30 },
    { size: 2, passing: 70 },
    { size: 6, passing: 95 },
  ]
  const stone = [
    { size: 4, passing: 3 },
    { size: 10, passing: 30 },
    { size: 20, passing: 95 },
  ]
  test('sizes lie on straight lines over the logarithm', () => {
    expect(
      value(
        sizeAt(
          [
            { size: 1, passing: 0 },
            { size: 100, passing: 100 },
          ],
          50,
          'soil',
        ),
      ),
    ).toBeCloseTo(10, 9)
    expect(value(sizeAt(soil, 30, 'soil'))).toBe(0.2)
  })
  test('ratios of the example', () => {
    const r = value(filter({ soil, stone }))
    expect(r.retention).toBeCloseTo(r.d15Stone / r.d85Soil, 12)
    expect(r.permeability).toBeCloseTo(r.d15Stone / r.d15Soil, 12)
    expect(r.ok).toBe(r.retention <= 5 && r.permeability >= 5)
    expect(r.ok).toBe(true)
  })
  test('coarse stone against silt lets it through', () => {
    const silt = soil.map((p) => ({ ...p, size: p.size / 40 }))
    expect(value(filter({ soil: silt, stone }))).toMatchObject({ ok: false })
  })
  test('the order of the sieves does not matter', () =>
    expect(value(filter({ soil: [...soil].reverse(), stone }))).toEqual(value(filter({ soil, stone }))))
  test.each([
    ['never reaches 85 %', { soil: soil.slice(0, 3), stone }, 'soil'],
    ['starts above 15 %', { soil, stone: stone.slice(1) }, 'stone'],
    ['less passes the coarser sieve', { soil: [...soil, { size: 8, passing: 80 }], stone }, 'soil[4].passing'],
    ['one sieve twice', { soil: [...soil, { size: 6, passing: 96 }], stone }, 'soil[4].size'],
  ])('%s', (_, input, at) => expect(field(filter(input))).toBe(at))
  test('finer stone never holds less back', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 1, noNaN: true }), (k) => {
        const finer = stone.map((p) => ({ ...p, size: p.size * k }))
        expect(value(filter({ soil, stone: finer })).retention).toBeLessThanOrEqual(value(filter({ soil, stone })).retention + 1e-9)
      }),
    )
  })
})

describe('outlets chosen', () => {
  const base: DrainTask = { length: 40, fall: 0.02, maxOutletSpacing: 15, possible: [], ceiling: [] }
  const at = (station: number, invert: number) => ({ station, invert })
  test('the fewest that will do', () => {
    const solved = solveDrain({ ...base, possible: [at(0, 9), at(5, 9), at(12, 9), at(20, 9), at(26, 9), at(33, 9), at(40, 9)] })
    expect(solved.ok && solved.value.outlets.map((o) => o.station)).toEqual([12, 26])
    expect(solved.ok && solved.value.profile).toMatchObject({ violations: [], spacingOk: true })
  })
  test('one that would drain nothing is not used', () => {
    const ceiling = [{ station: 10, elevation: 9.2 }]
    const solved = solveDrain({ ...base, length: 20, maxOutletSpacing: 10, possible: [at(4, 9), at(10, 9.5), at(14, 9)], ceiling })
    expect(solved.ok && solved.value.outlets.map((o) => o.station)).toEqual([4, 14])
  })
  test('a low ceiling takes more outlets', () => {
    const ceiling = [{ station: 10, elevation: 9.05 }]
    const possible = [at(0, 9), at(10, 9), at(15, 9), at(20, 9)]
    const plain = solveDrain({ ...base, length: 20, possible })
    const tight = solveDrain({ ...base, length: 20, possible, ceiling })
    expect(plain.ok && plain.value.outlets.map((o) => o.station)).toEqual([10])
    expect(tight.ok && tight.value.outlets.map((o) => o.station)).toEqual([10])
    const without = solveDrain({ ...base, length: 20, possible: possible.filter((o) => o.station !== 10), ceiling })
    expect(plainly(without)).toMatchObject({
      ok: false,
      problems: [{ field: 'ceiling', message: expect.stringContaining('at 10 m the pipe would stand 50 mm too high') }],
    })
  })
  test.each<[string, Partial<DrainTask>, RegExp]>([
    ['a gap no outlet closes', { possible: [at(0, 9), at(20, 9), at(34, 9)] }, /no place for an outlet on 20 m of wall, from 0 m to 20 m; 15 m/],
    ['none at all', {}, /needs at least one place/],
    ['beyond the wall', { possible: [at(41, 9)] }, /41 m is beyond the wall/],
    ['steps the fall cannot follow', { length: 20, possible: [at(8, 9), at(14, 10)], maxOutletSpacing: 10 }, /differ by more than the fall/],
  ])('%s', (_name, change, words) => {
    const solved = solveDrain({ ...base, ...change })
    expect(solved.ok ? '' : plainly(solved.problems[0]?.message)).toMatch(words)
  })
  test('never more outlets than any other choice that will do, and always one that will', () =>
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 20 }), { minLength: 1, maxLength: 7 }),
        fc.array(fc.integer({ min: 0, max: 6 }), { minLength: 7, maxLength: 7 }),
        fc.integer({ min: 0, max: 30 }),
        (stations, rises, top) => {
          const possible = stations.map((s, i) => at(s * 2, 9 + (rises[i] ?? 0) / 50))
          const task = {
            ...base,
            maxOutletSpacing: 16,
            possible,
            ceiling: [
              { station: 11, elevation: 9 + top / 50 },
              { station: 29, elevation: 9.4 },
            ],
          }
          const fits = (chosen: readonly { station: number; invert: number }[]) => {
            if (chosen.length === 0) return false
            const p = drain({ ...task, outlets: [...chosen] })
            const sorted = [...chosen].sort((a, b) => a.station - b.station)
            const active = sorted.every((o) => drainInvert(chosen, task.fall, o.station) >= o.invert - 1e-9)
            const ends = (sorted[0]?.station ?? 99) <= 16 && task.length - (sorted[sorted.length - 1]?.station ?? 0) <= 16
            return p.ok && p.value.violations.length === 0 && p.value.spacingOk && active && ends
          }
          let best = Number.POSITIVE_INFINITY
          for (let mask = 1; mask < 1 << possible.length; mask++) {
            const chosen = possible.filter((_, i) => mask & (1 << i))
            if (chosen.length < best && fits(chosen)) best = chosen.length
          }
          const solved = solveDrain(task)
          expect(solved.ok ? solved.value.outlets.length : Number.POSITIVE_INFINITY).toBe(best)
          if (solved.ok) expect(fits(solved.value.outlets)).toBe(true)
        },
      ),
      { numRuns: 300 },
    ))
})

describe('flow', () => {
  test('rational method and Manning, by hand', () => {
    // 400 m² of lawn, 60 mm in an hour: 0.25 · 0.06 · 400 / 3600.
    expect(rationalFlow(0.25, 60, 400)).toBeCloseTo(6 / 3600, 12)
    // Full pipe of 100 mm at 1 %: A 0.007854, R 0.025, n 0.016.
    expect(pipeCapacity(0.1, 0.01)).toBeCloseTo((0.00785398 / 0.016) * 0.025 ** (2 / 3) * 0.1, 8)
    expect(pipeCapacity(0.2, 0.01) / pipeCapacity(0.1, 0.01)).toBeCloseTo(2 ** (8 / 3), 9)
  })
})

describe('where the pipe sits', () => {
  const facts = { open: false, padBottom: 9.2, padTop: 9.4, outlet: 9.3, bed: 0.05 }
  test.each<[string, Partial<typeof facts>, string, number]>([
    ['dense pad, outlet below its top', {}, 'on-bed', 9.45],
    ['open pad that can empty', { open: true, outlet: 9.2 }, 'in-pad', 9.25],
    ['open pad that cannot', { open: true }, 'on-bed', 9.45],
    ['nothing low enough', { outlet: 9.7 }, 'raised', 9.7],
  ])('%s', (_name, change, school, invert) => {
    const seat = drainSeat({ ...facts, ...change })
    expect(seat.school).toBe(school)
    expect(seat.invert).toBeCloseTo(invert, 9)
  })
  test('the drain of a plan: profile, cover, flow to the busiest outlet, and what to be careful of', () => {
    const water = { area: 900, runoff: 0.9, rain: 80, heel: { above: 0.3, fall: 0.02 }, possible: [at0(4, 9.9)], school: 'in-pad' as const }
    const plan = drainPlan(layoutOf({ ...smallPlan, drain: { ...smallPlan.drain, fall: 0.005, maxOutletSpacing: 8 }, water }))
    const end = plan?.points[plan?.points.length - 1]
    expect(end).toMatchObject({ station: 9, invert: 9.85, heel: 10.15 })
    expect(end?.cover).toBeCloseTo(10 - 9.85 - 0.1, 9)
    expect(plan?.flow?.total).toBeCloseTo((0.9 * 0.08 * 900) / 3600, 9)
    expect(plan?.flow?.busiest).toBeCloseTo(plan?.flow?.total ?? 0, 9)
    expect(plan?.flow?.enough).toBe(false)
    expect(plain(plan?.cautions.join(' '))).toMatch(/less than 1 %.*would fit.*travels 9.0 m.*cannot carry/)
  })
})
const at0 = (station: number, invert: number) => ({ station, invert })

describe('what of the water is planned by itself', () => {
  const heeled = (heel: object, possible: readonly object[] = []) =>
    layoutOf(issued(built({ ...smallPlan, water: { heel: { above: 0.3, fall: 0.01, ...heel }, possible } as never })))
  const heelAt = (layout: ReturnType<typeof heeled>, station: number) => drainPlan(layout)?.points.find((p) => p.station === station)?.heel
  test('a heel drain with outlets of its own hangs on none of the toe drain', () => {
    // The toe drain runs out at 9 m, at 9.85.
    expect(heelAt(heeled({}), 9)).toBeCloseTo(10.15, 9)
    const own = heeled({ outlets: [{ station: 0, invert: 10.5 }] })
    expect([heelAt(own, 0), heelAt(own, 9)]).toEqual([expect.closeTo(10.5, 9), expect.closeTo(10.59, 9)])
    expect(heelAt(heeled({ outlets: [] }), 9)).toBeCloseTo(10.15, 9)
  })
  test('its outlets are worked out from the places there are, never one lower than the toe drain', () => {
    expect(proposeHeel(heeled({}))).toMatchObject({ ok: false, problems: [{ field: 'water.possible' }] })
    expect(proposeHeel(heeled({}, [{ station: 9, invert: 9.7 }]))).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringMatching(/lower than the toe drain/) }],
    })
    const found = proposeHeel(
      heeled({}, [
        { station: 9, invert: 9.7 },
        { station: 0, invert: 10.6 },
      ]),
    )
    expect(found.ok && found.value.outlets.map((o) => o.station)).toEqual([0])
    // Nowhere over the ground behind: 11.3 less the pipe.
    expect(proposeHeel(heeled({}, [{ station: 0, invert: 11.25 }])).ok).toBe(false)
    expect(proposeHeel(layoutOf(smallPlan))).toMatchObject({ ok: false, problems: [{ field: 'water.heel' }] })
  })
  test('an outlet of it beyond the wall is refused at its line', () => {
    const read = readPlan({ ...built(smallPlan), water: { heel: { above: 0.3, fall: 0.01, outlets: [{ station: 9.1, invert: 10 }] } } })
    expect(read.ok ? [] : read.problems.map((p) => p.field)).toEqual(['water.heel.outlets[0].station'])
  })
})

describe('a pad of coarse stone with chip on top', () => {
  const layout = startedLayout(
    'hollow-core',
    {},
    (d: object) =>
      ({ ...d, foundation: { kind: 'two-stone', thickness: 0.2, width: 0.7, minRun: 1.2, lifts: { max: 0.1, loose: 1.25 }, chip: 0.03 } }) as never,
  )
  const q = (id: string) => quantities(layout).find((x) => x.id === id)?.value
  test('each is counted, and lifts are of the coarse stone alone', () => {
    expect([q('pad'), q('chip')]).toEqual([expect.closeTo(9.6 * 0.7 * 0.17, 9), expect.closeTo(9.6 * 0.7 * 0.03, 9)])
    const steps = stepsOf(layout)
    expect(steps.find((s) => s.stage.id === 'pad')?.lifts).toMatchObject({ count: 2, compacted: expect.closeTo(0.085, 6) })
    expect(steps.findIndex((s) => s.stage.id === 'chip')).toBeLessThan(steps.findIndex((s) => s.stage.id === 'pad-level'))
    expect(layout.building.foundation.drains).toBe(true)
  })
  test('chip too thin or too thick is a finding; its level waits for it', () => {
    const site = new Site(layout.plan)
    site.work('services').work('set-out').release('set-out').work('dig', 'A').work('subgrade', 'A').release('subgrade', 'A')
    // An open pad has the pipe in it.
    site.work('invert', 'A').work('drain', 'A').release('drain', 'A').work('cover', 'A').work('pad', 'A')
    expect(site.refusal(good(site.step('pad-level', 'A'))[0] as never)).toMatch(/the chip is not on/)
    const chip = (id: string, value: number) => {
      const e = entry('check', { stage: 'chip', section: 'A' }, { confirmed: [], measured: [{ id, value }] })
      return verdictOf(site.state, e)?.verdict
    }
    expect([chip('thin', 0.024), chip('thin', 0.025), chip('thick', 0.04), chip('thick', 0.041)]).toEqual(['out', undefined, undefined, 'out'])
  })
})
