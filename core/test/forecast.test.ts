import {
  advance,
  beddingAdvice,
  type CourseReading,
  correctionOf,
  correctionWords,
  expectedAt,
  type GrowthRule,
  growthOf,
  growthReport,
  surenessWords,
} from '@stone-tally/core'
import fc from 'fast-check'
import { entry, plain } from './plans'
import { Site } from './site'

const rule: GrowthRule = { limit: 0.006, scatter: 0.0015, drift: 0.0005, step: 0.003, grain: 0.001 }
const line = (from: number, slope: number, courses: number): CourseReading[] =>
  Array.from({ length: courses }, (_, i) => ({ course: i + 1, deviation: from + slope * i }))
const growth = (readings: readonly CourseReading[], top = 12) => {
  const g = growthOf(readings, top, rule)
  if (!g) throw new Error('no growth')
  return g
}

describe('error growth', () => {
  test('nothing is said without a reading', () => expect(growthOf([], 10, rule)).toBeUndefined())
  test('one reading says where the course lies and nothing of a trend', () => {
    const g = growth([{ course: 1, deviation: 0.003 }])
    expect(g.slope).toBe(0)
    expect(expectedAt(g, 12).deviation).toBeCloseTo(0.003, 12)
    // ± 2 · √(1.5² + (11 · 0.5)²) mm
    expect(expectedAt(g, 12).band).toBeCloseTo(2 * Math.hypot(0.0015, 11 * 0.0005), 12)
    expect(g.leaves).toBeUndefined()
    expect(g.mayLeave).toBe(2)
    expect(surenessWords(g)).toMatch(/nothing of a trend/)
  })
  test('two readings are believed a little only', () => {
    const g = growth(line(0, 0.002, 2))
    expect(g.sureness).toBe('guess')
    // Sxx 0.5, σ²/τ² 9: 0.5/9.5 of the slope the two points show.
    expect(g.slope).toBeCloseTo((0.002 * 0.5) / 9.5, 12)
    expect(surenessWords(g)).toMatch(/any two points/)
  })
  test('many readings of one line give it back, with a narrow band', () => {
    const g = growth(line(0.001, 0.0008, 20), 40)
    expect(g.slope).toBeCloseTo(0.0008, 4)
    expect(expectedAt(g, 40).deviation).toBeCloseTo(0.001 + 0.0008 * 39, 3)
    expect(expectedAt(g, 40).band).toBeLessThan(expectedAt(growth(line(0.001, 0.0008, 3), 40), 40).band / 4)
  })
  test('the first course at which it leaves is the first whose expected line is beyond the limit', () => {
    const g = growth(line(0, 0.001, 5), 12)
    const beyond = Array.from({ length: 7 }, (_, i) => i + 6).filter((c) => Math.abs(expectedAt(g, c).deviation) > rule.limit)
    expect(g.leaves).toBe(beyond[0])
    expect(g.mayLeave ?? 99).toBeLessThanOrEqual(g.leaves ?? 0)
  })
  test('readings that scatter widen the band', () => {
    const calm = growth(line(0, 0, 8))
    const wild = growth(line(0, 0, 8).map((r, i) => ({ ...r, deviation: i % 2 ? 0.008 : -0.008 })))
    expect(expectedAt(wild, 12).band).toBeGreaterThan(2 * expectedAt(calm, 12).band)
  })
  test('any readings: the line is where the normal equations say, the band never shrinks away from its middle', () =>
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -20, max: 20 }), { minLength: 1, maxLength: 30 }), (mm) => {
        const readings = mm.map((v, i) => ({ course: i + 1, deviation: v / 1000 }))
        const g = growth(readings, 40)
        // Derivative of Σ(y − a − b·x)² + λ·b² in b, x from the middle, is nought.
        const spread = readings.reduce(
          (s, r) => s + (r.course - g.middle.course) * (r.deviation - g.middle.deviation - g.slope * (r.course - g.middle.course)),
          0,
        )
        const lambda = g.variance.middle * g.count * (1 / rule.drift ** 2)
        expect(spread - lambda * g.slope).toBeCloseTo(0, 9)
        for (let c = g.now; c < 40; c++) expect(expectedAt(g, c + 1).band).toBeGreaterThanOrEqual(expectedAt(g, c).band)
      }),
    ))
})

