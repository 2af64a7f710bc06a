import {
  CALCULATORS,
  calculate,
  coarseCorrection,
  fabricArea,
  fitCurve,
  fitPad,
  identifySoil,
  judgeDensity,
  liftPlans,
  otherDatum,
  type PadFacts,
  padAdvice,
  padRaster,
  proctor,
  reduceBook,
  type Sight,
  SOIL_QUESTIONS,
  type SoilAnswers,
  sandCone,
  screedPlan,
  slip,
  stakeMarks,
  standardCounts,
  swellFactor,
  testsOwed,
  trench,
  undercutVolume,
  WINDOWS,
  weatherCautions,
  zeroAirVoids,
} from '@stone-tally/core'
import fc from 'fast-check'
import { plain, value } from './plans'

const finite = (min: number, max: number) => fc.double({ min, max, noNaN: true })

describe('trench', () => {
  const even = (h: number) => [0, 10].map((station) => ({ station, ground: 10, bottom: 10 - h, width: 1 }))
  test('a straight trench is width by depth by length, and grows when it is dug', () =>
    expect(value(trench({ sideSlope: 0, swell: 0.25, truckVolume: 6, sections: even(1) }))).toEqual({ bank: 10, loose: 12.5, loads: 3 }))
  test('side slopes count on both sides: ½·h·(s·h) twice', () =>
    expect(value(trench({ sideSlope: 0.5, swell: 0, truckVolume: 5, sections: even(2) })).bank).toBeCloseTo((1 * 2 + 0.5 * 4) * 10, 9))
  test('swell as a factor or as a share is the same soil', () => expect(swellFactor(1.25)).toBe(swellFactor(0.25)))
  test('a full truck is not two', () => expect(value(trench({ sideSlope: 0, swell: 0.2, truckVolume: 4, sections: even(1) })).loads).toBe(3))
  test('ground below the bottom has nothing to dig', () =>
    expect(value(trench({ sideSlope: 1, swell: 0.2, truckVolume: 4, sections: even(-1) }))).toEqual({ bank: 0, loose: 0, loads: 0 }))
  test('stations run forwards', () =>
    expect(trench({ sideSlope: 0, swell: 0, truckVolume: 1, sections: [...even(1)].reverse() })).toMatchObject({
      ok: false,
      problems: [{ field: 'sections[1].station' }],
    }))
  test('a section put between two on the same slope changes nothing', () => {
    fc.assert(
      fc.property(finite(0.1, 3), finite(0.2, 3), finite(0.05, 0.95), (depth, width, t) => {
        const at = (station: number) => ({ station, ground: 10, bottom: 10 - depth, width })
        const of = (stations: number[]) => value(trench({ sideSlope: 0.5, swell: 0.3, truckVolume: 5, sections: stations.map(at) })).bank
        expect(of([0, 20 * t, 20])).toBeCloseTo(of([0, 20]), 9)
      }),
    )
  })
})

describe('proctor', () => {
  const points = [
    { moisture: 6, dryDensity: 1905 },
    { moisture: 8, dryDensity: 1990 },
    { moisture: 10, dryDensity: 2015 },
    { moisture: 12, dryDensity: 1960 },
  ]
  test('the top of the parabola', () => {
    const r = value(proctor({ points }))
    expect(r.optimumMoisture).toBeCloseTo(9.543, 3)
    expect(r.maximumDryDensity).toBeCloseTo(2013.83, 2)
  })
  test('points of a parabola give it back, wherever it lies and in whatever order', () => {
    fc.assert(
      fc.property(
        finite(6, 14),
        finite(1500, 1750),
        finite(-8, -2),
        fc.shuffledSubarray([-3, -2, -1, 0.5, 1, 2.5], { minLength: 4 }),
        (w, d, a, at) => {
          fc.pre(Math.min(...at) < -0.5 && Math.max(...at) > 0.5)
          const curve = value(fitCurve({ points: at.map((x) => ({ moisture: w + x, dryDensity: d + a * x * x })) }))
          expect(curve.optimumMoisture).toBeCloseTo(w, 5)
          expect(curve.maximumDryDensity).toBeCloseTo(d, 4)
          expect(curve.a * w * w + curve.b * w + curve.c).toBeCloseTo(d, 4)
        },
      ),
    )
  })
  test.each([
    ['a point above zero air voids', [...points, { moisture: 14, dryDensity: 2100 }], 'points[4].dryDensity'],
    ['a hollow', points.map((p) => ({ ...p, dryDensity: 3600 - p.dryDensity })), 'points'],
    ['only the dry side', points.map((p, i) => ({ ...p, dryDensity: 1800 + 60 * i - 5 * i * i })), 'points'],
    ['one moisture', points.map((p) => ({ ...p, moisture: 9 })), 'points'],
    ['moisture as a share', points.map((p) => ({ ...p, moisture: p.moisture / 100 })), 'points[0].moisture'],
    ['three points', points.slice(1), 'points'],
  ])('%s makes no curve and says so', (_, list, field) => expect(proctor({ points: list })).toMatchObject({ ok: false, problems: [{ field }] }))
  test('stones raise the density and lower the moisture; too many are refused', () => {
    const curve = { optimumMoisture: 10, maximumDryDensity: 2000 }
    const whole = value(coarseCorrection(curve, { share: 20, gs: 2.65, moisture: 1 }))
    expect(whole.maximumDryDensity).toBeCloseTo(1 / (0.2 / 2650 + 0.8 / 2000), 6)
    expect(whole.optimumMoisture).toBeCloseTo(8.2, 9)
    expect(value(coarseCorrection(curve, { share: 0, gs: 2.65, moisture: 1 })).maximumDryDensity).toBeCloseTo(2000, 9)
    expect(coarseCorrection(curve, { share: 45, gs: 2.65, moisture: 1 })).toMatchObject({ ok: false, problems: [{ field: 'oversize.share' }] })
  })
})

