// Rule table 2: when a wall is an engineer's, and what the ground round it asks.
import { admit, barriers, builtHeight, type Entry, fold, issued, type EarlierPlan as Plan, stepKey } from '@stone-tally/core'
import * as fc from 'fast-check'
import { good } from '../build'
import { built, entry, layoutOf, NOW, plain, recorded, SIGNED, smallPlan } from '../plans'
import { Site } from '../site'
import { at, planOn, unitNamed } from '../walls'

const { engineer: _, ...bare } = smallPlan
/** A low wall of deep units that a crew may build by itself: 0.8 m from the bottom of the pad. */
const low: Plan = issued(
  {
    ...bare,
    holds: [],
    front: { slope: 0, erodible: false },
    frost: 0,
    grid: [],
    grades: [
      { station: 0, toe: 10, top: 10.3 },
      { station: 9, toe: 10, top: 10.3 },
    ],
  } as Plan,
  2,
)
const cautions = (plan: Plan, id = 'engineer') =>
  plain(
    layoutOf(plan)
      .cautions.filter((c) => c.id === id)
      .map((c) => c.message),
  )
const with_ = (change: object, of = low): Plan => ({ ...of, ...change }) as Plan

describe('the engineer’s gate', () => {
  test('a low wall on level ground is a crew’s', () => {
    const { steps, tops } = layoutOf(low)
    // By hand: 0.2 m buried, 0.3 m shown rounded up to two courses of 0.2 and one more, 0.1 m of cap, 0.15 m of pad.
    expect(builtHeight(built(low), steps, tops).height).toBeCloseTo(0.15 + 0.4 + 0.1, 9)
    expect(cautions(low)).toEqual([])
  })
  test('a level top that shows 2.5 m is not a wall of 1 m', () => {
    const level = with_({
      top: { style: 'level' },
      grades: [
        { station: 0, toe: 10, top: 11 },
        { station: 9, toe: 11.5, top: 12.5 },
      ],
    })
    const { ruleTable: _, ...old } = level
    expect(plain(layoutOf(old as Plan).cautions).filter((c) => c.id === 'engineer')).toEqual([])
    expect(cautions(level)[0]).toMatch(/stands 2\.\d\d m from the bottom of the pad to its top at 0\.00, over 1\.2 m/)
    // And what is buried follows what shows: a tenth of 2.5 m.
    const tenth = { embedment: [{ kind: 'fraction' as const, fraction: 0.1 }] }
    expect([layoutOf({ ...level, ...tenth }).buried.depth, layoutOf({ ...(old as Plan), ...tenth }).buried.depth].map((d) => +d.toFixed(3))).toEqual([
      0.25, 0.1,
    ])
  })
  test('what is buried counts; a rule may count from the underside of the first course', () => {
    const grades = [0, 9].map((station) => ({ station, toe: 10, top: 10.8 }))
    const wall = with_({ grades, unit: { ...smallPlan.unit, depth: 0.5 }, pad: { ...smallPlan.pad, width: 0.8 } })
    expect(cautions(wall)[0]).toMatch(/1\.25 m from the bottom of the pad/)
    expect(cautions(with_({ rules: { heightFrom: 'first-course' } }, wall))).toEqual([])
  })
  test.each(['slope', 'load', 'water', 'structure', 'tier', 'seismic'] as const)('%s makes it an engineer’s at any height', (h) =>
    expect(cautions(with_({ holds: [h] }))).toHaveLength(1),
  )
  test('nobody has said what it holds: asked before digging', () => {
    const { holds: _, ...unsaid } = low
    expect(cautions(unsaid as Plan, 'holds')[0]).toMatch(/Nobody has said what the wall holds/)
    expect(cautions(with_({ engineer: 'plan E-1' }, unsaid as Plan), 'holds')).toEqual([])
  })
  test('baskets on the depth of one basket, and a wall too slim for its units', () => {
    const one = planOn([at(0, 0), at(9, 0)], false, { system: 'gabion', unit: unitNamed('basket-2x1x1'), pad: { ...smallPlan.pad, width: 1.3 } })
    const two = { ...one, grades: one.grades.map((g) => ({ ...g, top: 11.6 })) }
    expect(cautions(issued({ ...two, engineer: undefined, holds: [] }, 2))[0]).toMatch(/2 rows of baskets stand on the depth of one/)
    const slim = with_({ unit: { ...smallPlan.unit, depth: 0.29 }, grades: [0, 9].map((station) => ({ station, toe: 10, top: 10.6 })) })
    expect(cautions(slim)[0]).toMatch(/3\.\d times as high as its units are deep, over 3/)
    expect(cautions(with_({ unit: { ...slim.unit, depth: 0.4 } }, slim))).toEqual([])
  })
  test.each([
    [{ engineer: 'plan E-1' }, /Enter who made it, with licence or reference in the plan/],
    [{ engineerBy: 'E. Record, 4711' }, /Enter the engineered plan in the plan/],
    [{}, /Enter the engineered plan and who made it/],
    [{ engineer: '  ', engineerBy: '-' }, /Enter the engineered plan and who made it/],
  ])('%j is not enough', (named, message) => expect(cautions(with_({ holds: ['load'], ...named }))[0]).toMatch(message))
  test('plan and author open it', () => expect(cautions(with_({ holds: ['load'], engineer: 'plan E-1', engineerBy: 'E. Record, 4711' }))).toEqual([]))
  test('a revision that crosses the threshold stops the courses too, until the plan and its author are there', () => {
    const site = new Site(low).toFirstCourse()
    const grown = with_({ grades: low.grades.map((g) => ({ ...g, top: 11.2 })) })
    const revised = (plan: Plan) => fold([layoutOf(low), layoutOf(plan)], recorded(site.entries))
    const state = revised(grown)
    const line = state.byKey.get(stepKey({ stage: 'units', section: 'B', course: 2 }))
    expect(line && plain(barriers(state, line)).some((b) => b.force === 'hard' && /engineer's/.test(b.message))).toBe(true)
    const [next] = good(state.byKey.get(stepKey({ stage: 'line', section: 'B', course: 1 })) as never)
    const refused = admit(state, { ...(next as Entry), revision: 2 }, NOW)
    expect(refused.ok ? '' : plain(refused.problems[0]?.message)).toMatch(/engineer's/)
    const signed = revised({ ...grown, engineer: 'plan E-2', engineerBy: 'E. Record, 4711' })
    expect(admit(signed, { ...(next as Entry), revision: 2 }, NOW).ok).toBe(true)
  })
  test('the release before digging waits for it', () => {
    const site = new Site(with_({ holds: ['water'] })).work('services').work('set-out')
    const release = entry('release', { stage: 'set-out' }, { decision: 'released', reason: 'seen', signature: SIGNED })
    expect(site.refusal(release)).toMatch(/standing or flowing water/)
  })
  test('more cautious is never kinder: higher, more around it', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.25, max: 1.5, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (shown, more) => {
        const tall = (h: number) => cautions(with_({ grades: low.grades.map((g) => ({ ...g, top: g.toe + h })) })).length
        if (tall(shown) > 0) expect(tall(shown + more)).toBeGreaterThan(0)
      }),
      { numRuns: 60 },
    )
  })
})

