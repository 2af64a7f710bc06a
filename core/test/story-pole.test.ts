import { type EarlierPlan, issued, PAPERS, poleStrips, storyPole } from '@stone-tally/core'
import fc from 'fast-check'
import { ENGINEERED, layoutOf, plain, smallPlan } from './plans'

const layout = layoutOf(issued({ ...smallPlan, ...ENGINEERED }))
const pole = (station: number, by = {}, of = layout) => {
  const made = storyPole(of, station, by)
  if (!made.ok) throw new Error(JSON.stringify(plain(made.problems)))
  return made.value
}
const round = (v: number | undefined) => (v === undefined ? undefined : +v.toFixed(6))

describe('the story pole', () => {
  test('every course top, layer, cap and grade at a station, from the bottom of the trench up', () => {
    // At 8 m the pad lies 0.2 m under a toe of 10.033 and a little: at 9.8; units of 0.2 m, a cap of 0.1 m.
    const { zero, marks } = pole(8)
    expect(zero).toBeCloseTo(9.8, 9)
    expect(marks.filter((m) => m.kind === 'course').map((m) => round(m.up))).toEqual([0.2, 0.4, 0.6, 0.8, 1, 1.2, 1.4])
    expect(marks[0]).toMatchObject({ kind: 'dig', title: 'Bottom of the trench' })
    expect(round(marks[0]?.up)).toBe(-0.15)
    expect(marks.filter((m) => m.kind === 'layer').map((m) => [m.course, round(m.up)])).toEqual([[2, 0.4]])
    expect(round(marks.find((m) => m.kind === 'cap')?.up)).toBe(1.5)
    const ups = marks.map((m) => m.up)
    expect([...ups].sort((a, b) => a - b)).toEqual(ups)
  })
  test('by rod under the instrument, and down from a string', () => {
    const { marks } = pole(8, { hi: 11.5, string: 10.2 })
    const first = marks.find((m) => m.kind === 'course' && m.course === 1)
    expect([round(first?.rod), round(first?.drop)]).toEqual([1.5, 0.2])
    const third = marks.find((m) => m.kind === 'course' && m.course === 3)
    expect(round(third?.drop)).toBe(-0.2)
    expect(pole(8).marks.every((m) => m.rod === undefined && m.drop === undefined)).toBe(true)
  })
  test('on an upper step it stands on the pad there, with the courses that are there', () => {
    const [low, high] = [pole(8), pole(0.5)]
    expect(high.zero).toBeGreaterThan(low.zero)
    expect(high.marks.find((m) => m.kind === 'course')?.course).toBeGreaterThan(1)
    expect(round(high.marks.find((m) => m.kind === 'course')?.up)).toBe(0.2)
  })
  test('a wall without caps has none; a station off the wall is refused', () => {
    const bare: EarlierPlan = { ...smallPlan, unit: { ...smallPlan.unit, capHeight: 0 } }
    expect(pole(8, {}, layoutOf(bare)).marks.some((m) => m.kind === 'cap')).toBe(false)
    for (const s of [0, 9]) expect(storyPole(layout, s).ok).toBe(true)
    for (const s of [-0.1, -0.001, 9.001, 9.2, Number.NaN])
      expect(storyPole(layout, s)).toMatchObject({ ok: false, problems: [{ field: 'station' }] })
    expect(pole(9).marks.length).toBeGreaterThan(5)
    expect(pole(0).marks.length).toBeGreaterThan(5)
  })
})

describe('strips at full size', () => {
  test('from the lowest mark to the highest, each over the one below', () => {
    const strips = poleStrips(0, 1.52, 'A4')
    expect(strips[0]?.from).toBe(0)
    expect(strips[strips.length - 1]?.to).toBeGreaterThanOrEqual(1.52)
    strips.slice(1).forEach((s, i) => expect(round((strips[i]?.to ?? 0) - s.from)).toBe(0.02))
    for (const s of strips) expect(s.to - s.from).toBeLessThan(PAPERS.A4.height)
    expect(poleStrips(0, 1.52, 'Letter').length).toBeGreaterThanOrEqual(strips.length)
  })
  test('however high, nothing is left out and no strip is one too many', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 4000 }), fc.constantFrom('A4', 'Letter') as fc.Arbitrary<'A4' | 'Letter'>, (mm, paper) => {
        const strips = poleStrips(0, mm / 1000, paper)
        expect(strips[strips.length - 1]?.to).toBeGreaterThanOrEqual(mm / 1000 - 1e-9)
        if (strips.length > 1) expect(strips[strips.length - 2]?.to).toBeLessThan(mm / 1000)
      }),
      { numRuns: 200, seed: 8 },
    ))
})
