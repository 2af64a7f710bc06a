import {
  advance,
  barriers,
  clockOf,
  courseSheet,
  dueOf,
  type Entry,
  filterOf,
  growthReport,
  inspectionPoints,
  judgeSheet,
  laidPipe,
  layerReport,
  lineOf,
  nextStep,
  nonconformances,
  openFindings,
  overridesOf,
  type EarlierPlan as Plan,
  rollBook,
  settled,
  statusOf,
  titleOf,
  verdictOf,
} from '@stone-tally/core'
import { photoOf, pipeOf } from './build'
import { entry, layoutOf, plain, SIGNED, smallPlan } from './plans'
import { Site } from './site'

const B1 = { section: 'B', course: 1 }
const pipeAt = { stage: 'drain', ...B1 }
const toPipe = () => new Site().toFirstCourse().release('line', 'B', 1).work('fill', 'B', 1).work('invert', 'B', 1)
const said = (site: Site, e: Entry) => verdictOf(site.state, e)?.text

describe('pipe', () => {
  test('a pipe never recorded cannot be covered, and backfill says so too', () => {
    const site = toPipe()
    const cover = entry('check', { stage: 'cover', ...B1 }, { confirmed: ['stone', 'fabric'], measured: [{ id: 'cover', value: 0.2 }] })
    expect(site.refusal(cover)).toMatch(/Drain pipe laid, section B course 1: a pipe nobody has seen may not be covered. Missing: pipe 4.50 to 9.00/)
    expect(site.refusal(entry('lift', { stage: 'backfill', ...B1 }, { lift: 1, thickness: 0.1, passes: 3, plant: 'light-plate' }))).toMatch(
      /the pipe may not be covered before it/,
    )
  })
  test('stretch by stretch, each with its photo, then released, then covered', () => {
    const site = toPipe()
    const step = site.step('drain', 'B', 1)
    const one = entry('pipe', pipeAt, pipeOf(step, { from: 4.5, to: 6.5 }))
    site.put(one)
    expect(plain(statusOf(site.state, step))).toMatchObject({ state: 'partial', missing: ['pipe 6.50 to 9.00', 'a photo of 4.50 to 6.50'] })
    site.put(entry('pipe', pipeAt, pipeOf(step, { from: 6.5, to: 9 })))
    // A photo taken at a station shows the stretch it stands in; one of an entry shows that one.
    site.put(photoOf({ ...pipeAt, station: 8 }))
    expect(site.refusal(entry('release', pipeAt, { decision: 'released', reason: 'seen', signature: SIGNED }, { role: 'inspector' }))).toMatch(
      /a photo of 4.50 to 6.50/,
    )
    site.put(photoOf(pipeAt, one.id)).release('drain', 'B', 1)
    expect(laidPipe(site.state).map((p) => [p.data.from, p.seen, p.covered])).toEqual([
      [4.5, true, false],
      [6.5, true, false],
    ])
    site.work('cover', 'B', 1)
    expect(laidPipe(site.state).every((p) => p.covered)).toBe(true)
  })
  test.each<[string, object, RegExp]>([
    ['too narrow', { diameter: 0.08 }, /pipe of 80 mm, the plan wants 100 mm/],
    ['no bed', { bed: 0.01 }, /bed of 10 mm, at least 50 mm/],
    ['an open end', { end: 'open' }, /open end takes in soil/],
    ['laps against the flow', { laps: 'against' }, /turn them with it/],
    ['not all seen', { confirmed: ['bed'] }, /not confirmed: surface water led apart/],
  ])('%s is a finding', (_name, change, words) => {
    const site = toPipe()
    const e = entry('pipe', pipeAt, { ...pipeOf(site.step('drain', 'B', 1), { from: 4.5, to: 9 }), ...change })
    site.put(e)
    expect(plain(said(site, e))).toMatch(words)
    expect(openFindings(site.state)).toHaveLength(1)
    // A re-check takes in the whole stretch.
    const action = entry('action', pipeAt, { of: e.id, cause: 'hurry', action: 'laid again' })
    site.put(action)
    const short = entry('pipe', pipeAt, pipeOf(site.step('drain', 'B', 1), { from: 6, to: 9 }), { recheckOf: e.id })
    expect(site.refusal(short)).toMatch(/takes in all of 4.5 m to 9 m/)
    site.put(entry('pipe', pipeAt, pipeOf(site.step('drain', 'B', 1), { from: 4.5, to: 9 }), { recheckOf: e.id }))
    expect(openFindings(site.state)).toEqual([])
  })
  test('a drain that was ticked off and released before stretches were recorded stays so; a new one is not taken that way', () => {
    const site = toPipe()
    const ticked = entry('check', pipeAt, { confirmed: ['bed', 'outlets'] })
    expect(site.refusal(ticked)).toMatch(/is recorded as pipe, not as check/)
    site.state = advance(site.state, { seq: 900, receivedAt: '', entry: ticked })
    expect(statusOf(site.state, site.step('drain', 'B', 1))).toMatchObject({ missing: [], done: 1, total: 1 })
    site.release('drain', 'B', 1).work('cover', 'B', 1)
  })
  test('a stretch outside its section, or that ends before it begins', () => {
    const site = toPipe()
    const at = (from: number, to: number) => site.refusal(entry('pipe', pipeAt, pipeOf(site.step('drain', 'B', 1), { from, to })))
    expect(at(2, 6)).toMatch(/data.from: section B runs from 4.5 m to 9 m/)
    expect(at(6, 6)).toMatch(/data.to: 6 m is not beyond 6 m/)
  })
  test('too little stone over it is a finding', () => {
    const site = toPipe().work('drain', 'B', 1).release('drain', 'B', 1)
    const e = entry('check', { stage: 'cover', ...B1 }, { confirmed: ['stone', 'fabric'], measured: [{ id: 'cover', value: 0.08 }] })
    expect(plain(said(site.put(e), e))).toBe('stone over the pipe 80 mm, at least 150 mm')
  })
  test('gradations decide about sock and fabric', () => {
    const points = (sizes: readonly number[]) => sizes.map((size, i) => ({ size, passing: [10, 40, 90][i] ?? 100 }))
    const site = new Site().put(entry('gradation', {}, { of: 'soil', source: 'sheet 1', points: points([0.002, 0.02, 0.08]) }))
    expect(filterOf(site.state)).toBeUndefined()
    site.put(entry('gradation', {}, { of: 'stone', source: 'sheet 2', points: points([10, 16, 22]) }))
    expect(filterOf(site.state)?.advice).toMatch(/Soil washes into this stone: fabric/)
    expect(
      site.refusal(
        entry(
          'gradation',
          {},
          {
            of: 'soil',
            source: 'x',
            points: [
              { size: 1, passing: 50 },
              { size: 2, passing: 20 },
            ],
          },
        ),
      ),
    ).toMatch(/data.points\[1\].passing: less passes 2 mm than 1 mm/)
  })
})

