// Rule table 2: the pipe is laid where its school has it, as the pad lets it lie, and it falls from point to point.
import {
  besidePad,
  invertAt,
  layOut,
  limitsOf,
  type EarlierPlan as Plan,
  pipeCourse,
  pipeFloor,
  proposeOutlets,
  statusOf,
  stepsOf,
} from '@stone-tally/core'
import * as fc from 'fast-check'
import { build, good, pipeOf } from '../build'
import { built, layoutOf, plain, smallPlan } from '../plans'
import { Site } from '../site'
import { at, planOn, unitNamed } from '../walls'
import { judge, plan, today } from './wall'

const with_ = (change: object, of: Plan = smallPlan): Plan => today({ ...of, ...change } as Plan)
const order = (p: Plan) => layoutOf(p).system.stages.map((s) => s.id)
const before = (p: Plan, first: string, then: string) => order(p).indexOf(first) < order(p).indexOf(then)
const cautions = (p: Plan, id: string) =>
  plain(
    layoutOf(p)
      .cautions.filter((c) => c.id === id)
      .map((c) => c.message),
  )
const open = { ...smallPlan.pad, material: 'open-graded' as const }

describe('the stages follow where the pipe sits', () => {
  test('on its bed: before the stone behind the first course', () => {
    const p = with_({ water: { school: 'on-bed' } })
    expect([before(p, 'line', 'invert'), before(p, 'cover', 'fill'), before(p, 'fill', 'backfill')]).toEqual([true, true, true])
    const site = new Site(p).toFirstCourse().release('line', 'B', 1)
    expect(site.refusal(good(site.step('fill', 'B', 1))[0] as never)).toMatch(/the pipe may not be covered before it/)
  })
  test('in the pad: before the pad covers it, once for a section', () => {
    const p = with_({ pad: open, water: { school: 'in-pad' } })
    expect([before(p, 'subgrade', 'invert'), before(p, 'cover', 'pad'), before(p, 'pad', 'units')]).toEqual([true, true, true])
    const site = new Site(p).work('services').work('set-out').release('set-out').work('dig', 'B').work('subgrade', 'B').release('subgrade', 'B')
    expect(site.refusal(good(site.step('pad', 'B'))[0] as never)).toMatch(/the pipe may not be covered before it/)
    site.work('invert', 'B').work('drain', 'B').release('drain', 'B').work('cover', 'B').work('pad', 'B')
    expect(
      stepsOf(layoutOf(p))
        .filter((s) => s.stage.id === 'drain')
        .map((s) => s.key),
    ).toEqual(['drain|A|', 'drain|B|'])
  })
  test('raised: where the fill stands at its level, and the courses below it wait for nothing', () => {
    const p = with_({ water: { school: 'raised' }, drain: { ...smallPlan.drain, outlets: [{ station: 9, invert: 10.25 }] } })
    const layout = layoutOf(p)
    const [a, b] = p.sections.map((s) => pipeCourse(layout, s))
    // Section B starts at 9.8: courses end at 10.0, 10.2, 10.4, and the pipe lies at 10.25 to 10.30 there.
    expect([a, b]).toEqual([3, 3])
    expect(
      stepsOf(layout)
        .filter((s) => s.stage.id === 'invert' && s.section === 'B')
        .map((s) => s.key),
    ).toEqual(['invert|B|3'])
    const site = new Site(p).toFirstCourse().release('line', 'B', 1).work('fill', 'B', 1)
    expect(site.refusal(good(site.step('backfill', 'B', 1))[0] as never)).toBe('')
  })
  test.each([
    ['on-bed', smallPlan.pad],
    ['in-pad', open],
    ['raised', smallPlan.pad],
  ] as const)('a wall with its pipe %s is built to its end', (school, pad) => {
    const p = with_({ pad, water: { school }, drain: { ...smallPlan.drain, outlets: [{ station: 9, invert: school === 'raised' ? 10.25 : 9.85 }] } })
    const { order } = build(layoutOf(p))
    expect(order[order.length - 1]).toBe('final||')
  })
  test('baskets too; and table 1 keeps its order', () => {
    const one = planOn([at(0, 0), at(9, 0)], false, { system: 'gabion', unit: unitNamed('basket-2x1x1'), pad: { ...smallPlan.pad, width: 1.3 } })
    const { order: built } = build(layoutOf(with_({ engineer: 'plan E-1' }, one)))
    expect(built[built.length - 1]).toBe('final||')
    expect(before(smallPlan, 'fill', 'invert')).toBe(true)
  })
})

