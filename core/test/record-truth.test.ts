import {
  advance,
  emptyState,
  inspectionPoints,
  lineOf,
  mismatch,
  misplaced,
  nextStep,
  type EarlierPlan as Plan,
  placesOf,
  statusOf,
  systemOf,
  titleOf,
  verdictOf,
} from '@stone-tally/core'
import { photoOf } from './build'
import { entry, layoutOf, plain, recorded, SIGNED, smallPlan } from './plans'
import { Site } from './site'

const changed = (change: (p: Plan) => void): Plan => {
  const plan = structuredClone(smallPlan)
  change(plan)
  return plan
}
const B1 = { section: 'B', course: 1 }
const pad = { stage: 'pad', section: 'B' }
const lift = (data: object, more: object = {}) => entry('lift', pad, { lift: 1, thickness: 0.075, passes: 3, plant: 'light-plate', ...data }, more)
const act = (of: { id: string }) => entry('action', pad, { of: of.id, cause: 'Rain.', action: 'Rolled again.' })
const toPad = () => new Site().work('services').work('set-out').release('set-out').work('dig', 'B').work('subgrade', 'B').release('subgrade', 'B')

describe('a re-check is of the thing it re-checks', () => {
  test('a lift that failed is re-checked as that lift; the next lift is still to be laid', () => {
    const bad = lift({ passes: 1 })
    const s = toPad().put(bad, act(bad))
    expect(s.refusal(lift({ lift: 2 }, { recheckOf: bad.id }))).toMatch(/data.lift: re-check lift 1, where the finding is, not lift 2/)
    expect(s.refusal(lift({ lift: 1, from: 7, to: 9 }, { recheckOf: bad.id }))).toMatch(/data.from: a re-check takes in all of the section/)
    s.put(lift({ lift: 1, passes: 4 }, { recheckOf: bad.id }))
    expect(statusOf(s.state, s.step('pad', 'B'))).toMatchObject({ done: 1, total: 2, open: [], missing: ['lift 2 of 2'] })
  })
  test('one recorded before under the next number still speaks of the lift it re-checks', () => {
    const bad = lift({ passes: 1 })
    const s = toPad().put(bad, act(bad))
    // As devices of before sent it: past the gate, straight into the record.
    s.state = advance(s.state, { seq: 99, receivedAt: '', entry: lift({ lift: 2, passes: 4 }, { recheckOf: bad.id }) })
    expect(statusOf(s.state, s.step('pad', 'B'))).toMatchObject({ done: 1, missing: ['lift 2 of 2'] })
  })
  test('a density test is re-checked on its own lift, a pipe over its whole stretch, a layer too', () => {
    const curve = entry(
      'curve',
      {},
      {
        name: 'Crushed rock',
        source: 'lab 7',
        points: [
          [6, 1905],
          [8, 1990],
          [10, 2015],
          [12, 1960],
        ].map(([moisture, dryDensity]) => ({ moisture, dryDensity })),
      },
    )
    const gauge = (lift: number, wetDensity: number, more: object = {}) =>
      entry('density', { ...pad, station: 6 }, { method: 'gauge', lift, curve: curve.id, gauge: { wetDensity, moisture: 9 } }, more)
    const low = gauge(1, 1900)
    const s = toPad().put(curve, lift({}), low, act(low))
    expect(s.state.outs.has(low.id)).toBe(true)
    expect(s.refusal(gauge(2, 2190, { recheckOf: low.id }))).toMatch(/data.lift: re-check lift 1/)
    expect(s.refusal(gauge(1, 2190, { recheckOf: low.id }))).toBe('')
  })
})

