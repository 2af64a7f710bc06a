import { cutList, type EarlierPlan as Plan, quantities, readPlan, readPlanFile, writePlanFile } from '@stone-tally/core'
import { built, layoutOf, plain, smallPlan } from './plans'
import { at, circle, planOn, unitNamed } from './walls'

const problems = (change: (p: Record<string, unknown>) => void): string => {
  const plan = structuredClone(planOn([at(0, 0), at(9, 0)], false)) as unknown as Record<string, unknown>
  change(plan)
  const read = readPlan(plan)
  return read.ok ? 'taken' : plain(read.problems.map((p) => `${p.field}: ${p.message}`).join('\n'))
}

test.each<[string, object, RegExp | 'taken']>([
  [
    'water in order',
    {
      water: {
        school: 'raised',
        sock: true,
        bed: 0.1,
        possible: [{ station: 3, invert: 9.9 }],
        heel: { above: 0.2, fall: 0.01 },
        area: 90,
        runoff: 0.4,
        rain: 60,
      },
    },
    'taken',
  ],
  ['a school nobody knows', { water: { school: 'deep' } }, /water.school: must be one of in-pad, on-bed, raised/],
  ['more runs off than falls', { water: { runoff: 1.2 } }, /water.runoff: must be 1 or less/],
  ['a place beyond the wall', { water: { possible: [{ station: 12, invert: 9.9 }] } }, /water.possible\[0\].station: 12 m is beyond the wall/],
  [
    'a roll named twice',
    { gridRolls: [1, 2].map((width) => ({ type: 'a', width, length: 50 })) },
    /gridRolls\[1\].type: there is a roll of a already/,
  ],
  ['a roll shorter than its layer', { grid: [{ course: 2, length: 1.2, type: 'a' }], gridRolls: [{ type: 'a', width: 2, length: 2 }] }, 'taken'],
  [
    'a roll shorter than a long layer',
    { excavation: { behind: 4, slope: 0.5 }, grid: [{ course: 2, length: 3, type: 'a' }], gridRolls: [{ type: 'a', width: 2, length: 2 }] },
    /gridRolls\[0\].length: 2 m is shorter than the layer of 3 m/,
  ],
])('%s', (_name, change, expected) => {
  const said = problems((p) => void Object.assign(p, change))
  if (expected === 'taken') expect(said).toBe('taken')
  else expect(said).toMatch(expected)
})

describe('the fields of a line and what stands around it', () => {
  test.each([
    [
      'one point',
      (p: Record<string, unknown>) => void (p.alignment = { vertices: [{ easting: 0, northing: 0 }], closed: false }),
      /alignment.vertices: needs at least 2/,
    ],
    [
      'a point without northing',
      (p: Record<string, unknown>) => void (p.alignment = { vertices: [{ easting: 0 }, { easting: 9, northing: 0 }], closed: false }),
      /alignment.vertices\[0\].northing: is missing/,
    ],
    [
      'open or closed not said',
      (p: Record<string, unknown>) =>
        void (p.alignment = {
          vertices: [
            { easting: 0, northing: 0 },
            { easting: 9, northing: 0 },
          ],
        }),
      /alignment.closed: is missing/,
    ],
    [
      'an endless number',
      (p: Record<string, unknown>) =>
        void (p.alignment = {
          vertices: [
            { easting: 1e9, northing: 0 },
            { easting: 9, northing: 0 },
          ],
          closed: false,
        }),
      /easting: must be 10000000 m or less/,
    ],
    [
      'a top style nobody knows',
      (p: Record<string, unknown>) => void (p.top = { style: 'wavy' }),
      /top.style: must be one of stepped, level, cap-following/,
    ],
    [
      'an opening past the end',
      (p: Record<string, unknown>) => void (p.openings = [{ name: 'x', station: 12, width: 1, bottom: 10, height: 1 }]),
      /openings\[0\].station: 12 m is beyond the wall/,
    ],
    [
      'an opening of no width',
      (p: Record<string, unknown>) => void (p.openings = [{ name: 'x', station: 2, width: 0, bottom: 10, height: 1 }]),
      /openings\[0\].width: must be 0.02 m or more/,
    ],
    [
      'a tree without its radius',
      (p: Record<string, unknown>) => void (p.obstacles = [{ name: 'oak', kind: 'tree', points: [{ easting: 0, northing: 0 }], clearance: 1 }]),
      /obstacles\[0\].radius: a single point needs a radius/,
    ],
    [
      'a reference of a kind nobody knows',
      (p: Record<string, unknown>) => void (p.references = [{ name: 'a', kind: 'moon', points: [{ easting: 0, northing: 0 }] }]),
      /references\[0\].kind: must be one of/,
    ],
    ['waste of more than half', (p: Record<string, unknown>) => void (p.waste = { units: 80, stone: 1, grid: 1 }), /waste.units: must be 50 or less/],
    [
      'an unknown field deep inside',
      (p: Record<string, unknown>) => void ((p.unit as Record<string, unknown>).colour = 'red'),
      /unit.colour: colour is not a known field/,
    ],
  ])('%s is named', (_name, change, message) => expect(problems(change)).toMatch(message))
  test('all of them may be left out', () => expect(problems((p) => void delete p.alignment)).toBe('taken'))
})