describe('a course run along', () => {
  const at = { stage: 'level', section: 'B', course: 2 }
  const site = () => new Site().toBackfill().work('units', 'B', 2)
  test('stands for every point nobody read', () => {
    const s = site().put(entry('sighting', { ...at, station: 6 }, { worst: 0.003 }))
    expect(statusOf(s.state, s.step('level', 'B', 2))).toMatchObject({ state: 'done', missing: [] })
    expect(lineOf(s.state, s.entries[s.entries.length - 1] as Entry, { units: 'metric' })).toMatch(/run along: most 3 mm high at 6.00/)
  })
  test('beyond the limit it is a finding, closed by a reading at that place', () => {
    const bad = entry('sighting', { ...at, station: 6 }, { worst: 0.009 })
    const s = site().put(bad, entry('action', at, { of: bad.id, cause: 'stone under a unit', action: 'reset' }))
    expect(openFindings(s.state)).toHaveLength(1)
    expect(s.refusal(entry('reading', { ...at, station: 8 }, { method: 'deviation', value: 0 }, { recheckOf: bad.id }))).toMatch(/re-check at 6 m/)
    s.put(entry('reading', { ...at, station: 6 }, { method: 'deviation', value: 0 }, { recheckOf: bad.id }))
    expect(openFindings(s.state)).toEqual([])
    expect(settled(statusOf(s.state, s.step('level', 'B', 2)))).toBe(true)
  })
  test('the first course and the ground are read point by point; level is a number', () => {
    const s = site()
    expect(s.refusal(entry('sighting', { ...at, course: 1, station: 6 }, { worst: 0 }))).toMatch(/read point by point/)
    expect(s.refusal(entry('sighting', { stage: 'dig', section: 'A', station: 1 }, { worst: 0 }))).toMatch(/read point by point/)
    expect(s.refusal(entry('sighting', at, {}))).toMatch(/data.worst: is missing; level is a number/)
  })
  test('where it was met is never made up, and asked for where it is over the limit', () => {
    const s = site()
    expect(s.refusal(entry('sighting', at, { worst: 0.009 }))).toMatch(
      /where.station: is missing; what is over the limit is put right where it was met/,
    )
    expect(s.refusal(entry('sighting', { ...at, station: 2 }, { worst: 0.002 }))).toMatch(/where.station: 2 m is beyond this stretch/)
    s.put(entry('sighting', at, { worst: 0.003 }))
    expect(statusOf(s.state, s.step('level', 'B', 2))).toMatchObject({ state: 'done', along: undefined })
    expect(growthReport(s.state, 'B', 'level').columns.every((c) => c.readings.every((r) => r.course !== 2))).toBe(true)
  })
  test('a course that lies on the pad in part is read point by point, and its sheet ends before it', () => {
    const one: Plan = { ...smallPlan, grid: [], sections: [{ id: 'A', from: 0, to: 9 }] }
    const s = new Site(one).toBackfill('A')
    const second = { stage: 'level', section: 'A', course: 2, station: 8 }
    expect(s.refusal(entry('sighting', second, { worst: 0.002 }))).toMatch(/read point by point/)
    expect(courseSheet(s.state, 'A', 2)?.lines.map((l) => l.step.stage.id)).toEqual(['units'])
    expect(s.state.layout.cells.get('A/2')?.first).toBe(false)
  })
  test('two people who met different levels are a conflict, not an average', () => {
    const s = site().put(
      entry('sighting', { ...at, station: 6 }, { worst: 0.005 }, { role: 'crew' }),
      entry('sighting', { ...at, station: 7 }, { worst: -0.004 }),
    )
    expect(statusOf(s.state, s.step('level', 'B', 2)).conflicts).toHaveLength(1)
  })
})