describe('an entry is judged by the plan, system, stages and limits of its own revision', () => {
  test('a reading that was out stays out when the system changes', () => {
    const gabion = systemOf('gabion')
    const unit = gabion?.units[0]
    if (!gabion || !unit) throw new Error('no baskets')
    const basket = changed((p) => {
      p.system = 'gabion'
      p.unit = unit
      p.grid = []
      p.pad.width = unit.depth + 0.2
    })
    const out = entry('reading', { stage: 'line', ...B1, station: 6 }, { method: 'deviation', value: 0.01 })
    const before = advance(emptyState([layoutOf()]), recorded([out])[0] as never)
    const after = advance(emptyState([layoutOf(), layoutOf(basket)]), recorded([out])[0] as never)
    expect(verdictOf(before, out)).toMatchObject({ verdict: 'out' })
    expect(verdictOf(after, out)).toEqual(verdictOf(before, out))
    expect(after.outs.get(out.id)).toEqual(before.outs.get(out.id))
  })
  test('a stage the system in force does not have is still read', () => {
    const basket = changed((p) => {
      p.system = 'gabion'
      p.unit = systemOf('gabion')?.units[0] as Plan['unit']
      p.grid = []
      p.pad.width = 1.4
    })
    const e = entry('check', { stage: 'bedding', ...B1 }, { confirmed: ['lowest'] })
    const after = advance(emptyState([layoutOf(), layoutOf(basket)]), recorded([e])[0] as never)
    expect(lineOf(after, e, { units: 'metric' })).toMatch(/^Units bedded: /)
  })
})

describe('work that no longer matches the plan in force', () => {
  const deeper = changed((p) => {
    p.pad.thickness = 0.2
  })
  const both = (s: Site, plan = deeper) => {
    let state = emptyState([layoutOf(), layoutOf(plan)])
    for (const e of recorded(s.entries)) state = advance(state, e)
    return state
  }
  test('a dig read for another depth is to be read again, its own verdict stays', () => {
    const s = new Site().work('services').work('set-out').release('set-out').work('dig', 'B')
    const state = both(s)
    const dig = state.byKey.get('dig|B|')
    if (!dig) throw new Error('no dig')
    const status = statusOf(state, dig)
    expect(status).toMatchObject({ state: 'partial', done: 0, open: [] })
    expect(status.unmatched).toHaveLength(placesOf(dig).length)
    expect(plain(status.missing.at(-1))).toBe('recorded for an earlier revision: its target is now 50 mm lower')
    expect(titleOf(nextStep(state, 'B') as never)).toMatch(/Excavation depth/)
    expect(inspectionPoints(state).find((p) => p.step === dig)?.state).toBe('plan changed')
    for (const e of s.entries.filter((x) => x.kind === 'reading')) expect(verdictOf(state, e)?.verdict).toBe('ok')
    // Read again under the revision in force it is done.
    let again = state
    placesOf(dig).forEach((p, i) => {
      const e = entry('reading', { stage: 'dig', section: 'B', ...p }, { method: 'deviation', value: 0 }, { revision: 2 })
      again = advance(again, { seq: 500 + i, receivedAt: '', entry: e })
    })
    expect(statusOf(again, dig)).toMatchObject({ state: 'done' })
  })
  test('a release does not speak of work that is to be done again', () => {
    const s = new Site().work('services').work('set-out').release('set-out').work('dig', 'B').work('subgrade', 'B').release('subgrade', 'B')
    s.work('pad', 'B').work('pad-level', 'B').release('pad-level', 'B')
    const raised = changed((p) => {
      p.embedment = [{ kind: 'fixed', depth: 0.4 }]
    })
    const state = both(s, raised)
    const level = state.byKey.get('pad-level|B|')
    if (!level) throw new Error('no step')
    expect(statusOf(state, level)).toMatchObject({ state: 'partial', hold: 'waiting', decision: undefined })
  })
  test('pipe is known too: its invert, its size', () => {
    const s = new Site().toFirstCourse().release('line', 'B', 1).work('fill', 'B', 1).work('invert', 'B', 1).work('drain', 'B', 1)
    const laid = s.entries.find((e) => e.kind === 'pipe')
    if (!laid) throw new Error('no pipe')
    const of = (change: (p: Plan) => void) => mismatch(layoutOf(), layoutOf(changed(change)), s.step('drain', 'B', 1), laid)
    expect(of(() => {})).toBeUndefined()
    expect(plain(of((p) => void (p.drain.outlets = [{ station: 9, invert: 9.75 }])))).toBe('its invert is now 100 mm lower')
    expect(plain(of((p) => void (p.drain.diameter = 0.15)))).toMatch(/by the plan in force: pipe of 100 mm, the plan wants 150 mm/)
  })
  test('units are counted where they stand, and shown as planned otherwise', () => {
    const s = new Site().toFirstCourse()
    const state = both(
      s,
      changed((p) => {
        p.unit.length = 0.4
      }),
    )
    const units = state.byKey.get('units|B|1')
    if (!units) throw new Error('no step')
    const status = statusOf(state, units)
    expect(status.done).toBe(10)
    expect(plain(status.unmatched[0]?.message)).toMatch(/10 units were planned, now/)
  })
})

