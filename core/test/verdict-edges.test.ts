// The edges of advice and admission: each fact by itself moves what it should, and nothing else.
import {
  type Entry,
  fold,
  growthReport,
  layerReport,
  lineOf,
  looksLikeShare,
  mismatch,
  misplaced,
  type PadFacts,
  type EarlierPlan as Plan,
  padAdvice,
  proposeOutlets,
  unmatched,
  weatherCautions,
} from '@stone-tally/core'
import { entry, layoutOf, plain, recorded, SIGNED, smallPlan, stateOf } from './plans'
import { Site } from './site'

describe('pad advice: every fact by itself', () => {
  const facts: PadFacts = {
    padBottom: 9.2,
    padTop: 9.4,
    outlet: 9.3,
    subgrade: 'clean-sand',
    frost: false,
    rain: false,
    unitMass: 34,
    height: 1,
    flexible: false,
  }
  const scores = (change: Partial<PadFacts>) => Object.fromEntries(padAdvice({ ...facts, ...change }).map((o) => [o.material, o.score]))
  const plainly = { 'dense-graded': 6, 'open-graded': -5, sand: -106, 'sand-cement': 1, 'lean-concrete': -3 }
  test.each([
    ['nothing special', {}, {}],
    ['an outlet below the pad', { outlet: 9.219 }, { 'dense-graded': 2, 'open-graded': 3 }],
    ['a hair above that', { outlet: 9.221 }, {}],
    ['tight soil', { subgrade: 'lean-clay' }, { 'dense-graded': 7 }],
    ['tight soil and an outlet below', { subgrade: 'lean-clay', outlet: 9.2 }, { 'dense-graded': 2, 'open-graded': 4 }],
    ['silt', { subgrade: 'silt' }, { 'dense-graded': 7, 'open-graded': -6 }],
    ['frost', { frost: true }, { 'dense-graded': 4, 'open-graded': -3, 'sand-cement': -1, 'lean-concrete': -4 }],
    ['rain', { rain: true }, { 'dense-graded': 4, 'open-graded': -3, sand: -107, 'sand-cement': -1 }],
    ['heavy units', { unitMass: 250.1 }, { 'dense-graded': 2, 'sand-cement': 3, 'lean-concrete': 4 }],
    ['not quite heavy units', { unitMass: 250 }, {}],
    ['a tiny wall', { height: 0.6 }, { sand: -1 }],
    ['not quite tiny', { height: 0.61 }, {}],
    ['baskets', { flexible: true }, { 'sand-cement': -1, 'lean-concrete': -6 }],
  ] as [string, Partial<PadFacts>, Record<string, number>][])('%s', (_name, change, moved) =>
    expect(scores(change)).toEqual({ ...plainly, ...moved }),
  )
  test('best first; reasons on the side they speak for; where the drain sits', () => {
    const [first, ...rest] = padAdvice(facts)
    expect(first?.material).toBe('dense-graded')
    expect(rest.map((o) => o.score)).toEqual([...rest.map((o) => o.score)].sort((a, b) => b - a))
    expect(first?.reasonsFor).toHaveLength(2)
    expect(first?.against).toEqual([])
    expect(padAdvice({ ...facts, rain: true }).find((o) => o.material === 'dense-graded')?.against).toHaveLength(1)
    const drains = (outlet: number) => plain(padAdvice({ ...facts, outlet }).map((o) => o.drain))
    expect(drains(9.42).every((d) => d.startsWith('On a bed') || d.startsWith('Raised'))).toBe(true)
    expect(drains(9.43)[0]).toMatch(/^Raised to 9\.43/)
    expect(plain(padAdvice({ ...facts, outlet: 9.2 }).find((o) => o.material === 'open-graded')?.drain)).toMatch(/^Low/)
  })
})

test.each([
  [0, false],
  [0.001, true],
  [0.999, true],
  [1, false],
  [8.4, false],
])('moisture of %d looks like a share: %s', (m, is) => expect(looksLikeShare(m)).toBe(is))