describe('a whole course in one go', () => {
  const site = () => new Site().toBackfill()
  test('everything but what is buried or glued, as the course below, in an order the gates take', () => {
    const s = site()
    const sheet = courseSheet(s.state, 'B', 2)
    expect(sheet).toMatchObject({ like: 1, wantsLevel: true, barriers: [] })
    expect(sheet?.lines.map((l) => l.step.stage.id)).toEqual(['units', 'level', 'setback', 'joints', 'fill', 'backfill'])
    const facts = sheet?.facts(0.004, 6) ?? []
    for (const f of facts) s.put(entry(f.kind, f.where, f.data))
    expect(nextStep(s.state, 'B') && titleOf(nextStep(s.state, 'B') as never)).toBe('Geogrid, section B course 2')
    expect(facts.filter((f) => f.kind === 'lift').every((f) => (f.data as { plant: string }).plant === 'light-plate')).toBe(true)
    // The layer itself is not on any sheet.
    expect(courseSheet(s.state, 'B', 2)).toBeUndefined()
  })
  test('a level beyond its limit ends it: nothing is put on a course that is out', () => {
    const s = site()
    const sheet = courseSheet(s.state, 'B', 2)
    if (!sheet) throw new Error('no sheet')
    expect(judgeSheet(sheet, 0.006)).toBe('ok')
    expect(judgeSheet(sheet, 0.0075)).toBe('out')
    expect(sheet.facts(0.0075, 6).map((f) => f.kind)).toEqual(['units', 'sighting'])
  })
  test('what is recorded already is left out', () => {
    const s = site().put(entry('units', { stage: 'units', section: 'B', course: 2 }, { set: 4 }))
    expect(courseSheet(s.state, 'B', 2)?.facts(0)[0]).toMatchObject({ kind: 'units', data: { set: s.step('units', 'B', 2).planned - 4 } })
  })
  test('there is none for the first course, nor ahead of the course below', () => {
    const s = site()
    expect(courseSheet(s.state, 'A', 1)).toBeUndefined()
    expect(
      plain(
        courseSheet(s.state, 'B', 3)
          ?.barriers.map((b) => b.message)
          .join(' '),
      ),
    ).toMatch(/course 2: the course below is not set through/)
  })
  test('a course ahead of its lower neighbour is refused with what is missing', () => {
    expect(site().refusal(entry('units', { stage: 'units', section: 'B', course: 3 }, { set: 2 }))).toMatch(
      /^where: Units set, section B course 2: the course below is not set through. Missing: 11 of 11 to set.$/,
    )
  })
})

