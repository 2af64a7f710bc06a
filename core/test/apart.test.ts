// What waits on a device is folded like the rest without touching the record; what meets after a time apart is said for a person.
import {
  advance,
  advanceWaiting,
  branch,
  clockOf,
  type Entry,
  emptyState,
  fold,
  glimpsed,
  glimpseOf,
  nextStep,
  openFindings,
  type RecordedEntry,
  statusOf,
  whileAway,
} from '@stone-tally/core'
import { built, entry, layoutOf, plain, SIGNED, smallPlan } from './plans'
import { Site } from './site'

const plan = built(smallPlan)
const site = () => new Site(plan).toFirstCourse()
const recordOf = (entries: readonly Entry[]): RecordedEntry[] => entries.map((e, i) => ({ seq: i + 1, receivedAt: e.at, entry: e }))
const folded = (entries: readonly Entry[]) => fold([layoutOf(plan)], recordOf(entries))
const fay = { id: 'fay', name: 'Fay', role: 'foreman' }
const ida = { id: 'ida', name: 'Ida', role: 'inspector' }
const as = (by: Entry['by'], e: Entry): Entry => ({ ...e, by })
/** Everything a state shows of its steps. */
const shown = (state: ReturnType<typeof folded>) => state.steps.map((s) => statusOf(state, s))

describe('what waits', () => {
  const entries = site().entries
  test('is folded on a branch; the state it branched from stays as it was, to the last status', () => {
    for (const cut of [0, 7, Math.floor(entries.length / 2), entries.length - 3]) {
      const base = folded(entries.slice(0, cut))
      const before = shown(base)
      const known = [base.entries.length, base.touched.length, base.logs.size, base.outs.size]
      let state = branch(base)
      for (const e of entries.slice(cut)) state = advanceWaiting(state, e, 0)
      expect([base.entries.length, base.touched.length, base.logs.size, base.outs.size]).toEqual(known)
      expect(shown(base)).toEqual(before)
      // It says the same of the wall as if it were in the record already.
      const whole = folded(entries)
      expect(state.entries.slice(cut).every((e) => e.waiting === true)).toBe(true)
      expect(shown(state).map(({ state, done, total, hold }) => ({ state, done, total, hold }))).toEqual(
        shown(whole).map(({ state, done, total, hold }) => ({ state, done, total, hold })),
      )
    }
  })
  test('comes after everything that is in the record, in the order in which it was recorded', () => {
    let state = branch(folded(entries.slice(0, 5)))
    for (const e of entries.slice(5, 8)) state = advanceWaiting(state, e, 0)
    const numbers = state.entries.map((e) => e.seq)
    expect(numbers).toEqual([...numbers].sort((a, b) => a - b))
    expect(state.entries.slice(5).map((e) => e.entry.id)).toEqual(entries.slice(5, 8).map((e) => e.id))
  })
})

