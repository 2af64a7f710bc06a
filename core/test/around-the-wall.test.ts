import {
  compareLayouts,
  cutDepth,
  emptyState,
  engineerFor,
  foundAlong,
  groundReader,
  handlesOf,
  holdsAlready,
  issued,
  type Layout,
  layOut,
  leastDigging,
  meaningsOf,
  movedBy,
  openDepth,
  type Plan,
  quantities,
  readPlan,
  STANDS,
  SYSTEMS,
  startPlan,
  surchargeOf,
  TRADE_WORDS,
  takeIn,
  tradeWordsIn,
  withLine,
} from '@stone-tally/core'
import fc from 'fast-check'
import { ENGINEERED } from './plans'
import { startedLayout } from './started'

const start = (change: Partial<Plan> = {}): Plan => {
  const plan = {
    ...startPlan(SYSTEMS.find((s) => s.id === 'landscape') ?? (SYSTEMS[0] as never), 12),
    holds: [],
    soil: { behind: 'clean-gravel', below: 'clean-gravel' },
    ...change,
  } as Plan
  return issued(plan)
}
const laid = (plan: Plan): Layout => {
  const made = layOut(plan)
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  return made.value
}
const amount = (plan: Plan, id: string) => quantities(laid(plan)).find((q) => q.id === id)?.value ?? Number.NaN
const toe = start().grades[0]?.toe ?? 0
const engineered = (plan: Plan) => laid(plan).cautions.some((c) => (c.id === 'engineer' || c.id === 'ask-first') && c.blocks)

describe('what a wall holds, in plain words', () => {
  const rules = start()
  test.each([
    [{ kind: 'drive' as const }, true],
    [{ kind: 'drive' as const, away: 1.99 }, true],
    [{ kind: 'drive' as const, away: 2 }, false],
    [{ kind: 'building' as const, away: 2 }, false],
    [{ kind: 'pool' as const, away: 1.5, size: 1.4 }, true],
    [{ kind: 'slope' as const, size: 0.1 }, false],
    [{ kind: 'slope' as const, size: 0.11 }, true],
    [{ kind: 'slope' as const, size: 0.5, away: 2 }, false],
    [{ kind: 'slope' as const }, true],
    [{ kind: 'fence' as const, away: 0.89 }, true],
    [{ kind: 'fence' as const, away: 0.9 }, false],
    [{ kind: 'fence' as const }, true],
    [{ kind: 'water' as const, away: 50 }, true],
    [{ kind: 'wall' as const, away: 2 }, false],
    // The higher of two walls reaches further.
    [{ kind: 'wall' as const, away: 3.9, size: 2 }, true],
  ])('%j makes a wall of a metre an engineer’s: %s', (stand, is) => {
    expect(engineerFor(stand, rules, 1) !== undefined).toBe(is)
  })
  test('what nobody has said is never kinder than what somebody says', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...STANDS),
        fc.double({ min: 0, max: 9, noNaN: true }),
        fc.double({ min: 0.3, max: 3, noNaN: true }),
        (kind, away, height) => {
          if (engineerFor({ kind, away }, rules, height)) expect(engineerFor({ kind }, rules, height)).toBeDefined()
          expect(surchargeOf({ kind, away, size: 1 }, rules, height)).toBeLessThanOrEqual(surchargeOf({ kind, size: 1 }, rules, height))
        },
      ),
    )
  })
  const low = (change: Partial<Plan>) => start({ grades: start().grades.map((g) => ({ ...g, top: g.toe + 0.4 })), ...change })
  test('it is said, it blocks the dig until the engineer is named, and a drive far off does neither', () => {
    expect(engineered(low({ stands: [{ kind: 'drive', away: 1 }] }))).toBe(true)
    expect(engineered(low({ stands: [{ kind: 'drive', away: 20 }] }))).toBe(false)
    expect(engineered(low({ stands: [{ kind: 'drive', away: 1 }], ...ENGINEERED }))).toBe(false)
    // Somebody has said what is there: nothing more is asked.
    const said = { ...low({ stands: [{ kind: 'drive', away: 20 }] }), holds: undefined } as unknown as Plan
    expect(laid(said).cautions.some((c) => c.id === 'holds')).toBe(false)
  })
  test.each(STANDS)('%s: each meaning has its reason; what it gives the plan can be read, laid out, and is given once', (kind) => {
    const plan = start()
    const layout = laid(plan)
    const list = meaningsOf({ kind, away: 0.5, size: 1 }, plan, {
      height: 1,
      cut: 2.5,
      length: plan.length,
      stages: layout.system.stages.map((s) => s.id),
    })
    expect(list.length).toBeGreaterThan(1)
    for (const m of list) {
      expect(m.why.length).toBeGreaterThan(10)
      const given = takeIn(plan, m)
      expect(holdsAlready(given, m)).toBe(true)
      expect(takeIn(given, m)).toBe(given)
      if (!m.takes) continue
      const { book: _b, ...open } = given
      const read = readPlan(JSON.parse(JSON.stringify(open)))
      expect(read.ok ? [] : read.problems).toEqual([])
      if (read.ok) expect(layOut(issued(read.value)).ok).toBe(true)
    }
  })
  test('what to be careful of stands among the cautions of the plan, and stops nothing by itself', () => {
    const said = laid(low({ stands: [{ kind: 'drive', away: 20 }] })).cautions.filter((c) => c.id === 'drive-caution')
    expect(said).toMatchObject([{ blocks: false, message: expect.stringContaining('No wheels') }])
  })
  test('a revision says what changed around the wall', () => {
    const texts = compareLayouts(laid(start()), laid(start({ stands: [{ kind: 'pool', away: 3 }] }))).map((c) => c.text)
    expect(texts.some((t) => t.startsWith('Around it: nothing → a pool or pond'))).toBe(true)
  })
})

