// The rule book: levels over one another, what does not fit, what is frozen into a plan, and walls of before.
import {
  admit,
  bookOf,
  CHOICES,
  compareLayouts,
  compareRules,
  emptyRules,
  fold,
  issued,
  issueUnder,
  LIMIT_DEFS,
  LIMITS,
  limitsOf,
  type EarlierPlan as Plan,
  POINTS,
  pointOf,
  type RuleBook,
  type Rules,
  readPlan,
  readRules,
  resolveRules,
  STARTS,
  shippedLimits,
  shippedRules,
  startBy,
  verdictOf,
} from '@stone-tally/core'
import { ENGINEERED, entry, layoutOf, NOW, plain, recorded, SIGNED, smallPlan } from '../plans'

const rules = (more: Partial<Rules>): Rules => ({ ...emptyRules(), ...more })
const limit = (name: string, value: number, more: object = {}) => ({ limit: name, value, why: 'our way', ...more })
const book = (levels: Parameters<typeof resolveRules>[0]): RuleBook => {
  const found = resolveRules(levels)
  if (!found.ok) throw new Error(JSON.stringify(plain(found.problems)))
  return found.value
}
const wrong = (levels: Parameters<typeof resolveRules>[0]) => {
  const found = resolveRules(levels)
  return found.ok ? [] : plain(found.problems).map((p) => `${p.field}: ${p.message}`)
}
const valueIn = (b: RuleBook, name: string) => b.limits.find((l) => l.limit === name)?.value
const today = (levels: Parameters<typeof issueUnder>[1] = {}, of: Plan = { ...smallPlan, ...ENGINEERED }): Plan => {
  const made = issueUnder(of, levels)
  if (!made.ok) throw new Error(JSON.stringify(plain(made.problems)))
  return made.value
}

describe('what ships', () => {
  test.each(Object.entries(LIMIT_DEFS))('%s: the shipped value is within its range', (name, d) => {
    const { value, reason } = LIMITS[name as keyof typeof LIMITS]
    expect(value).toBeGreaterThanOrEqual(d.range[0])
    expect(value).toBeLessThanOrEqual(d.range[1])
    expect(reason.length).toBeGreaterThan(20)
  })
  test.each(CHOICES.map((c) => [c.id, c] as const))('%s: two schools at least, each with what it trades, one of them the standard', (_id, c) => {
    expect(c.options.length).toBeGreaterThanOrEqual(2)
    expect(c.options.map((o) => o.id)).toContain(c.standard)
    for (const o of c.options) expect(o.says.length).toBeGreaterThan(30)
  })
  test('the shipped book is the shipped table: same limits, same stages, same points, nobody named', () => {
    const [with_, without] = [today(), issued({ ...smallPlan, ...ENGINEERED })]
    expect(limitsOf(with_)).toEqual(limitsOf(without))
    expect(layoutOf(with_).system.stages).toEqual(layoutOf(without).system.stages)
    expect(with_.book?.set).toEqual([])
    for (const p of POINTS) expect(pointOf(with_, p.id)).toEqual({ ...p })
    expect(compareRules(shippedRules())).toEqual([])
  })
})