describe('density', () => {
  const cone = { massBefore: 6.5, massAfter: 2.9, coneMass: 1.62, sandDensity: 1430, soilMass: 2.87, moisture: 8.4, maximumDryDensity: 2017 }
  test('sand cone', () => {
    const r = value(sandCone(cone))
    expect(r.dryDensity).toBeCloseTo(1912.16, 2)
    expect(r.relativeCompaction).toBeCloseTo(94.8, 2)
    expect(r.wetDensity).toBeCloseTo(r.dryDensity * 1.084, 6)
  })
  test.each([
    [{ massAfter: 6 }, 'massAfter'],
    [{ soilMass: 0 }, 'soilMass'],
    [{ moisture: 0.084 }, 'moisture'],
  ])('%j is refused', (change, field) => expect(sandCone({ ...cone, ...change })).toMatchObject({ ok: false, problems: [{ field }] }))
  const curve = { optimumMoisture: 9.5, maximumDryDensity: 2017 }
  test.each([
    [{ dryDensity: 1950, moisture: 9 }, false, '96.7 %'],
    [{ dryDensity: 1912.16, moisture: 8.4 }, true, '94.8 % of maximum, at least 95 %'],
    [{ dryDensity: 1916.07, moisture: 9 }, true, '94.996 % of maximum, at least 95 %'],
    [{ dryDensity: 1950, moisture: 12 }, true, 'too wet'],
    [{ dryDensity: 1950, moisture: 6 }, true, 'too dry'],
    [{ dryDensity: 2300, moisture: 9 }, true, 'above zero air voids'],
  ])('%j', (t, out, text) => {
    const j = judgeDensity(t, curve, 95, WINDOWS.pad)
    expect(j.out).toBe(out)
    expect(j.text).toContain(text)
  })
  test('reinforced soil is never placed wetter than optimum', () => {
    expect(judgeDensity({ dryDensity: 1950, moisture: 10.2 }, curve, 95, WINDOWS.backfill).out).toBe(true)
    expect(judgeDensity({ dryDensity: 1950, moisture: 10.2 }, curve, 95, WINDOWS.pad).out).toBe(false)
  })
  test('standard counts: 1 % for density, 2 % for moisture', () => {
    const g = { wetDensity: 2100, moisture: 8, densityStandard: 2310, densityReference: 2300, moistureStandard: 690, moistureReference: 680 }
    expect(standardCounts(g)).toEqual([])
    expect(standardCounts({ ...g, densityStandard: 2330 })).toEqual(['density standard count +1.3 % off, limit 1 %'])
    // Just at the limit is within it; a hair over it reads as over it.
    const even = { ...g, densityReference: 1000, moistureReference: 500 }
    expect(standardCounts({ ...even, densityStandard: 1010, moistureStandard: 490 })).toEqual([])
    expect(standardCounts({ ...even, densityStandard: 989.8, moistureStandard: 500 })).toEqual(['density standard count −1.02 % off, limit 1 %'])
    expect(standardCounts({ ...g, moistureStandard: 650 })[0]).toContain('moisture standard count −4.4 % off')
  })
  test('tests owed: one a lift and fifteen metres', () => {
    expect(testsOwed({ every: 15, lifts: 2, length: 20, given: 3 })).toEqual({ wanted: 4, owed: 1 })
    expect(testsOwed({ every: 15, lifts: 2, length: 15, given: 5 })).toEqual({ wanted: 2, owed: 0 })
    expect(testsOwed({ every: 15, lifts: 0, length: 90, given: 0 })).toEqual({ wanted: 0, owed: 0 })
  })
})

