// Rule table 3: a clock that is wrong opens no gate. What goes by time is asked by the clock of the house; where nobody compared, by the stricter.
import { advance, clockOf, dailyNeeds, type Entry, type FromDevice, timesOf, whenOf } from '@stone-tally/core'
import { good, morningLook } from '../build'
import { entry, layoutOf, smallPlan, stateOf } from '../plans'
import { Site } from '../site'
import { plan } from './wall'

const DAY = 86_400
const on = (day: number, time = '08:00') => `2026-05-${day}T${time}:00Z`
const ms = (day: number, time?: string) => Date.parse(on(day, time))
/** The trench was looked at on the 20th. */
const started = () => new Site(plan).work('services').work('set-out').release('set-out')
const dug = (site: Site, at: string, clock?: number): Entry => {
  const e = { ...(good(site.step('dig', 'B'))[0] as Entry), at }
  return clock === undefined ? e : { ...e, clock }
}
const LOOK = /a competent person looks at it before anyone goes in/

describe('the look of the day', () => {
  const site = started()
  test.each([
    ['a clock a day slow, known', dug(site, on(20), -DAY), LOOK],
    ['a clock a day slow, never compared', dug(site, on(20)), LOOK],
    ['a clock an hour and a half slow, known, at the end of the shift', dug(site, on(20, '22:00'), -5_400), LOOK],
    ['a clock a day fast, known', dug(site, on(22), DAY), LOOK],
  ] as const)('%s: asked anew', (_, e, why) => {
    expect(site.refusal(e, ms(21))).toMatch(why)
    // Looked at this morning by the house, it opens.
    const looked = started().put(morningLook({}, on(21, '06:00')))
    if (e.clock !== undefined && e.at !== on(20, '22:00')) expect(looked.refusal(e, ms(21))).toBe('')
  })
  test('a day without a signal, with a clock that was compared, is no wrong clock', () => {
    expect(site.refusal(dug(site, on(20), 0), ms(22))).toBe('')
    expect(site.refusal(dug(site, on(20, '08:02'), 120), ms(22))).toBe('')
  })
  test('every moment it may have been is asked about: by its own word, by the clock of the device as it sends, kept back until it came in', () => {
    const now = ms(21, '12:00')
    const four = dug(site, on(21))
    const hours = (e: Entry, from: Partial<FromDevice>) =>
      timesOf(site.state, e, now, { revisions: [], ...from }).map((t) => (Date.parse(t) - now) / 3_600_000)
    expect(hours({ ...four, clock: 0 }, {})).toEqual([-4])
    expect(hours(four, {})).toEqual([-4, 0])
    expect(hours(four, { ahead: 0 })).toEqual([-4])
    expect(hours(four, { ahead: -3600 })).toEqual([-3])
    expect(hours({ ...four, clock: 0 }, { ahead: -3600 })).toEqual([-4, -3])
    expect(hours({ ...four, clock: 0 }, { newest: now - 3_600_000 })).toEqual([-4, 0])
    expect(hours({ ...four, clock: 0 }, { newest: now - 5 * 3_600_000 })).toEqual([-4])
  })
  test('between the press and the house lie moments: nothing is asked twice for them', () => {
    expect(timesOf(site.state, dug(site, on(20)), ms(20, '08:40'))).toEqual(['2026-05-20T08:00:00.000Z'])
    expect(timesOf(site.state, dug(site, on(20)), ms(20, '09:10'))).toEqual(['2026-05-20T08:00:00.000Z', '2026-05-20T09:10:00.000Z'])
    expect(timesOf(site.state, dug(site, on(25)), ms(20))).toEqual(['2026-05-20T08:00:00.000Z'])
  })
})

test('the last day of a ticket', () => {
  const site = new Site(plan)
  const ticket = good(site.step('services'))[0] as Entry
  site.put({ ...ticket, data: { ...(ticket.data as object), until: '2026-05-20' } })
  site
    .work('set-out')
    .release('set-out')
    .put(morningLook({}, on(21, '06:00')))
  expect(dailyNeeds(site.state, site.step('dig', 'B'), on(21)).map((n) => n.id)).toEqual(['ticket'])
  expect(site.refusal(dug(site, on(20), -DAY), ms(21))).toMatch(/ticket ran out on Wed 20 May/)
})

describe('when something in the record was done', () => {
  const state = stateOf([], plan)
  const seen = (at: string, receivedAt: string, clock?: number) => {
    const of = entry('note', {}, { text: 'x' }, { at, ...(clock === undefined ? {} : { clock }) })
    return whenOf(state, { seq: 1, receivedAt, entry: of })
  }
  const both = (day: number, time?: string) => ({ earliest: ms(day, time), latest: ms(day, time) })
  test.each([
    ['compared', seen(on(20), on(23), 0), both(20)],
    ['compared, a day slow', seen(on(20), on(23), -DAY), both(21)],
    ['compared, a day fast', seen(on(20), on(23), DAY), both(19)],
    ['never compared: up to when it came in', seen(on(20), on(23)), { earliest: ms(20), latest: ms(23) }],
    ['never compared, at once', seen(on(20), on(20, '08:05')), both(20)],
    ['after it came in', seen(on(25), on(23)), both(23)],
    ['nobody says when it came in', seen(on(20), ''), both(20)],
  ] as const)('%s', (_, is, wanted) => expect(is).toEqual(wanted))
  test('of walls of before, what the device says', () => {
    const old = stateOf([], smallPlan)
    const e = entry('note', {}, { text: 'x' }, { at: on(25), clock: DAY })
    expect(whenOf(old, { seq: 1, receivedAt: on(23), entry: e })).toEqual(both(25))
    expect(timesOf(old, e, ms(23))).toEqual(['2026-05-23T08:00:00.000Z'])
    expect(timesOf(old, { ...e, at: on(20) }, ms(23))).toEqual([on(20)])
  })
})

test('a look that a slow clock dates too early serves its own shift, and one that is dated ahead none to come', () => {
  const at = (day: number, clock: number | undefined, receivedAt: string) => {
    const look = { ...morningLook({}, on(day)), ...(clock === undefined ? {} : { clock }) }
    let state = stateOf([], plan)
    state = advance(state, { seq: 1, receivedAt, entry: look })
    const step = [...state.steps].find((s) => s.stage.id === 'dig' && s.section === 'B')
    return (now: string) => (step ? dailyNeeds(state, step, now).map((n) => n.id) : ['no step'])
  }
  expect(at(20, -DAY, on(21))(on(21, '12:00'))).toEqual([])
  expect(at(20, undefined, on(21))(on(21, '12:00'))).toEqual(['look'])
  // Dated a day ahead it came in on the 20th, and serves that shift alone.
  expect(at(21, undefined, on(20))(on(20, '12:00'))).toEqual([])
  expect(at(21, undefined, on(20))(on(21, '12:00'))).toEqual(['look'])
})
test('and it is said beside the entry', () => {
  const state = stateOf([], plan)
  const e = entry('note', {}, { text: 'x' }, { at: on(20), clock: -DAY })
  expect(clockOf(state, { seq: 1, receivedAt: on(21), entry: e })).toMatch(/about 24 hours slow/)
  expect(layoutOf(plan).plan.ruleTable).toBe(3)
})
