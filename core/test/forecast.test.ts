import {
  advance,
  beddingAdvice,
  calculate,
  calculatorOf,
  correctionOf,
  correctionWords,
  expectedAt,
  growthOf,
  growthReport,
  oddsAt,
  surenessWords,
} from '@stone-tally/core'
import fc from 'fast-check'
import { growth, lean, line, rule, top } from './growth'
import { entry, plain } from './plans'
import { Site } from './site'

describe('error growth', () => {
  test('nothing is said without a reading', () => expect(growthOf([], 10, rule)).toBeUndefined())
  test('one reading says where the course lies and nothing of a trend', () => {
    const g = growth([{ course: 1, deviation: 0.003 }])
    expect(g.slope).toBe(0)
    expect(top(g).deviation).toBeCloseTo(0.003, 12)
    // By hand: reading 0.8² + 11 courses of the mean walk (0.15·0.2² + 0.25·0.8² + 0.6·1.5²) + (11·0.4)² mm², 2.05 times its root.
    const walk = 0.15 * 0.2 ** 2 + 0.25 * 0.8 ** 2 + 0.6 * 1.5 ** 2
    expect(top(g).band * 1000).toBeCloseTo(2.05 * Math.sqrt(0.8 ** 2 + 11 * walk + (11 * 0.4) ** 2), 9)
    expect(g.leaves).toBeUndefined()
    expect(g.mayLeave).toBe(2)
    expect(surenessWords(g)).toMatch(/nothing of a trend/)
  })
  test('two readings are believed a little only, many are believed', () => {
    const two = growth(line(0, 0.002, 2))
    expect(two.sureness).toBe('guess')
    expect(two.slope).toBeGreaterThan(0)
    expect(two.slope).toBeLessThan(0.0004)
    expect(surenessWords(two)).toMatch(/any two points/)
    const many = growth(line(0.001, 0.0008, 20), 40)
    expect(many.slope).toBeCloseTo(0.0008, 4)
    expect(top(many).deviation).toBeCloseTo(0.001 + 0.0008 * 39, 2)
    expect(top(many).band).toBeLessThan(top(growth(line(0.001, 0.0008, 3), 40)).band / 2)
  })
  test('by hand: three steps of a lean add up, what is still to come is their mean held back', () => {
    const g = growth(line(0.004, 0, 3), 6, lean)
    // Of the three scatters the first is the best believed; all give the same sign, between the sum of what was read and that and its mean again.
    expect(top(g).deviation).toBeGreaterThan(0.011)
    expect(top(g).deviation).toBeLessThan(0.024)
    // A crew that steps by 1 mm as its company does is sure sooner; one that steps by 4 mm is not made calmer by its company's record.
    const band = (mm: number, scatter?: number) => top(growth(line(mm / 1000, 0, 3), 6, { ...lean, scatter })).band
    expect(band(1, 0.001)).toBeLessThan(0.8 * band(1))
    expect(band(4, 0.001)).toBeGreaterThan(0.95 * band(4))
  })
  test('a company that knows its scatter has a band that fits it', () => {
    const bands = [0.0003, 0.001, 0.002].map((scatter) => top(growth(line(0, 0.0005, 4), 12, { ...rule, scatter })).band)
    expect(bands[0]).toBeLessThan(bands[1] as number)
    expect(bands[1]).toBeLessThan(bands[2] as number)
  })
  test('course by course it is the filter that takes any gaps, to the last digit', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -12, max: 12 }), { minLength: 2, maxLength: 25 }),
        fc.constantFrom(undefined, 0.0004, 0.002),
        (mm, scatter) => {
          const of = { ...rule, scatter }
          const readings = mm.map((v, i) => ({ course: i + 1, deviation: v / 1000 }))
          // Numbers half a course apart are taken for one course each, by the filter that takes any gaps.
          const half = readings.map((r, i) => ({ ...r, course: 1 + i / 2 }))
          const [whole, general] = [growth(readings, 40, of), growth(half, 40, of)]
          expect(whole.here).toBeCloseTo(general.here, 12)
          expect(whole.slope).toBeCloseTo(general.slope, 12)
          for (const part of ['still', 'each', 'trend'] as const) expect(whole.variance[part]).toBeCloseTo(general.variance[part], 14)
        },
      ),
    ))
})

