// What a gabion wall may be beside the common one: how it is filled, joined, leaned, how deep its foot is, what lies before it.
import { buildingOf, type Plan, quantities, readPlan, sectionAt, stepsOf, targetAt, verdictOf } from '@stone-tally/core'
import { build } from './build'
import { entry, plain } from './plans'
import { Site } from './site'
import { started, startedLayout } from './started'

/** Its part, as far as it is changed here. */
type Part = Record<string, unknown> & { readonly foundation: object }
const changed = (change: (d: Part) => object) => change as never
const tall: Partial<Plan> = {
  length: 8,
  grades: [
    { station: 0, toe: 10, top: 12.6 },
    { station: 8, toe: 10, top: 12.6 },
  ],
}
const deep = [
  { courses: 1, baskets: 3 },
  { courses: 2, baskets: 2 },
]
const wide = (d: Part) => ({ ...d, deep, foundation: { ...d.foundation, width: 3.4 } })

test('a foot three baskets deep: drawn, counted and weighed as deep as it is, stepping in where the plan has it', () => {
  const layout = startedLayout('gabion', tall, changed(wide))
  expect([1, 2, 3, 4].map((n) => buildingOf(layout.plan).course(n).depth)).toEqual([3, 2, 1, 1])
  const shape = (course: number) => layout.system.outline(layout.plan.system.data, course)
  expect([Math.max(...shape(1).body.map((p) => p[0])), shape(1).lines?.length, shape(3).lines?.length]).toEqual([3, 2, 0])
  const q = (id: string, of = layout) => quantities(of).find((x) => x.id === id)?.value as number
  const plainly = startedLayout(
    'gabion',
    tall,
    changed((d) => ({ ...d, foundation: { ...d.foundation, width: 3.4 } })),
  )
  const rows = layout.courses.length
  // One row three deep, one two deep, the others one: so many baskets' worth of stone.
  expect(q('rock')).toBeCloseTo((q('rock', plainly) / rows) * (rows + 3), 6)
  expect(q('lids')).toBe(q('lids', plainly) + q('behind'))
  // What is hung, laced and braced goes by every basket, not by those that are seen.
  expect(q('panels')).toBeCloseTo(q('lids'), 6)
  expect(q('bracing')).toBe((q('bracing', plainly) / rows) * (rows + 3))
  // Three rows' worth of 8 m, four long edges each, and the edges of the ends of every basket behind.
  expect(q('lacing') - q('lacing', plainly)).toBeCloseTo(3 * 8 * 4 + q('behind') * 4, 6)
  expect(q('spirals')).toBe(Math.ceil(q('lacing')))
  expect(sectionAt(layout, 4).courses).toHaveLength(rows)
  expect(build(layout).order.pop()).toBe('final||')
})
test('depths out of order, a foot wider than its pad, half a mattress: refused at their field', () => {
  const bad = (change: (d: Part) => object) => {
    const plan = started('gabion', tall)
    const read = readPlan({ ...plan, system: { id: 'gabion', data: change(plan.system.data as Part) } })
    return read.ok ? [] : read.problems.map((p) => `${p.field}: ${plain(p.message)}`)
  }
  expect(bad((d) => ({ ...wide(d), deep: [...deep].reverse() }))).toContainEqual(expect.stringMatching(/deep\[1\].courses: list the deepest first/))
  expect(bad((d) => ({ ...d, deep }))).toContainEqual(expect.stringMatching(/foundation.width: .* narrower than the foot, 3.00 m deep/))
  expect(bad((d) => ({ ...d, mattress: { out: 1.5 } }))).toContainEqual(expect.stringMatching(/mattress.thickness/))
})
test('a tilted base is read falling into the slope, a stepped one level', () => {
  const at = (lean: string, offset: number) =>
    targetAt(
      startedLayout(
        'gabion',
        tall,
        changed((d) => ({ ...d, lean })),
      ),
      'pad',
      { stage: 'pad-level', section: 'A', station: 4, offset },
    )
  expect(at('step', 0.9) - at('step', 0)).toBe(0)
  expect(at('tilt', 0.9) - at('tilt', 0)).toBeCloseTo(-0.09, 9)
  expect(at('tilt', -0.2) - at('tilt', 0)).toBeCloseTo(0.02, 9)
})
test('stones are one to two meshes wide, by the mesh of the plan; by the rules where it says nothing', () => {
  const found = (part: (d: Part) => object, id: string, value: number) => {
    const site = new Site(started('gabion', tall, changed(part)))
    const { stage } = site.step('fill', 'A', 1)
    const m = stage.work.type === 'check' ? stage.work.measures?.find((x) => x.id === id) : undefined
    return [m?.least ?? m?.most, value]
  }
  expect(found((d) => ({ ...d, mesh: 0.08 }), 'stone-least', 0)[0]).toBeCloseTo(0.08, 9)
  expect(found((d) => ({ ...d, mesh: 0.08 }), 'stone-most', 0)[0]).toBeCloseTo(0.16, 9)
  expect(found(({ mesh: _, ...d }) => d, 'stone-least', 0)[0]).toBe('gabionStoneMin')
})
test('choices change what is done, and two walls of other choices do not share their stages', () => {
  const words = (part: object) =>
    JSON.stringify(
      startedLayout(
        'gabion',
        tall,
        changed((d) => ({ ...d, ...part })),
      ).system.stages,
    )
  expect(words({ chains: 'yes' })).toMatch(/Laced into chains on the ground/)
  expect(words({ joint: 'ring' })).toMatch(/Rings closed with the tool/)
  expect(words({ face: 'machine' })).toMatch(/behind a stiff form/)
  expect(words({ face: 'hand' })).toMatch(/Face laid by hand/)
  expect(words({})).not.toMatch(/Mattress/)
})
test('a mattress is laid before the baskets stand on the edge of its bed, and counted', () => {
  const layout = startedLayout(
    'gabion',
    tall,
    changed((d) => ({ ...d, mattress: { thickness: 0.3, out: 1.5 } })),
  )
  expect(stepsOf(layout).some((s) => s.stage.id === 'mattress')).toBe(true)
  expect(quantities(layout).find((q) => q.id === 'mattress')?.value).toBeCloseTo(8 * 1.5, 6)
})
test('on undisturbed floor no pad is placed; its level is released all the same', () => {
  const layout = startedLayout(
    'gabion',
    tall,
    changed((d) => ({ ...d, foundation: { kind: 'floor', thickness: 0, width: 1.4, minRun: 1.2 } })),
  )
  const { order } = build(layout)
  expect([order.includes('pad|A|'), order.includes('pad-level|A|')]).toEqual([false, true])
  expect(quantities(layout).some((q) => q.id === 'pad')).toBe(false)
})
test('a plan of before says nothing of all that and stays as it was', () => {
  const plan = started('gabion', tall)
  const { face: _a, joint: _b, lean: _c, chains: _d, mesh: _e, deep: _f, ...old } = plan.system.data as Part
  const site = new Site({ ...plan, system: { id: 'gabion', data: old } })
  const fill = site.step('fill', 'A', 1).stage
  expect(fill.work.type === 'check' && fill.work.items.map((i) => i.id)).toEqual(['hand-faced', 'braced', 'full'])
  expect(quantities(site.state.layout).some((q) => ['spirals', 'rings', 'behind', 'mattress'].includes(q.id))).toBe(false)
})
test('stone by its tickets against what the baskets hold: too little is voids, too much bulges', () => {
  const site = new Site(started('gabion', tall))
  // A row of 8 m, a metre high and deep, 65 hundredths of it rock of 2,600 kg/m³: 13,520 kg, give or take 15 per cent.
  const found = (value: number) =>
    plain(
      verdictOf(site.state, entry('check', { stage: 'fill', section: 'A', course: 1 }, { confirmed: [], measured: [{ id: 'tickets', value }] }))
        ?.text,
    ) ?? ''
  expect([found(11_492), found(15_548)]).toEqual(['', ''])
  expect(found(11_400)).toMatch(/11,400 kg, at least 11,492 kg/)
  expect(found(15_600)).toMatch(/15,600 kg, at most 15,548 kg/)
})
