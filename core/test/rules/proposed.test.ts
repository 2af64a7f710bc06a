import {
  answerIn,
  buildingOf,
  emptyRules,
  issueUnder,
  type Layout,
  limitsApart,
  type Plan,
  plantRule,
  proposeLayers,
  type Rules,
  SYSTEMS,
  systemOf,
  type Unit,
  withAnswerTo,
} from '@stone-tally/core'
import { judge } from '../cautious/wall'
import { built, ENGINEERED, layoutOf, plain, smallPlan } from '../plans'
import { unitNamed } from '../walls'

const under = (plan: Plan, company: Partial<Rules> = {}): Plan => {
  const made = issueUnder(plan, { company: { ...emptyRules(), ...company } })
  if (!made.ok) throw new Error(JSON.stringify(plain(made.problems)))
  return made.value
}
const school = (...list: string[]) => ({
  choices: list.map((c) => ({ choice: c.split(' ')[0] as string, option: c.split(' ')[1] as string, why: 'x' })),
})
/** 0.7 m shown on level ground with nothing above it: a crew's wall, 1.05 m from the bottom of its pad. */
const low: Plan = withAnswerTo(
  {
    ...built(smallPlan),
    engineer: undefined,
    holds: [],
    front: { slope: 0, erodible: false },
    frost: 0,
    grades: [0, 9].map((station) => ({ station, toe: 10, top: 10.7 })),
  },
  'grid',
  [],
)

describe('layers proposed where no engineer’s plan governs', () => {
  const of = (layout: Layout) => {
    const made = proposeLayers(layout)
    return made.ok ? made.value.map((l) => [l.course, l.length]) : plain(made.problems.map((p) => `${p.field}: ${p.message}`).join())
  }
  const wall = (...schools: string[]) => layoutOf(under(low, school(...schools)))
  test('from the first joint or the second course, on every second one, as long as the school says', () => {
    // Built height by hand: 0.15 m of pad, four courses of 0.2 m, 0.1 m of cap: 1.05 m.
    expect(of(wall('grid-start first-joint', 'grid-length seven-tenths'))).toEqual([
      [1, 0.8],
      [3, 0.8],
    ])
    expect(of(wall('grid-start second-course', 'grid-length height'))).toEqual([[2, 1.1]])
  })
  test('never shorter than the limit of the rules, whatever the school', () => {
    const made = layoutOf(
      under(low, {
        ...school('grid-start second-course', 'grid-length six-tenths'),
        limits: [{ limit: 'gridShare', value: 0.8, unit: 'share', why: 'x' }],
      }),
    )
    expect(of(made)).toEqual([[2, 0.9]])
  })
  test('closer where two courses are further apart than layers may be', () => {
    const high = withAnswerTo(low, 'unit', { ...unitNamed('lug-200'), height: 0.31 })
    const layout = layoutOf(under(high, school('grid-start second-course')))
    expect(buildingOf(layout.plan).course(1).height * 2).toBeGreaterThan(0.6)
    expect(of(layout)).toEqual([
      [1, expect.any(Number)],
      [2, expect.any(Number)],
    ])
  })
  test('none for a wall that is an engineer’s, none where the rules propose none', () => {
    const tall = { ...low, grades: [0, 9].map((station) => ({ station, toe: 10, top: 11.6 })) }
    expect(of(layoutOf(under(tall, school('grid-start first-joint'))))).toMatch(/^system.data.layers: are the engineer’s here: it stands/)
    expect(of(layoutOf(under({ ...low, holds: ['slope'] }, school('grid-start first-joint'))))).toMatch(
      /the ground behind it rises, nobody has said how steeply/,
    )
    expect(of(wall('grid-start as-planned'))).toMatch(/proposes none/)
    const glued = layoutOf(under({ ...low, system: { ...low.system, id: 'glued' } }, school('grid-start first-joint')))
    expect(of(glued)).toMatch(/are not laid in a wall of glued flat stone/)
  })
})

describe('schools that a new wall starts from', () => {
  const s = systemOf('hollow-core') as NonNullable<ReturnType<typeof systemOf>>
  const start = (choice: string, option: string) =>
    s.start(s.units[0] as Unit, { value: (n) => (n === 'embedShare' ? 10 : 0.15), school: (c) => (c === choice ? option : 'none') })
  test.each([
    ['deepest', ['fixed', 'fraction', 'courses']],
    ['fixed', ['fixed']],
    ['fixed-and-height', ['perHeight']],
    ['fraction', ['fraction']],
    ['whole-course', ['courses']],
    ['part-course', ['fixed']],
  ])('embedment %s', (option, kinds) =>
    expect((answerIn(start('embedment', option), 'embedment') as { kind: string }[]).map((e) => e.kind)).toEqual(kinds),
  )
  test('corner units only where corners are turned with them', () => {
    const of = (option: string) => answerIn(start('corner', option), 'unit.cornerLength')
    expect([of('corner-units') !== undefined, of('mitred'), of('broken')]).toEqual([true, undefined, undefined])
  })
})

test('a hand tamper at the face where the rules ask for one: a plate that came nearer is out', () => {
  const data = (more: object) => ({ lift: 1, thickness: 0.07, passes: 6, plant: 'light-plate', fill: 'granular', ...more })
  const at = { stage: 'backfill', section: 'B', course: 1 }
  const of = (plan: Plan, more: object) => judge(plan as never, 'lift', at, data(more))
  const hand = under(built({ ...smallPlan, ...ENGINEERED }), school('face-compactor hand'))
  const plate = under(built({ ...smallPlan, ...ENGINEERED }))
  expect(of(hand, { near: 0.6 })).toMatchObject({
    verdict: 'out',
    text: expect.stringMatching(/light plate 600 mm from the face, where its rules have a hand tamper within 1 m/),
  })
  expect([of(hand, { near: 1 })?.verdict, of(hand, { near: 0.3, plant: 'hand-tamper' })?.verdict, of(plate, { near: 0.6 })?.verdict]).toEqual([
    'ok',
    'ok',
    'ok',
  ])
})

test('passes by plant and material stand in the book', () => {
  const plan = under(low, { limits: [{ limit: 'passesLight', value: 5, unit: 'passes', why: 'our plate is light' }] })
  expect([
    plantRule(plan, 'light-plate', 'granular').passes,
    plantRule(plan, 'light-plate', 'fine').passes,
    plantRule(plan, 'roller', undefined).passes,
  ]).toEqual([5, 4, 6])
  // What no company sets is as before; the limit of all plant is still the floor.
  expect(plantRule(under(low), 'hand-tamper', 'fine').passes).toBe(6)
  expect(plantRule(under(low, { limits: [{ limit: 'passes', value: 8, unit: 'passes', why: 'x' }] }), 'roller', 'granular').passes).toBe(8)
})

test('a wall is shown the limits of its own system, and those that no stage names', () => {
  const apart = (id: string) => limitsApart(systemOf(id) as never, SYSTEMS)
  expect([apart('hollow-core').has('basketLevel'), apart('gabion').has('basketLevel')]).toEqual([true, false])
  expect([apart('gabion').has('overhangMax'), apart('hollow-core').has('overhangMax')]).toEqual([true, false])
  expect(apart('hollow-core').has('compaction')).toBe(false)
})
