// Rule table 2: weights, layers, water, filters, weather, lean, and walls of earlier rules looked at with today's.
import {
  cleared,
  courseSheet,
  drainPlan,
  type Entry,
  filterOf,
  fold,
  growthReport,
  handlingOf,
  limitsOf,
  measuresOf,
  needsOf,
  type EarlierPlan as Plan,
  rationalFlow,
  regraded,
  seepageFlow,
  statusOf,
  stepKey,
  stricter,
  swaleDepth,
  unmatched,
  type WallState,
} from '@stone-tally/core'
import { good, goodSize, morningLook } from '../build'
import { ENGINEERED, entry, layoutOf, plain, recorded, smallPlan, stateOf } from '../plans'
import { Site } from '../site'
import { at, planOn, unitNamed } from '../walls'
import { judge, plan, today } from './wall'

const with_ = (change: object, of: Plan = smallPlan): Plan => today({ ...of, ...change } as Plan)
const cautions = (p: Plan, id: string) =>
  plain(
    layoutOf(p)
      .cautions.filter((c) => c.id === id)
      .map((c) => c.message),
  )

describe('weight', () => {
  test.each([
    [25, 'one'],
    [25.1, 'two'],
    [50, 'two'],
    [50.1, 'aid'],
    [100, 'aid'],
    [100.1, 'rated'],
    [1200, 'rated'],
  ] as const)('%d kg: %s', (mass, band) => expect(handlingOf(plan, mass).band).toBe(band))
  test('1,200 kg is not two people: gear, a zone, nobody below', () => {
    expect(plain(handlingOf(plan, 1200).message)).toMatch(/^A unit weighs 1,200 kg: rated lifting gear .*exclusion zone.*nobody below/)
    expect(cautions(plan, 'mass')[0]).toMatch(/34 kg: two people/)
    expect(
      cautions(
        planOn([at(0, 0), at(9, 0)], false, { system: 'gabion', unit: unitNamed('basket-2x1x1'), pad: { ...smallPlan.pad, width: 1.3 } }),
        'mass',
      ),
    ).toEqual([])
  })
})

