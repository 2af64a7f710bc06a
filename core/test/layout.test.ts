import { type LaidPiece, layOut, onPad, type EarlierPlan as Plan, quantities, readPlan, sectionAt, stepAt, systemOf, toeAt } from '@stone-tally/core'
import fc from 'fast-check'
import { built, layoutOf, plain, smallPlan } from './plans'

describe('layout of a straight wall', () => {
  const layout = layoutOf()
  test('the pad is buried everywhere and steps in whole courses', () => {
    for (const s of layout.steps) {
      for (let x = s.start; x <= s.end; x += 0.1) expect(toeAt(built(smallPlan), x) - s.elevation).toBeGreaterThanOrEqual(0.2 - 1e-9)
      const courses = (s.elevation - (layout.steps[layout.steps.length - 1]?.elevation ?? 0)) / 0.2
      expect(Math.abs(courses - Math.round(courses))).toBeLessThan(1e-6)
    }
    expect(layout.steps.length).toBe(2)
  })
  test('courses lie on each other with their setback', () => {
    layout.courses.forEach((c, i) => {
      expect(c.top - c.bottom).toBeCloseTo(0.2, 9)
      expect(c.offset).toBeCloseTo(i * 0.02, 9)
      const below = layout.courses[i - 1]
      if (below) expect(c.bottom).toBeCloseTo(below.top, 9)
    })
    expect(layout.courses[0]?.stretches).toEqual([{ from: layout.steps[1]?.start, to: 9 }])
  })
  test('a course lies on the pad where the pad is at its bottom', () => {
    const [first, second] = layout.courses
    expect(first && onPad(layout, first, 8)).toBe(true)
    expect(second && onPad(layout, second, 0.5)).toBe(true)
    expect(second && onPad(layout, second, 8)).toBe(false)
  })
  test('the section cuts pad, courses, grid and pipe', () => {
    const s = sectionAt(layout, 8)
    expect(s.pad.top).toBeCloseTo(stepAt(layout.steps, 8), 9)
    expect(s.courses[0]?.bottom).toBeCloseTo(s.pad.top, 9)
    expect(s.grid).toEqual([{ course: 2, x: 0.02, length: 1.2, elevation: s.courses[1]?.top, type: 'uniaxial 30' }])
    expect(s.pipe?.y).toBeCloseTo(9.85 + 0.01 + 0.05, 9)
  })
  test('at the very edge of a step pad and courses agree', () => {
    const edge = layout.steps[0]?.end ?? 0
    for (const station of [edge - 1e-9, edge, edge + 1e-9, 0, 9]) {
      const s = sectionAt(layout, station)
      expect(s.courses[0]?.bottom).toBeCloseTo(s.pad.top, 9)
    }
  })
  test('pieces cover every course of every section without gap', () => {
    for (const c of layout.courses) {
      const pieces = ['A', 'B'].flatMap((s) => layout.cells.get(`${s}/${c.course}`)?.pieces ?? []).sort((a, b) => a.start - b.start)
      const sum = pieces.reduce((t, p) => t + p.length, 0)
      expect(sum).toBeCloseTo(
        c.stretches.reduce((t, s) => t + s.to - s.from, 0),
        6,
      )
    }
  })
  test('pad volume is its length, width and thickness', () => {
    expect(quantities(layout).find((q) => q.id === 'pad')?.value).toBeCloseTo(9 * 0.6 * 0.15, 6)
    const units = quantities(layout)
      .filter((q) => ['full', 'half', 'cut'].includes(q.id))
      .reduce((t, q) => t + q.value, 0)
    expect(units).toBe([...layout.cells.values()].reduce((t, c) => t + c.pieces.length, 0))
  })
})