describe('the correction', () => {
  test('none where the line stays inside, band and all', () => {
    const sure = { ...rule, scatter: 0.0002 }
    expect(correctionOf(growth(line(0.0004, 0, 11), 12, sure), sure)).toMatchObject({ way: 'none', courses: [] })
  })
  test('aims at the middle, not at the limit, and says what it is worth', () => {
    const g = growth(line(0, 0.001, 6), 12)
    const c = correctionOf(g, rule)
    expect(c.way).toBe('even')
    expect(Math.abs(top(g).deviation + c.total)).toBeLessThanOrEqual(rule.grain / 2 + 1e-9)
    expect(c.odds.with).toBeGreaterThan(c.odds.without + 0.1)
    expect(oddsAt(g, rule, c.total)).toBe(c.odds.with)
  })
  test('never nothing to correct where the top may leave: the odds are said', () => {
    const c = { growth: growth(line(0, 0, 2)), correction: correctionOf(growth(line(0, 0, 2)), rule) } as never
    expect(correctionWords(c, 'level')).toMatch(/No correction would better it: the top stays inside in about \d cases of 10/)
  })
  test('odds by hand: a normal value of one standard deviation lies within 1.96 of nought in 95 of 100', () => {
    const g = { ...growth(line(0, 0, 1), 2), here: 0, slope: 0, variance: { still: (0.006 / 1.959964) ** 2, each: 0, trend: 0 } }
    expect(oddsAt(g, rule)).toBeCloseTo(0.95, 5)
    expect(oddsAt(g, rule, 0.006)).toBeCloseTo(0.5, 3)
  })
  test('followed, it makes no course worse than its own limit, and the odds better', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: -15, max: 15 }),
        fc.integer({ min: -5, max: 5 }),
        fc.integer({ min: 2, max: 10 }),
        fc.constantFrom(rule, lean),
        (slope, from, courses, of) => {
          const g = growth(line(from / 1000, slope / 10_000, courses), 14, of)
          const c = correctionOf(g, of)
          if (g.leaves !== undefined || g.mayLeave !== undefined) expect(c.from).toBeDefined()
          if (c.way !== 'even') return
          expect(c.odds.with).toBeGreaterThanOrEqual(c.odds.without - 1e-9)
          expect((Math.abs(c.total) / of.grain + 1e-6) % 1).toBeLessThan(1e-4)
          let done = 0
          for (let course = g.now + 1; course <= g.top; course++) {
            const by = c.courses.find((x) => x.course === course)?.by ?? 0
            expect(Math.abs(by)).toBeLessThanOrEqual(of.step + 1e-9)
            const without = Math.abs(expectedAt(g, course).deviation + done)
            done += by
            expect(Math.abs(expectedAt(g, course).deviation + done)).toBeLessThanOrEqual(Math.max(of.limit, without) + 1e-9)
          }
          expect(done).toBeCloseTo(c.total, 9)
        },
      ),
    ))
  test('more than the courses to come can take is set again', () => {
    expect(correctionOf(growth([{ course: 1, deviation: 0.02 }], 3), rule)).toMatchObject({ way: 'reset' })
  })
  test('the company’s own scatter and many walls at once, by the command line’s name', () => {
    const calc = calculatorOf('line-ahead')
    if (!calc) throw new Error('no line-ahead')
    const wall = line(0, 0.001, 4)
    const input = { sense: 'level', courses: 12, limit: 0.006, walls: [wall, [...wall].reverse(), line(0, 0.002, 6)] }
    const out = calculate(calc, input)
    if (!out.ok) throw new Error(JSON.stringify(out.problems))
    const { walls } = out.value as { walls: { top: number; half: number; leaves?: number }[] }
    expect(walls[0]).toEqual(walls[1])
    expect(walls[0]).toMatchObject({ top: top(growth(wall)).deviation, half: top(growth(wall)).band })
    expect(walls[2]?.leaves).toBeDefined()
    expect('leaves' in (walls[0] ?? {})).toBe(growth(wall).leaves !== undefined)
    expect(calculate(calc, { ...input, walls: [[{ course: 13, deviation: 0 }]] })).toMatchObject({ problems: [{ field: 'walls[0][0].course' }] })
    expect(calculate(calc, { ...input, walls: [[...wall, ...wall.slice(1, 2)]] })).toMatchObject({ problems: [{ field: 'walls[0][4].course' }] })
    expect(calculate(calc, { ...input, walls: [] }).ok).toBe(false)
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
    expect(correctionWords(report.columns[0] as never, 'level')).toMatch(/inside in about \d cases of 10\. Read every course/)
    const g = growth(line(0, 0.0012, 6), 14)
    const words = correctionWords({ growth: g, correction: correctionOf(g, rule) } as never, 'level')
    expect(plain(words)).toMatch(/^Shave \d mm at each of courses 7 to 1\d: inside at the top in about \d+ cases of 10, \d+ without\.$/)
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
    // By its depth over the whole height of the wall, from the underside of the lowest course to the top of the highest.
    const { courses, building } = s.state.layout
    const high = Math.max(...courses.map((c) => c.top)) - Math.min(...courses.map((c) => c.bottom))
    const out = Math.round((0.004 / building.course(1).depth) * high * 1000)
    expect(out).toBeGreaterThan(10)
    expect(plain(beddingAdvice(s.state, 'B')[0]?.left)).toBe(`Left alone the top here stands ${out} mm further out.`)
  })
  test('read again after it was tapped down it is no longer named', () => {
    const s = site().put(entry('unit-level', where, { unit: 3, along: -0.004 }))
    expect(plain(beddingAdvice(s.state, 'B')[0]?.what)).toBe('Knock down the end of lower stations 4 mm.')
    s.put(entry('unit-level', where, { unit: 3, along: -0.001 }))
    expect(beddingAdvice(s.state, 'B')).toEqual([])
  })
  test.each([
    [{ along: 0.002 }, undefined],
    [{ along: 0.0021 }, /^Knock down the end of higher stations 2 mm\.$/],
    [{ along: -0.0021 }, /^Knock down the end of lower stations 2 mm\.$/],
    [{ across: 0.003 }, /^Knock down the back 3 mm\.$/],
    [{ across: -0.003 }, /^Knock down the front 3 mm\.$/],
    [{ across: 0.002 }, undefined],
    [{ diagonal: 0.003 }, /^It rocks corner to corner: lift it and dress the bed 3 mm\.$/],
    [{ diagonal: 0.002 }, undefined],
    [{ diagonal: 0.004, along: 0.003 }, /^Knock down the end of higher stations 3 mm\.$/],
  ])('a unit %j', (data, words) => {
    const s = site().put(entry('unit-level', where, { unit: 3, ...data }))
    const [advice] = plain(beddingAdvice(s.state, 'B').filter((a) => a.unit === 3))
    if (words) expect(advice?.what).toMatch(words)
    else expect(advice).toBeUndefined()
  })
  test('refused: no such unit, nothing read, a course above', () => {
    const s = site()
    expect(s.refusal(entry('unit-level', where, { unit: 40, along: 0 }))).toMatch(/data.unit: there are 10 here, not 40/)
    expect(s.refusal(entry('unit-level', where, { unit: 4 }))).toMatch(/at least one of along/)
    expect(s.refusal(entry('unit-level', { ...where, course: 3 }, { unit: 1, along: 0 }))).toMatch(/in a course that lies on the pad/)
  })
})