describe('whatever lies on the pad is a first course', () => {
  test('on every step of the pad: bedded, aligned, released; the pipe stays behind the lowest', () => {
    const layout = layoutOf(changed((p) => void (p.sections = [{ id: 'A', from: 0, to: 9 }])))
    expect(layout.steps.length).toBeGreaterThan(1)
    const state = emptyState([layout])
    const courses = (stage: string) => state.steps.filter((s) => s.stage.id === stage).map((s) => s.course)
    const onPad = [...new Set(layout.steps.map((p) => layout.courses.find((c) => Math.abs(c.bottom - p.elevation) < 1e-6)?.course))].sort()
    expect(courses('bedding')).toEqual(onPad)
    expect(courses('line')).toEqual(onPad)
    expect(courses('drain')).toEqual([1])
    // Of an upper one only what lies on the pad is read to the string.
    const upper = state.steps.find((s) => s.stage.id === 'line' && s.course === onPad[1])
    const step = layout.steps.find((p) => Math.abs(p.elevation - (layout.courses.find((c) => c.course === onPad[1])?.bottom ?? 0)) < 1e-6)
    for (const s of upper?.points ?? []) expect(s >= (step?.start ?? 9) - 1e-6 && s <= (step?.end ?? 0) + 1e-6).toBe(true)
    expect(upper?.points.length).toBeGreaterThan(0)
    // And what lies on it is measured for its setback.
    const set = state.steps.find((s) => s.stage.id === 'setback' && s.course === onPad[1])
    for (const s of set?.points ?? []) expect(upper?.points).not.toContain(s)
  })
})

describe('who may take back what', () => {
  test('crew strikes its own, not the foreman’s; the foreman the crew’s; everybody gives a reason', () => {
    const s = new Site().work('services')
    const mine = s.entries[0] as { id: string }
    expect(s.refusal(entry('strike', {}, { reason: 'no' }, { supersedes: mine.id, role: 'crew' }))).toMatch(
      /by: Fay recorded this; it is corrected by Fay, or by a role above the foreman/,
    )
    expect(s.refusal(entry('strike', {}, { reason: 'walked again' }, { supersedes: mine.id }))).toBe('')
    expect(s.refusal(entry('strike', {}, { reason: 'walked again' }, { supersedes: mine.id, role: 'inspector' }))).toBe('')
    const note = entry('note', {}, { text: 'x' }, { role: 'crew' })
    s.put(note)
    expect(s.refusal(entry('note', {}, { text: 'y' }, { supersedes: note.id, role: 'crew' }))).toMatch(/reason: is missing/)
    expect(s.refusal(entry('note', {}, { text: 'y' }, { supersedes: note.id, role: 'foreman', reason: 'typed wrong' }))).toBe('')
  })
  test('a strike without its object is refused', () => {
    const s = new Site()
    expect(s.refusal(entry('strike', {}, { reason: 'why not' }))).toMatch(/supersedes: is missing/)
    expect(s.refusal(entry('strike', {}, { reason: 'why not' }, { supersedes: '01900000-0000-7000-8000-ffffffffffff' }))).toMatch(/not in the record/)
  })
  test('a decision is never struck; it is answered by another', () => {
    const s = new Site().toFirstCourse()
    const at = { stage: 'line', ...B1 }
    const no = entry('release', at, { decision: 'rejected', reason: 'rocks', signature: SIGNED }, { role: 'inspector' })
    s.put(no)
    for (const role of ['inspector', 'foreman'] as const)
      expect(s.refusal(entry('strike', {}, { reason: 'mistake' }, { supersedes: no.id, role }))).toMatch(/a decision on a hold point stays/)
    s.put(entry('release', at, { decision: 'released', reason: 'seen again', signature: SIGNED }, { role: 'inspector' }))
    expect(statusOf(s.state, s.step('line', 'B', 1)).hold).toBe('released')
  })
})