describe('running bond', () => {
  const system = systemOf('hollow-core')
  const lay = (length: number, course: number, below: readonly number[]): readonly LaidPiece[] =>
    system?.lay({ length, course, onPad: false, start: 'free', end: 'step', startTurn: 0, endTurn: 0, below }, { unit: smallPlan.unit }).pieces ?? []
  test('no sliver, no gap, and joints never line up with the course below', () => {
    fc.assert(
      fc.property(fc.integer({ min: 12, max: 400 }), (length) => {
        const run = length / 10
        const lower = lay(run, 1, [])
        const joints = lower.slice(1).map((p) => p.at)
        const upper = lay(run, 2, joints)
        for (const course of [lower, upper]) {
          expect(course.reduce((t, p) => t + p.length, 0)).toBeCloseTo(run, 4)
          expect(Math.min(...course.map((p) => p.length))).toBeGreaterThan(0.45 / 4 - 1e-4)
        }
        // The nearest of all pairs: one by one, asking half a million times takes longer than the laying.
        const nearest = upper.slice(1).flatMap((p) => joints.map((k) => Math.abs(p.at - k)))
        expect(nearest.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY)).toBeGreaterThan(0.1125 - 1e-6)
      }),
      { numRuns: 60 },
    )
  })
})

describe('plans that cannot be', () => {
  const broken = (change: (p: Plan) => void): string[] => {
    const plan = structuredClone(smallPlan)
    change(plan)
    const read = readPlan(plan)
    const result = read.ok ? layOut(read.value) : read
    return result.ok ? [] : plain(result.problems.map((p) => `${p.field}: ${p.message}`))
  }
  test.each([
    [
      'station beyond the wall',
      (p: Plan) => void (p.grades[1] = { station: 12, toe: 10, top: 11 }),
      /grades\[1\].station: 12 m is beyond the wall, which ends at 9 m/,
    ],
    [
      'top below toe',
      (p: Plan) => void (p.grades[0] = { station: 0, toe: 11, top: 10 }),
      /grades\[0\].top: top grade 10 m must be above toe grade 11 m/,
    ],
    ['grades in feet', (p: Plan) => void (p.grades[0] = { station: 0, toe: 10, top: 43 }), /are the grades in feet/],
    ['negative length', (p: Plan) => void (p.length = -4), /length: must be 0.5 m or more, not -4/],
    ['absurd unit', (p: Plan) => void (p.unit.height = 200), /unit.height: must be 1.5 m or less, not 200/],
    [
      'grid deeper than the excavation',
      (p: Plan) => void (p.grid = [{ course: 1, length: 3, type: 'x' }]),
      /grid\[0\].length: 3 m of grid does not fit: the excavation gives 1.60 m/,
    ],
    [
      'sections with a gap',
      (p: Plan) =>
        void (p.sections = [
          { id: 'A', from: 0, to: 4 },
          { id: 'B', from: 5, to: 9 },
        ]),
      /sections\[1\].from: must start at 4 m/,
    ],
    ['unknown system', (p: Plan) => void (p.system = 'ice'), /system: "ice" is not a system/],
    ['an unknown field', (p: Plan) => void ((p as unknown as Record<string, unknown>).colour = 'red'), /colour: colour is not a known field/],
    ['a text for a number', (p: Plan) => void ((p as unknown as Record<string, unknown>).length = '9 m'), /length: must be a number, not "9 m"/],
    ['embedment without its depth', (p: Plan) => void (p.embedment = [{ kind: 'fixed' }]), /embedment\[0\].depth: is missing/],
    ['grades out of order', (p: Plan) => void p.grades.splice(1, 0, { station: 0, toe: 10, top: 11 }), /grades\[1\].station: must be after 0 m/],
  ])('%s', (_name, change, message) => expect(broken(change).join('\n')).toMatch(message))
})

test('a tall wall without an engineered plan is cautioned and blocked', () => {
  const { engineer: _, ...rest } = smallPlan
  expect(
    layoutOf({
      ...rest,
      grades: [
        { station: 0, toe: 10, top: 12 },
        { station: 9, toe: 10, top: 12 },
      ],
    }).cautions,
  ).toContainEqual(expect.objectContaining({ id: 'engineer', blocks: true }))
})
