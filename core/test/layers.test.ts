import { layerSchedule, type EarlierPlan as Plan, rollCuttings } from '@stone-tally/core'
import { layoutOf, plain, smallPlan } from './plans'
import { at, planOn } from './walls'

const layers: Plan['grid'] = [
  { course: 2, length: 1.5, type: 'uniaxial 40' },
  { course: 4, length: 1.2, type: 'uniaxial 30' },
]
const tall = (plan: Plan): Plan => ({ ...plan, grid: layers, gridRolls: [{ type: 'uniaxial 40', width: 1.8, length: 20 }] })

describe('layer schedule', () => {
  test('section by section from the lowest, strips as wide as the roll', () => {
    const list = layerSchedule(layoutOf(tall(smallPlan)))
    expect(list.map((l) => [l.section, l.course, l.type])).toEqual([
      ['A', 2, 'uniaxial 40'],
      ['A', 4, 'uniaxial 30'],
      ['B', 2, 'uniaxial 40'],
      ['B', 4, 'uniaxial 30'],
    ])
    const b2 = list.find((l) => l.section === 'B' && l.course === 2)
    expect(b2).toMatchObject({ strips: 3, from: 4.5, to: 9 })
    expect(b2?.area).toBeCloseTo(4.5 * 1.5, 6)
    // No roll is named for the other type: the common width of 2 m.
    expect(list.find((l) => l.section === 'B' && l.course === 4)?.strips).toBe(3)
  })
  test('cut from as few rolls as can be proven', () => {
    const layout = layoutOf(tall(smallPlan))
    const cut = rollCuttings(layout, layerSchedule(layout))
    expect(cut.map((c) => [c.roll.type, c.roll.assumed, c.cutting.rolls.length])).toEqual([
      ['uniaxial 40', false, 1],
      ['uniaxial 30', true, 1],
    ])
    const strips = cut[0]?.strips.reduce((n, s) => n + s.count, 0)
    expect(cut[0]?.cutting.rolls.flat()).toHaveLength(strips ?? -1)
  })
  test('outward and inward curves, with how much the tails run together or apart', () => {
    // Left turn: the centre lies in the fill, the face bulges out.
    const turn = (bulge: number) => tall(planOn([at(0, 0), at(6, 0, bulge), at(12, 6), at(12, 12)], false))
    const kinds = (bulge: number) => layerSchedule(layoutOf(turn(bulge)))[0]?.lies.filter((l) => l.radius !== undefined)
    const out = kinds(Math.tan(Math.PI / 8))?.[0]
    expect(out).toMatchObject({ kind: 'convex' })
    expect(out?.radius).toBeCloseTo(6, 6)
    expect(out?.tail).toBeCloseTo(1.8 * (1.5 / 6), 6)
    expect(plain(out?.words)).toMatch(/overlap by up to 0.45 m; at least 75 mm of soil/)
    const into = layerSchedule(layoutOf(tall(planOn([at(0, 0), at(6, 0, -Math.tan(Math.PI / 8)), at(12, -6), at(12, -12)], false))))[0]?.lies[0]
    expect(into).toMatchObject({ kind: 'concave', words: expect.stringContaining('the next layer covers these gaps') })
  })
  test('layers cross at a corner, one course apart', () => {
    const list = layerSchedule(layoutOf(tall(planOn([at(0, 0), at(8, 0), at(8, 8)], false))))
    const words = list.map((l) => l.lies.find((x) => x.kind === 'corner')?.words)
    expect(words[0]).toMatch(/corner/)
    expect(words.every((w) => w !== undefined)).toBe(true)
  })
})