describe('the smallest correction', () => {
  test('none where the line stays inside', () => expect(correctionOf(growth(line(0.001, 0, 6)), rule)).toMatchObject({ way: 'none', courses: [] }))
  test('doing what it says keeps every course inside, and no more is asked than is beyond the limit', () =>
    fc.assert(
      fc.property(fc.integer({ min: -15, max: 15 }), fc.integer({ min: -5, max: 5 }), fc.integer({ min: 3, max: 10 }), (slope, from, courses) => {
        const g = growth(line(from / 1000, slope / 10_000, courses), 14)
        const c = correctionOf(g, rule)
        const beyondTop = Math.max(...Array.from({ length: g.top - g.now }, (_, i) => Math.abs(expectedAt(g, g.now + 1 + i).deviation) - rule.limit))
        expect(c.way === 'none').toBe(beyondTop <= 1e-9)
        if (c.way !== 'even') return
        expect(Math.abs(c.total)).toBeGreaterThanOrEqual(beyondTop - 1e-9)
        expect(Math.abs(c.total)).toBeLessThan(beyondTop + rule.grain)
        expect((Math.abs(c.total) / rule.grain) % 1).toBeCloseTo(0, 6)
        let done = 0
        for (let course = g.now + 1; course <= g.top; course++) {
          const by = c.courses.find((x) => x.course === course)?.by ?? 0
          expect(Math.abs(by)).toBeLessThanOrEqual(rule.step + 1e-9)
          done += by
          expect(Math.abs(expectedAt(g, course).deviation + done)).toBeLessThanOrEqual(rule.limit + 1e-9)
        }
      }),
    ))
  test('more than a course can take is set again', () => {
    expect(correctionOf(growth([{ course: 1, deviation: 0.02 }], 3), rule)).toMatchObject({ way: 'reset' })
  })
})

describe('error growth of a wall from its record', () => {
  const two = () => new Site().toBackfill().work('units', 'B', 2)
  test('level: station by station, updated only where something changed', () => {
    const site = two()
    const before = growthReport(site.state, 'B', 'level')
    expect(before.columns.map((c) => c.readings.map((r) => r.course))).toEqual(before.columns.map(() => [1]))
    const station = before.columns[1]?.station ?? 0
    site.put(entry('reading', { stage: 'level', section: 'B', course: 2, station }, { method: 'deviation', value: 0.005 }))
    const after = growthReport(site.state, 'B', 'level', before)
    expect(after.columns[1]?.readings).toEqual([
      { course: 1, deviation: -0.001 },
      { course: 2, deviation: 0.005 },
    ])
    // Stations nobody touched are the very same objects.
    expect(after.columns[0]).toBe(before.columns[0])
    expect(after.worst?.station).toBe(station)
    const anew = growthReport(site.state, 'B', 'level')
    const plain = (r: typeof anew) => r.columns.map((c) => ({ ...c, readings: c.readings }))
    expect(plain(after)).toEqual(plain(anew))
    expect(after.leaves).toBe(anew.leaves)
  })
  test('whatever is read, in whatever order: kept up to date is the same as made anew', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 9 }), fc.integer({ min: -9, max: 9 }), fc.boolean()), { minLength: 1, maxLength: 14 }),
        (told) => {
          const site = two()
          let report = growthReport(site.state, 'B', 'level')
          for (const [place, mm, along] of told) {
            const at = { stage: 'level', section: 'B', course: 2, station: 4.6 + place * 0.47 }
            site.state = advance(site.state, {
              seq: 1000 + site.state.entries.length,
              receivedAt: '',
              entry: along ? entry('sighting', at, { worst: mm / 1000 }) : entry('reading', at, { method: 'deviation', value: mm / 1000 }),
            })
            report = growthReport(site.state, 'B', 'level', report)
            const anew = growthReport(site.state, 'B', 'level')
            expect(report.columns.map((c) => [c.station, c.readings, c.expected, c.correction])).toEqual(
              anew.columns.map((c) => [c.station, c.readings, c.expected, c.correction]),
            )
            expect([report.leaves, report.worst?.station]).toEqual([anew.leaves, anew.worst?.station])
          }
        },
      ),
      { numRuns: 60 },
    ))
  test('a course run along counts once, where its largest deviation was met', () => {
    const site = two().put(entry('sighting', { stage: 'level', section: 'B', course: 2, station: 7.4 }, { worst: 0.004 }))
    const at = growthReport(site.state, 'B', 'level').columns.filter((c) => c.readings.some((r) => r.course === 2))
    expect(at).toHaveLength(1)
    expect(Math.abs((at[0]?.station ?? 0) - 7.4)).toBeLessThan(1.6)
  })
  test('line: steps back add up on the alignment of the first course, and make a lean', () => {
    const site = two().work('level', 'B', 2)
    const step = site.step('setback', 'B', 2)
    for (const station of step.points)
      site.put(entry('reading', { stage: 'setback', section: 'B', course: 2, station }, { method: 'deviation', value: 0.004 }))
    const report = growthReport(site.state, 'B', 'line')
    const column = report.columns.find((c) => c.readings.length === 2)
    // First course 1 mm in, second 4 mm too far back: 5 mm in.
    expect(column?.readings[1]?.deviation).toBeCloseTo(-0.005, 9)
    expect(column?.lean).toBeGreaterThan(0)
  })
  test('words say what to do', () => {
    const site = two()
    const report = growthReport(site.state, 'B', 'level')
    expect(correctionWords(report.columns[0] as never, 'level')).toBe('Nothing to correct.')
    const g = growth(line(0, 0.0012, 6), 14)
    const words = correctionWords({ growth: g, correction: correctionOf(g, rule) } as never, 'level')
    expect(plain(words)).toMatch(/^Shave 1 mm at each of courses 7 to 1\d\.$/)
  })
})

