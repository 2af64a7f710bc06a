import {
  admit,
  advance,
  densityReport,
  digReport,
  digWords,
  type Entry,
  emptyState,
  levelBooks,
  lineOf,
  outOfCalibration,
  padFacts,
  padReadings,
  padThickness,
  placesOf,
  readEntry,
  type Step,
  screedPlan,
  soilParameters,
  soilsOf,
  statusOf,
  type WallState,
  weatherOf,
} from '@stone-tally/core'
import { entry, layoutOf, NOW, plain, SIGNED, smallPlan } from './plans'

const curve = {
  name: 'crushed rock 0/20',
  points: [
    { moisture: 6, dryDensity: 1905 },
    { moisture: 8, dryDensity: 1990 },
    { moisture: 10, dryDensity: 2015 },
    { moisture: 12, dryDensity: 1960 },
  ],
  source: 'report L-7',
}
const cone = { massBefore: 6.5, massAfter: 2.9, coneMass: 1.62, sandDensity: 1430, soilMass: 2.87, moisture: 8.4 }
const stiff = { grain: 'fine', ribbon: 'medium', feel: 'sticky', colour: 'even', smell: 'none', water: 'moist' }
const peat = { ...stiff, feel: 'spongy', colour: 'dark' }

/** A wall's record put together by the doors a device has. */
class Site {
  state: WallState
  seq = 0
  constructor(plan = smallPlan) {
    this.state = emptyState([layoutOf(plan)])
  }
  try(e: Entry) {
    const judged = admit(this.state, e, NOW)
    if (judged.ok) this.state = advance(this.state, { seq: ++this.seq, receivedAt: '', entry: e })
    return judged
  }
  put(e: Entry) {
    const judged = this.try(e)
    if (!judged.ok) throw new Error(`${e.kind}: ${JSON.stringify(judged.problems)}`)
    return judged.value
  }
  step(stage: string, section = 'A'): Step {
    return this.state.byKey.get(`${stage}|${section}|`) as Step
  }
  /** Everything before the pad, so that its gates stand open. */
  dig(section = 'A', dig = 0) {
    for (const stage of ['services', 'set-out'])
      this.put(
        entry(
          'check',
          { stage },
          {
            confirmed:
              this.state.byStage.get(stage)?.work.type === 'check'
                ? (this.state.byStage.get(stage)?.work as never as { items: { id: string }[] }).items.map((i) => i.id)
                : [],
          },
        ),
      )
    this.put(entry('release', { stage: 'set-out' }, { decision: 'released', reason: 'seen', signature: SIGNED }))
    for (const at of placesOf(this.step('dig', section)))
      this.put(entry('reading', { stage: 'dig', section, ...at }, { method: 'deviation', value: dig }))
    return this
  }
  toPad(section = 'A', dig = 0) {
    this.dig(section, dig)
    this.put(entry('check', { stage: 'subgrade', section }, { confirmed: ['unsuitable', 'undercut', 'compacted'] }))
    this.put(entry('release', { stage: 'subgrade', section }, { decision: 'released', reason: 'seen', signature: SIGNED }, { role: 'inspector' }))
    return this
  }
  lifts(section = 'A') {
    const step = this.step('pad', section)
    for (let lift = 1; lift <= (step.lifts?.count ?? 1); lift++)
      this.put(entry('lift', { stage: 'pad', section }, { lift, thickness: step.lifts?.compacted, passes: 3, plant: 'heavy-plate' }))
    return this
  }
}

