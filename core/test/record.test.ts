import {
  admit,
  barriers,
  type Entry,
  emptyState,
  fold,
  KINDS,
  kindOf,
  lineOf,
  nextStep,
  openFindings,
  pointsOf,
  readEntry,
  statusOf,
  type WallState,
  type Where,
  waitingHolds,
} from '@stone-tally/core'
import fc from 'fast-check'
import { entry, layoutOf, NOW, plain, recorded, SIGNED, smallPlan, stateOf } from './plans'
import { Site } from './site'

describe('gates', () => {
  test('digging waits for services, set-out and its release', () => {
    const site = new Site()
    expect(site.refusal(entry('reading', { stage: 'dig', section: 'A', station: 0.1 }, { method: 'deviation', value: 0 }))).toMatch(
      /Set-out verified: digging may not start/,
    )
    site.work('services').work('set-out')
    expect(site.refusal(entry('reading', { stage: 'dig', section: 'A', station: 0.1 }, { method: 'deviation', value: 0 }))).toMatch(
      /Hold point Before digging is not released.*foreman or inspector/,
    )
    site.release('set-out').put(entry('reading', { stage: 'dig', section: 'A', station: 0.1 }, { method: 'deviation', value: 0 }))
  })
  test('a hold point only the inspector releases, and only when its work is complete', () => {
    const site = new Site().toFirstCourse()
    expect(waitingHolds(site.state).map((s) => s.stage.id)).toContain('line')
    expect(
      site.refusal(entry('release', { stage: 'line', section: 'B', course: 1 }, { decision: 'released', reason: 'mine', signature: SIGNED })),
    ).toMatch(/by.role: First course takes the inspector; the foreman may not/)
    expect(site.refusal(entry('check', { stage: 'fill', section: 'B', course: 1 }, { confirmed: ['cores'] }))).toMatch(
      /Hold point First course section B course 1 is not released/,
    )
    expect(
      site.refusal(
        entry(
          'release',
          { stage: 'drain', section: 'B', course: 1 },
          { decision: 'released', reason: 'early', signature: SIGNED },
          { role: 'inspector' },
        ),
      ),
    ).toMatch(/not complete. Missing: pipe 4.50 to 9.00/)
    site.release('line', 'B', 1).work('fill', 'B', 1)
  })
  test('a rejected hold point stays closed', () => {
    const site = new Site()
      .toFirstCourse()
      .put(
        entry(
          'release',
          { stage: 'line', section: 'B', course: 1 },
          { decision: 'rejected', reason: 'rocks', signature: SIGNED },
          { role: 'inspector' },
        ),
      )
    expect(plain(barriers(site.state, site.step('fill', 'B', 1))[0]?.message)).toMatch(/was rejected/)
  })
  test('more open courses than allowed', () => {
    const site = new Site().toFirstCourse().release('line', 'B', 1)
    const refused = site.refusal(entry('units', { stage: 'units', section: 'B', course: 2 }, { set: 1 }))
    expect(refused).toMatch(/Cores and stone.*1 open course is allowed/)
    expect(refused).toMatch(/Backfill.*1 open course/)
  })
  test('a missing geogrid layer cannot be passed', () => {
    const site = new Site().toBackfill().work('units', 'B', 2).work('level', 'B', 2).work('fill', 'B', 2).work('backfill', 'B', 2)
    expect(site.refusal(entry('units', { stage: 'units', section: 'B', course: 3 }, { set: 1 }))).toMatch(
      /Geogrid, section B course 2: its geogrid layer is missing.*layer of 1.20 m/,
    )
    site.work('grid', 'B', 2).work('joints', 'B', 2)
    expect(site.refusal(entry('units', { stage: 'units', section: 'B', course: 3 }, { set: 1 }))).toMatch(
      /Hold point Geogrid layer section B course 2 is not released: a covered layer cannot be looked at/,
    )
    site.release('grid', 'B', 2).put(entry('units', { stage: 'units', section: 'B', course: 3 }, { set: 1 }))
  })
  test('a soft gate is passed by the foreman with a reason that stays', () => {
    const site = new Site().toBackfill().work('units', 'B', 2)
    const fill = entry('check', { stage: 'fill', section: 'B', course: 2 }, { confirmed: ['cores', 'stone', 'swept'] })
    expect(site.refusal(fill)).toMatch(/Course level.*not read level through/)
    const pass = { stage: 'level', section: 'B', course: 2 }
    expect(site.refusal(entry('override', pass, { reason: 'string only' }, { role: 'crew' }))).toMatch(
      /the crew may not record this \(override\); it takes the foreman/,
    )
    site.put(entry('override', pass, { reason: 'string only' }), fill)
    expect(statusOf(site.state, site.step('level', 'B', 2)).override?.entry.data).toEqual({ reason: 'string only' })
  })
  test('an engineered plan is asked for before digging', () => {
    const { engineer: _, ...rest } = smallPlan
    const plan = {
      ...rest,
      grades: [
        { station: 0, toe: 10, top: 11.9 },
        { station: 9, toe: 10, top: 11.9 },
      ],
    }
    const state = stateOf(
      [
        entry('check', { stage: 'services' }, { confirmed: ['located', 'marked', 'revision'] }),
        entry('check', { stage: 'set-out' }, { confirmed: ['line', 'second', 'benchmark'] }),
      ],
      plan,
    )
    const judged = admit(state, entry('release', { stage: 'set-out' }, { decision: 'released', reason: 'go', signature: SIGNED }), NOW)
    expect(plain(judged)).toMatchObject({ ok: false, problems: [{ message: expect.stringMatching(/over the 1.2 m.*engineered plan/) }] })
  })
})

