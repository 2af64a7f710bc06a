// Edges of the layout that nothing else would notice: which piece lies where a leg turns into a bend, what is said just past a limit.
import {
  alignmentOf,
  compareLayouts,
  type EarlierPlan,
  elevationAt,
  engineerReasons,
  issued,
  layOut,
  misplaced,
  type Plan,
  readerOf,
  wallFacts,
} from '@stone-tally/core'
import { built, ENGINEERED, layoutOf, plain, smallPlan } from './plans'
import { at, planOn, unitNamed } from './walls'

describe('caps on a leg that is straight, then bent, then straight', () => {
  // 6 m straight, a quarter of a circle of 3 m, 6 m straight: tangent all along, so one leg.
  const quarter = Math.tan(Math.PI / 8)
  const bent = planOn([at(0, 0), at(6, 0, quarter), at(9, 3), at(9, 9)], false, { unit: { ...unitNamed('lip-150'), capTaper: 8 } })
  const { caps } = layoutOf(bent)
  const [from, to] = [6, 6 + (3 * Math.PI) / 2]
  test('those in the bend are tapered, those beside it are not, each judged where its middle lies', () => {
    expect(caps.length).toBeGreaterThan(40)
    for (const c of caps) {
      const middle = (c.start + c.to) / 2
      const inside = middle > from + 0.2 && middle < to - 0.2
      const beside = middle < from - 0.2 || middle > to + 0.2
      if (inside) expect([middle, c.kind]).toEqual([middle, 'tapered'])
      if (beside) expect([middle, c.kind === 'tapered']).toEqual([middle, false])
    }
    expect(caps.filter((c) => c.kind === 'tapered').length).toBeGreaterThan(10)
  })
  // The face of the upper courses bends tighter than the first: it is theirs that counts.
  test('a bend wider than tapered caps serve has none', () =>
    expect(layoutOf({ ...bent, unit: { ...bent.unit, capTaper: 2.5 } }).caps.some((c) => c.kind === 'tapered')).toBe(false))
})

const cautionIds = (p: EarlierPlan) => layoutOf(issued({ ...p, ...ENGINEERED })).cautions.map((c) => c.id)
describe('what is said just past a limit', () => {
  test('a pipe that falls less than one in a hundred', () => {
    const fall = (f: number) => cautionIds({ ...smallPlan, drain: { ...smallPlan.drain, fall: f } }).includes('fall')
    expect([fall(0.0099), fall(0.01), fall(0.02)]).toEqual([true, false, false])
    const { cautions } = layoutOf(issued({ ...smallPlan, ...ENGINEERED, drain: { ...smallPlan.drain, fall: 0.006 } }))
    // It is said; it stops nobody who has reasons.
    expect(plain(cautions.find((c) => c.id === 'fall'))).toEqual({
      id: 'fall',
      blocks: false,
      message: 'The pipe falls 0.6 %; under 1 % it silts up.',
    })
  })
  test('a steep cut counts from the bottom of the pad, not from its top', () => {
    // Top of the pad 1.1 m below the top grade: only with the pad of 0.15 m is it over 1.2 m.
    const at11 = { ...smallPlan, excavation: { behind: 1.2, slope: 0.2 }, grades: [0, 9].map((station) => ({ station, toe: 10, top: 10.9 })) }
    expect(cautionIds(at11)).toContain('cut-slope')
    expect(cautionIds({ ...at11, pad: { ...smallPlan.pad, thickness: 0.06 } })).not.toContain('cut-slope')
  })
  test('outlets as far apart as is allowed, and further', () => {
    const long: EarlierPlan = {
      ...smallPlan,
      length: 30,
      grades: [0, 30].map((station) => ({ station, toe: 10, top: 11 })),
      sections: [{ id: 'A', from: 0, to: 30 }],
    }
    const apart = (m: number) =>
      cautionIds({ ...long, drain: { ...smallPlan.drain, outlets: [0, m].map((station) => ({ station, invert: 9.5 })) } }).includes('outlets')
    expect([apart(15), apart(15.1)]).toEqual([false, true])
  })
  test('the height is the engineer’s from the underside of the first course only where the rules say so', () => {
    // 1.3 m from the bottom of the pad, 1.15 m from the first course; over 1.2 m an engineer plans it.
    const plan: Plan = issued<Plan>(
      {
        ...built(smallPlan),
        grades: [0, 9].map((station) => ({ station, toe: 10, top: 10.85 })),
        holds: [],
        rules: { engineeredAbove: 1.2 },
      },
      2,
    )
    const reasons = (p: typeof plan) => {
      const l = layoutOf(p)
      return plain(engineerReasons(l.plan, l.system, l.steps, l.tops, l.courses))
    }
    expect(reasons(plan)[0]).toMatch(/it stands 1.25 m from the bottom of the pad/)
    expect(reasons({ ...plan, rules: { engineeredAbove: 1.2, heightFrom: 'first-course' } })).toEqual([])
    // A plan of before there was a book sets its own height.
    expect(reasons({ ...plan, rules: { engineeredAbove: 1.3 } }).some((r) => r.includes('it stands'))).toBe(false)
    expect(reasons({ ...plan, rules: { engineeredAbove: 1 } })[0]).toMatch(/over 1 m/)
  })
  test('a wall nobody said anything of holds nothing that is known', () => {
    const facts = wallFacts(layoutOf(smallPlan))
    expect([facts.slope, facts.load]).toEqual([false, false])
    expect(wallFacts(layoutOf({ ...smallPlan, holds: ['tier'] })).load).toBe(true)
  })
})

