import { copyOfPlan, cutList, fewestCuts, issued, layOut, ofLength, type Plan, SYSTEMS, startPlan, wayOf } from '@stone-tally/core'
import fc from 'fast-check'
import { built, ENGINEERED, smallPlan } from './plans'
import { startedLayout } from './started'

const TODAY = '2026-05-18'

describe('a wall to begin with', () => {
  test.each(SYSTEMS.map((s) => [s.id, s] as const))('%s: straight, level, and it can be drawn', (_, system) => {
    for (const length of [4, 12]) {
      const plan = startPlan(system, length)
      expect(plan.length).toBe(length)
      const laid = layOut(issued(plan))
      expect(laid.ok ? laid.value.courses.length : laid.problems).toBeGreaterThan(0)
    }
  })
})

describe('a wall copied', () => {
  const plan = {
    ...built(smallPlan),
    drawing: 'D-7',
    ...ENGINEERED,
    ruleTable: 2,
    holds: [],
    front: { slope: 0, erodible: false },
    frost: 0.8,
  } as Plan
  const limits = [{ limit: 'padLevel', value: 0.004, source: 'D-7, note 3' }]
  test('keeps what a wall is, and nothing that belongs to the other alone', () => {
    const copy = copyOfPlan({ ...plan, rules: { ...plan.rules, limits, openCourses: 2 } } as Plan, 'Copy')
    for (const gone of [
      'drawing',
      'engineer',
      'engineerBy',
      'engineerLicence',
      'engineerOn',
      'engineerCovers',
      'asked',
      'ruleTable',
      'book',
      'holds',
      'front',
      'frost',
      'obstacles',
      'references',
    ])
      expect(copy).not.toHaveProperty(gone)
    expect(copy).toMatchObject({ name: 'Copy', length: plan.length, grades: plan.grades, system: plan.system })
    expect(copy.rules).toEqual({ ...plan.rules, openCourses: 2 })
    expect(plan.drawing).toBe('D-7')
  })
  test('limits of the other drawing alone leave no rules behind', () => {
    const { rules: _r, ...bare } = plan
    expect(copyOfPlan({ ...bare, rules: { limits } } as Plan, 'Copy')).not.toHaveProperty('rules')
  })
})

describe('what a way of building takes', () => {
  test.each(SYSTEMS.map((s) => s.id))('%s: numbers that can be held beside each other', (id) => {
    const w = wayOf(startedLayout(id), TODAY)
    for (const [name, v] of Object.entries(w)) expect([name, Number.isFinite(v), v >= 0]).toEqual([name, true, true])
    expect(w.courses).toBeGreaterThan(0)
    expect(w.units).toBeGreaterThan(0)
    expect(w.days).toBeGreaterThan(0)
    expect(w.loads).toBeGreaterThan(0)
  })
  test('a longer and a higher wall takes more of everything that grows', () => {
    const small = wayOf(startedLayout('landscape', { length: 8 }), TODAY)
    const large = wayOf(startedLayout('landscape', { length: 16 }), TODAY)
    for (const k of ['units', 'dig', 'pad', 'stone', 'backfill', 'days'] as const) expect(large[k]).toBeGreaterThan(small[k])
  })
})

describe('a length that takes fewer cuts', () => {
  const wall = (length: number, id = 'landscape') => startedLayout(id, { length }).plan
  test('on generated walls: never worse than given, within the play, the bound below both, and what it says is so', () => {
    fc.assert(
      fc.property(fc.integer({ min: 300, max: 900 }), fc.constantFrom('landscape', 'hollow-core', 'rear-lip'), (cm, id) => {
        const plan = wall(cm / 100, id)
        const made = fewestCuts(plan, 0.12)
        if (!made.ok) throw new Error(made.problems[0]?.message)
        const { length, cuts, given, bound, tried } = made.value
        expect(cuts).toBeLessThanOrEqual(given.cuts)
        expect(bound).toBeLessThanOrEqual(cuts)
        expect(Math.abs(length - plan.length)).toBeLessThanOrEqual(0.12 + 1e-9)
        expect(tried).toBeLessThanOrEqual(25)
        const laid = layOut(ofLength(plan, length))
        expect(laid.ok && cutList(laid.value).pieces.length).toBe(cuts)
      }),
      { numRuns: 15, seed: 5 },
    )
  })
  test('told to stop it stops with the best so far; a wall on a line of its own is refused, a play that is none too', () => {
    let asked = 0
    const made = fewestCuts(wall(5.13), 0.3, () => ++asked < 2)
    expect(made.ok && made.value.tried).toBeLessThanOrEqual(5)
    const lined = {
      ...wall(5),
      alignment: {
        vertices: [
          { easting: 0, northing: 0 },
          { easting: 5, northing: 0 },
        ],
        closed: false,
      },
    } as Plan
    expect(fewestCuts(lined, 0.1)).toMatchObject({ ok: false, problems: [{ field: 'length' }] })
    for (const play of [0, -1, 5, Number.NaN]) expect(fewestCuts(wall(5), play)).toMatchObject({ ok: false, problems: [{ field: 'play' }] })
  })
})