describe('judgement and findings', () => {
  test('rod, drop and deviation all become the same deviation', () => {
    const site = new Site().toFirstCourse()
    const goal = layoutOf().courses[0]?.top ?? 0
    const where = { stage: 'level', section: 'B', course: 1, station: 8.9 }
    for (const data of [
      { method: 'rod', hi: 11.5, value: 11.5 - goal - 0.002 },
      { method: 'string', string: 10.4, value: 10.4 - goal - 0.002 },
      { method: 'deviation', value: 0.002 },
    ]) {
      const judged = admit(site.state, entry('reading', where, data), NOW)
      expect(plain(judged.ok && judged.value)).toMatchObject({ verdict: 'ok', text: '2 mm high, limit ±3 mm' })
    }
  })
  test('out of tolerance stays open until cause, action and a good re-check', () => {
    const site = new Site().toFirstCourse()
    const at = { stage: 'level', section: 'B', course: 1, station: 8.9 }
    const bad = entry('reading', at, { method: 'deviation', value: 0.007 })
    site.put(bad)
    expect(openFindings(site.state).map((e) => e.entry.id)).toEqual([bad.id])
    expect(
      site.refusal(
        entry(
          'release',
          { stage: 'level', section: 'B', course: 1 },
          { decision: 'released', reason: 'x', signature: SIGNED },
          { role: 'inspector' },
        ),
      ),
    ).toMatch(/no hold point/)
    site.put(entry('action', at, { of: bad.id, cause: 'stone under it', action: 'lifted and reset' }))
    expect(openFindings(site.state)).toHaveLength(1)
    site.put(entry('reading', at, { method: 'deviation', value: 0.009 }, { recheckOf: bad.id }))
    expect(openFindings(site.state)).toHaveLength(2)
    const second = openFindings(site.state)[1]?.entry.id ?? ''
    site.put(
      entry('action', at, { of: second, cause: 'worse', action: 'dressed the bed' }),
      entry('reading', at, { method: 'deviation', value: 0.001 }, { recheckOf: second }),
    )
    site.put(entry('reading', at, { method: 'deviation', value: 0.001 }, { recheckOf: bad.id }))
    expect(openFindings(site.state)).toHaveLength(0)
  })
  test('a short, turned or slack geogrid is out', () => {
    const site = new Site().toBackfill().work('units', 'B', 2).work('level', 'B', 2).work('fill', 'B', 2).work('backfill', 'B', 2)
    const layer = { type: 'uniaxial 30', length: 1.2, front: 0.04, direction: 'across', tight: true }
    const judge = (change: object) => {
      const judged = admit(site.state, entry('geogrid', { stage: 'grid', section: 'B', course: 2 }, { ...layer, ...change }), NOW)
      return judged.ok ? judged.value?.text : judged.problems[0]?.message
    }
    expect(plain(judge({}))).toBe('as planned')
    expect(plain(judge({ length: 1.1 }))).toMatch(/1.10 m long, the plan wants 1.20 m/)
    expect(plain(judge({ direction: 'along' }))).toMatch(/turn it across/)
    expect(plain(judge({ front: 0.1 }))).toMatch(/100 mm behind the face, wanted 25 mm to 50 mm/)
    expect(plain(judge({ tight: false }))).toMatch(/slack/)
  })
  test('two people with different values at one point are a conflict, not an average', () => {
    const site = new Site().toFirstCourse()
    const where = { stage: 'level', section: 'B', course: 1, station: 8.9 }
    site.put(
      entry('reading', where, { method: 'deviation', value: -0.0028 }, { role: 'crew' }),
      entry('reading', where, { method: 'deviation', value: 0.0028 }, { role: 'inspector' }),
    )
    expect(statusOf(site.state, site.step('level', 'B', 1)).conflicts).toHaveLength(1)
  })
})

