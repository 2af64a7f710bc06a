// Which school the facts of a wall speak for, and why.
import { CHOICES, choiceDef, issueUnder, type EarlierPlan as Plan, type WallFacts, wallFacts } from '@stone-tally/core'
import { layoutOf, plain, smallPlan } from '../plans'
import { unitNamed } from '../walls'

const facts: WallFacts = {
  height: 1.3,
  unit: { height: 0.2, length: 0.45, mass: 34, profile: 'lug', hollow: true },
  courses: 7,
  pad: 'dense-graded',
  drains: true,
  frost: 0,
  slope: false,
  load: false,
  engineered: false,
  weakToe: false,
}
const says = (id: string, more: Partial<WallFacts> = {}) => {
  const found = choiceDef(id)?.recommend?.({ ...facts, ...more })
  return found ? [found.option, plain(found.because)] : []
}
const unit = (more: Partial<WallFacts['unit']>) => ({ unit: { ...facts.unit, ...more } })

test.each<[string, string, Partial<WallFacts>, string, RegExp]>([
  ['embedment', 'weak ground in front', { weakToe: true }, 'deepest', /falls away or washes out/],
  ['embedment', 'ground that freezes', { frost: 0.31 }, 'deepest', /freezes here/],
  ['embedment', 'three courses', { courses: 3 }, 'part-course', /It is 3 courses high/],
  ['pad-material', 'frost and somewhere lower', { frost: 0.1 }, 'open-graded', /Water can leave below it/],
  ['pad-material', 'nowhere lower', { drains: false, frost: 1 }, 'dense-graded', /would stand in it/],
  ['pad-test', 'an open pad', { pad: 'open-graded' }, 'method', /no density to test/],
  ['base-unit', 'a lip', unit({ profile: 'rear-lip' }), 'lip-off', /hold every unit off the pad/],
  ['level-interval', 'nine courses', { courses: 9 }, 'every', /little out below/],
  ['level-interval', 'an engineered wall', { engineered: true }, 'every', /little out below/],
  ['open-courses', 'tall hollow units', {}, 'one', /cannot be rodded/],
  ['adhesive', 'small stone', unit({ profile: 'landscape', mass: 19.9 }), 'each', /19\.9 kg is pushed off by a foot/],
  ['stone', 'light units', unit({ mass: 19.9 }), 'rodded', /move under a plate/],
  ['face-compactor', 'light units', unit({ mass: 19.9 }), 'hand', /19\.9 kg are pushed out/],
  ['grid-length', 'a slope', { slope: true }, 'height', /Ground rises/],
  ['grid-length', 'a load', { load: true }, 'height', /A load stands/],
])('%s with %s', (id, _what, more, option, because) => {
  const [taken, why] = says(id, more)
  expect(taken).toBe(option)
  expect(why).toMatch(because)
  expect(choiceDef(id)?.options.map((o) => o.id)).toContain(option)
})
test.each<[string, Partial<WallFacts>]>([
  ['embedment', { frost: 0.3 }],
  ['embedment', { courses: 4 }],
  ['pad-material', {}],
  ['pad-test', {}],
  ['base-unit', {}],
  ['level-interval', { courses: 8 }],
  ['open-courses', unit({ hollow: false })],
  ['open-courses', unit({ height: 0.15 })],
  ['adhesive', unit({ profile: 'landscape', mass: 20 })],
  ['adhesive', unit({ mass: 10 })],
  ['stone', unit({ mass: 20 })],
  ['face-compactor', unit({ mass: 20 })],
  ['grid-length', {}],
])('%s: facts that speak for none say none', (id, more) => expect(says(id, more)).toEqual([]))
test('what recommends nothing has no recommendation', () => {
  const silent = CHOICES.filter((c) => !c.recommend).map((c) => c.id)
  expect(silent).toEqual([
    'floor',
    'setback',
    'corner',
    'drain-seat',
    'pipe-sock',
    'fabric',
    'lift-thickness',
    'grid-start',
    'layer-edge',
    'top-row',
    'cap',
    'top-grade',
    'height-from',
    'second-eyes',
    'crew',
    'low-pipe',
    'waterproofing',
  ])
})

test('the facts of a wall, from its plan and layout', () => {
  const of = (more: object) => {
    const made = issueUnder({ ...smallPlan, ...more } as Plan, {})
    if (!made.ok) throw new Error('no plan')
    return wallFacts(layoutOf(made.value))
  }
  const plain_ = of({})
  expect(plain_).toMatchObject({
    courses: 7,
    pad: 'dense-graded',
    slope: false,
    load: false,
    engineered: true,
    weakToe: false,
  })
  expect(plain_.height).toBeCloseTo(1.3, 12)
  expect(plain_.unit).toEqual({ height: 0.2, length: 0.45, mass: 34, profile: undefined, hollow: true })
  expect(of({ holds: ['slope'] }).slope).toBe(true)
  for (const h of ['load', 'structure', 'tier']) expect(of({ holds: [h] }).load).toBe(true)
  expect(of({ holds: ['water'] }).load).toBe(false)
  expect(of({ engineer: undefined }).engineered).toBe(false)
  expect(of({ front: { slope: 0.11, erodible: false } }).weakToe).toBe(true)
  expect(of({ front: { slope: 0.1, erodible: false } }).weakToe).toBe(false)
  expect(of({ front: { slope: 0, erodible: true } }).weakToe).toBe(true)
  expect(of({ unit: unitNamed('lip-150') }).unit.hollow).toBe(false)
  // The lowest pad of the small wall stands at 9.8 m, its bottom at 9.65 m.
  const outlet = (invert: number) => of({ drain: { ...smallPlan.drain, outlets: [{ station: 9, invert }] } })
  expect([outlet(9.6).drains, outlet(9.7).drains]).toEqual([true, false])
})
