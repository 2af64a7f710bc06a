// Rule table 2, held against hand-worked cases: each says what it rests on. Earlier revisions keep table 1 (record-truth and edges).
import { type LiftData, layOut, limitsOf, type EarlierPlan as Plan, plantRule, readPlan, statusOf } from '@stone-tally/core'
import * as fc from 'fast-check'
import { built, entry, plain, smallPlan } from '../plans'
import { Site } from '../site'
import { at, planOn, unitNamed } from '../walls'
import { judge, plan, today } from './wall'

const baskets = planOn([at(0, 0), at(9, 0)], false, { system: 'gabion', unit: unitNamed('basket-2x1x1') })

describe('lifts: no thicker than the plant reaches, whatever the height of the unit', () => {
  const lift = (data: Partial<LiftData>, of = plan, course = 1) =>
    judge(
      of,
      'lift',
      { stage: 'backfill', section: of.sections[0]?.id, course },
      { lift: 1, thickness: 0.1, passes: 4, plant: 'light-plate', fill: 'granular', ...data },
    )
  test('a metre behind a basket with a hand tamper and two passes is out on both counts; it was ok under table 1', () => {
    const wrong = { thickness: 1, passes: 2, plant: 'hand-tamper' } as const
    expect(lift(wrong, baskets)?.verdict).toBe('ok')
    expect(lift(wrong, today(baskets))).toMatchObject({
      verdict: 'out',
      text: 'lift 1000 mm, limit 75 mm with a hand tamper; 2 passes with a hand tamper, at least 4',
    })
  })
  // Common practice: 200 mm loose (about 160 compacted) by plate or roller, 100 mm loose (about 75) by hand tamper; a third less in silt and clay.
  test.each([
    ['hand-tamper', 0.075, 4],
    ['light-plate', 0.16, 3],
    ['heavy-plate', 0.16, 3],
    ['roller', 0.16, 4],
  ] as const)('%s: %d m, %d passes', (plant, thickness, passes) => {
    expect(lift({ plant, thickness, passes, near: 2 })?.verdict).toBe('ok')
    expect(lift({ plant, thickness: thickness + 0.001, passes, near: 2 })?.verdict).toBe('out')
    expect(lift({ plant, thickness, passes: passes - 1, near: 2 })?.verdict).toBe('out')
  })
  test('loose as placed, and silt or clay in the fill', () => {
    expect(lift({ loose: 0.2 })?.verdict).toBe('ok')
    expect(lift({ loose: 0.201 })?.text).toBe('placed 201 mm loose, limit 200 mm with a light plate')
    expect(lift({ plant: 'hand-tamper', thickness: 0.07, loose: 0.101 })?.verdict).toBe('out')
    expect(lift({ fill: 'fine', thickness: 0.1, passes: 4 })?.text).toBe('lift 100 mm, limit 96 mm with a light plate in silt or clay')
    expect(lift({ fill: 'fine', thickness: 0.09, passes: 3 })?.text).toContain('at least 4')
  })
  test('a pad lift keeps the plan’s own limit, and the plant’s where that is less', () => {
    const pad = (data: object) =>
      judge(plan, 'lift', { stage: 'pad', section: 'A' }, { lift: 1, thickness: 0.1, passes: 4, plant: 'light-plate', ...data })
    expect(pad({})?.verdict).toBe('ok')
    expect(pad({ thickness: 0.101 })?.text).toBe('lift 101 mm, limit 100 mm')
    expect(pad({ plant: 'hand-tamper' })?.text).toBe('lift 100 mm, limit 75 mm with a hand tamper')
  })
  test('two thin lifts do not fill a course; a third does', () => {
    const site = new Site(plan).toBackfill('B', false)
    const thin = (lift: number) =>
      entry('lift', { stage: 'backfill', section: 'B', course: 1 }, { lift, thickness: 0.07, passes: 4, plant: 'hand-tamper', compaction: 96 })
    site.put(thin(1), thin(2))
    expect(plain(statusOf(site.state, site.step('backfill', 'B', 1)).missing)).toEqual(['60 mm of fill, 4.50 to 9.00'])
    site.put(thin(3))
    expect(statusOf(site.state, site.step('backfill', 'B', 1)).state).toBe('done')
  })
  test('the same in stretches: what is short is named where it is', () => {
    const site = new Site(plan).toBackfill('B', false)
    const part = (lift: number, from: number, to: number, thickness: number) =>
      entry('lift', { stage: 'backfill', section: 'B', course: 1 }, { lift, thickness, passes: 4, plant: 'light-plate', from, to, compaction: 96 })
    site.put(part(1, 4.5, 9, 0.1), part(2, 4.5, 6, 0.1), part(2, 6, 9, 0.05))
    expect(plain(statusOf(site.state, site.step('backfill', 'B', 1)).missing)).toEqual(['50 mm of fill, 6.00 to 9.00'])
  })
  test('more cautious is never kinder: thicker, fewer passes, closer, finer', () => {
    const plants = ['hand-tamper', 'light-plate', 'heavy-plate', 'roller'] as const
    fc.assert(
      fc.property(
        fc.constantFrom(...plants),
        fc.double({ min: 0.02, max: 0.5, noNaN: true }),
        fc.integer({ min: 0, max: 8 }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 0.2, noNaN: true }),
        fc.integer({ min: 0, max: 3 }),
        (plant, thickness, passes, near, more, fewer) => {
          const kind = (d: Partial<LiftData>) => lift({ plant, thickness, passes, near, ...d })?.verdict
          if (kind({}) === 'ok') return
          expect([kind({ thickness: thickness + more }), kind({ passes: Math.max(0, passes - fewer) }), kind({ fill: 'fine' })]).toEqual([
            'out',
            'out',
            'out',
          ])
        },
      ),
      { numRuns: 300 },
    )
    for (const plant of plants) {
      const [coarse, fine] = [plantRule(plan, plant, 'granular'), plantRule(plan, plant, 'fine')]
      expect(fine.compacted).toBeLessThanOrEqual(coarse.compacted)
      expect(fine.passes).toBeGreaterThanOrEqual(coarse.passes)
    }
  })
})