describe('the ground round it', () => {
  test.each([
    // H/5, H/7 and H/10 of what shows, where the ground falls 1 in 1.5, 2 and 3 (code practice for walls above a slope).
    [0.67, 1.4, /bury at least 280 mm, the plan buries 200 mm, with at least 1\.2 m of level ground/],
    [0.5, 1.75, /bury at least 250 mm/],
    [0.33, 2.2, /bury at least 220 mm/],
    [0.33, 1.9, /200 mm is buried/],
    [0.2, 1, /200 mm is buried, with at least 1\.2 m/],
  ])('falling %d with %d m shown', (slope, shown, message) => {
    const wall = with_({ front: { slope, erodible: false }, grades: low.grades.map((g) => ({ ...g, top: g.toe + shown })) })
    expect(cautions(wall, 'front')[0]).toMatch(message)
  })
  test('level ground says nothing; unsaid is asked; washing out is said; hardly buried is said', () => {
    expect(cautions(low, 'front')).toEqual([])
    const { front: _, ...unsaid } = low
    expect(cautions(unsaid as Plan, 'front')[0]).toMatch(/Nobody has said how the ground in front/)
    expect(cautions(with_({ front: { slope: 0, erodible: true } }), 'erodible')).toHaveLength(1)
    expect(cautions(with_({ embedment: [{ kind: 'fixed', depth: 0.02 }] }), 'buried')[0]).toMatch(/Only 20 mm is buried/)
  })
  test('frost is a depth of the place', () => {
    const { frost: _, ...unsaid } = low
    expect(cautions(unsaid as Plan, 'frost')[0]).toMatch(/not in the plan/)
    // 0.2 m buried and 0.15 m of pad.
    expect(cautions(with_({ frost: 0.35 }), 'frost')).toEqual([])
    expect(cautions(with_({ frost: 0.36 }), 'frost')[0]).toMatch(/Frost goes 0\.36 m deep here, the bottom of the pad lies 0\.35 m/)
  })
  test('a plan that lays a deep cut back too little says so', () => {
    const deep = with_({ grades: low.grades.map((g) => ({ ...g, top: 11.2 })) })
    expect(cautions(deep, 'cut-slope')[0]).toMatch(/1\.\d\d m back at 0\.5 across per 1 up/)
    expect(cautions(with_({ excavation: { behind: 1.2, slope: 1.5 } }, deep), 'cut-slope')).toEqual([])
    expect(cautions(low, 'cut-slope')).toEqual([])
  })
})
