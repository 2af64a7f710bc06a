// Rule table 3: what is known reaches the verdict: soil found, layers cut, fill unnamed, a lift that went wrong, a drain that leads nowhere, rules
// that are firm, a company of one person.
import {
  barriers,
  bookOf,
  clashesOf,
  densityReport,
  type Entry,
  emptyRules,
  factsOf,
  issueUnder,
  layerEdge,
  layOut,
  openStops,
  owedBefore,
  type Plan,
  picksOf,
  plantRule,
  type Rules,
  resolveRules,
  sawDay,
  secondLook,
  soilStops,
  statusOf,
  stepsOf,
  verdictOf,
  whyNotAlone,
} from '@stone-tally/core'
import { FIRM_CLAY, good, photoOf } from '../build'
import { built, ENGINEERED, entry, layoutOf, plain, SIGNED, smallPlan } from '../plans'
import { Site } from '../site'
import { started, startedLayout } from '../started'
import { judge, plan, tall, today } from './wall'

const rules = (more: Partial<Rules>): Rules => ({ ...emptyRules(), ...more })
const under = (of: object, company: Rules = rules({})): Plan => {
  const made = issueUnder({ ...built(smallPlan), ...ENGINEERED, front: { slope: 0, erodible: false }, holds: [], ...of } as Plan, { company })
  if (!made.ok) throw new Error(JSON.stringify(plain(made.problems)))
  return made.value
}

describe('soil that was found', () => {
  const dug = (of: Plan) => new Site(of).work('services').work('set-out').release('set-out').work('dig', 'B')
  const soil = (answers: object, more: object = {}) =>
    entry('soil', { stage: 'dig', section: 'B' }, { answers: { ...FIRM_CLAY, ...answers }, from: 4.5, to: 9, ...more })
  const narrow = { ...ENGINEERED, engineerCovers: { height: 5, from: 0, to: 9, facts: ['slender'] } }
  const of = today({ ...smallPlan, ...narrow } as never)
  const small = { ...of, ...narrow } as never as Plan
  test.each([
    ['clay that swells', { ribbon: 'long' }, /swelling ground/],
    ['organic ground', { feel: 'spongy' }, /organic ground/],
    ['ground that people tipped', { origin: 'made' }, /made ground/],
    ['ground nobody is sure of', { origin: 'unsure' }, /made ground/],
  ])('%s is an engineer’s, whatever the plan was for', (_what, answers, words) => {
    const site = dug(small)
    expect(soilStops(site.state)).toEqual([])
    site.put(soil(answers))
    expect(plain(soilStops(site.state)).join()).toMatch(words)
    const pad = site.step('pad', 'B')
    expect(barriers(site.state, pad).some((b) => b.force === 'hard' && words.test(plain(b.message)))).toBe(true)
    // The digging goes on: that is how it is answered.
    expect(barriers(site.state, site.step('dig', 'A')).some((b) => words.test(plain(b.message)))).toBe(false)
  })
  test('in the floor alone and replaced it lies below no more; in the sides it stays', () => {
    const floor = dug(small)
    const found = soil({ feel: 'spongy' }, { place: 'floor' })
    floor.put(found)
    expect(soilStops(floor.state)).toHaveLength(1)
    const at = { stage: 'dig', section: 'B' }
    floor.put(
      entry('action', at, { of: found.id, cause: 'old pond', action: 'dug out and filled' }),
      entry(
        'undercut',
        at,
        { from: 4.5, to: 9, depth: 0.4, fill: 'pad material', material: 'pad-material', lifts: 4, passes: 4, firm: 'bar' },
        { recheckOf: found.id },
      ),
    )
    expect(soilStops(floor.state)).toEqual([])
    const sides = dug(small)
    sides.put(soil({ feel: 'spongy' }, { place: 'sides' }))
    expect(soilStops(sides.state)).toHaveLength(1)
  })
  test('what the engineer reckons with stops nothing', () => {
    const site = dug({ ...small, engineerCovers: { height: 5, from: 0, to: 9, facts: ['slender', 'organic'] } } as never)
    site.put(soil({ feel: 'spongy' }))
    expect(soilStops(site.state)).toEqual([])
  })
})

