import {
  formatDeviation,
  formatLength,
  formatSmall,
  type Measure,
  parseAmount,
  parseFall,
  parseLean,
  parseLength,
  said,
  say,
  typedAmount,
  UNIT_SYSTEMS,
  type UnitSystem,
} from '@stone-tally/core'
import fc from 'fast-check'

const metres = (text: string, bare?: 'm' | 'mm' | 'ft' | 'in') => {
  const read = parseLength(text, bare)
  return read.ok ? read.value : Number.NaN
}

describe('what people type for a length', () => {
  test.each([
    ['1.015', 'm', 1.015],
    ['1,015', 'm', 1.015],
    ['1015 mm', 'm', 1.015],
    ['4', 'mm', 0.004],
    ['-4', 'mm', -0.004],
    [`3' 4 1/2"`, 'ft', 1.0287],
    ['3-4 1/2', 'ft', 1.0287],
    ['3′ 4″', 'ft', 1.016],
    ['4 1/2 in', 'm', 0.1143],
    ['3.5 ft', 'm', 1.0668],
    ['1/16', 'in', 0.0015875],
    [`-2' 6"`, 'ft', -0.762],
  ] as const)('%s as %s is %f m', (text, bare, expected) => expect(metres(text, bare)).toBeCloseTo(expected, 9))

  test.each(['', 'abc', '1..2', "3' x", '1/0', '1,2,3'])('"%s" is refused with an example', (text) => {
    const read = parseLength(text)
    expect(read.ok).toBe(false)
    if (!read.ok) expect(read.problems[0]?.message).toContain('1015 mm')
  })

  test('feet and inches come back within a thirty-second of an inch', () => {
    fc.assert(
      fc.property(fc.double({ min: -30, max: 30, noNaN: true }), (m) => {
        expect(Math.abs(metres(formatLength(m, 'imperial').replace('−', '-'), 'ft') - m)).toBeLessThanOrEqual(0.0254 / 32 + 1e-9)
      }),
    )
  })
})

test('deviations are words with a direction', () => {
  expect(formatDeviation(0.004, 'level', 'metric')).toBe('4 mm high')
  expect(formatDeviation(-0.004, 'level', 'metric')).toBe('4 mm low')
  expect(formatDeviation(0.0001, 'line', 'metric')).toBe('on target')
  expect(formatDeviation(0.0047625, 'setback', 'imperial')).toBe('3/16" back')
  expect(formatSmall(0.2, 'metric')).toBe('200 mm')
})

describe('what has a unit of its own in either system', () => {
  test.each<[string, Measure, UnitSystem, number]>([
    ['6.5', 'mass', 'metric', 6.5],
    ['14.33', 'mass', 'imperial', 6.5],
    ['125.9', 'density', 'imperial', 2016.7],
    ['100', 'pressure', 'decimal-feet', 4.788],
    ['120', 'weight', 'imperial', 18.85],
    ['8', 'volume', 'imperial', 6.116],
    ['100', 'area', 'imperial', 9.29],
    ['−2', 'temperature', 'metric', -2],
    ['28.4', 'temperature', 'imperial', -2],
    ['0,5', 'rain', 'imperial', 12.7],
    ['10', 'speed', 'imperial', 16.09],
    [`3' 4 1/2"`, 'length', 'imperial', 1.0287],
    ['150', 'small', 'metric', 0.15],
    ['6', 'small', 'imperial', 0.1524],
  ])('%s as %s in %s', (text, measure, units, si) => {
    const read = parseAmount(text, measure, units)
    expect(read.ok ? read.value : Number.NaN).toBeCloseTo(si, Math.abs(si) > 100 ? 0 : 2)
  })
  test.each(UNIT_SYSTEMS)('what is shown in %s is read back as near as it is shown', (units) => {
    const measures = ['mass', 'density', 'pressure', 'weight', 'area', 'volume', 'temperature', 'rain', 'speed', 'length', 'small'] as const
    for (const measure of measures) {
      const read = parseAmount(typedAmount(1.75, measure, units), measure, units)
      expect(Math.abs((read.ok ? read.value : Number.NaN) - 1.75)).toBeLessThan(0.02)
    }
    // What can be below nothing keeps its sign: a reading that is low, a frost.
    for (const measure of ['small', 'length', 'temperature'] as const) {
      const read = parseAmount(typedAmount(-0.31, measure, units), measure, units)
      expect(Math.abs((read.ok ? read.value : Number.NaN) + 0.31)).toBeLessThan(0.02)
    }
  })
  test('letters, nothing and two numbers are refused with the unit that is meant', () => {
    for (const text of ['', 'heavy', '12 13', '1.2.3', '1e3'])
      expect(parseAmount(text, 'density', 'imperial')).toMatchObject({ ok: false, problems: [{ message: expect.stringContaining('lb/ft³') }] })
  })
  test('a sentence says every kind in the reader’s units', () => {
    const all = `${said.given(1.2)}|${said.fine(0.1524)}|${said.weight(18.85)}|${said.speed(16.1)}|${said.mass(6.5)}|${said.volume(0.000943)}`
    expect(say(all, 'metric')).toBe('1.2 m|152.4 mm|18.9 kN/m³|16 km/h|6.5 kg|0.94 l')
    expect(say(all, 'imperial')).toBe(`3'-11 1/4"|6"|120 lb/ft³|10 mph|14.33 lb|0.249 gal`)
  })
})

describe('falls and leans as people write them', () => {
  test.each([
    ['0.02', 0.02],
    ['2 %', 0.02],
    ['2,5%', 0.025],
    ['1:50', 0.02],
    ['1 in 8', 0.125],
    ['-1:50', -0.02],
    ['0°', 0],
    ['45°', 1],
  ])('a fall of %s', (text, value) => {
    const read = parseFall(text)
    expect(read.ok && read.value).toBeCloseTo(value, 9)
  })
  test.each(['', 'two', '1:0', '90°', '1:2:3', '1 %:2', '5 m'])('%j is no fall', (text) => expect(parseFall(text).ok).toBe(false))
  test.each([
    ['0.5', 0.5],
    ['90°', 0],
    ['45°', 1],
    ['60 deg', 1 / Math.sqrt(3)],
  ])('a cut that leans %s', (text, value) => {
    const read = parseLean(text)
    expect(read.ok && read.value).toBeCloseTo(value, 9)
  })
  test('a ratio is refused, since the wrong reading of it is the steeper', () => {
    expect(parseLean('1:2')).toMatchObject({ ok: false, problems: [{ message: expect.stringMatching(/some read as up to across/) }] })
    for (const text of ['', '0°', '91°', '-45°', '50 %', 'steep']) expect(parseLean(text).ok).toBe(false)
  })
})