describe('the ground as found', () => {
  const flat = (level: number) => ({ points: [{ station: 0, behind: 0, level }] })
  test('a plane is read as itself everywhere inside, and its nearest edge outside', () => {
    const plane = (s: number, b: number) => 10 + 0.1 * s - 0.2 * b
    const points = [0, 4, 9, 12].flatMap((station) => [-2, 0, 1.5, 5].map((behind) => ({ station, behind, level: plane(station, behind) })))
    const at = groundReader({ points })
    fc.assert(
      fc.property(fc.double({ min: 0, max: 12, noNaN: true }), fc.double({ min: -2, max: 5, noNaN: true }), (s, b) => {
        expect(at(s, b)).toBeCloseTo(plane(s, b), 6)
      }),
    )
    expect(at(6, 40)).toBeCloseTo(plane(6, 5), 6)
    expect(at(6, -9)).toBeCloseTo(plane(6, -2), 6)
  })
  test('outside what was measured it is the nearest edge, of thousands as of four', () => {
    // Every edge of a strip by brute force.
    const points = Array.from({ length: 400 }, (_, i) => ({ station: i * 0.25, behind: (i % 7) - 3, level: Math.sin(i) + i / 50 }))
    const at = groundReader({ points })
    const edge = (behind: number) => points.filter((p) => p.behind === behind)
    fc.assert(
      fc.property(fc.double({ min: 5, max: 90, noNaN: true }), fc.double({ min: 3.5, max: 30, noNaN: true }), (s, b) => {
        const row = edge(3)
        const i = row.findIndex((p) => p.station >= s)
        const [p, q] = [row[i - 1], row[i]]
        if (!p || !q) return
        expect(at(s, b)).toBeCloseTo(p.level + ((q.level - p.level) * (s - p.station)) / (q.station - p.station), 6)
      }),
    )
    const along = groundReader({ points: points.map((p) => ({ ...p, behind: 0 })) })
    expect(along(50.1, 9)).toBeCloseTo((points[200]?.level ?? 0) * 0.6 + (points[201]?.level ?? 0) * 0.4, 6)
    expect(along(500, 0)).toBe(points[399]?.level)
  })
  test('levels along one line are level across it', () => {
    const at = groundReader({
      points: [
        { station: 10, behind: 0, level: 11 },
        { station: 0, behind: 0, level: 10 },
      ],
    })
    for (const b of [-3, 0, 4]) expect(at(5, b)).toBeCloseTo(10.5, 9)
    expect(groundReader(flat(7))(3, 3)).toBe(7)
  })
  test('ground at the toe grade digs what the grades alone say; higher ground digs more, lower fills more', () => {
    const by = amount(start(), 'dig')
    // The side that leans out goes on above the toe grade only where there is ground.
    expect(amount(start({ found: flat(toe) }), 'dig')).toBeCloseTo(by, 0)
    expect(Math.abs(amount(start({ found: flat(toe) }), 'dig') / by - 1)).toBeLessThan(0.05)
    expect(amount(start({ found: flat(toe + 0.5) }), 'dig')).toBeGreaterThan(by * 1.5)
    expect(amount(start({ found: flat(toe - 5) }), 'dig')).toBe(0)
    const top = Math.max(...start().grades.map((g) => g.top))
    expect(amount(start({ found: flat(top + 1) }), 'backfill')).toBeCloseTo(amount(start(), 'backfill'), 6)
    expect(amount(start({ found: flat(toe) }), 'backfill')).toBeGreaterThan(amount(start(), 'backfill') * 1.5)
    expect(amount(start({ found: { ...flat(toe), back: 0.2 } }), 'backfill')).toBeCloseTo(amount(start(), 'backfill'), 6)
  })
  test('a cut in ground that stands over the top is as high as that ground: it is said where it must be shored', () => {
    const said = (plan: Plan) => laid({ ...plan, excavation: { behind: 1, slope: 0.5 } }).cautions.some((c) => c.id === 'cut-slope')
    const plan = start({ grades: start().grades.map((g) => ({ ...g, top: g.toe + 0.4 })) })
    expect(said(plan)).toBe(false)
    expect(said({ ...plan, found: flat(toe) })).toBe(false)
    expect(said({ ...plan, found: flat(toe + 1.5) })).toBe(true)
    // Whoever judges it, and the trench that is looked at every day, go by the same.
    const [low, high] = [laid(plan), laid({ ...plan, found: flat(toe + 1.5) })]
    expect(cutDepth(high, 6) - cutDepth(low, 6)).toBeCloseTo(1.1, 9)
    const open = (l: Layout) => {
      const state = emptyState([l])
      return openDepth(state, state.steps.find((x) => x.stage.id === 'dig') as never)
    }
    expect(open(high) - open(low)).toBeCloseTo(1.1, 9)
  })
  test('levels beyond the wall, and one place at two levels, are refused where they stand', () => {
    const refused = (points: { station: number; behind: number; level: number }[]) => {
      const { book: _b, ...open } = start()
      const made = readPlan({ ...open, found: { points } })
      return made.ok ? [] : made.problems.map((p) => p.field)
    }
    expect(refused([{ station: 99, behind: 0, level: 1 }])).toEqual(['found.points[0].station'])
    expect(
      refused([
        { station: 1, behind: 0, level: 1 },
        { station: 1, behind: 0, level: 2 },
      ]),
    ).toEqual(['found.points[1].level'])
    expect(
      refused([
        { station: 1, behind: 0, level: 1 },
        { station: 1, behind: 0, level: 1 },
      ]),
    ).toEqual([])
  })
  test('points of a survey: beside the line by station and how far behind; what is far, flat or too many is counted', () => {
    const plan = start()
    const survey = foundAlong(plan, [
      { easting: 3, northing: 2, elevation: 10 },
      { easting: 3, northing: -1, elevation: 9 },
      { easting: 3, northing: 2, elevation: 11 },
      { easting: 3, northing: 2 },
      { easting: 40, northing: 0, elevation: 10 },
      { easting: 3, northing: 99, elevation: 10 },
    ])
    expect(survey).toEqual({
      points: [
        { station: 3, behind: -1, level: 9 },
        { station: 3, behind: 2, level: 10 },
      ],
      far: 2,
      flat: 1,
      thinned: 0,
    })
    const many = Array.from({ length: 9000 }, (_, i) => ({ easting: (i % 120) / 10, northing: Math.floor(i / 120) / 10, elevation: 10 }))
    const thin = foundAlong(plan, many)
    expect(thin.points.length).toBeLessThanOrEqual(2000)
    expect(thin.points.length + thin.thinned).toBe(9000)
  })
  test('a shorter wall loses what lay beyond its end', () => {
    const plan = withLine(
      start({
        found: {
          points: [
            { station: 2, behind: 0, level: 10 },
            { station: 11, behind: 0, level: 10 },
          ],
        },
        padSteps: [],
      }),
      [
        { easting: 0, northing: 0 },
        { easting: 6, northing: 0 },
      ],
      false,
    )
    expect(plan.found?.points).toEqual([{ station: 2, behind: 0, level: 10 }])
  })
})