describe('water', () => {
  const rain = { area: 400, runoff: 0.4, rain: 60 }
  test('run-off sizes swale and yard drain, seepage the toe drain', () => {
    const p = with_({ water: rain })
    const drain = drainPlan(layoutOf(p))
    expect(drain?.surface?.flow).toBeCloseTo(rationalFlow(0.4, 60, 400), 12)
    expect(drain?.flow?.total).toBeLessThan(rationalFlow(0.4, 60, 400))
    expect(plain(drain?.cautions ?? []).join()).toMatch(/must not enter the toe drain/)
    const old = drainPlan(layoutOf({ ...smallPlan, water: rain } as Plan))
    expect([old?.surface, old?.flow?.total]).toEqual([undefined, rationalFlow(0.4, 60, 400)])
  })
  test('by hand: six tenths of 60 mm an hour on twice 1.5 m along 9 m', () => {
    expect(seepageFlow({ ...rain, height: 1.5, length: 9 })).toBeCloseTo((0.6 * 0.06 * 27) / 3600, 12)
    expect(seepageFlow({ ...rain, area: 10, height: 1.5, length: 9 })).toBeCloseTo((0.6 * 0.06 * 10) / 3600, 12)
  })
  test('a swale by Manning, back the other way', () => {
    const d = swaleDepth(0.0038, 0.01)
    const [area, wet] = [3 * d * d, 2 * d * Math.sqrt(10)]
    expect((area / 0.03) * (area / wet) ** (2 / 3) * 0.1).toBeCloseTo(0.0038, 9)
  })
  test('a gravelly soil is regraded before the filter rule: its stones hold nothing back', () => {
    const gravelly = [
      [0.01, 5],
      [0.075, 20],
      [4.75, 50],
      [19, 80],
      [75, 100],
    ].map(([size, passing]) => ({ size: size as number, passing: passing as number }))
    expect(regraded(gravelly)).toEqual([
      { size: 0.01, passing: 10 },
      { size: 0.075, passing: 40 },
      { size: 4.75, passing: 100 },
    ])
    const sand = [
      { size: 0.075, passing: 20 },
      { size: 2, passing: 100 },
    ]
    expect(regraded(sand)).toBe(sand)
    const stone = [
      [4.75, 5],
      [19, 60],
      [38, 100],
    ].map(([size, passing]) => ({ size, passing }))
    const facts = (of: Plan) =>
      stateOf(
        [entry('gradation', {}, { of: 'soil', source: 's', points: gravelly }), entry('gradation', {}, { of: 'stone', source: 's', points: stone })],
        of,
      )
    const [now, was] = [filterOf(facts(plan)), filterOf(facts(smallPlan))]
    // d85 of the whole is a stone of 25 mm, of its sand 2.5 mm: the same stone lets it through.
    expect(was?.result.ok && was.result.value.retention).toBeLessThan(1)
    expect(now?.result.ok && now.result.value.retention).toBeGreaterThan(2)
  })
  test('stone that washes through the openings of the pipe', () => {
    const points = (list: number[][]) => list.map(([size, passing]) => ({ size, passing }))
    const facts = [
      entry(
        'gradation',
        {},
        {
          of: 'soil',
          source: 's',
          points: points([
            [0.01, 5],
            [0.075, 60],
            [2, 100],
          ]),
        },
      ),
      entry(
        'gradation',
        {},
        {
          of: 'stone',
          source: 's',
          points: points([
            [0.075, 1],
            [2, 40],
            [6, 85],
            [10, 100],
          ]),
        },
      ),
    ]
    const advice = (water: object) => plain(filterOf(stateOf(facts, with_({ water })))?.advice)
    // D85 of the stone is 6 mm: openings to 5 mm hold it (1.2 times).
    expect(advice({ holes: 0.005 })).not.toMatch(/openings/)
    expect(advice({ holes: 0.0051 })).toMatch(/The openings of the pipe are 5\.1 mm, and this stone washes through them/)
    expect(advice({ holes: 0.0051, sock: true })).not.toMatch(/openings/)
    expect(advice({})).not.toMatch(/openings/)
  })
  test('fines in the stone clog it', () => {
    const stone = [
      [0.075, 6],
      [19, 60],
      [38, 100],
    ].map(([size, passing]) => ({ size, passing }))
    const soil = [
      [0.01, 5],
      [0.075, 60],
      [2, 100],
    ].map(([size, passing]) => ({ size, passing }))
    const facts = [
      entry('gradation', {}, { of: 'soil', source: 's', points: soil }),
      entry('gradation', {}, { of: 'stone', source: 's', points: stone }),
    ]
    expect(filterOf(stateOf(facts, plan))?.advice).toMatch(/6\.0 % of fines, at most 5 %/)
    expect(filterOf(stateOf(facts, smallPlan))?.advice).not.toMatch(/of fines/)
  })
})

describe('stones too coarse for a curve', () => {
  const curve = (oversize: object) =>
    entry(
      'curve',
      {},
      {
        name: 'a',
        source: 'b',
        points: [
          [6, 1905],
          [8, 1990],
          [10, 2015],
          [12, 1960],
        ].map(([moisture, dryDensity]) => ({ moisture, dryDensity })),
        oversize: { gs: 2.65, moisture: 1, ...oversize },
      },
    )
  test.each([
    [{ share: 30 }, ''],
    [{ share: 31 }, /sieve of 19 mm are corrected for up to 30 %/],
    [{ share: 40, sieve: '4.75' }, ''],
    [{ share: 41, sieve: '4.75' }, /sieve of 4.75 mm are corrected for up to 40 %/],
    [{ share: 31, sieve: '19' }, /up to 30 %/],
  ])('%j', (oversize, message) => expect(new Site(plan).refusal(curve(oversize))).toMatch(message === '' ? /^$/ : message))
})