describe('pad level across', () => {
  test('a pad is read at its front and its back; one line alone is not complete', () => {
    const site = new Site().toPad().lifts()
    const step = site.step('pad-level')
    expect(step.lines).toHaveLength(2)
    const places = placesOf(step)
    for (const at of places.filter((p) => p.offset === step.lines[0])) {
      site.put(entry('reading', { stage: 'pad-level', section: 'A', ...at }, { method: 'deviation', value: 0.001 }))
    }
    expect(statusOf(site.state, step)).toMatchObject({ state: 'partial', done: places.length / 2, total: places.length })
    for (const at of places.filter((p) => p.offset === step.lines[1])) {
      site.put(entry('reading', { stage: 'pad-level', section: 'A', ...at }, { method: 'deviation', value: 0.008 }))
    }
    expect(statusOf(site.state, step).open).toHaveLength(places.length / 2)
    const plan = screedPlan(padReadings(site.state, 'A'), 0.005)
    expect(plan.actions.filter((a) => a.action === 'shave')).toHaveLength(places.length / 2)
    expect(plan.fit.across).toBeGreaterThan(0)
  })
  test('without its distance from the face, or off the pad, a pad reading is refused', () => {
    const site = new Site().toPad().lifts()
    const where = { stage: 'pad-level', section: 'A', station: 1 }
    const data = { method: 'deviation', value: 0 }
    expect(site.try(entry('reading', where, data))).toMatchObject({ ok: false, problems: [{ field: 'where.offset' }] })
    expect(site.try(entry('reading', { ...where, offset: 3 }, data))).toMatchObject({ ok: false, problems: [{ field: 'where.offset' }] })
  })
  test('a re-check belongs to the same line', () => {
    const site = new Site().toPad().lifts()
    const [front, back] = site.step('pad-level').lines
    const station = site.step('pad-level').points[0]
    const where = { stage: 'pad-level', section: 'A', station }
    const bad = entry('reading', { ...where, offset: front }, { method: 'deviation', value: 0.02 })
    site.put(bad)
    const again = (offset?: number) => entry('reading', { ...where, offset }, { method: 'deviation', value: 0 }, { recheckOf: bad.id })
    expect(site.try(again(back))).toMatchObject({ ok: false, problems: [{ field: 'where.offset' }] })
    expect(site.try(again(front)).ok).toBe(true)
  })
  test('units that only a machine moves have the stricter pad, baskets the common one', () => {
    const of = (unit: object, system = smallPlan.system) => {
      const site = new Site({ ...smallPlan, system, unit: { ...smallPlan.unit, ...unit } }).toPad().lifts()
      const station = site.step('pad-level').points[0]
      return site.put(
        entry(
          'reading',
          { stage: 'pad-level', section: 'A', station, offset: site.step('pad-level').lines[0] },
          { method: 'deviation', value: 0.004 },
        ),
      )?.verdict
    }
    expect(plain(of({}))).toBe('ok')
    expect(plain(of({ mass: 900 }))).toBe('out')
    expect(plain(of({ mass: 900 }, 'gabion'))).toBe('ok')
  })
  test('thickness is what trench and top together say', () => {
    const site = new Site().toPad('A', -0.02).lifts()
    for (const at of placesOf(site.step('pad-level')))
      site.put(entry('reading', { stage: 'pad-level', section: 'A', ...at }, { method: 'deviation', value: 0.01 }))
    const points = padThickness(site.state, 'A')
    expect(points.length).toBeGreaterThan(1)
    for (const p of points) expect(p).toMatchObject({ thickness: expect.closeTo(0.18, 9), out: true })
  })
})

