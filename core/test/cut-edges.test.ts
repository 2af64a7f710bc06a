// The cut people work in, at each of its limits and a millimetre beyond: what is asked for, and no less.
import { cutDepth, type Entry, KINDS, type Layout, limitsOf, roomBehind, type Verdict } from '@stone-tally/core'
import { entry, layoutOf, plain } from './plans'
import { started } from './started'

const kind = KINDS.find((k) => k.kind === 'cut') as (typeof KINDS)[number]
const base = layoutOf(started('hollow-core', {}))
/** The same wall before a bank that makes its cut so deep, m; by an engineer's plan or by none. */
function deep(depth: number, engineer: string | undefined = 'plan E-1'): Layout {
  const more = depth - cutDepth(base, 2)
  return { ...base, plan: { ...base.plan, engineer: engineer as string, grades: base.plan.grades.map((g) => ({ ...g, top: g.top + more })) } }
}
const good = { slope: 1.5, water: false, spoil: 1, plant: 1.5, ladder: 6, by: 'Rhea Moss' }
function judge(layout: Layout, data: object): Verdict | undefined {
  const of: Entry = entry('cut', { stage: 'dig', section: 'A', station: 2 }, data)
  return plain(kind.judge?.(of, { layout, stage: layout.system.stages.find((s) => s.id === 'dig'), find: () => undefined, of: () => [] }) as never)
}
const outs = (layout: Layout, data: object) => {
  const v = judge(layout, data)
  return v?.verdict === 'out' ? v.text : undefined
}
const limits = limitsOf(base.plan)

test('the made-up banks are as deep as they say', () => {
  for (const d of [1.2, 2, 6]) expect(cutDepth(deep(d), 2)).toBeCloseTo(d, 9)
})
test('up to the depth that buries nobody a side may stand; beyond it nothing goes without saying', () => {
  expect(outs(deep(1.2), { ...good, slope: 0 })).toBeUndefined()
  expect(outs(deep(1.21), { ...good, slope: 0 })).toMatch(/1.21 m deep and stands upright, at least 1.5H:1V: nobody goes in before it is laid back/)
  expect(outs(deep(1.21), { ...good, slope: undefined })).toMatch(/stands at no slope anybody gave, at least 1.5/)
  expect(outs(deep(1.21), good)).toBeUndefined()
  expect(outs(deep(1.21), { ...good, slope: 1.499 })).toMatch(/at least 1.5/)
})
test('clay stands steeper only where a named person saw it stiff, sound and dry', () => {
  const clay = { ...good, slope: limits.cutStiffClay.value, soil: 'stiff-clay', sound: true }
  expect(limits.cutStiffClay.value).toBeLessThan(1.5)
  expect(outs(deep(2), clay)).toBeUndefined()
  expect(outs(deep(2), { ...clay, slope: limits.cutStiffClay.value - 0.001 })).toMatch(/lay it back, or shore it/)
  for (const less of [
    { soil: undefined },
    { soil: 'sand' },
    { sound: false },
    { sound: undefined },
    { water: true },
    { water: undefined },
    { by: ' ' },
    { by: undefined },
  ])
    expect(outs(deep(2), { ...clay, ...less })).toMatch(/at least 1.5/)
})
test('what is shored or benched is so by somebody with a name; benches do not stand in the wet', () => {
  expect(outs(deep(2), { ...good, slope: 0, shored: true })).toBeUndefined()
  expect(outs(deep(2), { ...good, slope: 0, benched: true })).toBeUndefined()
  for (const by of [undefined, '', '  ']) {
    expect(outs(deep(2), { ...good, slope: 0, shored: true, by })).toMatch(/^shored, but nobody is named who decided how$/)
    expect(outs(deep(2), { ...good, slope: 0, benched: true, by })).toMatch(/^benched, but nobody is named who decided how$/)
  }
  expect(outs(deep(1.2), { ...good, shored: true, by: '' })).toBeUndefined()
  expect(outs(deep(2), { ...good, slope: 0, benched: true, water: true })).toMatch(/benches do not stand in wet soil/)
  expect(outs(deep(2), { ...good, slope: 0, benched: true, shored: true, water: true })).toBeUndefined()
})
test('a very deep cut is an engineer’s', () => {
  expect(outs(deep(6.01, ''), good)).toMatch(/a cut of 6.01 m is designed by an engineer; name the plan/)
  expect(outs(deep(6.01), good)).toBeUndefined()
  expect(outs(deep(6 - 1e-9, ''), good)).toBeUndefined()
})
test.each([
  ['spoil', limits.spoilSetback.value, -1, /spoil .* from the edge/, false],
  ['plant', limits.plantEdge.value, -1, /plant .* from the edge/, true],
  ['ladder', limits.ladder.value, 1, /to a ladder, at most/, true],
  ['width', base.building.foundation.width, -1, /wide, the pad needs/, false],
  ['behind', roomBehind(base), -1, /behind the face, the longest layer and its stone need/, false],
] as const)('%s: at its limit it will do, ten millimetres beyond it will not', (field, limit, worse, words, onlyDeep) => {
  expect(outs(deep(2), { ...good, [field]: limit })).toBeUndefined()
  expect(outs(deep(2), { ...good, [field]: limit + worse * 0.01 })).toMatch(words)
  const shallow = outs(deep(1), { ...good, [field]: limit + worse * 0.01 })
  if (onlyDeep) expect(shallow).toBeUndefined()
  else expect(shallow).toMatch(words)
})
