import { lineOf } from '@stone-tally/core'
import { entry, plain, stateOf } from '../../core/test/plans'
import { counted, ended } from '../ui/sentence'

test('a sentence is ended once, whoever ended it', () => {
  expect(['Seen on site', 'Seen on site.', 'Dry?', 'Wet! '].map(ended)).toEqual(['Seen on site.', 'Seen on site.', 'Dry?', 'Wet!'])
})
test('one of many is one', () => {
  expect([0, 1, 2].map((n) => counted(n, 'lorry', 'lorries'))).toEqual(['0 lorries', '1 lorry', '2 lorries'])
})
test('the word before a number is said once, however it was typed', () => {
  const line = (lot: string) => {
    const e = entry('roll', {}, { roll: 'U40-117', lot, type: 'uniaxial 40', length: 50, width: 2 })
    return plain(lineOf(stateOf([e]), e, { units: 'metric' }))
  }
  for (const lot of ['8812', 'lot 8812', 'Lot 8812']) expect(line(lot)).toMatch(/^Roll U40-117, lot 8812 of uniaxial 40/)
  expect(line('lots')).toMatch(/, lot lots of/)
  expect(line('lot')).toMatch(/, lot lot of/)
})