describe('weather', () => {
  const ids = (now: object, expected?: object) =>
    weatherCautions({ rain: 0, low: 9, wind: 0, ...now }, expected && { rain: 0, low: 9, wind: 0, ...expected }).map((c) => c.id)
  test.each([
    [{ low: 3 }, ['near-frost']],
    [{ low: 3.1 }, []],
    [{ low: 0 }, ['frost']],
    [{ low: 0.1 }, ['near-frost']],
    [{ rain: 4.9 }, []],
    [{ rain: 5 }, ['wet']],
    [{ rain: 19.9 }, ['wet']],
    [{ rain: 20 }, ['soaked']],
    [{ wind: 34 }, []],
    [{ wind: 35 }, ['wind']],
  ])('%j', (now, list) => expect(ids(now)).toEqual(list))
  test.each([
    [{ rain: 5 }, ['cover']],
    [{ rain: 4.9 }, []],
    [{ low: 0 }, ['cover']],
    [{ low: 0.1 }, []],
  ])('expected %j', (expected, list) => expect(ids({}, expected)).toEqual(list))
})

describe('openings inside the wall', () => {
  const layout = layoutOf()
  const high = Math.max(...layout.tops.map((t) => t.elevation))
  const low = Math.min(...layout.steps.map((s) => s.elevation))
  const at = (o: object) =>
    misplaced(layoutOf({ ...smallPlan, openings: [{ name: 'culvert', station: 4, width: 0.4, bottom: 10, height: 0.3, ...o }] } as Plan)).map(
      (p) => p.field,
    )
  test.each([
    ['inside', {}, []],
    ['at the top edge', { bottom: high }, ['openings[0].bottom']],
    ['a millimetre below it', { bottom: high - 0.001 }, []],
    ['ending at the pad', { bottom: low - 0.3 }, ['openings[0].bottom']],
    ['a millimetre into the wall', { bottom: low - 0.299 }, []],
    ['at the start', { station: 0.2 }, []],
    ['past the start', { station: 0.19 }, ['openings[0].station']],
    ['at the end', { station: 8.8 }, []],
    ['past the end', { station: 8.81 }, ['openings[0].station']],
  ])('%s', (_name, o, fields) => expect(at(o)).toEqual(fields))
})

describe('admission', () => {
  test('a correction wants a reason of three letters', () => {
    const site = new Site().work('services')
    const old = site.entries[0] as Entry
    const again = (reason: string) => entry('check', { stage: 'services' }, { confirmed: ['located'] }, { supersedes: old.id, reason })
    expect(site.refusal(again('no'))).toMatch(/reason: is missing/)
    expect(site.refusal(again(' no '))).toMatch(/reason: is missing/)
    expect(site.refusal(again('mix'))).toBe('')
  })
  test('what is not complete may be rejected, not released', () => {
    const site = new Site().work('services')
    const decide = (decision: string) => entry('release', { stage: 'set-out' }, { decision, reason: 'seen', signature: SIGNED })
    expect(site.refusal(decide('released'))).toMatch(/not complete/)
    expect(site.refusal(decide('rejected'))).toBe('')
  })
})

describe('a layer in words and in the report', () => {
  const where = { stage: 'grid', section: 'B', course: 2 }
  const laid = { type: 'uniaxial 30', length: 1.2, front: 0.04, direction: 'across', tight: true }
  const line = (more: object) => lineOf(stateOf([]), entry('geogrid', where, { ...laid, ...more }), { units: 'metric' })
  test('whatever was said of it, and nothing that was not', () => {
    expect(line({})).toBe('Geogrid uniaxial 30 1.20 m, strength across, front 40 mm behind face')
    expect(line({ front: -0.01 })).toMatch(/front -?10 mm in front of face|front −?10 mm in front of face/)
    expect(line({ roll: 'R1' })).toMatch(/, roll R1$/)
    expect(line({ roll: 'R1', lot: 'L9' })).toMatch(/, roll R1 of lot L9$/)
    expect(line({ lot: 'L9' })).not.toMatch(/L9/)
    expect(line({ pins: 12, cover: 0.15, between: 0.08 })).toMatch(/, 12 pins, 150 mm of fill before traffic, 80 mm of soil between overlaps$/)
    expect(line({ from: 4.5, to: 7 })).toMatch(/, 4\.50 to 7\.00$/)
    expect(line({ from: 4.5 })).not.toMatch(/4\.50/)
  })
  test('its entries are those that stand, of layers alone', () => {
    const site = new Site().toBackfill()
    for (const s of ['units', 'level', 'setback', 'joints', 'fill', 'backfill']) site.work(s, 'B', 2)
    expect(layerReport(site.state).find((l) => l.layer.section === 'B')).toMatchObject({ state: 'to place', entries: [] })
    const first = entry('geogrid', where, laid)
    const second = entry('geogrid', where, { ...laid, roll: 'R1' }, { supersedes: first.id, reason: 'roll left out' })
    site.put(first, second)
    site.put(
      entry('photo', where, {
        file: '01900000-0000-7000-8000-00000000f0f0',
        sha256: 'a'.repeat(64),
        name: 'a.jpg',
        type: 'image/jpeg',
        bytes: 1000,
        width: 10,
        height: 10,
        location: 'none',
      }),
    )
    expect(layerReport(site.state).find((l) => l.layer.section === 'B')).toMatchObject({ state: 'placed', entries: [{ entry: { id: second.id } }] })
    site.release('grid', 'B', 2)
    expect(layerReport(site.state).find((l) => l.layer.section === 'B')?.state).toBe('released')
  })
})