describe('which unit to lift or knock', () => {
  const site = () =>
    new Site()
      .work('services')
      .work('set-out')
      .release('set-out')
      .work('dig', 'B')
      .work('subgrade', 'B')
      .release('subgrade', 'B')
      .work('pad', 'B')
      .work('pad-level', 'B')
      .release('pad-level', 'B')
      .work('units', 'B', 1)
  const where = { stage: 'level', section: 'B', course: 1 }
  test('a point that is low, and what it becomes at the top', () => {
    const s = site().put(entry('reading', { ...where, station: 4.6 }, { method: 'deviation', value: -0.005 }))
    expect(plain(beddingAdvice(s.state, 'B'))).toMatchObject([{ unit: 1, what: 'Lift it 5 mm; 3 mm either way is allowed.' }])
    expect(plain(beddingAdvice(s.state, 'B')[0]?.left)).toMatch(/about 5 mm low, give or take \d+ mm/)
  })
  test('a unit whose back is high leans the wall out', () => {
    const s = site().put(entry('unit-level', where, { unit: 3, across: 0.004, along: 0.001 }))
    expect(plain(beddingAdvice(s.state, 'B')[0])).toMatchObject({ unit: 3, what: 'Knock down the back 4 mm.' })
    expect(plain(beddingAdvice(s.state, 'B')[0]?.left)).toMatch(/stands \d+ mm further out/)
  })
  test('read again after it was tapped down it is no longer named', () => {
    const s = site().put(entry('unit-level', where, { unit: 3, along: -0.004 }))
    expect(plain(beddingAdvice(s.state, 'B')[0]?.what)).toBe('Knock down the end of lower stations 4 mm.')
    s.put(entry('unit-level', where, { unit: 3, along: -0.001 }))
    expect(beddingAdvice(s.state, 'B')).toEqual([])
  })
  test('refused: no such unit, nothing read, a course above', () => {
    const s = site()
    expect(s.refusal(entry('unit-level', where, { unit: 40, along: 0 }))).toMatch(/data.unit: there are 10 here, not 40/)
    expect(s.refusal(entry('unit-level', where, { unit: 4 }))).toMatch(/at least one of along/)
    expect(s.refusal(entry('unit-level', { ...where, course: 3 }, { unit: 1, along: 0 }))).toMatch(/in a course that lies on the pad/)
  })
})