describe('plan files', () => {
  test.each([
    ['a ring', planOn(circle(6), true)],
    ['a corner', planOn([at(0, 0), at(8, 0), at(8, 6)], false, { openings: [{ name: 'pipe', station: 3, width: 0.4, bottom: 10, height: 0.4 }] })],
    ['a pattern', { ...smallPlan, unit: unitNamed('pattern-300'), grid: [] } as Plan],
  ])('%s goes out and comes in the same', (_name, plan) => {
    const read = readPlanFile(writePlanFile(built(plan)))
    expect(read).toEqual({ ok: true, value: built(plan) })
  })
  test('an arc its unit cannot follow is refused with the path in the file', () => {
    const plan = planOn([at(0, 0), at(5, 0, Math.tan(Math.PI / 8)), at(6.5, 1.5)], false)
    const read = readPlanFile(writePlanFile(built(plan)))
    expect(plain(read)).toMatchObject({
      ok: false,
      problems: [{ field: 'plan.alignment.vertices[1].bulge', message: expect.stringContaining('Lug block 200 needs 1.8 m') }],
    })
  })
})

describe('quantities', () => {
  const q = (plan: Plan) => new Map(quantities(layoutOf(plan)).map((x) => [x.id, x]))
  const plan = planOn([at(0, 0), at(9, 0)], false)
  test('waste is added to what is ordered, not to what is built', () => {
    const [none, much] = [0, 20].map((w) => q({ ...plan, waste: { units: w, stone: w, grid: w } }))
    expect(none?.get('full')?.value).toBe(much?.get('full')?.value)
    expect(none?.get('order')?.value).toBe((none?.get('full')?.value ?? 0) + (none?.get('for-cuts')?.value ?? 0))
    expect(much?.get('order')?.value).toBe(Math.ceil((none?.get('order')?.value ?? 0) * 1.2))
    expect(much?.get('stone-order')?.value).toBeCloseTo((none?.get('stone')?.value ?? 0) * 1.2, 5)
  })
  test('dig is the trench with its leaning back; spoil swells', () => {
    const layout = layoutOf(plan)
    const depth = 10 - ((layout.steps[0]?.elevation ?? 0) - 0.15)
    const width = 0.3 + 1.2 + (0.6 - 0.3) / 2
    const area = width * depth + (0.5 * depth * depth) / 2
    expect(q(plan).get('dig')?.value).toBeCloseTo(area * 9, 4)
    expect(q(plan).get('spoil')?.value).toBeCloseTo(area * 9 * 1.25, 4)
  })
  test('mass is that of the courses, whole or cut', () => {
    const layout = layoutOf(plan)
    const run = layout.courses.reduce((n, c) => n + c.stretches.reduce((m, s) => m + s.to - s.from, 0), 0)
    expect(q(plan).get('mass')?.value).toBeCloseTo((run / 0.45) * 34, 2)
    expect(q(plan).get('face')?.value).toBeCloseTo(run * 0.2, 4)
  })
  test('a ring is measured along each course’s own circle', () => {
    const ring = planOn(circle(5), true)
    const layout = layoutOf(ring)
    const face = layout.courses.reduce((n, c) => n + 2 * Math.PI * (5 - c.offset) * 0.2, 0)
    expect(q(ring).get('face')?.value).toBeCloseTo(face, 3)
  })
  test('pallets hold everything that is ordered', () => {
    const all = q(plan)
    const pieces = (all.get('order')?.value ?? 0) + (all.get('half')?.value ?? 0)
    expect(all.get('pallets')?.value).toBe(Math.ceil(pieces / 60))
  })
  test('a unit without halves has every other course begun with a cut, and the cuts are in the list', () => {
    const layout = layoutOf({ ...plan, unit: { ...plan.unit, half: false } })
    const pieces = [...layout.cells.values()].flatMap((c) => c.pieces)
    expect(pieces.filter((p) => p.kind === 'half')).toEqual([])
    const cut = pieces.filter((p) => p.kind === 'cut').length
    expect(cut).toBeGreaterThan(layout.courses.length / 2)
    expect(cutList(layout).pieces).toHaveLength(cut)
  })
})