describe('levels', () => {
  const company = rules({ limits: [limit('compaction', 97, { why: 'our guarantee', by: 'Olu' }), limit('padLevel', 0.004)] })
  const site = rules({
    limits: [limit('compaction', 98, { why: 'clay here' })],
    choices: [{ choice: 'adhesive', option: 'each', why: 'flat stones' }],
  })
  test('each changes only what it says; the book names who set what last', () => {
    const b = book({ company, site, wall: { limits: [{ limit: 'padLevel', value: 0.006, source: 'drawing 4, note 2' }] } })
    expect(valueIn(b, 'compaction')).toBe(98)
    expect(valueIn(b, 'padLevel')).toBe(0.006)
    expect(valueIn(b, 'firstLevel')).toBe(LIMITS.firstLevel.value)
    expect(b.set.map((s) => [s.rule, s.level, s.why])).toEqual([
      ['limit.compaction', 'site', 'clay here'],
      ['limit.padLevel', 'wall', 'The drawing says so: drawing 4, note 2'],
      ['choice.adhesive', 'site', 'flat stones'],
    ])
    expect(plain(compareRules(b)).map((c) => [c.title, c.was, c.is, c.level])).toEqual([
      ['Pad level', '0.005 m', '0.006 m', 'wall'],
      ['Compaction, of maximum density', '95 %', '98 %', 'site'],
      ['Adhesive', 'Caps only', 'Each course', 'site'],
    ])
  })
  test('the reason of a limit is that of who set it', () => {
    expect(limitsOf(today({ company })).compaction).toEqual({ value: 97, reason: 'A rule of the company: our guarantee' })
    expect(limitsOf(today({ company })).firstLevel).toEqual(LIMITS.firstLevel)
  })
  test('a firm rule of the company may be made stricter below, not kinder; a firm school stays', () => {
    const firm = rules({
      limits: [limit('compaction', 97, { firm: true })],
      choices: [{ choice: 'stone', option: 'rodded', why: 'ours', firm: true }],
    })
    expect(wrong({ company: firm, site: rules({ limits: [limit('compaction', 98)] }) })).toEqual([])
    expect(wrong({ company: firm, site: rules({ limits: [limit('compaction', 95)] }) })).toEqual([
      "site.limits[0].value: 95 % does not fit the company's 97 %, which may only be made stricter",
    ])
    expect(wrong({ company: firm, site: rules({ choices: [{ choice: 'stone', option: 'plated', why: 'quicker' }] }) })[0]).toMatch(
      /site\.choices\[0\]\.option: .* keeps "rodded"/,
    )
    // An approved drawing goes before it all the same.
    expect(wrong({ company: firm, wall: { limits: [{ limit: 'compaction', value: 92, source: 'drawing 4' }] } })).toEqual([])
  })
})

describe('schools that are limits', () => {
  const thin = rules({ choices: [{ choice: 'lift-thickness', option: 'thin', why: 'clay' }] })
  const choose = (option: string, more: object = {}) => rules({ choices: [{ choice: 'open-courses', option, why: 'ours', ...more }] })
  test('they stand in the book itself, with the school as their reason', () => {
    expect(valueIn(book({ site: thin }), 'backfillLift')).toBe(0.1)
    expect(limitsOf(today({ site: thin })).backfillLift.reason).toBe('A rule of this site: Lifts of backfill: thin everywhere.')
    expect(plain(compareRules(book({ site: thin }))).map((c) => c.rule)).toEqual(['limit.backfillLift', 'limit.liftPlate', 'choice.lift-thickness'])
  })
  test('a site’s thin lifts go before a limit its company set; a limit of the same level goes before the school', () => {
    const company = rules({ limits: [limit('backfillLift', 0.2)] })
    expect(valueIn(book({ company, site: thin }), 'backfillLift')).toBe(0.1)
    expect(valueIn(book({ company: { ...thin, limits: [limit('backfillLift', 0.15)] } }), 'backfillLift')).toBe(0.15)
    expect(valueIn(book({ company: thin, site: rules({ limits: [limit('backfillLift', 0.15)] }) }), 'backfillLift')).toBe(0.15)
  })
  test('another school below gives the limit back as it was', () => {
    expect(valueIn(book({ company: choose('two'), site: choose('one') }), 'openCourses')).toBe(1)
    const b = book({ company: { ...choose('two'), limits: undefined }, site: choose('one') })
    expect(b.set.map((x) => x.rule)).toEqual(['choice.open-courses'])
  })
  test('what is firm above is not made kinder by a school, nor by what a plan says of it without a reason', () => {
    const firm = rules({ limits: [limit('openCourses', 1, { firm: true })] })
    expect(valueIn(book({ company: firm, site: choose('two') }), 'openCourses')).toBe(1)
    expect(wrong({ company: firm, wall: { openCourses: 3 } })).toEqual([
      "wall.openCourses: 3 does not fit the company's 1, which may only be made stricter",
    ])
    expect(wrong({ company: firm, wall: { openCourses: 1 } })).toEqual([])
    expect(wrong({ wall: { openCourses: 3 } })).toEqual([])
    const spaced = rules({ limits: [limit('pointSpacing', 2, { firm: true })] })
    expect(wrong({ company: spaced, wall: { pointSpacing: 3 } })[0]).toMatch(/wall\.pointSpacing: 3 m does not fit/)
  })
})