describe('corrections', () => {
  test('a correction replaces the value and keeps the original', () => {
    const site = new Site().toFirstCourse('B')
    const first = site.entries.find((e) => e.kind === 'units') as Entry
    const set = (first.data as { set: number }).set
    expect(site.refusal(entry('note', {}, { text: 'x' }, { supersedes: first.id }))).toMatch(/a note cannot correct a units/)
    site.put(entry('units', first.where, { set: set - 2 }, { supersedes: first.id, reason: 'counted twice' }))
    expect(statusOf(site.state, site.step('units', 'B', 1))).toMatchObject({ done: set - 2, state: 'partial' })
    expect(site.state.byId.get(first.id)?.entry.data).toEqual({ set })
    expect(site.refusal(entry('units', first.where, { set: 1 }, { supersedes: first.id }))).toMatch(/corrected already/)
  })
  test('striking out a finding opens the place again', () => {
    const site = new Site().toFirstCourse()
    const bad = entry('reading', { stage: 'level', section: 'B', course: 1, station: 8.9 }, { method: 'deviation', value: 0.05 })
    site.put(bad, entry('strike', {}, { reason: 'wrong rod' }, { supersedes: bad.id }))
    expect(openFindings(site.state)).toHaveLength(0)
  })
})

describe('bad entries', () => {
  const site = new Site().toBackfill()
  const where = { stage: 'units', section: 'B', course: 2 }
  test.each<[string, Entry, RegExp]>([
    [
      'a course that does not exist',
      entry('units', { ...where, course: 40 }, { set: 1 }),
      /where.course: there is no course 40 in section B; it has 1 to/,
    ],
    ['a section that does not exist', entry('units', { ...where, section: 'Z' }, { set: 1 }), /where.section: "Z" is not a section; there are A, B/],
    [
      'a station beyond the stretch',
      entry('reading', { stage: 'level', section: 'B', course: 1, station: 30 }, { method: 'deviation', value: 0 }),
      /where.station: 30 m is beyond this stretch/,
    ],
    ['a future date', entry('units', where, { set: 1 }, { at: '2029-01-01T00:00:00Z' }), /at: 2029.* is more than a year ahead of the office server/],
    ['a day that is none', entry('units', where, { set: 1 }, { at: '2026-02-31T07:00:00Z' }), /at: "2026-02-31.* is no time of the calendar/],
    ['an hour that is none', entry('units', where, { set: 1 }, { at: '2026-02-28T24:30:00Z' }), /at: "2026-02-28T24.* is no time of the calendar/],
    ['a clock before the company', entry('units', where, { set: 1 }, { at: '1970-01-01T00:00:00Z' }), /at: 1970.*before 2000/],
    [
      'more units than the course takes',
      entry('units', where, { set: 500 }),
      /data.set: Units set.* takes \d+; 0 are set, so at most \d+ more, not 500/,
    ],
    ['a revision nobody issued', entry('units', where, { set: 1 }, { revision: 3 }), /revision: there is no revision 3; 1 is in force/],
    [
      'the wrong kind for the stage',
      entry('lift', where, { lift: 1, thickness: 0.1, passes: 2, plant: 'roller' }),
      /kind: Units set is recorded as units, not as lift/,
    ],
    [
      'a lift twice',
      entry('lift', { stage: 'backfill', section: 'B', course: 1 }, { lift: 1, thickness: 0.1, passes: 2, plant: 'roller' }),
      /data.lift: lift 1 is recorded/,
    ],
    ['the office building', entry('units', where, { set: 1 }, { role: 'office' }), /kind: the office may not record this \(units\)/],
    [
      'a re-check of something fine',
      entry(
        'reading',
        { stage: 'level', section: 'B', course: 1, station: 8.9 },
        { method: 'deviation', value: 0 },
        { recheckOf: site.entries[0]?.id },
      ),
      /recheckOf: that entry was within limits/,
    ],
  ])('%s', (_name, bad, message) => expect(site.refusal(bad, NOW)).toMatch(message))

  test.each<[string, unknown, RegExp]>([
    ['wrong type', { ...entry('units', where, { set: '14' }) }, /data.set: must be a number, not "14"/],
    ['unknown field', { ...entry('units', where, { set: 1, colour: 'red' }) }, /data.colour: colour is not a known field/],
    ['units mixed up', { ...entry('reading', where, { method: 'rod', hi: 11.5, value: 1650 }) }, /data.value: must be 10 m or less, not 1650/],
    ['rod without height', { ...entry('reading', where, { method: 'rod', value: 1.6 }) }, /height of instrument/],
    ['unknown kind', { ...entry('poem', where, {}) }, /kind: "poem" is not a kind/],
    ['no id', { ...entry('units', where, { set: 1 }), id: 'x' }, /id: must be a UUID/],
    ['not an entry', 7, /must be an object, not 7/],
  ])('%s', (_name, value, message) => {
    const read = readEntry(value)
    expect(plain(read.ok ? '' : read.problems.map((p) => `${p.field}: ${p.message}`).join('; '))).toMatch(message)
  })
})

describe('fold', () => {
  const site = new Site().toBackfill('B').work('units', 'B', 2)
  const summary = (state: WallState) => state.steps.map((s) => [s.key, statusOf(state, s).state, statusOf(state, s).done, statusOf(state, s).hold])
  const all = recorded(site.entries)
  test('one by one is the same as at once, in any order, and twice is once', () => {
    const whole = summary(fold([layoutOf()], all))
    expect(summary(site.state)).toEqual(whole)
    fc.assert(
      fc.property(fc.shuffledSubarray(all, { minLength: all.length }), (shuffled) => {
        expect(summary(fold([layoutOf()], [...shuffled, ...shuffled.slice(0, 5)]))).toEqual(whole)
      }),
      { numRuns: 25 },
    )
  })
  test('the next step follows the record', () => {
    expect(nextStep(emptyState([layoutOf()]))?.stage.id).toBe('services')
    expect(nextStep(site.state, 'B')).toMatchObject({ course: 2, stage: { id: 'level' } })
    expect(nextStep(site.state, 'A')).toMatchObject({ section: 'A', stage: { id: 'dig' } })
  })
  test('every kind reads as a line of the diary', () => {
    for (const e of site.entries) expect(lineOf(site.state, e, { units: 'imperial' }).length).toBeGreaterThan(5)
    expect(new Set(KINDS.map((k) => k.kind)).size).toBe(KINDS.length)
    expect(kindOf('nothing')).toBeUndefined()
  })
  test('one of a thing is one, an hour is written as a clock has it, and what was not said is not made up', () => {
    const state = stateOf([])
    const line = (kind: string, data: object, at: Where = {}) => plain(lineOf(state, entry(kind, at, data), { units: 'metric' }))
    const item = { item: 'a', name: 'Blocks', unit: 'pieces', amount: 60 }
    expect(line('delivery', { ...item, docket: 'D-1', pallets: 1 })).toBe('Delivered: 60 Blocks, docket D-1, 1 pallet')
    expect(line('delivery', { ...item, docket: 'D-1', pallets: 2 })).toMatch(/, 2 pallets$/)
    expect(line('supply', { ...item, lead: 1, pack: 60, reserve: 0 })).toMatch(/, 1 day ahead,/)
    const week = { days: [1, 2], starts: 7.5, hours: 8, crews: 1, notice: 24, holidays: ['2026-06-01'], lost: new Array(12).fill(0) }
    expect(line('workdays', week)).toBe('Working days: Mon, Tue, 8 h from 7:30, 1 crew, 24 h notice for an inspection, 1 day off')
    expect(line('sawn', { length: 0.3, kind: 'cut' })).toBe('Sawn: 0.300 m')
    expect(line('sawn', { length: 0.3, kind: 'cut' }, { section: 'B', course: 2, station: 5 })).toBe('Sawn for course 2 of B at 5.00: 0.300 m')
  })
  test('reading points stand at most the spacing apart', () => {
    const layout = layoutOf()
    const stage = layout.system.stages.find((s) => s.id === 'dig')
    const points = stage ? pointsOf(layout, stage, 'A') : []
    points.slice(1).forEach((p, i) => expect(p - (points[i] ?? 0)).toBeLessThanOrEqual(3.2))
  })
})
