// The systems of block and stone, each by itself: its own words and stages, a wall of it built to the end, what it alone counts.
import { issueUnder, layOut, type EarlierPlan as Plan, quantities, SYSTEMS, systemOf, type WallSystem } from '@stone-tally/core'
import { build } from './build'
import { built, ENGINEERED, layoutOf, plain, smallPlan } from './plans'
import { at, planOn, unitNamed } from './walls'

const OWN = ['rear-lip', 'tongue-groove', 'pattern', 'landscape', 'glued'] as const
type Own = (typeof OWN)[number]
const UNIT: Record<Own, string> = {
  'rear-lip': 'lip-150',
  'tongue-groove': 'tongue-200',
  pattern: 'pattern-300',
  landscape: 'garden-100',
  glued: 'flat-75',
}
/** Low enough for small stone, bent so that there is a corner. */
const wall = (id: Own, corner = true, high = 0.55): Plan => {
  const unit = unitNamed(UNIT[id])
  const length = corner ? 8 : 6
  const of = planOn(corner ? [at(0, 0), at(4, 0), at(4, 4)] : [at(0, 0), at(6, 0)], false, {
    system: id,
    unit,
    embedment: [{ kind: 'courses', count: 1 }],
    grades: [
      { station: 0, toe: 10, top: 10 + high },
      { station: length, toe: 10, top: 10 + high },
    ],
    drain: { ...smallPlan.drain, outlets: [{ station: length, invert: 9.6 }] },
    pad: { ...smallPlan.pad, width: 0.6 },
    grid: [],
    sections: [{ id: 'B', from: 0, to: length }],
    holds: [],
  })
  const made = issueUnder({ ...of, ...ENGINEERED }, {})
  if (!made.ok) throw new Error(JSON.stringify(plain(made.problems)))
  return made.value
}
const system = (id: Own) => systemOf(id) as WallSystem
const words = (s: WallSystem) => JSON.stringify(plain(s.stages))

describe.each(OWN)('%s', (id) => {
  test('has units, words and stages of its own', () => {
    const s = system(id)
    expect(s.units.map((u) => u.id)).toContain(UNIT[id])
    expect(words(s)).not.toBe(words(systemOf('hollow-core') as WallSystem))
    expect(s.summary.length).toBeGreaterThan(40)
    expect(words(s)).not.toMatch(/\blug\b/i)
  })
  test.each([true, false])('a wall with a corner (%s) is built to its final release, and counted', (corner) => {
    const layout = layoutOf(wall(id, corner))
    const { order } = build(layout)
    expect(order[order.length - 1]).toBe('final||')
    const list = quantities(layout)
    expect(new Set(list.map((q) => q.id)).size).toBe(list.length)
    for (const q of list) expect(Number.isFinite(q.value)).toBe(true)
  })
  test('no unit is in two systems', () => {
    const ids = SYSTEMS.flatMap((s) => s.units.map((u) => u.id))
    expect(new Set(ids).size).toBe(ids.length)
  })
})

const amount = (p: Plan, id: string) => quantities(layoutOf(p)).find((q) => q.id === id)?.value
const stage = (p: Plan, id: string) => layoutOf(p).system.stages.find((s) => s.id === id)
const itemsOf = (p: Plan, id: string) => {
  const work = stage(p, id)?.work
  return work?.type === 'check' ? work.items.map((i) => i.text) : []
}

test('rear lip: lips to knock off are the units on the pad, on its upper steps too', () => {
  const flat = layoutOf(wall('rear-lip', false))
  const first = [...flat.cells.values()].find((c) => c.first)
  expect(amount(wall('rear-lip', false), 'lips')).toBe(first?.pieces.length)
  const stepped = {
    ...wall('rear-lip', false),
    grades: [
      { station: 0, toe: 10, top: 11 },
      { station: 6, toe: 10.5, top: 11.2 },
    ],
  } as Plan
  const laid = layOut(built(stepped))
  expect(laid.ok && laid.value.steps.length).toBeGreaterThan(1)
  const lowest = laid.ok ? [...laid.value.cells.values()].find((c) => c.first)?.pieces.length : 0
  expect(amount(stepped, 'lips')).toBeGreaterThan(lowest ?? 0)
  expect(itemsOf(wall('rear-lip'), 'bedding')).toContain('Lip knocked off every unit of this course, or recessed in the pad')
})
test('tongue and groove: no cut piece under half a unit where the bond can do without; corners take corner units', () => {
  const p = wall('tongue-groove', false)
  const odd = {
    ...p,
    length: 5.93,
    sections: [{ id: 'B', from: 0, to: 5.93 }],
    alignment: undefined,
    grades: p.grades.map((g) => ({ ...g, station: g.station === 0 ? 0 : 5.93 })),
    drain: { ...p.drain, outlets: [{ station: 5.93, invert: 9.6 }] },
  }
  const { alignment: _, ...plan } = odd
  const cuts = [...layoutOf(plan as Plan).cells.values()].flatMap((c) => c.pieces.filter((x) => x.kind === 'cut'))
  expect(cuts.length).toBeGreaterThan(0)
  for (const c of cuts) expect(c.length).toBeGreaterThanOrEqual(p.unit.length / 2 - 1e-6)
  expect(amount(wall('tongue-groove'), 'corner-units')).toBeGreaterThan(0)
})
test('pattern: told and ordered by shape; the first course is full-size only', () => {
  const layout = layoutOf(wall('pattern', false, 1.1))
  const shapes = (first: boolean) => new Set([...layout.cells.values()].filter((c) => c.first === first).flatMap((c) => c.pieces.map((x) => x.shape)))
  expect([...shapes(true)]).toEqual([undefined])
  expect(shapes(false).size).toBeGreaterThan(3)
  expect(plain(stage(wall('pattern'), 'units')?.title)).toBe('Band set')
})
test('small stone: over seven courses it is not this system; under, a crew builds it', () => {
  const cautions = (p: Plan) => plain(layoutOf(p).cautions.map((c) => c.message)).join(' ')
  expect(cautions({ ...wall('landscape', false, 0.9), engineer: undefined, engineerBy: undefined } as never)).toMatch(
    /courses of small stone high; over 7/,
  )
  expect(cautions({ ...wall('landscape', false, 0.4), engineer: undefined, engineerBy: undefined } as never)).not.toMatch(
    /courses of small stone high/,
  )
  expect(itemsOf(wall('landscape'), 'top')).toContain('Fabric laid over the second course from the top, so that the last ones hold it')
})
test('glued: every course above the first is glued, whatever the rules say of adhesive; cuts are gathered', () => {
  expect(stage(wall('glued'), 'adhesive')).toBeDefined()
  const none = issueUnder(wall('glued'), {
    company: { format: 'stone-tally-rules', version: 1, shipped: 2, choices: [{ choice: 'adhesive', option: 'none', why: 'x' }] } as never,
  })
  expect(none.ok && layoutOf(none.value).system.stages.some((s) => s.id === 'adhesive')).toBe(true)
  expect(amount(wall('glued'), 'saw-day')).toBeGreaterThan(0)
  expect(amount(wall('glued'), 'bed-adhesive')).toBeGreaterThan(0)
})
