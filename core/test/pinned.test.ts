// Sixty walls of every system, laid out as they were when they were pinned: steps, courses, every piece, caps, layers, steps of the work, quantities.
import pinned from './fixtures/pinned.json'
import { marksOf, PINNED } from './pinned'

test('enough of them are walls', () => {
  expect(pinned).toHaveLength(PINNED)
  expect(pinned.filter((p) => typeof p === 'object').length).toBeGreaterThanOrEqual(45)
})
test.each(Array.from({ length: PINNED }, (_, n) => n))('wall %d is laid out as it was', (n) => expect(marksOf(n)).toEqual(pinned[n]))