describe('the pipe and the pad', () => {
  test('beside the pad it keeps above the line of 1 : 1, over it on its bed, in an open pad on its bottom', () => {
    // Rear of the pad 0.45 from the face, stone to 0.60: the pipe of 0.1 fits behind with 0.05 between.
    const thin = { ...plan, stone: { width: 0.29 } }
    expect(besidePad(built(plan))).toBe(true)
    expect(pipeFloor(built(plan), 'on-bed', 9.8)).toBeCloseTo(9.8 - 0.15 - 0.05, 9)
    expect(besidePad(built(thin))).toBe(false)
    expect(pipeFloor(built(thin), 'on-bed', 9.8)).toBeCloseTo(9.85, 9)
    expect(pipeFloor(built(plan), 'raised', 9.8)).toBeCloseTo(9.85, 9)
    expect(pipeFloor(built(plan), 'in-pad', 9.8)).toBeCloseTo(9.7, 9)
  })
  test('it follows the pad up at its steps, and says which outlet lies too low', () => {
    const low = with_({ drain: { ...smallPlan.drain, outlets: [{ station: 9, invert: 9.5 }] } })
    const layout = layoutOf(low)
    const [high, deep] = [layout.steps.find((s) => s.elevation > 9.9), layout.steps.find((s) => s.elevation < 9.9)]
    expect([high?.elevation, deep?.elevation]).toEqual([10, 9.8])
    const edge = high?.end ?? 0
    // By hand: 9.60 under the low step at the outlet, 1 % back to the step, there 9.80, and 1 % on.
    expect(invertAt(layout, 9)).toBeCloseTo(9.6, 9)
    expect(invertAt(layout, edge + 1e-6)).toBeCloseTo(9.6 + 0.01 * (9 - edge), 6)
    expect(invertAt(layout, edge - 1e-6)).toBeCloseTo(9.8, 6)
    expect(invertAt(layout, 0)).toBeCloseTo(9.8 + 0.01 * edge, 9)
    expect(cautions(low, 'pipe-floor')[0]).toMatch(
      /The outlet at 9 m lies 100 mm lower than the pad lets the pipe lie behind it \(its line of 1 : 1\)/,
    )
    expect(cautions(plan, 'pipe-floor')).toEqual([])
  })
  test('a dense pad takes no pipe; a pipe higher than the ground in front is said', () => {
    expect(cautions(with_({ water: { school: 'in-pad' } }), 'pipe-pad')[0]).toMatch(/inside a pad of dense graded/)
    const steep = with_({ drain: { ...smallPlan.drain, fall: 0.1, outlets: [{ station: 9, invert: 9.85 }] } })
    expect(cautions(steep, 'pipe-high')[0]).toMatch(/At 0 m the pipe would stand \d+ mm above the ground in front/)
  })
  test('never lower than the pad lets it, never flatter than its fall, wherever the outlets are', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: 3 }),
        fc.array(fc.double({ min: 9, max: 10.2, noNaN: true }), { minLength: 3, maxLength: 3 }),
        fc.constantFrom('on-bed', 'raised', 'in-pad'),
        (stations, inverts, school) => {
          const made = layOut(
            built(
              with_({
                pad: open,
                water: { school },
                drain: { ...smallPlan.drain, outlets: stations.map((station, i) => ({ station, invert: inverts[i] })) },
              }),
            ),
          )
          if (!made.ok) return
          const layout = made.value
          for (const s of layout.steps) {
            for (const x of [s.start + 0.01, (s.start + s.end) / 2, s.end - 0.01])
              expect(invertAt(layout, x)).toBeGreaterThanOrEqual(pipeFloor(layout.plan, school as 'raised', s.elevation) - 1e-9)
          }
          const list = Array.from({ length: 91 }, (_, i) => invertAt(layout, i / 10))
          // No hollow but at an outlet: from anywhere else there is a way down.
          for (let i = 1; i < list.length - 1; i++) {
            const [a, b, c] = [list[i - 1], list[i], list[i + 1]] as [number, number, number]
            if (!stations.some((x) => Math.abs(x - i / 10) < 0.11)) expect(b < a - 1e-9 && b < c - 1e-9).toBe(false)
            expect(Math.abs(a - b) > 1e-9 || stations.length > 1).toBe(true)
          }
        },
      ),
      { numRuns: 40 },
    )
  })
})

