import { formatDeviation, formatLength, formatSmall, parseLength } from '@stone-tally/core'
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
