// Rule table 3: whose wall it is, by a ladder of facts. What is known reaches it, and a low garden wall is sent to nobody for nothing.
import {
  compareRules,
  cutReach,
  emptyRules,
  engineered,
  factsOf,
  issued,
  issueUnder,
  ladderOf,
  type Plan,
  type Rules,
  readRules,
  type SoilClass,
  WALL_FACTS,
  whoseWall,
} from '@stone-tally/core'
import { built, ENGINEERED, layoutOf, plain, smallPlan } from '../plans'

const { engineer: _, ...bare } = smallPlan
type Change = Record<string, unknown>
/** A wall of units of a depth that shows so much, on level firm ground, nothing around it, in clean sand. */
const wall = (shows: number, change: Change = {}, depth = 0.5): Plan =>
  issued({
    ...built({
      ...bare,
      unit: { ...smallPlan.unit, depth, height: 0.15 },
      pad: { ...smallPlan.pad, width: depth + 0.3 },
      grid: [],
      drain: { ...smallPlan.drain, outlets: [{ station: 9, invert: 9.7 }] },
      grades: [0, 9].map((station) => ({ station, toe: 10, top: 10 + shows })),
    } as never),
    holds: [],
    front: { slope: 0, erodible: false },
    frost: 0,
    soil: { behind: 'clean-sand', below: 'clean-sand', by: 'pit of 3 April' },
    ...change,
  } as Plan)
const LOW = 0.4
const HIGH = 0.65
const facts = (plan: Plan) => factsOf(layoutOf(plan))
const whose = (plan: Plan) => whoseWall(plan, facts(plan)).whose
const blocks = (plan: Plan) =>
  plain(
    layoutOf(plan)
      .cautions.filter((c) => c.blocks)
      .map((c) => `${c.id}: ${c.message}`),
  )
const around = (...stands: object[]) => ({ stands })
const said = (behind: SoilClass, ...below: (SoilClass | undefined)[]) => ({ soil: { behind, below: below.length > 0 ? below[0] : behind } })