describe('dig', () => {
  test('volumes, loads and order follow from plan and readings', () => {
    const site = new Site()
    const before = digReport(site.state)
    expect(before.done).toBe(0)
    expect(before.left).toBeCloseTo(before.bank, 9)
    expect(before.steps.find((s) => s.order === 1)?.target).toBe(Math.min(...before.steps.map((s) => s.target)))
    site.toPad('A')
    const after = digReport(site.state)
    expect(after.bank).toBeCloseTo(before.bank, 9)
    expect(after.done).toBeGreaterThan(0.3 * after.bank)
    expect(after.done + after.left).toBeCloseTo(after.bank, 9)
    expect(after.loads).toBeLessThanOrEqual(before.loads)
  })
  test('over-dig is filled with pad material, volume by stretch; under-dig is not done', () => {
    const deep = digReport(new Site().dig('A', -0.05).state)
    const own = deep.steps.flatMap((s) => s.points).filter((p) => p.deviation !== undefined)
    expect(own.length).toBeGreaterThan(0)
    expect(deep.overDig).toBeCloseTo(0.05 * 0.6 * 4.5, 1)
    expect(digReport(new Site().dig('A', 0.06).state).done).toBe(0)
    expect(digWords(-0.05, 'metric')).toBe('50 mm too deep: fill with compacted pad material, never with soil')
    expect(digWords(0.06, 'metric')).toBe('60 mm not deep enough: dig on')
    expect(digWords(0.02, 'metric')).toBe('20 mm high: within limits')
  })
  test('the trench must leave room for the longest layer', () => {
    const site = new Site({ ...smallPlan, grid: [{ course: 2, length: 2.4, type: 'uniaxial 30' }] })
    expect(digReport(site.state).room).toBe(2.4)
    const cut = (data: object) => site.put(entry('cut', { stage: 'dig', section: 'A', station: 2 }, data))
    expect(plain(cut({ behind: 1.6 }))).toMatchObject({ verdict: 'out', text: expect.stringContaining('2.40 m') })
    expect(cut({ behind: 2.4, width: 0.6, spoil: 1 })).toMatchObject({ verdict: 'ok' })
    expect(cut({ width: 0.5 })?.verdict).toBe('out')
    expect(cut({ spoil: 0.3 })?.verdict).toBe('out')
    expect(cut({ slope: 0.2 })?.verdict).toBe('out')
    expect(cut({ slope: 0.2, shored: true, by: 'Fay' })?.verdict).toBe('ok')
  })
  test('a boulder may thin the pad only within the uniform-thickness limit; a service is never dug out', () => {
    const site = new Site()
    const way = (what: string, above: number, w: string) =>
      site.put(entry('obstruction', { stage: 'dig', section: 'A' }, { what, from: 1, to: 2, above, way: w }))?.verdict
    expect(way('rock', 0.02, 'thicken')).toBe('ok')
    expect(way('rock', 0.12, 'thicken')).toBe('out')
    expect(way('rock', 0.12, 'break-out')).toBe('ok')
    expect(way('rock', 0.2, 'step')).toBe('ok')
    expect(way('service', 0.1, 'break-out')).toBe('out')
  })
})

describe('soil', () => {
  test('unsuitable soil stays open until an undercut over the whole stretch, deep enough, re-checks it', () => {
    const site = new Site()
    const where = { stage: 'dig', section: 'A' }
    const bad = entry('soil', where, { answers: peat, from: 1, to: 3 })
    expect(site.put(bad)).toMatchObject({ verdict: 'out', text: expect.stringContaining('Organic') })
    expect(soilsOf(site.state, 'A')[0]?.open).toBe(true)
    site.put(entry('action', {}, { of: bad.id, cause: 'old pond', action: 'dug out' }))
    const dug = (from: number, to: number, depth: number, passes = 3) =>
      site.put(entry('undercut', where, { from, to, depth, fill: 'pad material', passes }, { recheckOf: bad.id }))?.verdict
    expect(dug(1, 3, 0.1)).toBe('out')
    expect(dug(1, 2, 0.4)).toBe('out')
    expect(dug(1, 3, 0.4, 1)).toBe('out')
    expect(soilsOf(site.state, 'A')[0]?.open).toBe(true)
    expect(dug(1, 3, 0.4)).toBe('ok')
    expect(soilsOf(site.state, 'A')[0]?.open).toBe(false)
  })
  test('values are assumed from what was found until a report replaces them', () => {
    const site = new Site()
    expect(soilParameters(site.state, 'foundation')).toBeUndefined()
    site.put(entry('soil', { stage: 'dig', section: 'A' }, { answers: stiff, from: 0, to: 4 }))
    expect(soilParameters(site.state, 'foundation')).toMatchObject({ assumed: true, values: { phi: 24 } })
    site.put(entry('soil-report', {}, { zone: 'foundation', phi: 29, gamma: 19, c: 2, source: 'boring 2' }))
    expect(soilParameters(site.state, 'foundation')).toMatchObject({ assumed: false, values: { phi: 29 }, source: 'boring 2' })
    expect(soilParameters(site.state, 'retained')).toMatchObject({ assumed: true })
    expect(padFacts(site.state)).toMatchObject({ subgrade: 'lean-clay', rain: false })
    site.put(entry('weather', {}, { rain: 12, low: -1, wind: 10, expected: true }))
    expect(padFacts(site.state)).toMatchObject({ rain: true, frost: true })
    expect(weatherOf(site.state).now).toBeUndefined()
  })
})