describe('what a drawing sets itself', () => {
  const own = (...limits: { limit: string; value: number; source: string }[]): Plan => today({ ...smallPlan, rules: { limits } })
  test('compaction, lifts, level and passes, each with where it says so', () => {
    const of = own(
      { limit: 'compaction', value: 98, source: 'S-3, note 4' },
      { limit: 'liftPlate', value: 0.25, source: 'S-3, note 5' },
      { limit: 'passes', value: 6, source: 'S-3, note 5' },
      { limit: 'courseLevel', value: 0.004, source: 'S-1' },
    )
    const lift = (data: object) =>
      judge(
        of,
        'lift',
        { stage: 'backfill', section: 'A', course: 3 },
        { lift: 1, thickness: 0.2, passes: 6, plant: 'light-plate', fill: 'granular', compaction: 98, ...data },
      )
    expect(lift({})?.verdict).toBe('ok')
    expect(lift({ compaction: 97 })?.text).toBe('97 % of maximum density, at least 98 %')
    expect(lift({ passes: 5 })?.text).toContain('at least 6')
    expect(limitsOf(of).courseLevel.reason).toBe('The drawing says so: S-1.')
    expect(judge(of, 'reading', { stage: 'level', section: 'B', course: 3, station: 6 }, { method: 'deviation', value: 0.005 })?.verdict).toBe('out')
  })
  test.each([
    [{ limit: 'cutSlope', value: 0.5, source: 'S-3' }, 'rules.limits[0].limit', /not a limit a plan may set/],
    [{ limit: '__proto__', value: 0.5, source: 'S-3' }, 'rules.limits[0].limit', /not a limit a plan may set/],
    [{ limit: 'passes', value: 0, source: 'S-3' }, 'rules.limits[0].value', /1 to 20/],
    [{ limit: 'courseLevel', value: 6, source: 'S-3' }, 'rules.limits[0].value', /is the unit right/],
    [{ limit: 'passes', value: 3, source: ' ' }, 'rules.limits[0].source', /is missing/],
  ])('%j is refused at %s', (limit, field, message) => {
    const made = layOut(built(own(limit)))
    expect(made.ok ? undefined : made.problems[0]).toMatchObject({ field, message: expect.stringMatching(message) })
  })
  test('twice the same, and a front that cannot be', () => {
    expect(layOut(built(own({ limit: 'passes', value: 3, source: 'S-3' }, { limit: 'passes', value: 4, source: 'S-4' }))).ok).toBe(false)
    expect(layOut(built(own({ limit: 'gridFrontMin', value: 0.2, source: 'S-3' }))).ok).toBe(false)
  })
  test('a table of another number is refused, none is the first', () => {
    expect(readPlan({ ...smallPlan, ruleTable: 4 }).ok).toBe(false)
    expect(limitsOf(smallPlan)).toBe(limitsOf({ ...smallPlan, ruleTable: 1 }))
  })
})