describe('the cut, stretch by stretch', () => {
  const site = (cuts: object[], soils: object[] = [{}]) => {
    const s = new Site(tall).work('services').work('set-out').release('set-out').work('dig', 'B')
    const held = { slope: 1.5, water: false, spoil: 1, plant: 1.5, ladder: 6, by: 'Rhea Moss' }
    for (const a of soils)
      s.put(
        entry('soil', { stage: 'dig', section: 'B' }, { from: 4.5, to: 9, ...a, answers: { ...FIRM_CLAY, ...(a as { answers?: object }).answers } }),
      )
    for (const c of cuts) {
      const { station = 6.75, ...data } = c as { station?: number }
      s.put(entry('cut', { stage: 'dig', section: 'B', station }, { ...held, ...data }))
    }
    return plain(statusOf(s.state, s.step('subgrade', 'B')).missing).join('; ')
  }
  const clay = { slope: 0.75, soil: 'stiff-clay', sound: true }
  test('one look speaks for ten metres', () => {
    expect(site([{}])).not.toMatch(/the cut/)
    expect(site([{ from: 4.5, to: 6 }])).toMatch(/the cut from 6\.50 to 9\.00, over 1\.2 m deep.*one look speaks for 10 m and one soil/)
  })
  test('and for one soil', () => {
    const two = [{ to: 7 }, { from: 7, answers: { grain: 'sand', ribbon: 'none', feel: 'gritty' } }]
    expect(site([{ station: 5.5 }], two)).toMatch(/the cut from 7\.\d\d to 9\.00/)
    expect(site([{ station: 5.5 }, { station: 8 }], two)).not.toMatch(/the cut/)
  })
  test.each([
    ['firm lean clay', {}, ''],
    ['soft', { firm: 'soft' }, /stands no steeper than 1\.5H:1V/],
    ['pumping', { firm: 'pumps' }, /1\.5H:1V/],
    ['wet', { water: 'wet' }, /wet.*1\.5H:1V/],
    ['swelling', { ribbon: 'long' }, /1\.5H:1V/],
    ['unsure', { origin: 'unsure' }, /1\.5H:1V/],
  ])('stiff clay by name where it was found %s', (_what, answers, words) => {
    const said = site([clay], [{ answers }])
    if (words === '') expect(said).not.toMatch(/the cut/)
    else expect(said).toMatch(words)
  })
})

describe('fill and density', () => {
  const lift = (data: object) =>
    judge(plan, 'lift', { stage: 'backfill', section: 'B', course: 1 }, { lift: 1, thickness: 0.09, passes: 4, plant: 'light-plate', ...data })
  test('unsaid is fine-grained: thinner, more passes, rollers too', () => {
    expect(lift({})?.verdict).toBe('ok')
    expect(lift({ thickness: 0.12 })).toMatchObject({
      verdict: 'out',
      text: expect.stringMatching(/limit 96 mm with a light plate in fill nobody has named/),
    })
    expect(lift({ thickness: 0.12, fill: 'granular' })?.verdict).toBe('ok')
    expect(plantRule(plan, 'roller', undefined).compacted).toBeCloseTo(0.12, 9)
    expect(plantRule(plan, 'roller', 'granular').compacted).toBeCloseTo(0.16, 9)
  })
  test.each(['swelling', 'organic', 'frozen', 'made'])('%s is out, however thin', (fill) =>
    expect(lift({ fill, thickness: 0.05, passes: 20 })).toMatchObject({ verdict: 'out', text: expect.stringMatching(/it comes out again/) }),
  )
  test('how near a roller came is asked, not guessed', () => {
    const site = new Site(plan).toBackfill('B', false)
    const of = (data: object) =>
      entry(
        'lift',
        { stage: 'backfill', section: 'B', course: 1 },
        { lift: 1, thickness: 0.1, passes: 6, plant: 'roller', fill: 'granular', ...data },
      )
    expect(site.refusal(of({}))).toMatch(/data\.near: is missing; say how near the roller came to the face, at least 1 m/)
    expect(site.refusal(of({ near: 1.2 }))).toBe('')
    expect(site.refusal(of({ plant: 'light-plate' }))).toBe('')
  })
  test('a percentage typed with a lift is a claim: it pays for no test', () => {
    const site = new Site(plan).toBackfill('B', false)
    const where = { stage: 'backfill', section: 'B', course: 1 }
    site.put(entry('lift', where, { lift: 1, thickness: 0.1, passes: 4, plant: 'light-plate', fill: 'granular', compaction: 99 }))
    expect(densityReport(site.state, site.step('backfill', 'B', 1).key)).toMatchObject({ wanted: 1, owed: 1 })
  })
})

