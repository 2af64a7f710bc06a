import {
  alignmentOf,
  emptyState,
  type Layout,
  layOut,
  type EarlierPlan as Plan,
  quantities,
  readPlan,
  sectionAt,
  type Vertex,
} from '@stone-tally/core'
import fc from 'fast-check'
import { build } from './build'
import { built, layoutOf } from './plans'
import { at, planOn, unitNamed } from './walls'

/** Walls along any line a person could set out, of any unit, their grades rising and falling. */
const plans = fc
  .record({
    parts: fc.array(
      fc.record({ length: fc.integer({ min: 70, max: 160 }), kink: fc.constantFrom(0, 0, 90, -90, 40, -35), arc: fc.constantFrom(0, 0, 35, -35) }),
      { minLength: 1, maxLength: 4 },
    ),
    ring: fc.constantFrom(false, false, false, true),
    unit: fc.constantFrom('lug-200', 'lip-150', 'tongue-200', 'pattern-300', 'garden-100', 'basket-2x1x05'),
    rises: fc.array(fc.integer({ min: -5, max: 5 }), { minLength: 1, maxLength: 3 }),
    height: fc.integer({ min: 9, max: 20 }),
    style: fc.constantFrom('stepped' as const, 'level' as const, 'cap-following' as const),
    sections: fc.integer({ min: 1, max: 3 }),
  })
  .map(({ parts, ring, unit, rises, height, style, sections }): Plan | undefined => {
    const vertices: Vertex[] = ring ? [at(9, 0, 1), at(-9, 0, 1)] : [at(300, 700)]
    let angle = 0.3
    for (const p of ring ? [] : parts) {
      angle += (p.kink * Math.PI) / 180
      const turn = (p.arc * Math.PI) / 180
      const chord = turn === 0 ? p.length / 10 : (2 * (p.length / 10) * Math.sin(Math.abs(turn) / 2)) / Math.abs(turn)
      const last = vertices[vertices.length - 1] as Vertex
      vertices[vertices.length - 1] = { ...last, bulge: Math.tan(turn / 4) }
      vertices.push(at(last.easting + chord * Math.cos(angle + turn / 2), last.northing + chord * Math.sin(angle + turn / 2)))
      angle += turn
    }
    if (!alignmentOf(vertices, ring).ok) return undefined
    const base = planOn(vertices, ring)
    let toe = 10
    const grades = [{ station: 0, toe, top: toe + height / 10 }]
    rises.forEach((r, i) => {
      toe = i === rises.length - 1 && ring ? 10 : Math.round((toe + r / 10) * 1000) / 1000
      grades.push({
        station: i === rises.length - 1 ? base.length : Math.round(((base.length * (i + 1)) / rises.length) * 1000) / 1000,
        toe,
        top: toe + height / 10,
      })
    })
    const own = unitNamed(unit)
    return {
      ...base,
      system: unit.startsWith('basket') ? 'gabion' : 'hollow-core',
      unit: own,
      pad: { ...base.pad, width: own.depth + 0.3 },
      grades,
      top: { style },
      sections: Array.from({ length: sections }, (_, i) => ({
        id: String.fromCharCode(65 + i),
        from: (base.length * i) / sections,
        to: i === sections - 1 ? base.length : (base.length * (i + 1)) / sections,
      })),
    }
  })
  .filter((p): p is Plan => p !== undefined)

const each = (check: (layout: Layout, plan: Plan) => void, runs: number) => {
  let laidOut = 0
  fc.assert(
    fc.property(plans, (plan) => {
      expect(readPlan(plan)).toMatchObject({ ok: true })
      const laid = layOut(built(plan))
      // Only a line that its unit cannot follow may be refused, and then with its place.
      if (!laid.ok) return expect(laid.problems[0]?.field).toMatch(/^alignment\.|^grades/)
      laidOut++
      check(laid.value, plan)
    }),
    { numRuns: runs, seed: 20 },
  )
  // A generator that made only walls to be refused would test nothing.
  expect(laidOut).toBeGreaterThan(runs * 0.6)
}

describe('any line, any unit', () => {
  test('every run of every course is filled over its true length and height, and nothing lies outside', () =>
    each((layout, plan) => {
      layout.runs.flat().forEach((run) => {
        const area = run.pieces.reduce((sum, p) => sum + p.length * (p.height ?? plan.unit.height), 0)
        // At an inside corner one leg runs on behind the other by the depth of a unit.
        const hidden = area / plan.unit.height - run.length
        const allowed = [0, 1, 2].map((n) => n * plan.unit.depth)
        expect(Math.min(...allowed.map((a) => Math.abs(hidden - a)))).toBeLessThan(1e-3)
        // A sliver is never laid without a word.
        if (!run.broken) expect(Math.min(...run.pieces.map((p) => p.length))).toBeGreaterThan(Math.min(0.09, plan.unit.length / 4) - 1e-4)
      })
    }, 60))
  test('every piece belongs to one section, and courses stand on each other at every station', () =>
    each((layout, plan) => {
      const inRuns = layout.runs.flat().reduce((n, r) => n + r.pieces.length, 0)
      expect([...layout.cells.values()].reduce((n, c) => n + c.pieces.length, 0)).toBe(inRuns)
      for (let s = 0.07; s < plan.length; s += plan.length / 17) {
        const { courses, pad } = sectionAt(layout, s)
        courses.forEach((c, i) => expect(c.bottom).toBeCloseTo(i === 0 ? pad.top : (courses[i - 1]?.top ?? 0), 5))
      }
    }, 60))
  test('quantities are whole numbers of pieces and no amount is negative', () =>
    each((layout) => {
      for (const q of quantities(layout)) {
        expect([q.id, q.value >= 0 && Number.isFinite(q.value)]).toEqual([q.id, true])
        if (q.unit === 'pieces') expect(Number.isInteger(q.value)).toBe(true)
        expect(q.working).not.toMatch(/NaN|undefined/)
      }
    }, 40))
  test('it is built to its end, step by step, by what the application says is next', () =>
    each((layout) => {
      const { order } = build(layout)
      expect([order[0], order[order.length - 1]]).toEqual(['services||', 'final||'])
    }, 12))
})

test('a gabion wall has the stages of baskets, and the same first steps as any wall', () => {
  const layout = layoutOf({
    ...planOn([at(0, 0), at(9, 0)], false),
    system: 'gabion',
    unit: unitNamed('basket-2x1x1'),
    pad: { ...planOn([at(0, 0), at(9, 0)], false).pad, width: 1.3 },
  })
  expect(layout.system.stages.map((s) => s.id)).toEqual(expect.arrayContaining(['services', 'lids', 'top', 'final']))
  expect(emptyState([layout]).steps[0]?.key).toBe('services||')
})