describe('since you were away', () => {
  const reading = (value: number) => entry('reading', { stage: 'level', section: 'B', course: 1, station: 4.6 }, { method: 'deviation', value })
  const list = (entries: Entry[], mine: Entry, knew: number) => whileAway(folded(entries), [{ id: mine.id, knew }])
  test('the same place read by two: both stay, a person is asked', () => {
    const before = new Site(plan).toFirstCourse().entries
    const [theirs, mine] = [as(ida, reading(0.001)), as(fay, reading(0.004))]
    const [item] = list([...before, theirs, mine], mine, before.length)
    expect([item?.about, item?.others.map((o) => o.entry.id)]).toEqual(['recorded-twice', [theirs.id]])
    expect(plain(item?.message ?? '')).toMatch(/^Ida recorded the same place meanwhile/)
  })
  test('what its author had seen, what is elsewhere, what was struck since: nobody is asked', () => {
    const before = new Site(plan).toFirstCourse().entries
    const [theirs, mine] = [as(ida, reading(0.001)), as(fay, reading(0.004))]
    expect(list([...before, theirs, mine], mine, before.length + 1)).toEqual([])
    const away = as(ida, entry('reading', { stage: 'level', section: 'B', course: 1, station: 8 }, { method: 'deviation', value: 0.001 }))
    expect(list([...before, away, mine], mine, before.length)).toEqual([])
    const strike = as(fay, { ...entry('strike', mine.where, { reason: 'read twice' }), supersedes: mine.id })
    expect(list([...before, theirs, mine, strike], mine, before.length)).toEqual([])
    // One's own other device is no other person.
    expect(list([...before, as(fay, reading(0.001)), mine], mine, before.length)).toEqual([])
  })
  test('a hold decided from both sides', () => {
    const before = new Site(plan).toFirstCourse().entries
    const decide = (by: Entry['by'], decision: string) =>
      as(
        by,
        entry(
          'release',
          { stage: 'line', section: 'B', course: 1 },
          { decision, reason: 'seen', signature: SIGNED },
          { role: by.role as 'inspector' },
        ),
      )
    const [theirs, mine] = [decide(ida, 'released'), decide({ ...ida, id: 'ivo', name: 'Ivo' }, 'rejected')]
    const [item] = list([...before, theirs, mine], mine, before.length)
    expect(item?.about).toBe('decided-twice')
    expect(plain(item?.message ?? '')).toMatch(/^released by Ida meanwhile, rejected here/)
  })
  test('a course recorded on what was struck out meanwhile', () => {
    const before = new Site(plan).toFirstCourse().entries
    const units = before.find((e) => e.kind === 'units') as Entry
    const strike = as(ida, { ...entry('strike', units.where, { reason: 'wrong course' }), supersedes: units.id })
    const mine = as(fay, reading(0.001))
    const [item] = list([...before, strike, mine], mine, before.length)
    expect(item?.about).toBe('no-longer-open')
    expect(plain(item?.message ?? '')).toMatch(/^Ida took back what it stands on: /)
  })
  test('work under a plan that was revised meanwhile: whether it counts is said', () => {
    const taller = built({ ...smallPlan, grades: smallPlan.grades.map((g) => ({ ...g, top: g.top + 0.2 })) })
    const before = new Site(plan).toFirstCourse().entries
    const revision = as(ida, entry('revision', {}, { number: 2, plan: 'f'.repeat(64) }))
    const mine = as(fay, reading(0.001))
    const state = fold([layoutOf(plan), layoutOf(taller)], recordOf([...before, revision, mine]))
    const [item] = whileAway(state, [{ id: mine.id, knew: before.length }])
    expect(item?.about).toBe('revised')
    expect(plain(item?.message ?? '')).toMatch(
      /^recorded under revision 1; Ida had issued revision 2\. It (counts there as well|does not count there: )/,
    )
  })
  test('what is not in the record yet waits for its turn', () => {
    const before = new Site(plan).toFirstCourse().entries
    const mine = as(fay, reading(0.004))
    let state = branch(folded([...before, as(ida, reading(0.001))]))
    state = advanceWaiting(state, mine, 0)
    expect(whileAway(state, [{ id: mine.id, knew: before.length }])).toEqual([])
  })
})

test('a clock that was compared with the house’s says by how much it is off, whatever can be guessed', () => {
  const off = (clock: number | undefined) => {
    const e: Entry = { ...entry('note', {}, { text: 'x' }), at: '2026-05-20T10:00:00.000Z', ...(clock === undefined ? {} : { clock }) }
    const recorded = { seq: 1, receivedAt: '2026-05-23T10:00:00.000Z', entry: e }
    return clockOf(advance(emptyState([layoutOf(plan)]), recorded), recorded)
  }
  expect([off(7200), off(-7200), off(30), off(undefined)]).toEqual([
    'clock of the device about 2 hours fast',
    'clock of the device about 2 hours slow',
    undefined,
    undefined,
  ])
})

describe('a glimpse, for a device that does not have the record yet', () => {
  test('shows every step as the record does, and travels as JSON', () => {
    const state = folded([
      ...site().entries,
      entry('reading', { stage: 'level', section: 'B', course: 1, station: 4.6 }, { method: 'deviation', value: 0.02 }),
    ])
    const sent = JSON.stringify(glimpseOf(state, { seq: state.entries.length, hash: 'f'.repeat(64) }))
    const seen = glimpsed(JSON.parse(sent), [layoutOf(plan)])
    if (!seen) throw new Error('nothing to be seen')
    const look = (s: typeof state) =>
      shown(s).map(({ state, done, total, missing, hold, passed, open, decision, read, unmatched, deviations, along }) => ({
        ...{ state, done, total, missing, hold, passed, along, unmatched: unmatched.length, deviations: [...deviations] },
        open: open.map((e) => e.entry.id),
        decision: decision?.entry.id,
        read: read.map((r) => [r.station, r.offset, r.entry !== undefined]),
      }))
    expect(look(seen)).toEqual(look(state))
    expect(look(seen).some((s) => s.open.length > 0)).toBe(true)
    expect(nextStep(seen, 'B')?.key).toBe(nextStep(state, 'B')?.key)
    expect(openFindings(seen).map((f) => f.entry.id)).toEqual(openFindings(state).map((f) => f.entry.id))
  })
  test('of other revisions than those at hand there is nothing to be shown', () => {
    const glimpse = glimpseOf(folded(site().entries), { seq: 1, hash: '' })
    expect(glimpsed(glimpse, [layoutOf(plan), layoutOf(plan)])).toBeUndefined()
  })
})
