// A layout made from an earlier one is the layout made anew: what is taken over is only what nothing changed.
import { type Layout, layOut, type Plan, storedPlan } from '@stone-tally/core'
import { mark, parts, pinnedPlan } from './pinned'

const laid = (plan: Plan, earlier?: Layout): Layout | undefined => {
  const made = layOut(plan, earlier)
  return made.ok ? made.value : undefined
}
const marks = (l: Layout | undefined) => (l ? Object.fromEntries(Object.entries(parts).map(([name, of]) => [name, mark(of(l))])) : 'none')

/** One thing changed, as somebody changes it while they plan. */
const CHANGES: Readonly<Record<string, (p: Plan) => Plan>> = {
  'the same': (p) => ({ ...p }),
  'another name': (p) => ({ ...p, name: `${p.name} again` }),
  'a higher top': (p) => ({ ...p, grades: p.grades.map((g) => ({ ...g, top: g.top + 0.23 })) }),
  'a lower toe': (p) => ({ ...p, grades: p.grades.map((g) => ({ ...g, toe: g.toe - 0.31 })) }),
  'a top that rises': (p) => ({ ...p, grades: p.grades.map((g, i) => ({ ...g, top: g.top + 0.15 * i })) }),
  'an opening': (p) => ({
    ...p,
    openings: [{ name: 'culvert', station: p.length / 2, width: 0.6, bottom: (p.grades[0]?.toe ?? 0) + 0.1, height: 0.4 }],
  }),
  'no opening': (p) => ({ ...p, openings: [] }),
  'sections joined': (p) => ({ ...p, sections: [{ id: 'Z', from: 0, to: p.length }] }),
  'its line the other way round its corners': (p) => ({
    ...p,
    ...(p.alignment
      ? {
          alignment: {
            ...p.alignment,
            vertices: p.alignment.vertices.map((v) => ({ easting: v.easting, northing: -v.northing, bulge: -(v.bulge ?? 0) })),
          },
        }
      : {}),
  }),
  'a longer dig': (p) => ({ ...p, excavation: { ...p.excavation, behind: p.excavation.behind + 0.2 } }),
}

describe.each(Array.from({ length: 24 }, (_, i) => i * 2 + 1))('made-up wall %i', (n) => {
  const plan = storedPlan(pinnedPlan(n) as object) as Plan
  const first = laid(plan)
  test('changed in one thing, it is laid out from before as it is anew', () => {
    for (const [what, change] of Object.entries(CHANGES)) {
      const to = change(plan)
      expect([what, marks(laid(to, first))]).toEqual([what, marks(laid(to))])
    }
  })
  test('made from the layout of another wall it is its own all the same', () => {
    for (const m of [n + 1, n + 2, n + 9]) {
      const other = laid(storedPlan(pinnedPlan(m) as object) as Plan)
      expect(marks(laid(plan, other))).toEqual(marks(first))
    }
  })
})

test.each([1, 3, 7, 13, 19])('a straight wall %i that grows by a unit is laid anew', (n) => {
  const { alignment: _, ...bare } = storedPlan(pinnedPlan(n) as object) as Plan
  const straight = { ...bare, openings: undefined } as Plan
  const longer = {
    ...straight,
    length: straight.length + 0.6,
    grades: straight.grades.map((g) => (g.station === straight.length ? { ...g, station: g.station + 0.6 } : g)),
    sections: straight.sections.map((s) => (s.to === straight.length ? { ...s, to: s.to + 0.6 } : s)),
  } as Plan
  const [first, anew] = [laid(straight), laid(longer)]
  expect(first && anew).toBeDefined()
  expect(marks(laid(longer, first))).toEqual(marks(anew))
  expect(marks(laid(straight, anew))).toEqual(marks(first))
})

test('another unit of the same system, on the same line: every piece is laid anew', () => {
  // Of two walls that differ in their system's own part alone.
  let seen = 0
  for (let n = 0; n < 60; n++) {
    const plan = storedPlan(pinnedPlan(n) as object) as Plan
    for (let m = n + 1; m < 60; m++) {
      const other = storedPlan(pinnedPlan(m) as object) as Plan
      if (other.system.id !== plan.system.id) continue
      const mixed = { ...plan, system: other.system } as Plan
      const anew = laid(mixed)
      if (!anew) continue
      seen++
      expect(marks(laid(mixed, laid(plan)))).toEqual(marks(anew))
      break
    }
  }
  expect(seen).toBeGreaterThan(15)
})