describe('what is recorded is not made up', () => {
  test('a course in one go invents no plant and no passes where none was recorded below', () => {
    const site = new Site(with_({ rules: { openCourses: 2 } })).toBackfill('B', false).work('units', 'B', 2)
    const kinds = (s: Site, c: number) =>
      courseSheet(s.state, 'B', c)
        ?.facts(0.001)
        .map((f) => f.kind)
    expect(kinds(site, 2)).not.toContain('lift')
    const placed = new Site(plan).toBackfill().work('units', 'B', 2)
    const lift = courseSheet(placed.state, 'B', 2)
      ?.facts(0.001)
      .find((f) => f.kind === 'lift')
    expect(lift?.data).toMatchObject({ plant: 'light-plate', passes: 4 })
  })
  test('tilt across and batter are read, not optional; within what is asked', () => {
    const site = new Site(plan).work('services').work('set-out').release('set-out')
    const work = site.step('bedding', 'B', 1).stage.work
    expect(measuresOf(work as never, plan).map((m) => m.id)).toEqual(['tilt'])
    expect(measuresOf(work as never, smallPlan)).toEqual([])
    const tilt = (value: number) =>
      judge(plan, 'check', { stage: 'bedding', section: 'B', course: 1 }, { confirmed: [], measured: [{ id: 'tilt', value }] })?.verdict
    expect([tilt(0.003), tilt(-0.003), tilt(0.004), tilt(-0.004)]).toEqual([undefined, undefined, 'out', 'out'])
    const batter = (value: number) =>
      judge(plan, 'check', { stage: 'top', section: 'B', course: 7 }, { confirmed: [], measured: [{ id: 'batter', value }] })?.verdict
    expect([batter(0.035), batter(-0.036)]).toEqual([undefined, 'out'])
    expect(goodSize({ id: 'tilt', text: 'Tilt', most: 'tilt', either: true })).toBeLessThan(limitsOf(plan).tilt.value)
  })
  test('stone in baskets: size against the mesh, and no basket far above its neighbour', () => {
    const p = today(planOn([at(0, 0), at(9, 0)], false, { system: 'gabion', unit: unitNamed('basket-2x1x1'), pad: { ...smallPlan.pad, width: 1.3 } }))
    const fill = (id: string, value: number) =>
      judge(p, 'check', { stage: 'fill', section: 'A', course: 1 }, { confirmed: [], measured: [{ id, value }] })?.text
    expect([fill('stone-least', 0.1), fill('stone-least', 0.09), fill('stone-most', 0.26), fill('fill-step', 0.34)]).toEqual([
      undefined,
      'smallest stone 90 mm, at least 100 mm',
      'largest stone 260 mm, at most 250 mm',
      'fill above the neighbour while filling, at most 340 mm, at most 330 mm',
    ])
  })
})

test('lean is measured over the courses that stand there, not over the whole wall', () => {
  const stepped = with_({
    grades: [
      { station: 0, toe: 10.5, top: 11.3 },
      { station: 9, toe: 10, top: 11.3 },
    ],
    sections: [{ id: 'A', from: 0, to: 9 }],
    pad: { ...smallPlan.pad, minRun: 2.7 },
  })
  const layout = layoutOf(stepped)
  const [low, high] = [Math.min(...layout.steps.map((s) => s.elevation)), Math.max(...layout.steps.map((s) => s.elevation))]
  expect(high).toBeGreaterThan(low)
  const upper = layout.courses.find((c) => Math.abs(c.bottom - high) < 1e-6)?.course ?? 0
  const lower = layout.courses.find((c) => Math.abs(c.bottom - low) < 1e-6)?.course ?? 0
  let seq = 0
  const state = stateOf(
    [lower, upper].flatMap((course) => {
      const step = stateOf([], stepped).steps.find((s) => s.stage.id === 'line' && s.course === course)
      return (step?.points ?? []).map((station) => ({
        ...entry('reading', { stage: 'line', section: 'A', course, station }, { method: 'deviation', value: 0.005 }),
        id: `01900000-0000-7000-8000-${(++seq + 0xabc000).toString(16).padStart(12, '0')}`,
      }))
    }),
    stepped,
  )
  const columns = growthReport(state, 'A', 'line').columns
  const leans = columns.map((c) => c.lean ?? 0)
  // The same 5 mm is more of a lean where fewer courses stand.
  expect(Math.max(...leans)).toBeGreaterThan(Math.min(...leans) * 1.15)
})