describe('level book', () => {
  const rules = { perSetup: 0.004, check: 0.003 }
  const bm = (reading: number): Sight => ({ kind: 'backsight', point: 'BM', reading, known: 10 })
  test('height of instrument and elevations', () => {
    const book = value(reduceBook([bm(1.5), { kind: 'intermediate', point: '0', reading: 1.7 }], rules))
    expect(book.rows.map((r) => r.elevation)).toEqual([10, 9.8])
    expect(book.open).toBe(1)
  })
  test('a closed loop within its limit shares the misclosure out over the set-ups, and the arithmetic checks', () => {
    const sights: Sight[] = [
      bm(1.5),
      { kind: 'foresight', point: 'TP1', reading: 1.2 },
      { kind: 'backsight', point: 'TP1', reading: 1.6 },
      { kind: 'intermediate', point: 'A', reading: 2 },
      { kind: 'foresight', point: 'BM', reading: 1.896, known: 10 },
    ]
    const book = value(reduceBook(sights, rules))
    const [leg] = book.legs
    expect(leg).toMatchObject({ from: 'BM', to: 'BM', setups: 2, within: true })
    expect(leg?.misclosure).toBeCloseTo(0.004, 9)
    expect(leg?.allowed).toBeCloseTo(0.004 * Math.SQRT2, 9)
    const adjusted = book.rows.map((r) => +r.adjusted.toFixed(4))
    expect(adjusted).toEqual([10, 10.298, 10.298, 9.896, 10])
    expect(book.check.sights).toBeCloseTo(book.check.elevations, 9)
  })
  test('beyond the limit nothing is shared out', () => {
    const book = value(
      reduceBook([bm(1.5), { kind: 'intermediate', point: 'A', reading: 1 }, { kind: 'foresight', point: 'BM2', reading: 1.2, known: 10.33 }], rules),
    )
    expect(book.legs[0]).toMatchObject({ within: false, to: 'BM2' })
    expect(book.rows[1]?.adjusted).toBe(book.rows[1]?.elevation)
  })
  test('a check that is off puts every sight since the last good one in doubt, no other', () => {
    const book = value(
      reduceBook(
        [
          bm(1.5),
          { kind: 'intermediate', point: 'a', reading: 1.1 },
          { kind: 'check', point: 'BM', reading: 1.501, known: 10 },
          { kind: 'intermediate', point: 'b', reading: 1.2 },
          { kind: 'check', point: 'BM', reading: 1.514, known: 10 },
        ],
        rules,
      ),
    )
    expect(book.rows.map((r) => r.doubtful)).toEqual([false, false, false, true, true])
    expect(book.rows[4]?.off).toBeCloseTo(-0.014, 9)
  })
  test('a sight from nowhere is named', () => {
    expect(reduceBook([{ kind: 'intermediate', point: 'a', reading: 1 }], rules)).toMatchObject({
      ok: false,
      problems: [{ field: 'sights[0].kind' }],
    })
    expect(reduceBook([bm(1.5), { kind: 'backsight', point: 'TP9', reading: 1 }], rules)).toMatchObject({
      ok: false,
      problems: [{ field: 'sights[1].point' }],
    })
    expect(reduceBook([], rules).ok).toBe(false)
  })
  test('whatever the set-ups, a perfect loop closes and nothing is moved', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(finite(0.3, 3), finite(0.3, 3)), { minLength: 1, maxLength: 8 }), (turns) => {
        const sights: Sight[] = []
        let elevation = 10
        turns.forEach(([back, fore], i) => {
          const lastOne = i === turns.length - 1
          sights.push(i === 0 ? bm(back) : { kind: 'backsight', point: `TP${i}`, reading: back })
          const reading = lastOne ? elevation + back - 10 : fore
          elevation = elevation + back - fore
          sights.push(lastOne ? { kind: 'foresight', point: 'BM', reading, known: 10 } : { kind: 'foresight', point: `TP${i + 1}`, reading })
        })
        const book = value(reduceBook(sights, rules))
        expect(book.legs[0]?.misclosure).toBeCloseTo(0, 9)
        for (const r of book.rows) expect(r.adjusted).toBeCloseTo(r.elevation, 9)
      }),
    )
  })
  test('a slip is questioned, a hollow is not', () => {
    expect(slip(0.02)).toBeUndefined()
    expect(plain(slip(-1.004))).toContain('1 m off')
    expect(slip(0.301)).toContain('1 ft off')
    expect(slip(100.02)).toContain('another datum')
    expect(slip(0.17)).toContain('a digit slip')
    expect(plain(otherDatum(110.42, 10.42))).toContain('100.000 m above')
    expect(otherDatum(10.43, 10.42)).toBeUndefined()
  })
  test('marks up a stake are drops from the string', () => expect(stakeMarks(11, [{ course: 3, top: 10.6 }])[0]?.drop).toBeCloseTo(0.4, 9))
})