describe('the ground stays where it is', () => {
  const line = (northing: number) => [
    { easting: 0, northing },
    { easting: 12, northing },
  ]
  const hill = { points: [0, 12].flatMap((station) => [-4, 0, 4].map((behind) => ({ station, behind, level: toe + behind * 0.3 }))) }
  test('a line moved into the hill finds the hill: more is dug, and forward less', () => {
    const plan = start({ found: hill, alignment: { vertices: line(0).map((v) => ({ ...v, bulge: 0 })), closed: false } })
    const [back, forward] = [withLine(plan, line(1), false), withLine(plan, line(-1), false)]
    expect(back.found?.points.map((p) => p.behind).slice(0, 3)).toEqual([-5, -1, 3])
    expect(amount(back, 'dig')).toBeGreaterThan(amount(plan, 'dig') * 1.2)
    expect(amount(forward, 'dig')).toBeLessThan(amount(plan, 'dig'))
    expect(amount(back, 'dig')).toBeCloseTo(amount(movedBy(plan, 'line', 1), 'dig'), 6)
  })
  test('moved up out of the ground it stands on fill: an engineer’s, and a foot in fill is said', () => {
    const plan = start({
      grades: start().grades.map((g) => ({ ...g, top: g.toe + 0.4 })),
      found: { points: [{ station: 0, behind: 0, level: toe }] },
    })
    expect(laid(plan).cautions.some((c) => c.id === 'engineer')).toBe(false)
    expect(laid(plan).cautions.some((c) => c.id === 'toe-fill')).toBe(false)
    const raised = movedBy(plan, 'grade', 0.5)
    expect(laid(raised).cautions.find((c) => c.id === 'engineer')?.message).toContain('it would stand on fill')
    expect(laid(raised).cautions.some((c) => c.id === 'toe-fill')).toBe(true)
    // What levels are good to is no fill.
    const deep = toe - (laid(plan).steps[0]?.elevation ?? 0) + laid(plan).building.foundation.thickness
    expect(engineered(movedBy(plan, 'grade', deep + 0.02))).toBe(false)
    expect(engineered(movedBy(plan, 'grade', deep + 0.05))).toBe(true)
  })
})