describe('density', () => {
  const test1 = (curveId: string | undefined, more: object = {}, extra: object = {}) =>
    entry('density', { stage: 'pad', section: 'A', station: 2 }, { method: 'sand-cone', lift: 1, curve: curveId, cone: { ...cone, ...more } }, extra)
  test('a failed test opens a finding that rework and a good test at the same place close', () => {
    const site = new Site().toPad().lifts()
    const lab = entry('curve', {}, curve)
    site.put(lab)
    expect(densityReport(site.state)).toMatchObject({ wanted: 2, owed: 2 })
    const bad = test1(lab.id)
    expect(site.put(bad)).toMatchObject({ verdict: 'out', text: expect.stringMatching(/^94\.95 % of maximum, at least 95 %/) })
    expect(densityReport(site.state).owed).toBe(2)
    site.put(entry('action', {}, { of: bad.id, cause: 'placed dry', action: 'watered, three more passes' }))
    expect(site.put(test1(lab.id, { soilMass: 2.93, moisture: 9 }, { recheckOf: bad.id }))?.verdict).toBe('ok')
    const report = densityReport(site.state)
    expect(report.tests.map((t) => [t.out, t.closed])).toEqual([
      [true, true],
      [false, false],
    ])
    expect(report.owed).toBe(1)
    expect(lineOf(site.state, bad, { units: 'metric' })).toContain('Sand cone at 2.00, lift 1: 1912 kg/m³ at 8.4 %')
  })
  test('no curve, a curve of another kind, or moisture as a share is refused with its field', () => {
    const site = new Site().toPad().lifts()
    expect(site.try(test1(undefined))).toMatchObject({ ok: false, problems: [{ field: 'data.curve' }] })
    const lab = entry('curve', {}, curve)
    site.put(lab)
    expect(site.try(test1(lab.id, { moisture: 0.084 }))).toMatchObject({ ok: false, problems: [{ field: 'data.cone.moisture' }] })
    expect(site.try(entry('curve', {}, { ...curve, points: curve.points.map((p) => ({ ...p, moisture: 9 })) }))).toMatchObject({
      ok: false,
      problems: [{ field: 'data.points' }],
    })
  })
  test('a gauge above zero air voids or with its standard off is out, and says why', () => {
    const site = new Site().toPad().lifts()
    const lab = entry('curve', {}, curve)
    site.put(lab)
    const gauge = { wetDensity: 2160, moisture: 9, densityStandard: 2300, densityReference: 2300, moistureStandard: 680, moistureReference: 680 }
    const read = (more: object) =>
      site.put(
        entry('density', { stage: 'pad', section: 'A', station: 1 }, { method: 'gauge', lift: 2, curve: lab.id, gauge: { ...gauge, ...more } }),
      )
    expect(read({})?.verdict).toBe('ok')
    expect(plain(read({ wetDensity: 2500 })?.text)).toContain('zero air voids')
    expect(plain(read({ densityStandard: 2400 })?.text)).toContain('density standard count +4.3 %')
  })
  test('where nothing can be measured a method record stands', () => {
    const site = new Site().toPad().lifts()
    const e = entry(
      'density',
      { stage: 'pad', section: 'A' },
      { method: 'record', lift: 1, seen: '4 passes heavy plate, stone locked, no print of a heel' },
    )
    expect(site.put(e)).toEqual({ verdict: 'ok', text: 'method record' })
  })
})