describe('hold and witness points', () => {
  test('each says what it needs and what it has', () => {
    const s = new Site().toFirstCourse()
    const points = inspectionPoints(s.state)
    const at = (stage: string, section?: string) => points.find((p) => p.step.stage.id === stage && p.step.section === section)
    expect(at('set-out')).toMatchObject({ kind: 'hold', state: 'released' })
    expect(at('line', 'B')).toMatchObject({ kind: 'hold', state: 'to release', roles: ['inspector'], missing: [] })
    expect(at('dig', 'B')).toMatchObject({ kind: 'witness', state: 'seen' })
    expect(at('dig', 'A')).toMatchObject({ state: 'not yet', done: 0 })
    expect(dueOf(s.state)[0]).toMatchObject({ what: 'First course: Alignment, section B course 1', roles: ['inspector'], urgent: true })
    expect(plain(dueOf(s.state).some((d) => d.what.startsWith('Next: ')))).toBe(true)
  })
  test('a release is signed by name or by hand', () => {
    const s = new Site().toFirstCourse()
    const release = (signature: object) =>
      entry('release', { stage: 'line', ...B1 }, { decision: 'released', reason: 'string checked', signature }, { role: 'inspector' })
    const e = release({ typed: 'Ian' })
    expect(lineOf(s.state, e, { units: 'metric' })).toMatch(/First course released: string checked$/)
    const drawn = release({
      drawn: [
        [
          { x: 0.1, y: 0.5 },
          { x: 0.3, y: 0.4 },
          { x: 0.6, y: 0.6 },
          { x: 0.9, y: 0.4 },
        ],
      ],
    })
    expect(lineOf(s.state, drawn, { units: 'metric' })).toMatch(/signed by hand/)
    s.put(drawn)
  })
  test('unsigned it is no decision: neither a dot nor a single letter', () => {
    const s = new Site().toFirstCourse()
    const of = (signature?: object) =>
      s.refusal(
        entry(
          'release',
          { stage: 'line', ...B1 },
          { decision: 'rejected', reason: 'wavy', ...(signature ? { signature } : {}) },
          { role: 'inspector' },
        ),
      )
    expect(plain(of())).toMatch(/data.signature: is missing; First course is rejected with a signature/)
    expect(plain(of({ typed: 'I' }))).toMatch(/data.signature/)
    expect(plain(of({ drawn: [[{ x: 0.5, y: 0.5 }]] }))).toMatch(/data.signature/)
    expect(plain(of({ typed: 'Ian' }))).toBe('')
  })
  test('nobody releases what they recorded themselves, unless the rules of the wall allow it', () => {
    const build = (plan?: Plan) => {
      const s = new Site(plan).toFirstCourse()
      const station = s.step('line', 'B', 1).points[0]
      s.put(entry('reading', { stage: 'line', ...B1, station }, { method: 'deviation', value: 0 }, { role: 'inspector' }))
      return s.refusal(entry('release', { stage: 'line', ...B1 }, { decision: 'released', reason: 'mine', signature: SIGNED }, { role: 'inspector' }))
    }
    expect(build()).toMatch(/by: Ian recorded part of Alignment, section B course 1; First course takes a second pair of eyes/)
    expect(build({ ...smallPlan, rules: { ownRelease: true } })).toBe('')
  })
  test('a finding from found to closed, and again', () => {
    const s = new Site().toBackfill().work('units', 'B', 2)
    const at = { stage: 'level', section: 'B', course: 2, station: 4.6 }
    const bad = entry('reading', at, { method: 'deviation', value: 0.012 })
    s.put(bad)
    expect(nonconformances(s.state)).toMatchObject([{ state: 'found' }])
    s.put(entry('action', at, { of: bad.id, cause: 'shell high', action: 'shaved' }))
    expect(nonconformances(s.state)[0]?.state).toBe('action taken')
    expect(dueOf(s.state).find((d) => d.why === 're-check it')?.roles).toContain('crew')
    s.put(entry('reading', at, { method: 'deviation', value: 0.008 }, { recheckOf: bad.id }))
    expect(nonconformances(s.state)).toMatchObject([{ state: 'out again', rechecks: [{}] }])
    s.put(entry('reading', at, { method: 'deviation', value: 0.001 }, { recheckOf: bad.id }))
    expect(nonconformances(s.state)[0]?.state).toBe('closed')
  })
  test('a gate gone past is listed with its reason', () => {
    const s = new Site()
      .toBackfill()
      .work('units', 'B', 2)
      .put(entry('override', { stage: 'level', section: 'B', course: 2 }, { reason: 'string only' }))
    expect(overridesOf(s.state)).toMatchObject([{ reason: 'string only', step: { course: 2 } }])
    expect(inspectionPoints(s.state).find((p) => p.step.key === 'level|B|2')?.state).toBe('passed with a reason')
  })
})