describe('picks', () => {
  const at = (layout = startedLayout('big-block')) => {
    const p = picksOf(layout).find((x) => x.course === 1 && x.number === 1)
    return { stage: 'units', section: 'A', course: 1, station: p?.station }
  }
  const bare = (change: object) =>
    started('big-block', {}, (d: never) => ({ ...(d as object), lifting: { ...(d as { lifting: object }).lifting, ...change } }) as never)
  const ready = (of: Plan = started('big-block')) => {
    const site = new Site(of)
    site.work('services').work('set-out').release('set-out').work('cleared', 'A').work('dig', 'A').work('subgrade', 'A').release('subgrade', 'A')
    return site.work('pad', 'A').work('pad-level', 'A').release('pad-level', 'A').work('lifting', 'A')
  }
  test.each([
    ['a made-up table', { machine: 'excavator, table to be entered' }, /which machine comes/],
    ['a table from nowhere', { source: undefined }, /the load table of the machine: its source and its day/],
    ['a table of no day', { on: undefined }, /the load table of the machine/],
  ])('%s: no verdict, and it is said before the machine comes', (_what, change, words) => {
    const layout = layoutOf(bare(change))
    expect(plain(layout.cautions.find((c) => c.id === 'picks-unproved')?.message)).toMatch(words)
    expect(layout.cautions.some((c) => c.id === 'picks')).toBe(false)
  })
  test('the wind of today is asked for and stops, and what was lifted all the same stops the next one by name', () => {
    const site = ready()
    const step = site.step('units', 'A', 1)
    const said = () => plain(barriers(site.state, step, '2026-05-20T08:00:00Z').map((b) => b.message)).join('; ')
    expect(said()).toMatch(/wind of today is not recorded/)
    site.put(entry('weather', {}, { rain: 0, low: 9, wind: 36 }))
    expect(said()).toMatch(/The wind is 36 km\/h, at most 35 km\/h/)
    const pick = entry('pick', at(), { number: 1, level: 0.001, wind: 36 })
    site.put(pick)
    expect(site.state.outs.get(pick.id)).toMatchObject({ stop: true })
    expect(openStops(site.state)).toHaveLength(1)
    site.put(entry('weather', {}, { rain: 0, low: 9, wind: 10 }, { at: '2026-05-20T08:30:00Z' }))
    expect(said()).toMatch(/Lifting is stopped: lifted in 36 km\/h of wind/)
    // It lies well: answered by name it stays where it is.
    site.put(
      entry('action', at(), { of: pick.id, cause: 'gust', action: 'anemometer on the boom' }),
      entry('clearance', at(), { who: 'Rhea Moss', as: 'competent', seen: 'wind meter on the boom, limit agreed' }, { recheckOf: pick.id }),
    )
    expect(openStops(site.state)).toEqual([])
    expect(plain(statusOf(site.state, step).missing).join()).not.toMatch(/to lift off/)
  })
  test('a maker who allows less wind is heeded', () => {
    const gear = (started('big-block').system.data as { lifting: { gear: object } }).lifting.gear
    const less = stepsOf(layoutOf(bare({ gear: { ...gear, wind: 20 } })))
    expect(less.length).toBeGreaterThan(0)
    const site = ready(bare({ gear: { ...gear, wind: 20 } }))
    expect(verdictOf(site.state, entry('pick', at(), { number: 1, level: 0, wind: 21 }))).toMatchObject({ stop: true })
    expect(verdictOf(site.state, entry('pick', at(), { number: 1, level: 0, wind: 20 }))?.verdict).toBe('ok')
  })
})

describe('the drain', () => {
  const pipe = (data: object) =>
    entry(
      'pipe',
      { stage: 'drain', section: 'B', course: 1 },
      {
        ...{ from: 4.5, to: 9, diameter: 0.1, bed: 0.1, sock: false, start: 'joined', end: 'outlet', laps: 'with' },
        confirmed: ['bed', 'fall', 'holes', 'fabric', 'covered', 'outlet', 'ends'],
        ...data,
      },
    )
  test('an end where an outlet is planned must be one', () => {
    const of = (end: string) => verdictOf(new Site(plan).state, pipe({ end }))?.text ?? ''
    expect(of('cap')).toMatch(/is capped, where the plan has an outlet/)
    expect(of('joined')).toMatch(/is joined on, where the plan has an outlet/)
    expect([of('outlet'), of('tee')].join()).not.toMatch(/where the plan has an outlet/)
  })
  test('no release before the pipe reaches an outlet that was laid', () => {
    const site = new Site(plan).toFirstCourse('A').release('line', 'A', 1).work('invert', 'A', 1)
    const step = site.step('drain', 'A', 1)
    const [laid] = good(step, site.state.layout) as [Entry]
    site.put({ ...laid, data: { ...(laid.data as object), start: 'cap', end: 'joined' } }, photoOf(laid.where, laid.id))
    expect(plain(owedBefore(site.state, step)).join()).toMatch(/an outlet that the pipe from 0\.00 to 4\.50 leads to: none was laid yet/)
  })
})