describe('soil', () => {
  const brown: SoilAnswers = { grain: 'fine', ribbon: 'none', feel: 'floury', colour: 'even', smell: 'none', water: 'moist' }
  test.each([
    [{}, 'silt'],
    [{ ribbon: 'medium', feel: 'sticky' }, 'lean-clay'],
    [{ ribbon: 'long', feel: 'sticky' }, 'fat-clay'],
    [{ grain: 'mixed', feel: 'gritty' }, 'silty-sand'],
    [{ grain: 'sand', feel: 'gritty' }, 'clean-sand'],
    [{ grain: 'sand', ribbon: 'short', feel: 'gritty' }, 'silty-sand'],
    [{ grain: 'gravel', feel: 'gritty' }, 'clean-gravel'],
    [{ grain: 'gravel', ribbon: 'medium', feel: 'sticky' }, 'dirty-gravel'],
    [{ colour: 'dark', smell: 'earthy' }, 'organic'],
    [{ feel: 'spongy' }, 'organic'],
  ] as [Partial<SoilAnswers>, string][])('%j is %s', (change, kind) => expect(identifySoil({ ...brown, ...change }, 1).class).toBe(kind))
  test('organic, soft and swelling soil is dug out; firm gravel carries', () => {
    expect(identifySoil({ ...brown, feel: 'spongy' }, 1)).toMatchObject({ suitable: false, undercut: 0.3 })
    expect(identifySoil({ ...brown, water: 'wet' }, 1)).toMatchObject({ suitable: false, undercut: 0.3 })
    expect(identifySoil({ ...brown, ribbon: 'long' }, 1)).toMatchObject({ suitable: false, meaning: { swelling: true } })
    expect(identifySoil({ ...brown, grain: 'gravel', feel: 'gritty' }, 1)).toMatchObject({ suitable: true, undercut: 0 })
    expect(identifySoil({ ...brown, grain: 'sand', feel: 'gritty', water: 'seeping' }, 1).undercut).toBe(0.15)
  })
  test('every set of answers has a class, a reason and advice, in six taps', () => {
    expect(SOIL_QUESTIONS).toHaveLength(6)
    const any = fc.record(Object.fromEntries(SOIL_QUESTIONS.map((q) => [q.id, fc.constantFrom(...q.answers.map((a) => a[0]))])))
    fc.assert(
      fc.property(any, (a) => {
        const found = identifySoil(a as unknown as SoilAnswers, 1)
        expect(found.because.length).toBeGreaterThan(0)
        expect(found.advice.length).toBeGreaterThan(0)
        expect(found.suitable).toBe(found.undercut === 0)
        if (found.class === 'organic') expect(found.suitable).toBe(false)
      }),
    )
  })
  test('an undercut spreads one to one', () => expect(undercutVolume(4, 0.6, 0.3)).toBeCloseTo(4 * (0.18 + 0.09), 9))
})