describe('the ladder', () => {
  test.each([
    // What is known, a wall that shows 0.4 m, one that shows 0.65 m.
    ['nothing', {}, 'crew', 'crew'],
    ['an open fence of 1 m', around({ kind: 'fence', away: 0.3, size: 1, how: 'open' }), 'ask', 'ask'],
    ['an open fence of 1.2 m', around({ kind: 'fence', away: 0.3, size: 1.2, how: 'open' }), 'ask', 'ask'],
    ['an open fence of 1.3 m, near', around({ kind: 'fence', away: 0.3, size: 1.3, how: 'open' }), 'engineer', 'engineer'],
    ['an open fence of 1.3 m, further than the wall is high', around({ kind: 'fence', away: 1.2, size: 1.3, how: 'open' }), 'ask', 'engineer'],
    ['a fence nobody said was open', around({ kind: 'fence', away: 0.3, size: 1 }), 'engineer', 'engineer'],
    ['a fence nobody said the height of', around({ kind: 'fence', away: 0.3, how: 'open' }), 'engineer', 'engineer'],
    ['a fence far off', around({ kind: 'fence', away: 6 }), 'crew', 'crew'],
    ['a slope of 1 in 10', around({ kind: 'slope', size: 0.1 }), 'crew', 'crew'],
    ['a slope of 1 in 5', around({ kind: 'slope', size: 0.2 }), 'ask', 'engineer'],
    ['a slope of 1 in 4', around({ kind: 'slope', size: 0.25 }), 'ask', 'engineer'],
    ['a slope of 1 in 3', around({ kind: 'slope', size: 0.33 }), 'engineer', 'engineer'],
    ['a slope nobody said how steep', around({ kind: 'slope' }), 'engineer', 'engineer'],
    ['water that is led away', around({ kind: 'water', how: 'led' }), 'ask', 'engineer'],
    ['water that stands', around({ kind: 'water', how: 'stands' }), 'engineer', 'engineer'],
    ['water nobody said is led away', around({ kind: 'water' }), 'engineer', 'engineer'],
    ['a drive at the wall', around({ kind: 'drive', away: 0.3 }), 'engineer', 'engineer'],
    ['a drive beyond its height', around({ kind: 'drive', away: 1.2 }), 'ask', 'engineer'],
    ['a drive far off', around({ kind: 'drive', away: 8 }), 'crew', 'crew'],
    ['a drive nobody said how far', around({ kind: 'drive' }), 'engineer', 'engineer'],
    ['a barrier', around({ kind: 'barrier', away: 0.5 }), 'engineer', 'engineer'],
    ['a boundary within the cut', around({ kind: 'boundary', away: 1 }), 'ask', 'ask'],
    ['a boundary far off', around({ kind: 'boundary', away: 8 }), 'crew', 'crew'],
    ['a building within the cut', around({ kind: 'building', away: 1 }), 'engineer', 'engineer'],
    ['a pool within the cut', around({ kind: 'pool', away: 1, size: 1 }), 'engineer', 'engineer'],
    ['another wall of 2 m, 3.5 m behind', around({ kind: 'wall', away: 3.5, size: 2 }), 'ask', 'engineer'],
    ['another wall of 0.5 m, 3.5 m behind', around({ kind: 'wall', away: 3.5, size: 0.5 }), 'crew', 'crew'],
    ['another wall nobody said how high', around({ kind: 'wall', away: 3.5 }), 'ask', 'engineer'],
    ['made ground behind', said('made-ground', 'clean-sand'), 'engineer', 'engineer'],
    ['made ground below', said('clean-sand', 'made-ground'), 'engineer', 'engineer'],
    ['swelling clay below', said('clean-sand', 'fat-clay'), 'engineer', 'engineer'],
    ['organic ground behind', said('organic', 'clean-sand'), 'engineer', 'engineer'],
    ['ground in front of 1 in 3', { front: { slope: 0.333, erodible: false } }, 'crew', 'crew'],
    ['ground in front of 1 in 2.5', { front: { slope: 0.4, erodible: false } }, 'engineer', 'engineer'],
    ['ground in front that washes out', { front: { slope: 0, erodible: true } }, 'engineer', 'engineer'],
    ['earthquakes', { holds: ['seismic'] }, 'engineer', 'engineer'],
    ['a slope that was ticked and not described', { holds: ['slope'] }, 'engineer', 'engineer'],
    ['a slope that was ticked and described', { holds: ['slope'], stands: [{ kind: 'slope', size: 0.2 }] }, 'ask', 'engineer'],
  ])('%s', (_what, change, low, high) => expect([whose(wall(LOW, change)), whose(wall(HIGH, change))]).toEqual([low, high]))

  test('a garden wall of 0.45 m on a footing is asked about; its engineer is nobody', () => {
    const low = wall(0.3)
    const footed = { ...low, system: { ...low.system, data: { ...(low.system.data as object), foundation: FOOTING } } } as Plan
    expect(whose(footed)).toBe('ask')
    expect(blocks(footed)).toEqual([expect.stringMatching(/^ask-first: Ask first: it stands on a reinforced footing/)])
  })
  test('a wall of 0.85 m with a house 1.9 m behind, whose cut is 2.8 m wide at the top, is an engineer’s', () => {
    const house = wall(0.55, { ...around({ kind: 'building', away: 1.9 }), excavation: { behind: 1.2, slope: 1.2 } })
    expect(cutReach(house, layoutOf(house).steps)).toBeGreaterThan(2.6)
    expect(blocks(house)[0]).toMatch(/^engineer: This wall is an engineer's: a building \(1\.9 m behind its face\) stands within the cut/)
  })
  test('a building that stands on the drawing counts though nobody wrote it down again, and one in front does not', () => {
    const house = (northing: number) =>
      wall(LOW, {
        obstacles: [
          {
            name: 'Tool shed',
            kind: 'structure',
            clearance: 0.5,
            points: [
              { easting: 4, northing },
              { easting: 6, northing },
            ],
          },
        ],
      })
    expect(plain(facts(house(1.2))[0]?.says)).toMatch(/^Tool shed, on the drawing at/)
    expect(whose(house(1.2))).toBe('engineer')
    expect([whose(house(-1.2)), whose(house(30))]).toEqual(['crew', 'crew'])
  })
  test('a slope as it was measured counts where nobody ticked it, and where somebody said it was flatter', () => {
    const found = (rise: number) => ({
      found: {
        points: [0, 3, 6, 9].flatMap((station) =>
          [0, 1, 2, 4].map((behind) => ({ station, behind, level: 10 + LOW + rise * Math.max(0, behind - 0.5) })),
        ),
      },
    })
    expect(whose(wall(LOW, found(0.05)))).toBe('crew')
    expect(whose(wall(LOW, found(0.2)))).toBe('ask')
    expect(whose(wall(LOW, found(0.4)))).toBe('engineer')
    expect(plain(facts(wall(LOW, { ...found(0.4), ...around({ kind: 'slope', size: 0.12 }) })).map((f) => f.says)).join('; ')).toMatch(
      /measured rising 2\.\d+H:1V, the plan says 8\.3H:1V/,
    )
  })
  test('more is never milder: each thing more, and each thing nearer, keeps it at least where it was', () => {
    const order = { crew: 0, ask: 1, engineer: 2 }
    for (const kind of ['drive', 'building', 'pool', 'wall', 'fence', 'barrier', 'boundary'] as const) {
      let before = 2
      for (let away = 0; away < 9; away += 0.25) {
        const now = order[whose(wall(LOW, around({ kind, away, size: 1 })))]
        expect([kind, away, now <= before]).toEqual([kind, away, true])
        before = now
      }
    }
  })
  test('the ladder stands in the book of the revision, every line with its reason', () => {
    expect(
      ladderOf({})
        .map((r) => r.fact)
        .sort(),
    ).toEqual([...WALL_FACTS].sort())
    for (const r of ladderOf({})) expect(r.reason.length).toBeGreaterThan(20)
  })
})
const FOOTING = { kind: 'footing', thickness: 0.25, width: 0.8, minRun: 1, cover: 0.075, bars: { count: 3, diameter: 0.012, lap: 0.5 }, stock: 6 }

describe('company and site make the ladder stricter', () => {
  const level = (fact: string, low: string, higher: string): Rules =>
    ({ ...emptyRules(), ladder: [{ fact, low, higher, why: 'our insurer asks for it' }] }) as Rules
  const fence = { stands: [{ kind: 'fence', away: 0.3, size: 1, how: 'open' }] }
  const under = (levels: { company?: Rules; site?: Rules }) => {
    const made = issueUnder(wall(LOW, fence), levels)
    return made.ok ? made.value : plain(made.problems.map((p) => `${p.field}: ${p.message}`))
  }
  test('a line set to an engineer’s makes the wall one, with who said so; the shipped one asks first', () => {
    expect(whose(wall(LOW, fence))).toBe('ask')
    const plan = under({ company: level('fence-open', 'engineer', 'engineer') }) as Plan
    expect(whose(plan)).toBe('engineer')
    expect(plan.book?.set).toContainEqual({ rule: 'ladder.fence-open', level: 'company', why: 'our insurer asks for it' })
    expect(compareRules(plan.book as never).map((c) => [c.title, c.was, c.is])).toContainEqual([
      'An open fence on it',
      'Ask first; higher: ask first',
      'An engineer’s; higher: an engineer’s',
    ])
  })
  test('never milder than what ships, nor a site milder than its company; nobody twice', () => {
    expect(under({ company: level('pool', 'ask', 'engineer') })).toEqual([
      expect.stringMatching(/^company\.ladder\[0\]\.low: asks for less than what ships/),
    ])
    expect(under({ company: level('fence-open', 'engineer', 'engineer'), site: level('fence-open', 'ask', 'engineer') })).toEqual([
      expect.stringMatching(/^site\.ladder\[0\]: asks for less than the level above/),
    ])
    const twice = level('fence-open', 'ask', 'engineer')
    expect(under({ company: { ...twice, ladder: [...(twice.ladder ?? []), ...(twice.ladder ?? [])] } })).toEqual([expect.stringMatching(/set twice/)])
    expect(readRules({ ...twice, ladder: [{ fact: 'moon', low: 'ask', higher: 'ask', why: 'none' }] }).ok).toBe(false)
    expect(readRules(JSON.parse(JSON.stringify(twice))).ok).toBe(true)
  })
})

describe('slenderness, by the soil', () => {
  // Standing height of three courses and a cap over the depth of the units.
  const slender = (ratio: number, soil: Change, shows = HIGH) => {
    const l = layoutOf(wall(shows))
    const standing = Math.max(...l.tops.map((t) => t.elevation)) + 0.1 - Math.min(...l.steps.map((s) => s.elevation))
    return facts(wall(shows, soil, standing / ratio)).some((f) => f.fact === 'slender')
  }
  test.each([
    ['clean sand', said('clean-sand'), 3],
    ['clean gravel', said('clean-gravel'), 3],
    ['silty sand below', said('clean-sand', 'silty-sand'), 2.2],
    ['gravel with fines behind', said('dirty-gravel', 'clean-sand'), 2.2],
    ['silt', said('silt'), 1.8],
    ['lean clay behind', said('lean-clay', 'clean-gravel'), 1.8],
    ['unsaid', { soil: undefined }, 1.8],
    ['said behind alone', said('clean-sand', undefined), 1.8],
  ])('%s', (_what, soil, most) => expect([slender(most - 0.01, soil), slender(most + 0.01, soil)]).toEqual([false, true]))
  test('a low wall is asked about at most', () => expect([whose(wall(LOW, {}, 0.15)), whose(wall(HIGH, {}, 0.15))]).toEqual(['ask', 'engineer']))
  test('one short strip is no reinforced wall; layers long and close enough are', () => {
    const layered = (...layers: { course: number; length: number }[]) => {
      const plan = wall(0.85, { soil: undefined }, 0.3)
      const data = plan.system.data as Record<string, unknown>
      return { ...plan, system: { ...plan.system, data: { ...data, layers: layers.map((l) => ({ ...l, type: 'uniaxial 30' })) } } } as Plan
    }
    const has = (plan: Plan) => facts(plan).some((f) => f.fact === 'slender')
    expect(has(layered())).toBe(true)
    expect(has(layered({ course: 2, length: 0.3 }))).toBe(true)
    expect(has(layered({ course: 1, length: 0.7 }))).toBe(true)
    expect(has(layered({ course: 2, length: 0.7 }, { course: 4, length: 0.7 }))).toBe(false)
    expect(has(layered({ course: 2, length: 0.7 }, { course: 4, length: 0.4 }))).toBe(true)
  })
})

describe('an engineer is a person with a plan', () => {
  const pool = around({ kind: 'pool', away: 0.5, size: 1 })
  const covers = { height: 0.9, from: 0, to: 9, facts: ['foundation'] }
  const signed = { engineer: 'W-112', engineerBy: 'Ada Stone', engineerLicence: 'register 88', engineerOn: '2026-03-02', engineerCovers: covers }
  test('whole, it opens the gate', () => {
    expect(engineered(wall(LOW, signed))).toBe(true)
    expect(blocks(wall(LOW, { ...pool, ...signed }))).toEqual([])
  })
  test.each([
    ['engineer', 'n/a', 'the number of the plan'],
    ['engineer', 'TBD', 'the number of the plan'],
    ['engineerBy', '-', 'the engineer’s name'],
    ['engineerBy', '4711', 'the engineer’s name'],
    ['engineerLicence', 'yes', 'the licence or register number'],
    ['engineerLicence', undefined, 'the licence or register number'],
    ['engineerOn', undefined, 'the day of the plan'],
    ['engineerCovers', undefined, 'what it covers'],
  ])('%s as %s is missing', (field, value, words) =>
    expect(blocks(wall(LOW, { ...pool, ...signed, [field]: value }))[0]).toMatch(new RegExp(`Enter [^.]*${words}`)),
  )
  test.each([
    ['a height it does not reach', { height: 0.5 }, /covers? this wall: 0\.\d+ m of height; it covers 0\.5 m/],
    ['stations it does not reach', { to: 6 }, /all of the wall; it covers 0\.00 to 6\.00/],
    ['what it does not reckon with', { facts: ['slope'] }, /a foundation within the cut/],
  ])('%s', (_what, change, words) => {
    const plan = wall(LOW, { ...pool, ...signed, engineerCovers: { ...covers, ...change } })
    expect(blocks(plan)[0]).toMatch(words)
    expect(blocks(plan)[0]).toMatch(/^engineer-covers/)
  })
  test('the engineer of the tests covers whatever they build', () =>
    expect(blocks(wall(2.4, { ...ENGINEERED, holds: ['water', 'seismic'] }))).toEqual([]))
})

describe('asked first', () => {
  const fence = around({ kind: 'fence', away: 0.3, size: 1, how: 'open' })
  const answer = {
    facts: ['fence-open'],
    who: 'Building office, desk 4',
    as: 'authority',
    on: '2026-04-02',
    reference: 'B 77/26',
    question: 'A fence of 1 m on it',
    may: true,
  }
  const asked = (change: object = {}) => blocks(wall(LOW, { ...fence, asked: [{ ...answer, ...change }] }))
  test('an answer that says who, when, by which paper, to what opens it', () => expect(asked()).toEqual([]))
  test.each([
    [{ who: 'n/a' }, 'who answered'],
    [{ on: undefined }, 'on which day'],
    [{ reference: '-' }, 'its reference'],
    [{ question: undefined }, 'what was asked'],
  ])('%j opens nothing', (change, words) => expect(asked(change)[0]).toMatch(new RegExp(`still missing: ${words}`)))
  test('an answer to something else opens nothing', () => expect(asked({ facts: ['slope'] })[0]).toMatch(/^ask-first/))
  test('of two answers a no holds, whichever came first', () => {
    for (const order of [
      [true, false],
      [false, true],
    ])
      expect(blocks(wall(LOW, { ...fence, asked: order.map((may) => ({ ...answer, may })) }))[0]).toMatch(/^engineer/)
  })
  test('no means an engineer', () => expect(asked({ may: false })[0]).toMatch(/^engineer: .*open fence/))
  test('an engineer’s plan that reckons with it opens it too', () =>
    expect(blocks(wall(LOW, { ...fence, ...ENGINEERED, engineerCovers: { height: 3, from: 0, to: 9, facts: ['fence-open'] } }))).toEqual([]))
})

describe('unsaid is asked before the dig', () => {
  test.each([
    ['what it holds', { holds: undefined }, /^holds/],
    ['the ground in front', { front: undefined }, /^front-unsaid/],
  ])('%s', (_what, change, id) => expect(blocks(wall(LOW, change))[0]).toMatch(id))
})

describe('what else is said of a plan', () => {
  const ids = (plan: Plan) => layoutOf(plan).cautions.map((c) => c.id)
  test('a fall over the top: unless nobody comes there, or a rail stands on it', () => {
    expect(ids(wall(0.8))).toContain('guard')
    expect(ids(wall(0.7))).not.toContain('guard')
    expect(ids(wall(0.8, { edge: 'nobody' }))).not.toContain('guard')
    expect(ids(wall(0.8, around({ kind: 'fence', away: 0.3, size: 1, how: 'open' })))).not.toContain('guard')
  })
  test('no depth of embedment above 1 in 1.5', () => {
    expect(ids(wall(LOW, { front: { slope: 0.5, erodible: false } }))).toContain('front')
    const steep = ids(wall(LOW, { front: { slope: 0.7, erodible: false } }))
    expect(steep).toContain('front-figure')
    expect(steep).not.toContain('front')
  })
  test('no drainage stone: said, and stopped over three courses', () => {
    const without = (shows: number) => {
      const plan = wall(shows)
      return layoutOf({ ...plan, system: { ...plan.system, data: { ...(plan.system.data as object), stone: { width: 0 } } } } as Plan).cautions.find(
        (c) => c.id === 'no-stone',
      )
    }
    expect(without(0.15)).toMatchObject({ blocks: false })
    expect(without(HIGH)).toMatchObject({ blocks: true })
  })
  test('bed and cover under the limit take a drawing; over it they stand as drawn', () => {
    expect(ids(wall(LOW, { water: { bed: 0.03 } }))).toContain('drawn-pipeBed')
    expect(ids(wall(LOW, { water: { cover: 0.1 } }))).toContain('drawn-pipeCover')
    expect(ids(wall(LOW, { water: { bed: 0.08, cover: 0.2 } })).filter((i) => i.startsWith('drawn'))).toEqual([])
    const drawn = { water: { bed: 0.03 }, rules: { limits: [{ limit: 'pipeBed', value: 0.03, source: 'drawing D-4' }] } }
    expect(ids(wall(LOW, drawn)).filter((i) => i.startsWith('drawn'))).toEqual([])
  })
  test('water from an end without an outlet travels all the way', () => {
    const long = (length: number) => {
      const plan = wall(LOW)
      const grades = [0, length].map((station) => ({ station, toe: 10, top: 10 + LOW }))
      const data = plan.system.data as { drain: object }
      return {
        ...plan,
        length,
        grades,
        sections: [{ id: 'A', from: 0, to: length }],
        system: { ...plan.system, data: { ...data, drain: { ...data.drain, outlets: [{ station: 0, invert: 9.4 }] } } },
      } as Plan
    }
    expect(ids(long(15))).not.toContain('outlet-end')
    expect(plain(layoutOf(long(16)).cautions.find((c) => c.id === 'outlet-end')?.message)).toMatch(/From the end of the wall water runs 16\.0 m/)
  })
})