describe('layers', () => {
  test('an opening through a layer is the engineer’s word', () => {
    const layer = layoutOf(plan).courses.find((c) => c.course === 2)?.top ?? 0
    const facts = (bottom: number) =>
      factsOf(layoutOf(under({ openings: [{ name: 'Pipe', station: 6, width: 0.3, bottom, height: 0.3 }] })))
        .map((f) => f.fact)
        .includes('opening')
    expect([facts(layer - 0.1), facts(layer + 0.5)]).toEqual([true, false])
  })
  test('the edge lies where the unit wants it, or where the company or a drawing says', () => {
    const by = (option: string, of: object = {}) => layerEdge(under(of, rules({ choices: [{ choice: 'layer-edge', option, why: 'ours' }] })), 2)
    expect(by('by-unit')).toEqual({ least: 0.025, most: 0.05 })
    expect(by('flush')).toEqual({ least: 0, most: 0.025 })
    expect(by('lip').most).toBeCloseTo(0.3, 9)
    expect(by('flush', { rules: { limits: [{ limit: 'gridFrontMax', value: 0.08, source: 'drawing 7' }] } })).toEqual({ least: 0.025, most: 0.08 })
  })
})

describe('firm is firm', () => {
  const bad = (levels: Parameters<typeof resolveRules>[0]) => {
    const r = resolveRules(levels)
    return r.ok ? [] : plain(r.problems).map((p) => `${p.field}: ${p.message}`)
  }
  const limit = (name: string, value: number) => ({ limit: name, value, why: 'ours' })
  test.each(['compaction', 'gridShare', 'cureUnits'])('%s is made kinder by a signed drawing alone', (name) => {
    const ships = bookOf({ ruleTable: 3 }).limits.find((l) => l.limit === name)?.value ?? 0
    const kinder = ships * 0.95
    expect(bad({ company: rules({ limits: [limit(name, kinder)] }) }).join()).toMatch(/Only a signed plan sets it kinder/)
    const drawn = { rules: { limits: [{ limit: name, value: kinder, source: 'drawing 4, note 2' }] } }
    expect(plain(layoutOf(under(drawn)).cautions.find((c) => c.id === `deviation ${name}`)?.message)).toMatch(
      /the drawing \(drawing 4, note 2\) has .* a deviation/,
    )
  })
  test('what keeps people safe no drawing loosens', () => {
    const wall = (value: number) => ({ limits: [{ limit: 'plantStandoff', value, source: 'drawing 4' }] })
    expect(bad({ wall: wall(0.8) }).join()).toMatch(/no drawing sets it kinder/)
    expect(bad({ wall: wall(1.2) })).toEqual([])
  })
  test('a drawing that is kinder than what the company holds firm is a clash', () => {
    const company = rules({ limits: [{ ...limit('courseLevel', 0.004), firm: true }] })
    const of = under({ rules: { limits: [{ limit: 'courseLevel', value: 0.005, source: 'drawing 4' }] } }, company)
    expect(plain(clashesOf(of))).toEqual([
      { limit: 'courseLevel', clash: true, message: expect.stringMatching(/the company holds .* firm\. Both stand/) },
    ])
    expect(layoutOf(of).cautions.some((c) => c.id === 'clash courseLevel')).toBe(true)
  })
  test('points that cannot be looked at later keep a witness and their role', () => {
    const point = (p: string, change: object) =>
      rules({ points: [{ point: p, kind: 'hold', roles: ['inspector'], own: false, why: 'ours', ...change } as never] })
    for (const p of ['subgrade', 'pad-level', 'first-course']) {
      expect(bad({ company: point(p, { kind: 'off', roles: [] }) }).join()).toMatch(/keeps at least a witness/)
      expect(bad({ company: point(p, { roles: ['foreman'] }) }).join()).toMatch(/not by the foreman/)
      expect(bad({ company: point(p, { kind: 'witness', roles: [] }) })).toEqual([])
    }
    const alone = { ...point('subgrade', { roles: ['foreman'] }), choices: [{ choice: 'crew', option: 'one', why: 'I work alone' }] }
    expect(bad({ company: alone })).toEqual([])
  })
  test('its own release rule and where its height is counted from are the company’s', () => {
    const of = under({ rules: { ownRelease: true, heightFrom: 'first-course' } })
    expect(layoutOf(of).cautions.map((c) => c.id)).toEqual(expect.arrayContaining(['own-release', 'height-from']))
  })
})