describe('glue waits for weather of today', () => {
  test('weather of the day before yesterday is not now', () => {
    const site = new Site(plan)
    site.put(entry('weather', {}, { rain: 0, low: 8, wind: 5 }, { at: '2026-05-18T06:00:00Z' }), morningLook())
    const cap = site.step('cap', 'B', [...site.state.layout.cells.values()].filter((c) => c.section === 'B' && c.last)[0]?.course)
    expect(site.refusal(good(cap)[0] as Entry)).toMatch(/The newest weather recorded is of Mon 18 May: record today's/)
    site.put(entry('weather', {}, { rain: 0, low: 8, wind: 5 }, { at: '2026-05-20T06:00:00Z' }))
    expect(site.refusal(good(cap)[0] as Entry)).not.toMatch(/record today's/)
  })
})

describe('walls of earlier rules', () => {
  test('what today would stop is said, and no verdict is rewritten', () => {
    const { engineer: _, ...bare } = smallPlan
    const thick = entry('lift', { stage: 'backfill', section: 'A', course: 3 }, { lift: 1, thickness: 0.19, passes: 2, plant: 'hand-tamper' })
    const state = stateOf([thick], bare as Plan)
    const found = stricter(state)
    expect(plain(found?.entries.map((e) => [e.recorded.entry.id, e.text]))).toEqual([
      [thick.id, expect.stringMatching(/limit 75 mm with a hand tamper; 2 passes/)],
    ])
    expect(plain(found?.plan.join())).toMatch(/engineer/)
    expect(state.outs.size).toBe(0)
    expect(stricter(stateOf([thick], plan))).toBeUndefined()
    const fine = entry('lift', { stage: 'backfill', section: 'A', course: 3 }, { lift: 1, thickness: 0.1, passes: 4, plant: 'light-plate' })
    expect(stricter(stateOf([fine], { ...smallPlan, ...ENGINEERED }))).toBeUndefined()
  })
})

describe('a wall half built under earlier rules gets a revision of today', () => {
  const before = new Site(smallPlan).toBackfill()
  const revised = () => fold([layoutOf(smallPlan), layoutOf(plan)], recorded(before.entries))
  const done = (state: WallState) => state.steps.filter((s) => cleared(statusOf(state, s))).map((s) => s.key)
  test('what was done and released stays so; nobody is asked about what lies under the pad', () => {
    const state = revised()
    expect(done(state)).toEqual(expect.arrayContaining(done(before.state).filter((k) => state.byKey.has(k))))
    expect(unmatched(state)).toEqual([])
    const subgrade = state.byKey.get(stepKey({ stage: 'subgrade', section: 'B' }))
    expect(subgrade && needsOf(state, subgrade)).toEqual([])
  })
  test('its verdicts stay; what today would have stopped is still said', () => {
    const thick = entry('lift', { stage: 'backfill', section: 'B', course: 1 }, { lift: 3, thickness: 0.18, passes: 2, plant: 'hand-tamper' })
    const state = fold([layoutOf(smallPlan), layoutOf(plan)], recorded([...before.entries, thick]))
    expect(state.outs.has(thick.id)).toBe(false)
    expect(stricter(state)?.entries.map((e) => e.recorded.entry.id)).toEqual([thick.id])
    // The same recorded under the revision of today is out.
    const now = fold([layoutOf(smallPlan), layoutOf(plan)], recorded([...before.entries, { ...thick, revision: 2 }]))
    expect(now.outs.has(thick.id)).toBe(true)
  })
  test('section A, not begun, is asked for everything of today', () => {
    const state = revised()
    const step = state.byKey.get(stepKey({ stage: 'subgrade', section: 'A' }))
    expect(step && plain(needsOf(state, step)).join()).toMatch(/the soil from 0.00 to 4.50.*the cut/)
  })
})