describe('sections and openings at their edges', () => {
  test('a section shorter than a unit is nobody’s; one of a unit is', () => {
    const of = (to: number) => {
      const laid = layOut(
        built({
          ...smallPlan,
          sections: [
            { id: 'A', from: 0, to },
            { id: 'B', from: to, to: 9 },
          ],
        }),
      )
      return laid.ok ? misplaced(laid.value).map((p) => p.field) : ['not laid out']
    }
    expect(of(0.1)).toEqual(['sections[0].to'])
    expect(of(0.9)).toEqual([])
  })
  test('at a corner only what touches it is drawn out; the units before it stand at their own stations', () => {
    for (const turn of [3, -3]) {
      const layout = layoutOf(planOn([at(0, 0), at(6.3, 0), at(6.3, turn)], false))
      const run = layout.runs[1]?.find((r) => r.to <= 6.3 + 1e-6)
      const whole = run?.pieces.filter((p) => p.kind === 'full' && p.to < 5.4) ?? []
      expect(whole.length).toBeGreaterThan(8)
      for (const p of whole) expect(p.to - p.start).toBeCloseTo(p.length, 6)
      const start = layout.runs[1]?.find((r) => r.from >= 6.3 - 1e-6)
      const after = start?.pieces.filter((p) => p.kind === 'full' && p.start > 7.2) ?? []
      for (const p of after) expect(p.to - p.start).toBeCloseTo(p.length, 6)
      // What the corner takes or adds is in the pieces that touch it.
      expect(run?.pieces[run.pieces.length - 1]?.to).toBeCloseTo(6.3, 6)
      expect(start?.pieces[0]?.start).toBeCloseTo(6.3, 6)
    }
  })
  test('a line that moved says which way: into the fill, outwards, or along itself', () => {
    const moved = (e: number, n: number) => {
      const [was, is] = [planOn([at(0, 0), at(9, 0)], false), planOn([at(e, n), at(9 + e, n)], false)]
      return compareLayouts(layoutOf(was), layoutOf(is)).flatMap((c) => (c.id === 'line' ? [plain(c.text)] : []))
    }
    expect(moved(0, 0.2)).toEqual(['Face line moved: up to 200 mm into the fill, 0.0 m to 9.0 m'])
    expect(moved(0, -0.2)).toEqual(['Face line moved: up to 200 mm outwards, 0.0 m to 9.0 m'])
    expect(moved(0.15, -0.2)).toEqual(['Face line moved: up to 250 mm outwards, 0.0 m to 9.0 m'])
    expect(moved(0.3, 0)).toEqual(['Face line moved along itself: up to 300 mm onwards, 0.0 m to 9.0 m'])
    expect(moved(-0.3, 0)).toEqual(['Face line moved along itself: up to 300 mm back, 0.0 m to 9.0 m'])
    expect(moved(0.004, 0)).toEqual([])
  })
  test('of two openings each ends the runs beside it, and nothing else ends as one', () => {
    const openings = [
      { name: 'culvert', station: 3, width: 0.9, bottom: 10, height: 0.6 },
      { name: 'door', station: 6.3, width: 0.9, bottom: 10, height: 0.6 },
    ]
    const layout = layoutOf(planOn([at(0, 0), at(9, 0)], false, { openings }))
    const edges = openings.flatMap((o) => [o.station - o.width / 2, o.station + o.width / 2])
    const ends = layout.runs.flat().flatMap((r) => [
      { at: r.from, is: r.start },
      { at: r.to, is: r.end },
    ])
    for (const e of ends) expect([e.at, e.is === 'opening']).toEqual([e.at, edges.some((x) => Math.abs(x - e.at) < 1e-6)])
    for (const x of edges) expect(ends.filter((e) => Math.abs(e.at - x) < 1e-6).length).toBeGreaterThan(1)
  })
  test('nothing differs between a wall and itself', () => expect(compareLayouts(layoutOf(), layoutOf())).toEqual([]))
})

test('grades read one after the other are those read one by one: forwards, back, at a point, on a jump, past both ends', () => {
  const points = [
    { station: 0, elevation: 10 },
    { station: 4, elevation: 11 },
    { station: 4, elevation: 12 },
    { station: 9, elevation: 9 },
  ]
  const read = readerOf(points)
  for (const s of [-1, 0, 1, 3.9, 4, 4.1, 8, 9, 12, 2, 4, 0, -3, 8.5, 3.999]) expect([s, read(s)]).toEqual([s, elevationAt(points, s)])
})

test('a line that meets itself is found wherever its parts lie from each other, first part first', () => {
  // West, back east over itself further north, then south through both: two crossings, and none where parts only join.
  const line = alignmentOf([at(0, 0), at(20, 0), at(20, 4), at(0, 4), at(0, 8), at(10, 8), at(10, -4)], false)
  expect(line.ok).toBe(false)
  if (line.ok) return
  expect(line.problems.map((p) => p.field)).toEqual(['vertices[5]', 'vertices[5]'])
  expect(line.problems[0]?.message).toContain('E 10.00, N 0.00')
  expect(alignmentOf([at(0, 0), at(20, 0), at(20, 4), at(0, 4), at(0, 8)], false).ok).toBe(true)
})