describe('least digging', () => {
  const hill = { points: [0, 12].flatMap((station) => [-4, 0, 4].map((behind) => ({ station, behind, level: toe + 0.2 + behind * 0.3 }))) }
  test.each([
    ['line', 0.5],
    ['grade', 0.3],
  ] as const)('by %s: never more than as given, never less than the bound, and what it says is what the moved wall takes', (of, play) => {
    const plan = start({ found: hill })
    const found = leastDigging(plan, of, play)
    if (!found.ok) throw new Error(JSON.stringify(found.problems))
    const { shift, dig, given, bound } = found.value
    expect(dig).toBeLessThan(given)
    expect(dig).toBeGreaterThanOrEqual(bound - 1e-9)
    // Forward, out of the hill; or up.
    expect(Math.sign(shift)).toBe(of === 'line' ? -1 : 1)
    expect(Math.abs(amount(movedBy(plan, of, shift), 'dig') / dig - 1)).toBeLessThan(0.03)
    expect(Math.abs(amount(plan, 'dig') / given - 1)).toBeLessThan(0.03)
  })
  test('without ground as found, along corners, and beyond a play that is another wall it is refused', () => {
    expect(leastDigging(start(), 'grade', 0.2)).toMatchObject({ ok: false, problems: [{ field: 'found' }] })
    const bent = {
      vertices: [
        { easting: 0, northing: 0 },
        { easting: 6, northing: 0 },
        { easting: 6, northing: 6 },
      ],
      closed: false,
    }
    expect(leastDigging(start({ found: hill, alignment: bent }), 'line', 0.2)).toMatchObject({ ok: false, problems: [{ field: 'alignment' }] })
    expect(leastDigging(start({ found: hill }), 'line', 9)).toMatchObject({ ok: false, problems: [{ field: 'play' }] })
  })
  test('it can be ended', () => {
    const whole = leastDigging(start({ found: hill }), 'line', 0.5)
    const ended = leastDigging(start({ found: hill }), 'line', 0.5, () => false)
    expect(ended.ok && whole.ok && ended.value.tried < whole.value.tried).toBe(true)
  })
})