describe('pad, lifts and weather', () => {
  const facts: PadFacts = {
    padBottom: 9.65,
    padTop: 9.8,
    outlet: 9.6,
    subgrade: 'lean-clay',
    frost: true,
    rain: true,
    unitMass: 34,
    height: 1.3,
    flexible: false,
  }
  test('an outlet below the pad speaks for open stone, none for dense stone', () => {
    expect(padAdvice(facts)[0]).toMatchObject({ material: 'open-graded' })
    expect(padAdvice(facts)[0]?.drain).toContain('inside the stone')
    expect(padAdvice({ ...facts, outlet: 9.95, rain: false })[0]).toMatchObject({ material: 'dense-graded' })
  })
  test('heavy rigid units ask for a stiff pad; sand is ruled out but for the lowest walls', () => {
    expect(padAdvice({ ...facts, outlet: 10, unitMass: 900, frost: false, rain: false })[0]?.material).toBe('lean-concrete')
    expect(padAdvice(facts).find((o) => o.material === 'sand')?.ruledOut).toBe(true)
    expect(padAdvice({ ...facts, height: 0.5 }).find((o) => o.material === 'sand')?.ruledOut).toBe(false)
  })
  test('every option says something for or against itself', () => {
    for (const o of padAdvice(facts)) expect(o.reasonsFor.length + o.against.length).toBeGreaterThan(0)
  })
  test('lifts follow the weaker of plan and tool', () => {
    const plans = liftPlans({ thickness: 0.3, maxLift: 0.2, looseFactor: 1.25, fine: false })
    const of = (plant: string) => plans.find((p) => p.tool.plant === plant)
    expect(of('hand-tamper')?.count).toBe(5)
    expect(of('heavy-plate')?.count).toBe(2)
    for (const p of plans) expect(p.loose).toBeLessThanOrEqual(p.tool.granular + 1e-9)
  })
  test('fabric laps at every roll end', () => {
    expect(fabricArea(50, 2, 25, 0.5)).toBe(101)
    expect(fabricArea(20, 2, 25, 0.5)).toBe(40)
  })
  test('weather', () => {
    const ids = (...args: Parameters<typeof weatherCautions>) => weatherCautions(...args).map((c) => c.id)
    expect(ids({ rain: 0, low: 12, wind: 10 })).toEqual([])
    expect(ids({ rain: 8, low: 12, wind: 40 })).toEqual(['wet', 'wind'])
    expect(ids({ rain: 30, low: -1, wind: 0 })).toEqual(['soaked', 'frost'])
    expect(ids({ rain: 0, low: 5, wind: 0 }, { rain: 12, low: -2, wind: 0 })).toEqual(['cover'])
  })
})

describe('screed plan', () => {
  test('shave what is high, add where it is low, leave what is good', () => {
    const plan = screedPlan(
      [
        { station: 0, offset: 0, deviation: 0.012 },
        { station: 1, offset: 0, deviation: -0.0075 },
        { station: 2, offset: 0, deviation: 0.005 },
      ],
      0.005,
    )
    expect(plan.actions.map((a) => [a.action, +a.by.toFixed(3)])).toEqual([
      ['shave', 0.012],
      ['add', 0.008],
      ['leave', 0],
    ])
    expect(plan).toMatchObject({ out: 2, accepted: false })
    expect(plan.highest?.deviation).toBe(0.012)
  })
  test('no readings are no acceptance', () => expect(screedPlan([], 0.005).accepted).toBe(false))
  test('doing what the plan says brings every point within tolerance', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ station: finite(0, 40), offset: finite(-0.2, 0.6), deviation: finite(-0.06, 0.06) }), { minLength: 1 }),
        (readings) => {
          const done = screedPlan(readings, 0.005).actions.map((a) => ({ ...a, deviation: a.deviation + (a.action === 'add' ? a.by : -a.by) }))
          expect(screedPlan(done, 0.005).accepted).toBe(true)
        },
      ),
    )
  })
  const lattice = (f: (s: number, o: number) => number) =>
    [0, 3, 6, 9].flatMap((station) => [-0.15, 0.15, 0.45].map((offset) => ({ station, offset, deviation: f(station, offset) })))
  test('a tilted pad is found as a plane', () => {
    fc.assert(
      fc.property(finite(-0.01, 0.01), finite(-0.02, 0.02), (along, across) => {
        const fit = fitPad(lattice((s, o) => 0.002 + along * s + across * o))
        expect(fit.along).toBeCloseTo(along, 9)
        expect(fit.across).toBeCloseTo(across, 9)
      }),
    )
    expect(fitPad([{ station: 1, offset: 0, deviation: 0.003 }])).toMatchObject({ mean: 0.003, along: 0, across: 0 })
  })
  test('the raster goes through the readings and is straight between them', () => {
    const f = (s: number, o: number) => 0.001 * s - 0.01 * o
    const r = padRaster(lattice(f), { from: 0, to: 9, front: -0.15, back: 0.45 }, 19, 7)
    for (let j = 0; j < 7; j++) for (let i = 0; i < 19; i++) expect(r.values[j * 19 + i]).toBeCloseTo(f(r.from + i * r.dx, r.front + j * r.dy), 9)
    expect(padRaster([], { from: 0, to: 9, front: 0, back: 1 }, 3, 3).values.every(Number.isNaN)).toBe(true)
  })
})

describe('calculators', () => {
  test.each(CALCULATORS.map((c) => [c.name, c] as const))('%s computes its own example and shows its working', (_, c) => {
    const out = value(calculate(c, c.example))
    const working = c.working(c.example, out)
    expect(working.length).toBeGreaterThan(0)
    for (const line of working) expect(`${line.how}${line.result}`).not.toMatch(/NaN|undefined|Infinity/)
  })
  test('no real soil is denser than its grains', () => expect(zeroAirVoids(0)).toBe(2700))
})
