import { type DrainInput, drain, drainInvert, filter, sizeAt } from '@stone-tally/core'
import fc from 'fast-check'

const value = <T>(r: { ok: true; value: T } | { ok: false; problems: readonly unknown[] }): T => {
  if (!r.ok) throw new Error(JSON.stringify(r.problems))
  return r.value
}
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