describe('geogrid', () => {
  const at = { stage: 'grid', section: 'B', course: 2 }
  const layer = { type: 'uniaxial 30', length: 1.2, front: 0.03, direction: 'across', tight: true }
  const site = () =>
    new Site()
      .toBackfill()
      .work('units', 'B', 2)
      .work('level', 'B', 2)
      .work('setback', 'B', 2)
      .work('joints', 'B', 2)
      .work('fill', 'B', 2)
      .work('backfill', 'B', 2)
  test.each<[string, object, RegExp]>([
    ['shorter than planned', { length: 1 }, /1.00 m long, the plan wants 1.20 m/],
    ['driven on bare', { cover: 0.05 }, /driven on with 50 mm of fill, at least 150 mm/],
    ['grid on grid', { between: 0.02 }, /20 mm of soil between overlaps, at least 75 mm/],
  ])('%s is a finding and stops the next course', (_name, change, words) => {
    const s = site()
    const e = entry('geogrid', at, { ...layer, ...change })
    expect(plain(said(s.put(e), e))).toMatch(words)
    expect(layerReport(s.state).find((l) => l.layer.section === 'B')).toMatchObject({ state: 'wrong' })
    expect(s.refusal(entry('units', { stage: 'units', section: 'B', course: 3 }, { set: 1 }))).toMatch(/1 out of tolerance, not closed/)
  })
  test('placed in parts it is missing where nothing lies', () => {
    const s = site().put(entry('geogrid', at, { ...layer, from: 4.5, to: 7, roll: 'R7' }))
    expect(plain(statusOf(s.state, s.step('grid', 'B', 2)))).toMatchObject({ state: 'partial', missing: ['layer of 1.20 m, 7.00 to 9.00'] })
    s.put(entry('geogrid', at, { ...layer, from: 7, to: 9, roll: 'R8' })).release('grid', 'B', 2)
    expect(layerReport(s.state).map((l) => [l.layer.section, l.state])).toEqual([
      ['A', 'to place'],
      ['B', 'released'],
    ])
  })
  test('rolls used and left; one nobody has seen come is said so', () => {
    const s = site().put(entry('roll', {}, { roll: 'R7', lot: 'L22', type: 'uniaxial 30', width: 2, length: 50 }))
    s.put(entry('geogrid', at, { ...layer, from: 4.5, to: 7, roll: 'R7' }), entry('geogrid', at, { ...layer, from: 7, to: 9, roll: 'R9' }))
    // 2.5 m of wall take two strips of 2 m width, 1.2 m each.
    expect(rollBook(s.state)).toMatchObject([
      { roll: 'R7', lot: 'L22', used: 2.4, left: 47.6, unknown: false },
      { roll: 'R9', used: 1.2, unknown: true },
    ])
  })
  test('a layer the plan changed after it was placed is shown', () => {
    const s = site().put(entry('geogrid', at, layer))
    const next = { ...s.state, layouts: [s.state.layout, layoutOf({ ...smallPlan, grid: [{ course: 2, length: 1.6, type: 'uniaxial 30' }] })] }
    const state = { ...next, layout: next.layouts[1] as never }
    expect(plain(layerReport(state).find((l) => l.layer.section === 'B'))).toMatchObject({
      state: 'plan changed',
      words: expect.stringContaining('now asks for 1.60 m'),
    })
  })
})