describe('a hold point that was rejected', () => {
  test('is asked for again after new work, and due for the inspector again', () => {
    const s = new Site().toFirstCourse()
    const step = s.step('line', 'B', 1)
    s.put(entry('release', { stage: 'line', ...B1 }, { decision: 'rejected', reason: 'wavy', signature: SIGNED }, { role: 'inspector' }))
    const point = () => inspectionPoints(s.state).find((p) => p.step === step)?.state
    expect([statusOf(s.state, step).hold, point()]).toEqual(['rejected', 'rejected'])
    s.put(entry('reading', { stage: 'line', ...B1, station: step.points[0] as number }, { method: 'deviation', value: 0.001 }))
    expect([statusOf(s.state, step).hold, point()]).toEqual(['waiting', 'to release'])
  })
})

describe('signatures', () => {
  const at = { stage: 'line', ...B1 }
  const by = (data: object, role: 'inspector' | 'foreman' | 'crew' = 'inspector') =>
    entry('release', at, { decision: 'released', reason: 'seen', ...data }, { role })
  test('the name is that of who is signed in; somebody else is a witness', () => {
    const s = new Site().toFirstCourse()
    expect(s.refusal(by({ signature: { typed: 'Somebody Else' } }))).toMatch(/data.signature: is that of Somebody Else; who is signed in signs: Ian/)
    expect(s.refusal(by({ signature: { typed: '  ian ' } }))).toBe('')
    const seen = by({ signature: { typed: 'Ian', ...SIGNED }, witness: 'Olu' })
    s.put(seen)
    expect(lineOf(s.state, seen, { units: 'metric' })).toMatch(/released: seen \(signed by hand, in the presence of Olu\)/)
  })
  test('an inspector without an account: reported by the foreman, with the paper or the photo that says so', () => {
    const s = new Site().toFirstCourse()
    const reported = { name: 'R. Stone', role: 'engineer of record', document: 'letter 12 of 19 May' }
    expect(s.refusal(by({ signature: SIGNED }, 'foreman'))).toMatch(/by.role/)
    expect(s.refusal(by({ signature: SIGNED, reported: { ...reported, document: undefined } }, 'foreman'))).toMatch(
      /data.reported.document: is missing/,
    )
    expect(s.refusal(by({ signature: SIGNED, reported: { ...reported, photo: 'nowhere' } }, 'foreman'))).toMatch(/data.reported.photo/)
    // A photo that was struck out shows nothing any more; a real one is as good as a paper.
    const [struck, photo] = [photoOf({ stage: 'line', section: 'B', course: 1 }), photoOf({ stage: 'line', section: 'B', course: 1 })]
    s.put(struck, photo, entry('strike', {}, { reason: 'of another wall' }, { supersedes: struck.id }))
    const shown = (of: string) => s.refusal(by({ signature: SIGNED, reported: { name: reported.name, role: reported.role, photo: of } }, 'foreman'))
    expect(shown(struck.id)).toMatch(/is not a photo in the record/)
    expect(shown(photo.id)).toBe('')
    expect(s.refusal(by({ signature: SIGNED, reported: { ...reported, name: 'Fay' } }, 'foreman'))).toMatch(/is your own/)
    expect(s.refusal(by({ signature: SIGNED, reported }, 'crew'))).not.toBe('')
    const e = by({ signature: SIGNED, reported }, 'foreman')
    s.put(e)
    expect(statusOf(s.state, s.step('line', 'B', 1))).toMatchObject({ hold: 'released', decision: { entry: { id: e.id } } })
    expect(lineOf(s.state, e, { units: 'metric' })).toMatch(
      /released by R\. Stone, engineer of record, as reported by Fay \(letter 12 of 19 May\): seen/,
    )
  })
})

