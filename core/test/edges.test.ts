import {
  advance,
  buildingOf,
  emptyState,
  formatLength,
  formatSmall,
  type LimitName,
  limitAt,
  limitNames,
  limitsOf,
  parseLength,
  say,
  screedPlan,
  solveDrain,
  stepKey,
  verdictOf,
  withLine,
} from '@stone-tally/core'
import { built, entry, layoutOf, recorded, smallPlan } from './plans'
import { at } from './walls'

/** Table 1 by its values: revisions issued before tables had numbers are judged by it for ever. Lengths m. */
const VALUES = {
  excavation: 0.025,
  deviceDays: 14,
  loadReach: 2,
  driveLoad: 12,
  levelBehind: 0.1,
  fenceBehind: 0.9,
  standBehind: 2,
  swing: 3,
  standSlope: 0.25,
  padLevel: 0.005,
  firstLevel: 0.003,
  courseLevel: 0.006,
  firstLine: 0.006,
  basketLevel: 0.025,
  basketLine: 0.025,
  courseLine: 0.012,
  invert: 0.01,
  levelClosure: 0.004,
  levelCheck: 0.003,
  padThickness: 0.025,
  preciseUnits: 250,
  padPrecise: 0.003,
  fabricLap: 0.3,
  spoilSetback: 0.6,
  shoreAbove: 1.2,
  cutSlope: 0.75,
  passes: 2,
  compaction: 95,
  backfillLift: 0.2,
  backfillLoose: 1.25,
  gridFrontMin: 0.025,
  gridFrontMax: 0.05,
  plantStandoff: 1,
  gridCover: 0.15,
  gridLapSoil: 0.075,
  pipeBed: 0.05,
  pipeCover: 0.15,
  topLayer: 0.15,
  overhangMin: 0,
  overhangMax: 0.06,
  lean: 2,
  shim: 0.003,
  shave: 0.003,
  pull: 0.006,
  pointSpacing: 3,
  courseWithoutPipe: 3,
  passesTamper: 4,
  passesTamperFine: 6,
  passesLight: 3,
  passesLightFine: 4,
  passesHeavy: 3,
  passesHeavyFine: 4,
  passesRoller: 4,
  passesRollerFine: 6,
  openCourses: 1,
  engineeredAbove: 1.2,
  questionable: 0.1,
  plantEdge: 0,
  ladder: Number.POSITIVE_INFINITY,
  liftHand: 1,
  liftPlate: 1,
  looseHand: 0.2,
  oversize: 100,
  pipeFallShare: Number.NEGATIVE_INFINITY,
  slenderness: Number.POSITIVE_INFINITY,
  manualOne: 25,
  manualTwo: 50,
  liftingAid: 100,
  gridSpacing: 0.6,
  gridShare: 0.6,
  tilt: 0.003,
  batter: 0.035,
  gabionStoneMin: 0.1,
  gabionStoneMax: 0.25,
  fillStep: 0.33,
  stoneFines: 5,
  cutDesigned: 6,
  cutStiffClay: 0.75,
  unitLevel: 0.002,
  fillShort: 0.025,
  testEvery: 15,
  buriedLeast: 0.15,
  bermWidth: 1.2,
  filterRetention: 5,
  filterPermeability: 5,
  filterOpening: 1.2,
  pickShare: 0.75,
  slingAngle: 60,
  fallZone: 3,
  clipSpacing: 0.45,
  wireCover: 0.05,
  bermCourse: 3,
  slumpMin: 0.075,
  slumpMax: 0.15,
  concreteCold: 10,
  concreteHot: 32,
  cureUnits: 3,
  cureBackfill: 7,
  groutLift: 1.2,
  groutSlumpMin: 0.2,
  membraneLap: 0.1,
  belowSlab: 0.075,
}
/** Table 2: a change of one is a change of the rule book, and takes a table of its own once it was shipped. */
const SECOND: Readonly<Partial<Record<LimitName, number>>> = {
  ...VALUES,
  cutSlope: 1.5,
  levelClosure: 0.002,
  plantEdge: 1,
  ladder: 7.5,
  liftHand: 0.075,
  liftPlate: 0.16,
  looseHand: 0.1,
  oversize: 30,
  pipeFallShare: 0.5,
  slenderness: 3,
}
/** Table 3: what it asks that no table before did, and nothing of the second changed. */
const THIRD: Readonly<Partial<Record<LimitName, number>>> = {
  ...SECOND,
  lowShowing: 0.6,
  steepBehind: 0.25,
  steepFront: 1 / 3,
  frontNoFigure: 2 / 3,
  fenceOpen: 1.2,
  guardAbove: 0.75,
  footingLine: 1,
  slendernessSilty: 2.2,
  slendernessFine: 1.8,
  cutEvery: 10,
  matShare: 0.7,
  matSpacing: 0.6,
  courseWithoutStone: 3,
  heightWithoutPipe: 1.2,
  windLift: 35,
  rainDamp: 1,
  rainWet: 5,
  rainSoaked: 20,
  frostAt: 0,
  frostNear: 3,
  heatAt: 32,
  cureLean: 1,
  cureLeanHeavy: 3,
  cureMean: 5,
  frostWatch: 48,
  secondLook: 1,
}
test.each([
  [1, {}, VALUES],
  [1, { ruleTable: 1 }, VALUES],
  [2, { ruleTable: 2 }, SECOND],
  [3, { ruleTable: 3 }, THIRD],
])('every limit has the value of rule table %d', (number, plan, values) => {
  expect(Object.fromEntries(limitNames(number).map((k) => [k, limitsOf(plan)[k].value]))).toEqual(values)
})