describe('top and cap', () => {
  test('adhesive on wet units asks for a reason', () => {
    const s = new Site().put(entry('weather', {}, { rain: 8, low: 9, wind: 5 }))
    const step = s.step('cap', 'B', Math.max(...[...s.state.layout.cells.values()].filter((c) => c.section === 'B').map((c) => c.course)))
    expect(
      plain(
        barriers(s.state, step)
          .map((b) => b.message)
          .join(' '),
      ),
    ).toMatch(/Adhesive holds on clean dry units only. The weather recorded is 8 mm of rain/)
    s.put(entry('weather', {}, { rain: 0, low: 9, wind: 5 }))
    expect(
      barriers(s.state, step)
        .map((b) => b.message)
        .join(' '),
    ).not.toMatch(/Adhesive/)
  })
  test('the reason lets the cap be glued, it does not stand for it', () => {
    const one: Plan = {
      ...smallPlan,
      length: 4.5,
      grid: [],
      sections: [{ id: 'A', from: 0, to: 4.5 }],
      grades: [0, 4.5].map((station) => ({ station, toe: 10, top: 10.6 })),
      drain: { ...smallPlan.drain, outlets: [{ station: 4.5, invert: 9.75 }] },
    }
    const s = new Site(one)
    for (let step = nextStep(s.state); step && step.stage.id !== 'cap'; step = nextStep(s.state)) {
      s.work(step.stage.id, step.section, step.course)
      if (step.stage.hold) s.release(step.stage.id, step.section, step.course)
    }
    const cap = nextStep(s.state)
    if (cap?.stage.id !== 'cap') throw new Error('no cap')
    const where = { stage: 'cap', section: 'A', course: cap.course }
    s.put(entry('weather', {}, { rain: 8, low: 9, wind: 5 }))
    const glue = entry('check', where, { confirmed: ['clean', 'bonded'] })
    expect(s.refusal(glue)).toMatch(/Adhesive holds on clean dry units only/)
    s.put(entry('override', where, { reason: 'under a tent, units dried with the blower' }))
    expect(nextStep(s.state)?.key).toBe(cap.key)
    expect(settled(statusOf(s.state, cap))).toBe(false)
    s.put(glue)
    expect(nextStep(s.state)?.stage.id).toBe('finish')
  })
  test('a thin layer, a cap that overhangs too far', () => {
    const s = new Site()
    const last = Math.max(...[...s.state.layout.cells.values()].filter((c) => c.section === 'B').map((c) => c.course))
    const of = (stage: string, id: string, value: number) =>
      verdictOf(s.state, entry('check', { stage, section: 'B', course: last }, { confirmed: [], measured: [{ id, value }] }))
    expect(plain(of('top', 'layer', 0.1)?.text)).toBe('thickness of the layer 100 mm, at least 150 mm')
    expect(plain(of('cap-dry', 'overhang', 0.08)?.text)).toBe('overhang in front 80 mm, at most 60 mm')
    expect(of('cap-dry', 'overhang', 0.04)).toBeUndefined()
  })
})