describe('pad steps where somebody put them', () => {
  const rising = {
    grades: [
      { station: 0, toe, top: toe + 1 },
      { station: 12, toe: toe + 0.9, top: toe + 1.9 },
    ],
  }
  const own = laid(start(rising)).steps
  test('put where they fall by themselves they are the same steps', () => {
    expect(own.length).toBeGreaterThan(2)
    expect(laid(start({ ...rising, padSteps: own.slice(1).map((s) => s.start) })).steps).toEqual(own)
  })
  test('one left out makes a stretch deeper, never shallower than the embedment asks; none at all is one level pad', () => {
    const moved = laid(start({ ...rising, padSteps: own.slice(2).map((s) => s.start) }))
    const at = (layout: Layout, s: number) => layout.steps.find((x) => s < x.end)?.elevation ?? 0
    for (let s = 0.1; s < 12; s += 0.3) expect(at(moved, s)).toBeLessThanOrEqual(at(laid(start(rising)), s) + 1e-9)
    expect(laid(start({ ...rising, padSteps: [] })).steps).toHaveLength(1)
  })
  test('out of order, outside, or too short a step is refused at its place', () => {
    const refused = (padSteps: number[]) => {
      const { book: _b, ...open } = start({ ...rising, padSteps })
      const read = readPlan(open)
      const made = read.ok ? layOut(issued(read.value)) : read
      return made.ok ? [] : made.problems.map((p) => p.field)
    }
    expect(refused([6, 3])).toEqual(['padSteps[1]'])
    expect(refused([12])).toEqual(['padSteps[0]'])
    expect(refused([6, 6.4])).toContain('padSteps[1]')
    expect(startedLayout('landscape').plan.padSteps).toBeUndefined()
  })
})

