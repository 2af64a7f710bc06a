import { dayWords, ended, fullDay, momentWords, said, say, withOutcome } from '@stone-tally/core'

test('a day and a time are written one way in every reader’s units, and what is none is shown as it stands', () => {
  const sentence = `put on ${said.day('2026-11-27T07:15:00.000Z')}, until ${said.moment('2026-11-28T07:15:59.000Z')}`
  for (const units of ['metric', 'imperial'] as const) expect(say(sentence, units)).toBe('put on Fri 27 Nov, until Sat 28 Nov, 07:15 UTC')
  expect([fullDay('2024-02-29'), momentWords('2026-01-01T00:00:00Z')]).toEqual(['29 February 2024', 'Thu 1 Jan, 00:00 UTC'])
  expect([dayWords('next week'), fullDay('March 2026'), dayWords('')]).toEqual(['next week', 'March 2026', ''])
})

test('a line and its outcome: the figure of both stands once, another one stays', () => {
  expect(withOutcome('cone: 5.6 %, 92.9 %', '92.9 % of maximum, at least 95 %')).toBe('cone: 5.6 %, 92.9 % of maximum, at least 95 %')
  expect(withOutcome('cone: 5.6 %, 92.9 %', '2.9 % too wet')).toBe('cone: 5.6 %, 92.9 %, 2.9 % too wet')
  expect(withOutcome('level at 3.00', 'too high')).toBe('level at 3.00, too high')
  expect(ended(withOutcome('seen', 'by the engineer.'))).toBe('seen, by the engineer.')
})