const state = () => emptyState([layoutOf()])
const judge = (kind: string, where: object, data: object) => verdictOf(state(), entry(kind, where as never, data))?.verdict
const B1 = { section: 'B', course: 1 }

describe('the edge of every limit: on it is good, a millimetre past it is out', () => {
  test.each([
    ['excavation depth', 'dig', { section: 'B' }, VALUES.excavation],
    ['pad level', 'pad-level', { section: 'B', offset: 0 }, VALUES.padLevel],
    ['first course level', 'level', B1, VALUES.firstLevel],
    ['first course line', 'line', B1, VALUES.firstLine],
    ['course level', 'level', { section: 'B', course: 3 }, VALUES.courseLevel],
    ['setback', 'setback', { section: 'B', course: 3 }, VALUES.courseLine],
    ['invert', 'invert', B1, VALUES.invert],
  ])('%s', (_name, stage, where, limit) => {
    const step = state().byKey.get(stepKey({ stage, ...where }))
    if (!step) throw new Error(`no step ${stage}`)
    expect(limitAt(state().layout, step.stage, { ...where, station: 6 }).value).toBe(limit)
    for (const sign of [1, -1]) {
      const read = (value: number) => judge('reading', { stage, ...where, station: 6 }, { method: 'deviation', value: sign * value })
      expect([read(limit), read(limit + 0.001)]).toEqual(['ok', 'out'])
    }
  })
  const lift = (data: object, stage = 'backfill') =>
    judge(
      'lift',
      { stage, section: 'B', ...(stage === 'backfill' ? { course: 1 } : {}) },
      { lift: 1, thickness: 0.1, passes: 3, plant: 'light-plate', ...data },
    )
  const grid = (data: object) =>
    judge(
      'geogrid',
      { stage: 'grid', section: 'B', course: 2 },
      { type: 'uniaxial 30', length: 1.2, front: 0.04, direction: 'across', tight: true, ...data },
    )
  const pipe = (data: object) =>
    judge(
      'pipe',
      { stage: 'drain', ...B1 },
      {
        ...{
          from: 4.5,
          to: 9,
          diameter: 0.1,
          bed: 0.1,
          sock: false,
          start: 'cap',
          end: 'outlet',
          laps: 'with',
          confirmed: ['bed', 'apart', 'outlet'],
        },
        ...data,
      },
    )
  const check = (stage: string, course: number, id: string, value: number) =>
    judge('check', { stage, section: 'B', course }, { confirmed: [], measured: [{ id, value }] })
  const top = Math.max(...[...layoutOf().cells.values()].filter((c) => c.section === 'B').map((c) => c.course))
  test.each<[string, (v: number) => string | undefined, number, number]>([
    ['passes', (v) => lift({ passes: v }), 2, 1],
    ['compaction', (v) => lift({ compaction: v }), 95, 94.9],
    ['loose lift', (v) => lift({ loose: v }), 0.2, 0.201],
    ['pad lift', (v) => lift({ thickness: v }, 'pad'), 0.1, 0.101],
    ['plant stand-off', (v) => lift({ plant: 'roller', near: v }), 1, 0.999],
    ['fabric lap', (v) => lift({ fabricLap: v }, 'pad'), 0.3, 0.299],
    ['grid front, near', (v) => grid({ front: v }), 0.025, 0.024],
    ['grid front, far', (v) => grid({ front: v }), 0.05, 0.051],
    ['grid length', (v) => grid({ length: v }), 1.195, 1.194],
    ['grid cover', (v) => grid({ cover: v }), 0.15, 0.149],
    ['soil between layers', (v) => grid({ between: v }), 0.075, 0.074],
    ['pipe bed', (v) => pipe({ bed: v }), 0.046, 0.044],
    ['pipe size', (v) => pipe({ diameter: v }), 0.096, 0.094],
  ])('%s', (_name, of, good, out) => expect([of(good), of(out)]).toEqual(['ok', 'out']))
  test.each([
    ['stone over the pipe', 'cover', 1, 'cover', 0.15, 0.149],
    ['layer under the cap', 'top', top, 'layer', 0.15, 0.149],
    ['overhang, least', 'cap-dry', top, 'overhang', 0, -0.001],
    ['overhang, most', 'cap-dry', top, 'overhang', 0.06, 0.061],
  ] as const)('%s', (_name, stage, course, id, good, out) =>
    expect([check(stage, course, id, good), check(stage, course, id, out)]).toEqual([undefined, 'out']),
  )
})