describe('lifts', () => {
  const lift = (more: object) =>
    entry('lift', { stage: 'pad', section: 'A' }, { lift: 1, thickness: 0.075, passes: 3, plant: 'heavy-plate', ...more })
  test('a lift laid in stretches is done when they cover the section; a stretch twice is refused', () => {
    const site = new Site().toPad()
    site.put(lift({ from: 0, to: 2 }))
    expect(plain(statusOf(site.state, site.step('pad')))).toMatchObject({ done: 0, missing: ['lift 1 of 2, 2.00 to 4.50', 'lift 2 of 2'] })
    expect(site.try(lift({ from: 1, to: 3 }))).toMatchObject({ ok: false, problems: [{ field: 'data.lift' }] })
    site.put(lift({ from: 2, to: 4.5 }))
    expect(statusOf(site.state, site.step('pad'))).toMatchObject({ done: 1, missing: ['lift 2 of 2'] })
  })
  test('fill that a fist finds too wet, or fabric with a short lap, is out', () => {
    const site = new Site().toPad()
    expect(site.put(lift({ squeeze: 'drip' }))).toMatchObject({ verdict: 'out', text: expect.stringContaining('too wet') })
    expect(plain(site.put(lift({ lift: 2, fabricLap: 0.2 })))).toMatchObject({ verdict: 'out', text: expect.stringContaining('at least 300 mm') })
    expect(lineOf(site.state, lift({ squeeze: 'ball', from: 0, to: 2 }), { units: 'metric' })).toContain(
      'lift 1 (0.00 to 2.00), 75 mm, 3 passes with heavy plate, moisture right',
    )
  })
})

describe('level book from the record', () => {
  test('set-ups, readings, a turning point and the closing shot of one day are one book', () => {
    const site = new Site()
    site.put(entry('check', { stage: 'services' }, { confirmed: ['located', 'marked', 'revision'] }))
    site.put(entry('check', { stage: 'set-out' }, { confirmed: ['line', 'second', 'benchmark'] }))
    site.put(entry('release', { stage: 'set-out' }, { decision: 'released', reason: 'seen', signature: SIGNED }))
    site.put(entry('setup', {}, { benchmark: 10, backsight: 1.5 }))
    const [first] = placesOf(site.step('dig'))
    site.put(entry('reading', { stage: 'dig', section: 'A', ...first }, { method: 'rod', hi: 11.5, value: 1.57 }))
    site.put(entry('sight', {}, { sight: 'foresight', point: 'TP1', hi: 11.5, reading: 1.2 }))
    site.put(entry('setup', {}, { benchmark: 10.3, backsight: 1.4, point: 'TP1', turning: true }))
    expect(site.put(entry('sight', {}, { sight: 'check', point: 'BM', hi: 11.7, reading: 1.702, known: 10 }))?.verdict).toBe('ok')
    expect(site.put(entry('sight', {}, { sight: 'foresight', point: 'BM', hi: 11.7, reading: 1.698, known: 10, setups: 2 }))?.verdict).toBe('ok')
    const [day] = levelBooks(site.state)
    expect(day?.book).toMatchObject({ ok: true, value: { legs: [{ setups: 2, within: true, misclosure: expect.closeTo(0.002, 9) }] } })
    expect(day?.entries).toHaveLength(6)
  })
  test('a check that is off, or a book that does not close, is an open finding in words', () => {
    const site = new Site()
    const out = site.put(entry('sight', {}, { sight: 'check', point: 'BM', hi: 11.5, reading: 1.52, known: 10 }))
    expect(out).toMatchObject({ verdict: 'out', text: expect.stringContaining('the instrument moved') })
    const open = site.put(entry('sight', {}, { sight: 'foresight', point: 'BM', hi: 11.5, reading: 1.45, known: 10, setups: 4 }))
    expect(plain(open?.text)).toContain('limit 8 mm: the level book does not close')
    expect(site.state.outs.size).toBe(2)
    expect(readEntry(entry('sight', {}, { sight: 'check', point: 'BM', hi: 11.5, reading: 1.5 }))).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringContaining('known elevation') }],
    })
  })
  test('an instrument past its calibration is accepted and shown as such', () => {
    const site = new Site()
    const e = entry('setup', {}, { benchmark: 10, backsight: 1.5 }, { instrument: { name: 'Laser', serial: 'L-1', calibratedUntil: '2026-05-01' } })
    site.put(e)
    expect(outOfCalibration(e)).toBe(true)
    expect(lineOf(site.state, e, { units: 'metric' })).toContain('calibration ran out on 1 May 2026')
    expect(levelBooks(site.state)[0]?.with).toBe('L-1')
  })
})
