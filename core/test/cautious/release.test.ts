// Rule table 2: a release waits for everything that belongs to it, and the final for everything.
import { type CheckData, densityReport, doubtful, type Entry, owedBefore, type EarlierPlan as Plan, reduceBook, statusOf } from '@stone-tally/core'
import { build, good, groundOf } from '../build'
import { entry, layoutOf, plain, SIGNED, smallPlan } from '../plans'
import { Site } from '../site'
import { judge, plan, today } from './wall'

const release = (stage: string, section?: string, course?: number) =>
  entry('release', { stage, section, course }, { decision: 'released', reason: 'seen', signature: SIGNED }, { role: 'inspector' })
const toPad = () =>
  new Site(plan)
    .work('services')
    .work('set-out')
    .release('set-out')
    .work('dig', 'B')
    .put(...groundOf(layoutOf(plan), 'B'))
const lifted = (data: object = {}) => {
  const site = toPad().work('subgrade', 'B').release('subgrade', 'B')
  for (const e of good(site.step('pad', 'B'))) {
    const { compaction: _, ...rest } = e.data as { compaction: number }
    site.put({ ...e, data: { ...rest, ...data } })
  }
  return site.work('pad-level', 'B')
}
const curve = entry(
  'curve',
  {},
  {
    name: 'crushed stone',
    source: 'sheet 1',
    points: [
      { moisture: 6, dryDensity: 1905 },
      { moisture: 8, dryDensity: 1990 },
      { moisture: 10, dryDensity: 2015 },
      { moisture: 12, dryDensity: 1960 },
    ],
  },
)
const gauge = (lift: number, wetDensity = 2180, more: object = {}) =>
  entry(
    'density',
    { stage: 'pad', section: 'B', station: 6 },
    {
      method: 'gauge',
      lift,
      curve: curve.id,
      gauge: { wetDensity, moisture: 9, densityStandard: 2300, densityReference: 2300, moistureStandard: 680, moistureReference: 680 },
      ...more,
    },
  )

