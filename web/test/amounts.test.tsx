import { amountWords, readAmount, typedIn } from '../ui/amounts'
import { dayAfter, daysBetween, daysFrom, dayWords, fullDay } from '../ui/day-words'

describe('amounts as people type them', () => {
  test.each([
    ['8', 'm³', 'metric', 8],
    ['8,5', 'pieces', 'metric', 8.5],
    ['1.2', 'm', 'metric', 1.2],
    ['0', 'kg', 'metric', 0],
  ] as const)('%s %s in %s', (text, unit, units, value) => {
    expect(readAmount(text, unit, units)).toEqual({ value })
  })
  test('in feet a cubic yard is a cubic yard, and read back it is what was typed', () => {
    const read = readAmount('10', 'm³', 'imperial')
    if (!('value' in read)) throw new Error(JSON.stringify(read))
    expect(typedIn('m³', 'imperial')).toBe('yd³')
    expect(read.value).toBeCloseTo(7.6455, 3)
    expect(amountWords(read.value, 'm³', 'imperial')).toMatch(/^10(\.0)? yd³$/)
  })
  test.each([
    ['', 'm³', 'is missing'],
    ['-3', 'm³', 'less than nothing'],
    ['many', 'pieces', 'must be a number of pieces'],
    ['-1', 'pieces', 'must be a number of pieces'],
    ['8 loads', 'm³', ''],
  ] as const)('"%s" of %s is refused in words', (text, unit, words) => {
    const read = readAmount(text, unit, 'metric')
    expect('problem' in read && read.problem.message.includes(words)).toBe(true)
  })
})

test('days as people say them, over the end of a month and a change of the clock', () => {
  expect(dayWords('2026-05-31')).toBe('Sun 31 May')
  expect([fullDay('2026-12-08'), fullDay(''), dayWords('soon')]).toEqual(['8 December 2026', '', 'soon'])
  expect(dayAfter('2026-02-28', 1)).toBe('2026-03-01')
  expect(daysBetween('2026-03-28', '2026-03-30')).toBe(2)
  expect(daysFrom('2026-10-24', '2026-10-26')).toEqual(['2026-10-24', '2026-10-25', '2026-10-26'])
})