describe('points that are firm', () => {
  const point = (kind: 'hold' | 'witness' | 'off', roles: readonly ('foreman' | 'inspector')[] = ['inspector'], more: object = {}) =>
    rules({ points: [{ point: 'subgrade', kind, roles: [...roles], own: false, why: 'ours', ...more }] })
  const company = point('hold', ['inspector'], { firm: true })
  test.each<[string, Rules, boolean]>([
    ['the same', point('hold'), true],
    ['a witness', point('witness'), false],
    ['off', point('off'), false],
    ['released by more', point('hold', ['foreman', 'inspector']), false],
    ['released by who did the work', point('hold', ['inspector'], { own: true }), false],
  ])('%s', (_what, site, fits) => expect(wrong({ company, site }).filter((p) => p.includes('than the company'))).toHaveLength(fits ? 0 : 1))
  test('not firm, a site may; a firm witness may become a hold', () => {
    expect(wrong({ company: point('hold'), site: point('witness') })).toEqual([])
    expect(wrong({ company: point('witness', ['inspector'], { firm: true }), site: point('hold') })).toEqual([])
  })
})

describe('kinder than it ships', () => {
  const kind = rules({
    limits: [limit('courseLine', 0.015, { why: 'sand only' })],
    points: [{ point: 'pad-level', kind: 'witness', roles: ['inspector'], own: false, why: 'small walls' }],
  })
  const caution = (of: Plan) =>
    plain(
      layoutOf(of)
        .cautions.filter((c) => c.id === 'rules-kinder')
        .map((c) => c.message),
    )
  test('is said with the plan, with who stands for it', () =>
    expect(caution(today({ company: kind }))).toEqual([
      'Its rules let more pass than the shipped ones: course alignment and setback 0.015 m instead of 0.012 m (company: sand only); pad level witness instead of hold (company: small walls). Whoever signs for the wall should know.',
    ]))
  test('stricter rules, and what a drawing sets with its reference, are not', () => {
    expect(caution(today({ company: rules({ limits: [limit('compaction', 98)] }) }))).toEqual([])
    const drawn = {
      ...smallPlan,
      ...ENGINEERED,
      rules: { limits: [{ limit: 'compaction', value: 92, source: 'drawing 4' }] },
    }
    expect(caution(today({}, drawn))).toEqual([])
    expect(caution(issued(smallPlan))).toEqual([])
  })
  test('an engineer asked for later than the rules do is not later, and that is said', () => {
    const later = { ...smallPlan, engineer: undefined, holds: [], rules: { engineeredAbove: 3 } } as unknown as Plan
    const ids = layoutOf(today({}, later)).cautions.map((c) => c.id)
    expect(ids).toEqual(expect.arrayContaining(['engineer', 'engineer-later']))
  })
})

describe('books of before', () => {
  test('a plan without a book is compared by the shipped rules of its time', () => {
    const first = bookOf(smallPlan)
    expect(valueIn(first, 'cutSlope')).toBe(0.75)
    expect(valueIn(first, 'ladder')).toBeUndefined()
    expect(compareRules(bookOf(issued(smallPlan)))).toEqual([])
    expect(plain(compareRules(shippedRules(), first)).map((c) => c.rule)).toContain('limit.cutSlope')
    const plan = today()
    expect(bookOf(plan)).toBe(plan.book)
  })
})

describe('what the planner starts from', () => {
  const wide = rules({ starts: [{ start: 'padWidth', value: 0.75, why: 'wide plates' }] })
  test('as it ships, or as a level says; a wall that is planned is not touched by it', () => {
    expect(startBy({}, 'padWidth')).toBe(0.6)
    expect(startBy({ book: book({ company: wide }) }, 'padWidth')).toBe(0.75)
    expect(book({ company: wide }).set).toEqual([{ rule: 'start.padWidth', level: 'company', why: 'wide plates' }])
    expect(plain(compareRules(book({ company: wide })))).toMatchObject([{ title: 'Planner: Pad, wide', was: '0.6 m', is: '0.75 m' }])
    const [before, after] = [layoutOf(today()), layoutOf(today({ company: wide }))]
    expect(compareLayouts(before, after)).toEqual([])
  })
  test.each(Object.entries(STARTS))('%s: the shipped start is within its range', (_name, d) => {
    expect(d.value).toBeGreaterThanOrEqual(d.range[0])
    expect(d.value).toBeLessThanOrEqual(d.range[1])
  })
})