describe('density tests', () => {
  test('the pad level is not released while a lift below it is not tested; a lift tested twice pays for no other', () => {
    const site = lifted().put(curve)
    expect(densityReport(site.state)).toMatchObject({ wanted: 2, owed: 2 })
    expect(site.refusal(release('pad-level', 'B'))).toMatch(/Owed: 2 density tests of Pad lifts, section B/)
    site.put(gauge(1), gauge(1))
    expect(densityReport(site.state)).toMatchObject({ wanted: 2, owed: 1 })
    expect(site.refusal(release('pad-level', 'B'))).toMatch(/Owed: 1 density test of/)
    // One that failed pays for nothing, one that says no lift for none.
    site.put(gauge(0), gauge(2, 2000))
    expect(densityReport(site.state).owed).toBe(1)
    const failed = site.entries[site.entries.length - 1] as Entry
    site.put(entry('action', failed.where, { of: failed.id, cause: 'dry', action: 'wetted, plated' }), { ...gauge(2), recheckOf: failed.id })
    expect(site.refusal(release('pad-level', 'B'))).toBe('')
  })
  test('under table 1 the same stays as it was', () => {
    const site = new Site({ ...plan, ruleTable: 1 }).work('services').work('set-out').release('set-out').work('dig', 'B')
    site.work('subgrade', 'B').release('subgrade', 'B')
    for (const e of good(site.step('pad', 'B'))) site.put({ ...e, data: { ...(e.data as object), compaction: undefined } })
    site.work('pad-level', 'B')
    expect(densityReport(site.state).owed).toBe(2)
    expect(site.refusal(release('pad-level', 'B'))).toBe('')
  })
  test('a method record serves only what cannot be tested', () => {
    const site = lifted()
    const seen = (data: object, of = site) =>
      of.refusal(
        entry('density', { stage: 'pad', section: 'B', station: 6 }, { method: 'record', lift: 1, seen: 'four passes, nothing moved', ...data }),
      )
    expect(seen({})).toMatch(/data.untestable: is missing/)
    expect(seen({ untestable: 'open-graded' })).toMatch(/the pad of the plan is dense graded, which can be tested/)
    expect(seen({ untestable: 'oversize' })).toMatch(/data.oversize: is missing/)
    expect(seen({ untestable: 'oversize', oversize: 30 })).toMatch(/30 % of coarse stones can be tested/)
    expect(seen({ untestable: 'oversize', oversize: 31 })).toBe('')
    const open = new Site(today({ ...smallPlan, pad: { ...smallPlan.pad, material: 'open-graded' } } as Plan))
      .work('services')
      .work('set-out')
      .release('set-out')
    expect(seen({ untestable: 'open-graded' }, open)).toBe('')
  })
  test('concrete is not compacted: one pour, no passes, no density', () => {
    const concrete: Plan = today({ ...smallPlan, pad: { ...smallPlan.pad, material: 'lean-concrete' } })
    const site = new Site(concrete)
      .work('services')
      .work('set-out')
      .release('set-out')
      .work('dig', 'B')
      .work('subgrade', 'B')
      .release('subgrade', 'B')
    expect(site.step('pad', 'B').lifts).toEqual({ count: 1, compacted: 0.15, loose: 0.15 })
    const pour = (data: object) =>
      entry('lift', { stage: 'pad', section: 'B' }, { lift: 1, thickness: 0.15, passes: 0, plant: 'hand-tamper', poured: true, ...data })
    site.put(pour({})).work('pad-level', 'B')
    expect(densityReport(site.state)).toMatchObject({ wanted: 0, owed: 0 })
    expect(site.refusal(release('pad-level', 'B'))).toBe('')
    expect(judge(concrete, 'lift', { stage: 'pad', section: 'B' }, pour({ thickness: 0.12 }).data as object)).toMatchObject({ verdict: 'out' })
    expect(judge(plan, 'lift', { stage: 'pad', section: 'B' }, pour({}).data as object)?.text).toMatch(/compacted, not poured/)
  })
})

