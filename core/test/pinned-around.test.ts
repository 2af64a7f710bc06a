// Fifty-four walls of every system with what stands around them, as they were when they were pinned: stakes, clearances, reasons for an engineer,
// what is built in, poles, picks, layers, pipes, what differs without.
import { layOut, say } from '@stone-tally/core'
import pinned from './fixtures/pinned-around.json'
import { AROUND, marksAround, plansOf } from './pinned-around'

test('enough of them are walls, some are refused, and no sentence is left open', () => {
  expect(pinned).toHaveLength(AROUND)
  const walls = pinned.filter((p): p is Exclude<typeof p, string> => typeof p === 'object')
  expect(walls.length).toBeGreaterThan(50)
  const said = Array.from({ length: AROUND }, (_, n) => {
    const { plan, refused } = plansOf(n)
    const laid = layOut(plan)
    return JSON.stringify([refused, laid.ok ? laid.value.cautions.map((c) => c.message) : laid.problems])
  })
  expect(said.filter((s) => !s.startsWith('[[]')).length).toBeGreaterThan(3)
  const odd = /undefined|NaN|Infinity|\[object|[a-z] {2,}[a-z]|\b1 (courses|layers|lifts|metres|outlets|pieces|points|steps|units)\b/
  for (const units of ['metric', 'imperial'] as const) expect(said.map((s) => say(s, units).match(odd)?.[0]).filter(Boolean)).toEqual([])
})
test.each(Array.from({ length: AROUND }, (_, n) => n))('wall %d and what stands around it are as they were', (n) =>
  expect(marksAround(n)).toEqual(pinned[n]),
)