describe('what does not fit', () => {
  const at = (more: object) => {
    const found = readRules({ ...emptyRules(), ...more })
    return found.ok ? [] : plain(found.problems).map((p) => `${p.field}: ${p.message}`)
  }
  test.each<[string, object, RegExp]>([
    ['a newer version', { version: 2 }, /^version: .*newer Stone Tally/],
    ['newer shipped rules', { shipped: 9 }, /^shipped: .*does not have yet/],
    ['another format', { format: 'other' }, /^format: must be one of stone-tally-rules/],
    ['an unknown field', { colour: 'red' }, /colour/],
    ['an unknown limit', { limits: [limit('wobble', 1)] }, /^limits\[0\]\.limit: "wobble" is not a limit/],
    ['a name of the prototype', { limits: [limit('constructor', 1)] }, /"constructor" is not a limit/],
    ['a wrong unit', { limits: [limit('padLevel', 5, { unit: 'mm' })] }, /^limits\[0\]\.unit: is mm; pad level is given in m/],
    ['out of sense', { limits: [limit('padLevel', 5)] }, /^limits\[0\]\.value: must be 0\.001 m to 0\.03 m, not 5 m; is the unit right/],
    ['half a pass', { limits: [limit('passes', 2.5)] }, /whole number/],
    ['set twice', { limits: [limit('padLevel', 0.004), limit('padLevel', 0.005)] }, /is set twice/],
    ['no reason', { limits: [{ limit: 'padLevel', value: 0.004 }] }, /^limits\[0\]\.why: is missing/],
    ['an unknown start', { starts: [{ start: 'colour', value: 1, why: 'x' }] }, /"colour" is nothing the planner starts from/],
    ['a start out of sense', { starts: [{ start: 'padWidth', value: 60, why: 'x' }] }, /^starts\[0\]\.value: must be 0\.15 m to 4 m, not 60 m/],
    ['a start in a wrong unit', { starts: [{ start: 'padWidth', value: 0.6, unit: 'cm', why: 'x' }] }, /is cm; pad, wide is given in m/],
    ['an unknown choice', { choices: [{ choice: 'colour', option: 'red', why: 'x' }] }, /"colour" is not a choice/],
    ['a school that does not exist', { choices: [{ choice: 'adhesive', option: 'tape', why: 'x' }] }, /"tape" is not a school of adhesive/],
    ['an unknown point', { points: [{ point: 'tea', kind: 'hold', roles: ['foreman'], own: false, why: 'x' }] }, /"tea" is not a point/],
    ['a fixed point let go', { points: [{ point: 'drain', kind: 'witness', roles: [], own: false, why: 'x' }] }, /stays a hold point/],
    [
      'who laid a layer releases it',
      { points: [{ point: 'geogrid', kind: 'hold', roles: ['foreman'], own: true, why: 'x' }] },
      /second pair of eyes/,
    ],
    ['a hold nobody releases', { points: [{ point: 'subgrade', kind: 'hold', roles: [], own: false, why: 'x' }] }, /roles: is empty/],
    [
      'a point with a shipped name',
      { added: [{ id: 'subgrade', title: 'x', kind: 'hold', roles: ['foreman'], own: false, at: { stage: 'pad' }, why: 'x' }] },
      /name of a shipped point/,
    ],
    [
      'a course of no section',
      { added: [{ id: 'look', title: 'x', kind: 'hold', roles: ['foreman'], own: false, at: { stage: 'level', course: 3 }, why: 'x' }] },
      /at\.section: is missing/,
    ],
  ])('%s', (_what, more, message) => expect(at(more).join('\n')).toMatch(message))
  test('nobody sets what keeps people safe kinder than it ships; stricter they may', () => {
    expect(wrong({ company: rules({ limits: [limit('shoreAbove', 1.5)] }) })[0]).toMatch(
      /^company\.limits\[0\]\.value: 1\.5 m lets more pass than the 1\.2 m that ships/,
    )
    expect(wrong({ company: rules({ limits: [limit('shoreAbove', 1)] }) })).toEqual([])
    expect(wrong({ site: rules({ limits: [limit('spoilSetback', 0.6)] }) })).toEqual([])
    expect(wrong({ site: rules({ limits: [limit('cutSlope', 1)] }) })[0]).toMatch(/site/)
  })
  test('a site rule that no longer fits its company’s is named by its level', () => {
    const site = rules({ limits: [limit('gridFrontMax', 0.03)] })
    expect(wrong({ site })).toEqual([])
    expect(wrong({ company: rules({ limits: [limit('gridFrontMin', 0.04)] }), site })).toEqual([
      'site.limits: Geogrid behind the face, least is 0.04 m, over geogrid behind the face, most, 0.03 m',
    ])
  })
  test('a book of a later version, or of somebody’s own making, is refused by name', () => {
    const plan = today()
    const with_ = (b: Partial<RuleBook>) => {
      const read = readPlan({ ...plan, book: { ...plan.book, ...b } })
      return read.ok
        ? ''
        : plain(read.problems)
            .map((p) => `${p.field}: ${p.message}`)
            .join('; ')
    }
    expect(with_({})).toBe('')
    expect(with_({ shipped: 7 })).toMatch(/book\.shipped: rests on shipped rules 7/)
    expect(with_({ limits: [{ limit: 'wobble', value: 1 }] })).toMatch(/book\.limits\[0\]/)
    expect(with_({ choices: [{ choice: 'adhesive', option: 'tape' }] })).toMatch(/not a school of adhesive/)
    expect(with_({ points: [{ point: 'tea', kind: 'off', roles: [], own: false }] })).toMatch(/book\.points\[0\]/)
  })
  test('points of all levels together are as many as a plan can be read back with', () => {
    const many = (n: number, from: string) =>
      rules({
        added: Array.from({ length: n }, (_, i) => ({
          id: `${from}-${i}`,
          title: `Look ${i}`,
          kind: 'hold' as const,
          roles: ['inspector' as const],
          own: false,
          why: 'ours',
          at: { stage: 'units' },
        })),
      })
    expect(wrong({ company: many(60, 'c'), site: many(41, 's') })).toEqual([
      'site.added[40]: is one point too many; a wall takes 100 of its levels together',
    ])
    const plan = today({ company: many(60, 'c'), site: many(40, 's') })
    expect(readPlan(JSON.parse(JSON.stringify(plan))).ok).toBe(true)
  })
  test('a book that came along is not believed: it is worked out anew', () => {
    const kind = { ...today(), book: { ...(today().book as RuleBook), limits: [{ limit: 'compaction', value: 85 }], set: [] } }
    expect(limitsOf(today({}, kind)).compaction.value).toBe(95)
  })
})

