import { compareLayouts, fold, type EarlierPlan as Plan, unmatched } from '@stone-tally/core'
import { entry, layoutOf, plain, recorded, smallPlan } from './plans'
import { at, planOn } from './walls'

const changed = (change: (p: Plan) => void): Plan => {
  const plan = structuredClone(smallPlan)
  change(plan)
  return plan
}
const texts = (plan: Plan, from = smallPlan) => compareLayouts(layoutOf(from), layoutOf(plan)).map((c) => plain(c.text))

describe('two revisions compared', () => {
  test('the same plan has no difference', () => expect(texts(structuredClone(smallPlan))).toEqual([]))
  test.each([
    ['pad', (p: Plan) => void (p.pad.thickness = 0.2), /^Pad: dense-graded, 0.15 m thick.*→.*0.2 m thick/],
    ['grid longer', (p: Plan) => void (p.grid = [{ course: 2, length: 1.4, type: 'uniaxial 30' }]), /Geogrid on course 2: 1.2 m uniaxial 30 → 1.4 m/],
    ['grid out', (p: Plan) => void (p.grid = []), /Geogrid on course 2 taken out/],
    ['grid in', (p: Plan) => void p.grid.push({ course: 4, length: 1.2, type: 'x' }), /Geogrid on course 4 added: 1.2 m x/],
    ['outlet', (p: Plan) => void (p.drain.outlets[0] = { station: 8, invert: 9.85 }), /Drain: .*outlets at 9 m.*→.*outlets at 8 m/],
    ['toe', (p: Plan) => void (p.grades[0] = { station: 0, toe: 10.2, top: 11.3 }), /Toe grade: up to \d+ mm lower, 0.0 m to /],
    ['top', (p: Plan) => void (p.grades[1] = { station: 9, toe: 10, top: 11.5 }), /Top of units: up to 200 mm higher/],
    [
      'culvert',
      (p: Plan) => void (p.openings = [{ name: 'culvert', station: 5, width: 0.5, bottom: 10, height: 0.5 }]),
      /Openings: none → culvert at 5 m/,
    ],
  ])('%s', (_name, change, message) => expect(texts(changed(change)).join('\n')).toMatch(message))
  test('a line that moved is told with where and which way', () => {
    const before = planOn([at(0, 0), at(10, 0), at(20, 0)], false)
    const after = planOn([at(0, 0), at(10, 0.3), at(20, 0)], false)
    expect(texts(after, before).join('\n')).toMatch(/Face line moved: up to (29|30)\d mm into the fill, \d\.\d m to 20\.0 m/)
  })
})

describe('recorded work that no longer matches', () => {
  const entries = () =>
    recorded([
      entry('check', { stage: 'set-out' }, { confirmed: ['line', 'second', 'benchmark'] }),
      entry('reading', { stage: 'dig', section: 'A', station: 1 }, { method: 'deviation', value: 0 }),
      entry('units', { stage: 'units', section: 'B', course: 1 }, { set: 3 }),
      entry('geogrid', { stage: 'grid', section: 'B', course: 2 }, { length: 1.2 }),
    ])
  const after = (change: (p: Plan) => void) => unmatched(fold([layoutOf(), layoutOf(changed(change))], entries()))
  test('nothing where nothing changed', () => expect(plain(after(() => {}))).toEqual([]))
  test('a dig target that moved', () => {
    const found = after((p) => void (p.pad.thickness = 0.2))
    expect(plain(found.map((u) => [u.key, u.message]))).toEqual([['dig|A|', 'its target is now 50 mm lower']])
    expect(found[0]?.entries).toHaveLength(1)
  })
  test('a layer placed that the plan changed or took out', () => {
    expect(plain(after((p) => void (p.grid = [{ course: 2, length: 1.4, type: 'uniaxial 40' }]))[0]?.message)).toBe(
      'placed as 1.20 m uniaxial 30; the plan now asks for 1.40 m uniaxial 40',
    )
    expect(plain(after((p) => void (p.grid = []))[0]?.message)).toMatch(/no such step/)
  })
  test('units of a course that is cut otherwise now', () => {
    const found = after(
      (p) =>
        void (p.sections = [
          { id: 'A', from: 0, to: 3 },
          { id: 'B', from: 3, to: 9 },
        ]),
    )
    expect(plain(found.find((u) => u.key === 'units|B|1')?.message)).toMatch(/\d+ units were planned, now \d+|joints are planned elsewhere/)
  })
  test('a set-out verified before the line moved', () => {
    const found = after(
      (p) =>
        void (p.alignment = {
          vertices: [
            { easting: 0, northing: 0.2 },
            { easting: 9, northing: 0.2 },
          ],
          closed: false,
        }),
    )
    expect(plain(found.find((u) => u.key === 'set-out||')?.message)).toBe('the face line moved by up to 200 mm since')
  })
  test('what was corrected, or recorded under the plan in force, is not told', () => {
    const list = entries()
    const first = list[1]?.entry
    const fix = recorded([
      entry('reading', { stage: 'dig', section: 'A', station: 1 }, { method: 'deviation', value: 0.001 }, { revision: 2, supersedes: first?.id }),
    ])
    const state = fold([layoutOf(), layoutOf(changed((p) => void (p.pad.thickness = 0.2)))], [...list, ...fix.map((r) => ({ ...r, seq: 9 }))])
    expect(unmatched(state)).toEqual([])
  })
})