describe('the line ahead between readings', () => {
  /** Courses of a stepped wall are read at other stations than the one followed: carried over by a straight line between neighbours. */
  const read = (values: readonly [station: number, value: number][]) =>
    growthReport(
      stateOf(
        values.map(([station, value]) => entry('reading', { stage: 'level', section: 'B', course: 3, station }, { method: 'deviation', value })),
      ),
      'B',
      'level',
    ).columns.map((c) => [c.station, c.readings[0]?.deviation])
  const stations = growthReport(stateOf([]), 'B', 'level')
  test('a reading speaks for its own station', () => {
    expect(stations.columns).toEqual([])
    const [only] = read([[6.75, 0.004]])
    expect(only).toEqual([6.75, 0.004])
  })
  test('the worst is the largest of all, the first of two alike', () => {
    const worst = (values: readonly number[]) =>
      growthReport(
        stateOf(
          values.map((value, i) =>
            entry('reading', { stage: 'level', section: 'B', course: 3, station: [4.6, 6.75, 8.9][i] as number }, { method: 'deviation', value }),
          ),
        ),
        'B',
        'level',
      ).worst?.station
    expect(worst([0.001, -0.005, 0.002])).toBe(6.75)
    expect(worst([0.006, 0.001, 0.002])).toBe(4.6)
    expect(worst([0.003, 0.001, -0.003])).toBe(4.6)
  })
})

describe('revisions', () => {
  test('the line is compared as far as both walls reach, to the millimetre', () => {
    const line = (bend: number, length = 9) =>
      layoutOf({
        ...smallPlan,
        length,
        alignment: {
          closed: false,
          vertices: [
            { easting: 0, northing: 0, bulge: 0 },
            { easting: length, northing: bend, bulge: 0 },
          ],
        },
        ...(length === 9
          ? {}
          : {
              grades: smallPlan.grades.map((g) => (g.station === 9 ? { ...g, station: length } : g)),
              sections: [
                { id: 'A', from: 0, to: 4.5 },
                { id: 'B', from: 4.5, to: length },
              ],
            }),
      } as Plan)
    const site = new Site(line(0).plan).work('services').work('set-out')
    const moved = (after: ReturnType<typeof layoutOf>) => unmatched(fold([line(0), after], recorded(site.entries))).map((u) => u.key)
    const length = (bend: number) => Math.hypot(9, bend)
    expect(moved(line(0))).toEqual([])
    expect([length(0.004), moved(line(0, 12)).includes('set-out||')]).toEqual([expect.any(Number), false])
    const step = site.step('set-out')
    const check = site.entries.find((e) => e.where.stage === 'set-out') as Entry
    expect(plain(mismatch(line(0), line(0.2), step, check))).toMatch(/the face line moved by up to \d+ mm since/)
  })
})

test('outlets are proposed only where the pipe stays under the ground, its own height counted', () => {
  const plan = (toe: number): Plan => ({
    ...smallPlan,
    grades: [
      { station: 0, toe, top: toe + 1 },
      { station: 9, toe, top: toe + 1 },
    ],
    drain: { ...smallPlan.drain, outlets: [{ station: 9, invert: 9.8 }] },
  })
  // At the far end the invert is 9.89 and the pipe 0.1: it needs the ground at 9.99.
  expect(proposeOutlets(layoutOf(plan(9.99))).ok).toBe(true)
  expect(proposeOutlets(layoutOf(plan(9.98))).ok).toBe(false)
})