describe('what is moved on a drawing', () => {
  const layout = laid(
    start({
      grades: [
        { station: 0, toe, top: toe + 0.6 },
        { station: 6, toe: toe + 0.3, top: toe + 0.9 },
        { station: 12, toe: toe + 0.6, top: toe + 1.2 },
      ],
      openings: [{ name: 'pipe', station: 4, width: 0.3, bottom: toe + 0.1, height: 0.2 }],
    }),
  )
  const layered = startedLayout(
    'hollow-core',
    {},
    (d: object) => ({ ...d, layers: [2, 4].map((course) => ({ course, length: 1, type: 'g' })) }) as never,
  )
  const by = (l: Layout, of: string) => handlesOf(l).filter((h) => h.of === of)
  test('grades, outlets, openings, layers and steps have one handle each, where they are', () => {
    expect(by(layout, 'toe')).toHaveLength(3)
    expect(by(layout, 'step').map((h) => h.at.station)).toEqual(layout.steps.slice(1).map((s) => s.start))
    expect(by(layout, 'opening')[0]?.at).toEqual({ station: 4, elevation: toe + 0.2 })
    expect(by(layout, 'outlet').length).toBeGreaterThan(0)
    expect(by(layered, 'layer').map((h) => h.index)).toEqual([0, 1])
  })
  test('only what was moved is different, and what it becomes can be built or says why not', () => {
    for (const l of [layout, layered])
      for (const h of handlesOf(l)) {
        const to = { station: h.at.station + 0.3, elevation: h.at.elevation + 0.05 }
        const moved = h.move(l.plan, to)
        const { grades, openings, padSteps, system, ...rest } = moved
        const { grades: _g, openings: _o, padSteps: _p, system: _s, ...was } = l.plan
        expect(rest).toEqual(was)
        const changed = [grades !== l.plan.grades, openings !== l.plan.openings, padSteps !== l.plan.padSteps, system !== l.plan.system]
        expect(changed.filter(Boolean).length).toBeLessThanOrEqual(1)
      }
  })
  test('an end keeps its station, a point between never passes its neighbours, a step never its next', () => {
    const [end, , , middle] = handlesOf(layout).filter((h) => h.of === 'toe' || h.of === 'top')
    expect(end?.move(layout.plan, { station: 5, elevation: toe }).grades[0]?.station).toBe(0)
    expect(middle?.move(layout.plan, { station: 99, elevation: toe + 1 }).grades[1]?.station).toBeCloseTo(11.95, 9)
    const step = by(layout, 'step')[0]
    const moved = step?.move(layout.plan, { station: 99, elevation: 0 })
    const made = moved && layOut(moved)
    expect(made?.ok).toBe(true)
    if (moved?.padSteps) for (let i = 1; i < moved.padSteps.length; i++) expect(moved.padSteps[i]).toBeGreaterThan(moved.padSteps[i - 1] as number)
  })
  test('a layer goes to the course it is put on, and not onto another layer', () => {
    const [low] = by(layered, 'layer')
    const top = (n: number) => layered.courses.find((c) => c.course === n)?.top ?? 0
    const courses = (p: Plan | undefined) => (p?.system.data as { layers: { course: number }[] }).layers.map((l) => l.course)
    expect(courses(low?.move(layered.plan, { station: 0, elevation: top(3) + 0.01 }))).toEqual([3, 4])
    expect(courses(low?.move(layered.plan, { station: 0, elevation: top(4) }))).toEqual([2, 4])
  })
})

describe('words of the trade', () => {
  test('are told apart in a text, each once, longer ones first; the text stays what it was', () => {
    const text = 'The toe drain lies behind the toe; the toe drain ends at an outlet.'
    const pieces = tradeWordsIn(text)
    expect(pieces.map((p) => p.text).join('')).toBe(text)
    expect(pieces.flatMap((p) => (p.word ? [p.word.word] : []))).toEqual(['toe drain', 'toe', 'outlet'])
    expect(tradeWordsIn('nothing of it')).toEqual([{ text: 'nothing of it' }])
    const forms = TRADE_WORDS.flatMap((w) => [w.word, ...(w.also ?? [])])
    expect(new Set(forms).size).toBe(forms.length)
    for (const w of TRADE_WORDS) expect(w.means.length).toBeGreaterThan(15)
  })
})