describe('frozen into the revision', () => {
  const strict = rules({ limits: [limit('courseLevel', 0.003)] })
  const reading = (revision: number) =>
    entry('reading', { stage: 'level', section: 'B', course: 2, station: 6 }, { method: 'deviation', value: 0.005 }, { revision })
  test('an entry is judged for ever by the rules of its own revision, whatever the company changes later', () => {
    const [before, after] = [layoutOf(today()), layoutOf(today({ company: strict }))]
    const [old, new_] = [reading(1), reading(2)]
    const state = fold([before, after], recorded([old, new_]))
    expect(verdictOf(state, old)?.verdict).toBe('ok')
    expect(verdictOf(state, new_)?.verdict).toBe('out')
    expect([...state.outs.keys()]).toEqual([new_.id])
  })
  test('a revision without a book is judged by the shipped rules of its time', () => {
    const kinds: Plan[] = [smallPlan, issued(smallPlan)]
    for (const plan of kinds) expect(limitsOf(plan)).toEqual(shippedLimits(plan.ruleTable ?? 1))
  })
  test('the book comes back from canonical JSON as it went in', () => {
    const plan = today({ company: strict })
    const read = readPlan(JSON.parse(JSON.stringify(plan)))
    expect(read.ok && read.value.book).toEqual(plan.book)
  })
  test('who releases is what the book says', () => {
    const company = rules({ points: [{ point: 'before-digging', kind: 'hold', roles: ['office'], own: false, why: 'the office signs' }] })
    const layout = layoutOf(today({ company }))
    const state = fold([layout], [])
    const release = entry('release', { stage: 'set-out' }, { decision: 'released', reason: 'seen', signature: SIGNED })
    const judged = admit(state, release, NOW)
    expect(judged.ok ? '' : judged.problems[0]?.message).toMatch(/takes the office; the foreman may not release it/)
  })
})