describe('outlets worked out', () => {
  const p = (invert: number, toe = 10) =>
    with_({
      grades: [0, 9].map((station) => ({ station, toe, top: toe + 1.3 })),
      drain: { ...smallPlan.drain, outlets: [{ station: 9, invert }] },
    })
  test('the solver knows the pad: an outlet that lies too low counts where the pipe can come out', () => {
    // Pad at 9.80: the pipe lies no lower than 9.60, and at 1 % 9.69 at the far end; with 0.1 of pipe that is under 10.0.
    const low = proposeOutlets(layoutOf(p(9.3)))
    expect(low.ok && low.value.outlets).toEqual([{ station: 9, invert: 9.3 }])
    // A shallow pad in low ground lifts it out.
    const shallow = { ...p(9.3), embedment: [{ kind: 'fixed' as const, depth: 0 }], pad: { ...smallPlan.pad, thickness: 0.05 } }
    const lifted = proposeOutlets(layoutOf(shallow))
    expect(lifted.ok ? '' : plain(lifted.problems[0]?.message)).toMatch(/too high/)
    expect(proposeOutlets(layoutOf({ ...shallow, ruleTable: 1 })).ok).toBe(true)
  })
})

describe('it falls from point to point', () => {
  const laid = (offs: readonly number[]) => {
    const site = new Site(plan).toFirstCourse().release('line', 'B', 1)
    const step = site.step('invert', 'B', 1)
    site.put(...good(step).map((e, i) => ({ ...e, data: { method: 'deviation', value: offs[i] ?? 0 } }) as never))
    return plain(statusOf(site.state, step).missing)
  }
  test('as planned; and half of the fall is still a fall', () => {
    expect(laid([0, 0, 0])).toEqual([])
    // Points 2 m apart fall 22 mm at 1 %: 11 mm of it must be there.
    expect(laid([-0.005, 0.004, 0])).toEqual([])
  })
  test('each point within its 10 mm, and water stands between two of them', () => {
    expect(laid([-0.01, 0.01, 0]).join()).toMatch(/the pipe falls \d mm between 4\.60 and 6\.\d+, at least 1\d mm of the planned 2\d mm/)
    expect(laid([-0.02, 0.01, 0]).join()).toMatch(/the pipe rises \d mm with the flow between/)
  })
  test('bed and cover are the plan’s own where it draws them', () => {
    const drawn = with_({ water: { bed: 0.1, cover: 0.25 } })
    expect([limitsOf(drawn).pipeBed.value, limitsOf(drawn).pipeCover.value]).toEqual([0.1, 0.25])
    const cover = (p: Plan, value: number) =>
      judge(p, 'check', { stage: 'cover', section: 'B', course: 1 }, { confirmed: ['stone', 'fabric'], measured: [{ id: 'cover', value }] })
    expect(cover(drawn, 0.24)?.text).toMatch(/240 mm, at least 250 mm/)
    expect(cover(plan, 0.24)).toBeUndefined()
    const step = new Site(drawn).step('drain', 'B', 1)
    expect(judge(drawn, 'pipe', { stage: 'drain', section: 'B', course: 1 }, { ...pipeOf(step, { from: 4.5, to: 9 }), bed: 0.09 })?.text).toMatch(
      /bed of 90 mm, at least 100 mm/,
    )
  })
})
