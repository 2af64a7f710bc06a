import { type Alignment, alignmentOf, misplaced, nearItself, type Vertex } from '@stone-tally/core'
import fc from 'fast-check'
import { layoutOf } from './plans'
import { at, planOn } from './walls'

const line = (vertices: readonly Vertex[], closed = false): Alignment => {
  const made = alignmentOf(vertices, closed)
  if (!made.ok) throw new Error(made.problems[0]?.message)
  return made.value
}
/** As far on either side. */
const SAME = { backs: 0.3, faces: 0.3 }
/** Turns to the left for a gap above nothing: the fill lies between its legs. */
const hairpin = (gap: number) => [at(0, 0), at(8, 0), at(8, gap), at(2, gap)]

describe('a line that comes back beside itself', () => {
  test('is found with both stations, and only within the distance asked for', () => {
    const found = nearItself(line(hairpin(0.2)), SAME)
    expect(found).toMatchObject({ element: 2 })
    expect(found?.distance).toBeCloseTo(0.2, 2)
    // Both stations lie across from each other.
    expect((found?.first ?? 0) + (found?.second ?? 0)).toBeCloseTo(16.2, 0)
    expect(nearItself(line(hairpin(0.31)), SAME)).toBeUndefined()
  })
  test('to either side, as a hook whose end comes back, and round an arc', () => {
    expect(nearItself(line(hairpin(-0.2)), SAME)?.distance).toBeCloseTo(0.2, 2)
    const hook = [at(0, 0), at(4, 0), at(4, 3), at(1, 3), at(1, 0.25)]
    expect(nearItself(line(hook), SAME)?.distance).toBeCloseTo(0.25, 2)
    expect(nearItself(line([...hook.slice(0, -1), at(1, 0.4)]), SAME)).toBeUndefined()
    // Nearly a whole ring: its ends stand beside each other.
    const ring = [{ ...at(0, 0), bulge: 1 }, { ...at(4, 0), bulge: 0.98 }, at(0.06, 0.2)]
    expect(nearItself(line(ring), SAME)?.distance).toBeLessThan(0.25)
    // The same of one arc alone.
    expect(nearItself(line([{ ...at(0, 0), bulge: 8 }, at(0.2, 0)]), SAME)?.distance).toBeCloseTo(0.2, 2)
  })
  test('a straight wall, a corner, a jog, a pier and a ring keep their distance', () => {
    for (const vertices of [
      [at(0, 0), at(30, 0)],
      [at(0, 0), at(5, 0), at(5, 5)],
      [at(0, 0), at(5, 0), at(5, 0.2), at(10, 0.2)],
      [at(0, 0), at(5, 0), at(5, -0.4), at(5.6, -0.4), at(5.6, 0), at(10, 0)],
    ])
      expect(nearItself(line(vertices), SAME)).toBeUndefined()
    expect(
      nearItself(
        line(
          [
            { ...at(0, 0), bulge: 1 },
            { ...at(4, 0), bulge: 1 },
          ],
          true,
        ),
        SAME,
      ),
    ).toBeUndefined()
  })
  test('a closed line is near where it joins, and that is no fault', () => {
    expect(nearItself(line([at(0, 0), at(4, 0), at(4, 3), at(0, 3)], true), SAME)).toBeUndefined()
    expect(nearItself(line([at(0, 0), at(6, 0), at(6, 0.2), at(0, 0.2)], true), SAME)?.distance).toBeCloseTo(0.2, 2)
  })
  test('whatever the gap: found when it is less, not when it is more', () =>
    fc.assert(
      fc.property(fc.integer({ min: 5, max: 60 }), fc.integer({ min: 15, max: 45 }), (gap, depth) => {
        fc.pre(gap !== depth)
        expect(nearItself(line(hairpin(gap / 100)), { backs: depth / 100, faces: depth / 100 }) !== undefined).toBe(gap < depth)
      }),
    ))
})

test('across the fill it needs more than across the ground in front', () => {
  const needs = { backs: 0.64, faces: 0.3 }
  expect(nearItself(line(hairpin(0.6)), needs)).toMatchObject({ facing: 'backs' })
  expect(nearItself(line(hairpin(0.66)), needs)).toBeUndefined()
  expect(nearItself(line(hairpin(-0.25)), needs)).toMatchObject({ facing: 'faces' })
  expect(nearItself(line(hairpin(-0.33)), needs)).toBeUndefined()
})

describe('a plan whose line has no room for its units', () => {
  test('is not issued and says where; one of before stays readable and says it as a caution', () => {
    const laid = layoutOf(planOn(hairpin(0.5), false))
    expect(misplaced(laid)).toMatchObject([
      {
        field: 'alignment.vertices[2]',
        message: expect.stringMatching(/^the line comes within .* of itself: station .* beside station .*, back to back/),
      },
    ])
    expect(laid.cautions.find((c) => c.id.startsWith('misplaced alignment'))).toMatchObject({ blocks: false })
  })
  test('in front the faces want a unit’s depth between them', () => {
    expect(misplaced(layoutOf(planOn(hairpin(-0.2), false)))).toMatchObject([{ message: expect.stringContaining('face to face') }])
    expect(misplaced(layoutOf(planOn(hairpin(-0.4), false)))).toEqual([])
  })
  test('with room for both sides it is a wall like any other', () => {
    expect(misplaced(layoutOf(planOn(hairpin(1.2), false)))).toEqual([])
  })
})