describe('readings in doubt', () => {
  const setup = (backsight: number) => entry('setup', {}, { benchmark: 10, backsight })
  const hi = 11.5
  const rod = (site: Site, off: number) =>
    good(site.step('pad-level', 'B')).map((e) => ({ ...e, data: { method: 'rod', hi, value: hi - (targetOf(site, e) + off) } }))
  const targetOf = (site: Site, e: Entry) => site.state.layout.steps.find((s) => (e.where.station ?? 0) <= s.end + 1e-6)?.elevation ?? 0
  const check = (reading: number) => entry('sight', {}, { sight: 'check', point: 'BM', hi, reading, known: 10 })
  const ready = () => {
    const site = toPad().work('subgrade', 'B').release('subgrade', 'B').work('pad', 'B')
    return site.put(setup(1.5))
  }
  test('a check shot 60 mm off holds the release of what was read from that height, before and after it', () => {
    const site = ready()
    const all = rod(site, 0.001)
    const half = Math.ceil(all.length / 2)
    site.put(...all.slice(0, half), check(1.56), ...all.slice(half))
    expect(doubtful(site.state).size).toBe(all.length)
    expect(statusOf(site.state, site.step('pad-level', 'B')).state).toBe('done')
    expect(site.refusal(release('pad-level', 'B'))).toMatch(new RegExp(`Owed: ${all.length} readings of Pad level, section B in doubt`))
    // Set up anew and read again: the later reading of a point is what counts there.
    site.put(setup(1.5), ...rod(site, 0.002))
    expect(owedBefore(site.state, site.step('pad-level', 'B'))).toEqual([])
    expect(site.refusal(release('pad-level', 'B'))).toBe('')
  })
  test('a good check doubts nothing', () => {
    const site = ready()
    site.put(...rod(site, 0.001), check(1.502))
    expect(doubtful(site.state).size).toBe(0)
  })
  const rules = { perSetup: 0.002, check: 0.003 }
  const bm = { kind: 'backsight', point: 'BM', reading: 1.5, known: 10 } as const
  test('the book: what follows a bad check on the same height, and a leg 30 mm out', () => {
    const moved = reduceBook(
      [
        bm,
        { kind: 'intermediate', point: 'a', reading: 1.1 },
        { kind: 'check', point: 'BM', reading: 1.51, known: 10 },
        { kind: 'intermediate', point: 'b', reading: 1.2 },
        { ...bm, reading: 1.4 },
        { kind: 'intermediate', point: 'c', reading: 1.2 },
      ],
      rules,
    )
    expect(moved.ok && moved.value.rows.map((r) => r.doubtful)).toEqual([true, true, true, true, false, false])
    const out = reduceBook(
      [
        bm,
        { kind: 'intermediate', point: 'a', reading: 1.1 },
        { kind: 'foresight', point: 'TP1', reading: 1.2 },
        { kind: 'backsight', point: 'TP1', reading: 1.6 },
        { kind: 'foresight', point: 'BM', reading: 1.87, known: 10 },
        { ...bm, reading: 1.3 },
        { kind: 'intermediate', point: 'd', reading: 1 },
      ],
      rules,
    )
    expect(out.ok && out.value.legs[0]).toMatchObject({ within: false, allowed: 0.002 * Math.SQRT2 })
    expect(out.ok && out.value.rows.map((r) => r.doubtful)).toEqual([true, true, true, true, true, false, false])
  })
  test('a new start leaves the leg before open; a leg from a closed point is a leg', () => {
    const open = reduceBook(
      [bm, { kind: 'foresight', point: 'TP1', reading: 1.2 }, { kind: 'backsight', point: 'TP1', reading: 1.6 }, { ...bm, reading: 1.45 }],
      rules,
    )
    expect(open.ok && [open.value.unclosed, open.value.open]).toEqual([
      [
        { from: 'BM', firstSetup: 1, setups: 2 },
        { from: 'BM', firstSetup: 3, setups: 1 },
      ],
      3,
    ])
    const on = reduceBook(
      [
        bm,
        { kind: 'foresight', point: 'BM2', reading: 1.2, known: 10.302 },
        { kind: 'backsight', point: 'BM2', reading: 1.1 },
        { kind: 'foresight', point: 'BM', reading: 1.402, known: 10 },
      ],
      rules,
    )
    expect(on.ok && on.value.legs.map((l) => [l.from, l.to, l.setups])).toEqual([
      ['BM', 'BM2', 1],
      ['BM2', 'BM', 1],
    ])
    expect(on.ok && on.value.open).toBe(0)
  })
})

describe('the final', () => {
  test('is held by a misclosure nobody closed, which stands at no step', () => {
    const site = new Site(plan)
    const sight = entry('sight', {}, { sight: 'foresight', point: 'BM', hi: 11.5, reading: 1.45, known: 10, setups: 3 })
    site.put(entry('setup', {}, { benchmark: 10, backsight: 1.5 }), sight)
    const final = site.step('final')
    expect(plain(owedBefore(site.state, final)).join()).toMatch(/1 finding of the level book, not closed: 50 mm high, limit 3 mm/)
    const again = entry('sight', {}, { sight: 'foresight', point: 'BM', hi: 11.5, reading: 1.501, known: 10, setups: 3 }, { recheckOf: sight.id })
    site.put(entry('action', {}, { of: sight.id, cause: 'rod read wrong', action: 'levelled again' }), again)
    expect(owedBefore(site.state, final)).toEqual([])
  })
  test('a whole wall is built under table 2, step by step, by what the application says is next', () => {
    const { state, order } = build(layoutOf(plan))
    expect(order[order.length - 1]).toBe('final||')
    expect(owedBefore(state, state.byKey.get('final||') as never)).toEqual([])
    const none = (state.entries.find((e) => e.entry.where.stage === 'subgrade')?.entry.data as CheckData | undefined)?.none
    expect(none).toBeUndefined()
  })
})