describe('backfill', () => {
  const at = { stage: 'backfill', ...B1 }
  const lift = { lift: 1, thickness: 0.1, passes: 3, plant: 'roller' }
  test.each<[string, object, RegExp]>([
    ['a roller against the face', { near: 0.4 }, /roller 400 mm from the face, at least 1000 mm/],
    ['placed too thick', { near: 2, loose: 0.3 }, /placed 300 mm loose, limit 200 mm/],
  ])('%s', (_name, change, words) => {
    const s = toPipe().work('drain', 'B', 1).release('drain', 'B', 1).work('cover', 'B', 1)
    const e = entry('lift', at, { ...lift, ...change })
    expect(plain(said(s.put(e), e))).toMatch(words)
  })
})

describe('clocks', () => {
  const put = (e: Entry, receivedAt: string) => {
    const s = new Site().put(e)
    const recorded = { seq: 9, receivedAt, entry: e }
    return clockOf(s.state, recorded)
  }
  test('hours fast is kept and flagged, minutes are not', () => {
    expect(put(entry('note', {}, { text: 'late' }, { at: '2026-05-20T11:00:00Z' }), '2026-05-20T08:00:00Z')).toBe(
      'clock of the device about 3 hours fast',
    )
    expect(put(entry('note', {}, { text: 'on time' }, { at: '2026-05-20T08:03:00Z' }), '2026-05-20T08:00:00Z')).toBeUndefined()
  })
  test('a day without signal is no wrong clock', () =>
    expect(put(entry('note', {}, { text: 'kept' }, { at: '2026-05-18T08:00:00Z' }), '2026-05-20T08:00:00Z')).toBeUndefined())
  test('before the revision it was made under was issued, or before what it corrects, is slow', () => {
    const s = new Site()
    const revision = entry('revision', {}, { number: 1, plan: 'x' }, { at: '2026-05-20T07:00:00Z' })
    const state = advance(s.state, { seq: 1, receivedAt: '2026-05-20T07:00:00Z', entry: revision })
    const slow = entry('note', {}, { text: 'x' }, { at: '2026-05-20T05:00:00Z' })
    expect(clockOf(state, { seq: 2, receivedAt: '2026-05-20T08:00:00Z', entry: slow })).toBe('clock of the device about 2 hours slow')
  })
})

describe('two devices', () => {
  test('entries that come out of order fold to the same state', () => {
    const s = new Site().toBackfill().work('units', 'B', 2)
    const recorded = s.entries.map((e, i) => ({ seq: i + 1, receivedAt: '', entry: e }))
    let mixed = new Site().state
    for (const r of [...recorded].sort((a, b) => (a.entry.id.charCodeAt(35) % 7) - (b.entry.id.charCodeAt(35) % 7))) mixed = advance(mixed, r)
    expect(mixed.entries.map((e) => e.seq)).toEqual(recorded.map((r) => r.seq))
    for (const step of s.state.steps) expect([step.key, statusOf(mixed, step).missing]).toEqual([step.key, statusOf(s.state, step).missing])
  })
})