describe('signs and directions', () => {
  test('what is high is shaved, what is low is filled, by the nearest step a hand can do', () => {
    const plan = screedPlan(
      [0.0084, -0.007, 0.004].map((deviation, station) => ({ station, offset: 0, deviation })),
      0.005,
      0.002,
    )
    expect(plan.actions.map((a) => [a.action, Math.round(a.by * 1000)])).toEqual([
      ['shave', 8],
      ['add', 8],
      ['leave', 0],
    ])
    expect([plan.highest?.station, plan.lowest?.station, plan.out]).toEqual([0, 1, 2])
  })
  test('of two outlets that would each do the lower one is chosen', () => {
    const task = {
      length: 20,
      fall: 0.01,
      maxOutletSpacing: 30,
      possible: [],
      ceiling: [
        { station: 0, elevation: 11 },
        { station: 20, elevation: 11 },
      ],
    }
    const solved = solveDrain({
      ...task,
      possible: [
        { station: 0, invert: 9.9 },
        { station: 20, invert: 9.7 },
      ],
    } as never)
    expect(solved.ok && solved.value.outlets).toHaveLength(1)
  })
  test('entries that come late never take the number of the newest back', () => {
    const [a, b] = recorded([entry('note', {}, { text: 'a' }), entry('note', {}, { text: 'b' })])
    let s = emptyState([layoutOf()])
    for (const r of [b, a]) s = advance(s, r as never)
    expect([s.seq, s.entries.map((e) => e.seq)]).toEqual([2, [1, 2]])
  })
  test('a line that shrinks cuts its grades off where they stand; what lay beyond moves to its end', () => {
    const shorter = withLine(built(smallPlan), [at(0, 0), at(6, 0)], false)
    expect(shorter.length).toBe(6)
    expect(shorter.grades[shorter.grades.length - 1]).toEqual({ station: 6, toe: 10.1, top: 11.3 })
    expect(shorter.sections).toEqual([
      { id: 'A', from: 0, to: 4.5 },
      { id: 'B', from: 4.5, to: 6 },
    ])
    expect(buildingOf(shorter).drain?.outlets[0]?.station).toBe(6)
    const longer = withLine(built(smallPlan), [at(0, 0), at(12, 0)], false)
    expect(longer.grades[longer.grades.length - 1]).toEqual({ station: 12, toe: 10, top: 11.3 })
  })
})

describe('feet and inches', () => {
  test.each([
    [18, `59'-0 11/16"`],
    [0.3048, `1'-0"`],
    [0.3048 / 2, `0'-6"`],
    [1.0287, `3'-4 1/2"`],
    [-1.0287, `−3'-4 1/2"`],
    [0.0254 / 16, `0'-0 1/16"`],
    [0.0254 * (3 / 8), `0'-0 3/8"`],
  ])('%d m is %s, and is read again', (metres, text) => {
    expect(formatLength(metres, 'imperial')).toBe(text)
    const back = parseLength(text, 'ft')
    expect(back.ok && Math.abs(back.value - metres)).toBeLessThan(0.0008)
  })
  test.each([
    [0.003, `1/8"`],
    [0.004, `3/16"`],
    [0.0254, `1"`],
    [0.0381, `1 1/2"`],
  ])('%d m is %s', (metres, text) => expect(formatSmall(metres, 'imperial')).toBe(text))
  test('feet and hundredths, as surveyors write them', () => {
    expect([formatLength(18, 'decimal-feet'), formatSmall(0.003, 'decimal-feet'), formatLength(-0.28, 'decimal-feet')]).toEqual([
      '59.06 ft',
      '0.01 ft',
      '−0.92 ft',
    ])
    const back = parseLength('59.06 ft', 'ft')
    expect(back.ok && back.value).toBeCloseTo(18.0015, 3)
  })
  test('a sentence of the core is said in the reader’s units', () => {
    const s = state()
    const text = verdictOf(s, entry('reading', { stage: 'level', ...B1, station: 6 }, { method: 'deviation', value: -0.01 }))?.text ?? ''
    expect([say(text, 'metric'), say(text, 'imperial'), say(text, 'decimal-feet')]).toEqual([
      '10 mm low, limit ±3 mm',
      `3/8" low, limit ±1/8"`,
      '0.03 ft low, limit ±0.01 ft',
    ])
  })
})