describe('a finding names everything that is out', () => {
  test('a lift, a layer, a stretch of pipe, a unit', () => {
    const s = toPad()
    expect(plain(verdictOf(s.state, lift({ thickness: 0.15, passes: 1, compaction: 88 }))?.text)).toBe(
      'lift 150 mm, limit 100 mm; 1 pass, at least 2; 88 % of maximum density, at least 95 %',
    )
    const grid = entry(
      'geogrid',
      { stage: 'grid', section: 'B', course: 2 },
      { type: 'x', length: 0.8, front: -0.1, direction: 'along', tight: false },
    )
    const text = plain(verdictOf(s.state, grid)?.text ?? '')
    for (const part of ['0.80 m long', 'type x', 'strength direction along', 'slack', '100 mm in front of the face']) expect(text).toContain(part)
    const unit = entry('unit-level', { stage: 'level', ...B1 }, { unit: 2, along: 0.004, across: -0.005, diagonal: 0.001 })
    expect(plain(verdictOf(s.state, unit)?.text)).toBe('4 mm off along, limit ±2 mm; 5 mm off across, limit ±2 mm')
  })
  test('one photo shows one stretch of pipe', () => {
    const s = new Site().toFirstCourse().release('line', 'B', 1).work('fill', 'B', 1).work('invert', 'B', 1)
    const where = { stage: 'drain', ...B1 }
    const pipe = (from: number, to: number) =>
      entry('pipe', where, {
        from,
        to,
        diameter: 0.1,
        bed: 0.1,
        sock: false,
        start: 'joined',
        end: 'joined',
        laps: 'with',
        confirmed: ['bed', 'apart', 'outlet'],
      })
    const photo = (station: number) =>
      entry(
        'photo',
        { ...where, station },
        {
          file: '01900000-0000-7000-8000-0000000000ff',
          sha256: 'a'.repeat(64),
          name: 'p.jpg',
          type: 'image/jpeg',
          bytes: 10,
          width: 4,
          height: 3,
          location: 'none',
        },
      )
    s.put(pipe(4.5, 7), pipe(7, 9), photo(7))
    const status = () => statusOf(s.state, s.step('drain', 'B', 1))
    expect(status()).toMatchObject({ done: 1, total: 2 })
    expect(plain(status().missing)).toEqual(['a photo of 4.50 to 7.00'])
    s.put(photo(7))
    expect(status()).toMatchObject({ done: 2, state: 'done' })
  })
})

describe('a plan that asks for what is not there', () => {
  const of = (change: (p: Plan) => void) => misplaced(layoutOf(changed(change))).map((p) => `${p.field} ${p.message}`)
  test('nothing is said of a plan that fits', () => expect(plain(of(() => {}))).toEqual([]))
  test.each([
    [
      'grid on no course',
      (p: Plan) => void p.grid.push({ course: 40, length: 1.2, type: 'x' }),
      /layers\[1\].course there is no course 40; the wall has \d/,
    ],
    [
      'an opening past the end',
      (p: Plan) => void (p.openings = [{ name: 'Pipe', station: 8.9, width: 0.6, bottom: 10, height: 0.4 }]),
      /openings\[0\].station Pipe reaches from 8.60 m to 9.20 m/,
    ],
    [
      'an opening above',
      (p: Plan) => void (p.openings = [{ name: 'Pipe', station: 4, width: 0.6, bottom: 14, height: 0.4 }]),
      /openings\[0\].bottom Pipe begins at 14 m, above the wall/,
    ],
    [
      'an opening below',
      (p: Plan) => void (p.openings = [{ name: 'Pipe', station: 4, width: 0.6, bottom: 8, height: 0.4 }]),
      /openings\[0\].bottom Pipe ends at 8.40 m, below the pad/,
    ],
    [
      'an outlet twice',
      (p: Plan) => void p.drain.outlets.push({ station: 9, invert: 9.8 }),
      /drain.outlets\[1\].station there is an outlet at 9 m already/,
    ],
  ])('%s', (_name, change, message) => expect(plain(of(change).join('\n'))).toMatch(message))
  test('issued before, it is a caution that stops the digging, not a wall nobody can open', () => {
    const layout = layoutOf(changed((p) => void p.grid.push({ course: 40, length: 1.2, type: 'x' })))
    expect(layout.cautions.find((c) => c.id === 'misplaced system.data.layers[1].course')).toMatchObject({ blocks: true })
  })
})