describe('a company of one person', () => {
  const one = rules({ choices: [{ choice: 'crew', option: 'one', why: 'I work alone' }] })
  const { engineer: _e, engineerBy: _b, engineerLicence: _l, engineerOn: _o, engineerCovers: _c, ...unsigned } = ENGINEERED
  const low = () => {
    const { engineer: _, ...bare } = smallPlan
    const p = {
      ...built({
        ...bare,
        ...unsigned,
        grid: [],
        unit: { ...smallPlan.unit, depth: 0.6 },
        pad: { ...smallPlan.pad, width: 0.9 },
        grades: [0, 9].map((station) => ({ station, toe: 10, top: 10.3 })),
      } as never),
    }
    const made = issueUnder({ ...p, holds: [], front: { slope: 0, erodible: false }, soil: { behind: 'lean-clay', below: 'lean-clay' } } as Plan, {
      company: one,
    })
    if (!made.ok) throw new Error(JSON.stringify(plain(made.problems)))
    return made.value
  }
  const second = (site: Site, at: string, photo: string, leave: string[] = []) =>
    entry(
      'release',
      { stage: 'subgrade', section: 'B' },
      {
        decision: 'released',
        reason: 'seen again',
        signature: SIGNED,
        second: {
          confirmed: secondLook(site.step('subgrade', 'B'))
            .map((i) => i.id)
            .filter((i) => !leave.includes(i)),
          photo,
        },
      },
      { at },
    )
  const worked = () => {
    const site = new Site(low()).work('services').work('set-out').release('set-out').work('dig', 'B').work('subgrade', 'B')
    const photo = { ...photoOf({ stage: 'subgrade', section: 'B' }), at: '2026-05-20T09:30:00Z' }
    site.put(photo)
    return { site, photo }
  }
  test('looks again after a pause, by the whole list, with a photo of that look', () => {
    const { site, photo } = worked()
    expect(whyNotAlone(site.state, site.step('subgrade', 'B'))).toBeUndefined()
    expect(site.refusal(second(site, '2026-05-20T08:30:00Z', photo.id))).toMatch(/is too soon/)
    expect(site.refusal(second(site, '2026-05-20T09:40:00Z', photo.id, ['again-ends']))).toMatch(
      /still to be looked at: looked along it from both ends/,
    )
    expect(site.refusal(second(site, '2026-05-20T09:40:00Z', '01900000-0000-7000-8000-0000000000ff'))).toMatch(/is not a photo/)
    const soon = { ...photoOf({ stage: 'subgrade', section: 'B' }), at: '2026-05-20T08:20:00Z' }
    site.put(soon)
    expect(site.refusal(second(site, '2026-05-20T09:40:00Z', soon.id))).toMatch(/was taken before the second look/)
    const release = second(site, '2026-05-20T09:40:00Z', photo.id)
    expect(site.refusal(release)).toBe('')
  })
  test('not for an engineer’s wall, not where the cut is deep, not where nobody said that it is one person', () => {
    const engineers = new Site(under({}, one))
    expect(whyNotAlone(engineers.state, engineers.step('subgrade', 'B'))).toMatch(/engineer’s/)
    const several = new Site(under({}))
    expect(whyNotAlone(several.state, several.step('subgrade', 'B'))).toMatch(/has not said/)
  })
})

describe('mitres', () => {
  const corner = (option: string) => {
    const p = started(
      'glued',
      {
        length: 6,
        alignment: {
          vertices: [
            { easting: 0, northing: 0, bulge: 0 },
            { easting: 3, northing: 0, bulge: 0 },
            { easting: 4.5, northing: 2.598, bulge: 0 },
          ],
          closed: false,
        },
        grades: [0, 6].map((station) => ({ station, toe: 10, top: 10.4 })),
      } as never,
      (d) => d,
      0,
      rules({ choices: [{ choice: 'corner', option, why: 'ours' }] }),
    )
    const made = layOut(p)
    if (!made.ok) throw new Error(JSON.stringify(plain(made.problems)))
    const cells = [...made.value.cells.values()]
    const site = new Site(p)
    const cuts = sawDay(site.state, {}).cuts.filter((c) => c.kind === 'mitre')
    return {
      count: cells.flatMap((c) => c.pieces).filter((x) => x.kind === 'mitre').length,
      courses: new Set(cells.map((c) => c.course)).size,
      angles: cuts.map((c) => c.angle ?? 0),
    }
  }
  test('both at half the angle, or one at the whole against a whole one: layout and saw list follow the school', () => {
    const [both, turn] = [corner('mitred'), corner('mitred-turn')]
    expect(both.count).toBe(2 * both.courses)
    expect(turn.count).toBe(turn.courses)
    expect(Math.max(...turn.angles)).toBeCloseTo(2 * Math.max(...both.angles), 6)
  })
})
