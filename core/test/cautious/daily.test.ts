// Rule table 2: what is done anew each day, and fill that froze or drowned.
import { dailyNeeds, type Entry, fillHeld, openDepth, statusOf } from '@stone-tally/core'
import { good, groundOf, morningLook } from '../build'
import { entry, layoutOf, plain, smallPlan } from '../plans'
import { Site } from '../site'
import { plan, today } from './wall'

const day = '2026-05-20'
const at = (time: string, on = day) => `${on}T${time}:00Z`
const weather = (data: object, time: string, on = day) => entry('weather', {}, { rain: 0, low: 5, wind: 10, ...data }, { at: at(time, on) })
const started = () => new Site(plan).work('services').work('set-out').release('set-out')
const dug = (site: Site, when: string) => ({ ...(good(site.step('dig', 'B'))[0] as Entry), at: when })
const needs = (site: Site, when: string, stage = 'dig', course?: number) =>
  plain(dailyNeeds(site.state, site.step(stage, 'B', course), when).map((n) => n.message))

describe('the trench is looked at by name', () => {
  test('in the shift, by somebody who says that it is safe', () => {
    const site = started()
    expect(needs(site, at('08:00'))).toEqual([])
    expect(needs(site, at('22:59'))).toEqual([])
    expect(needs(site, at('23:01'))[0]).toMatch(/1\.65 m open here\. It was last looked at on Wed 20 May/)
    expect(site.refusal(dug(site, at('07:00', '2026-05-21')))).toMatch(/a competent person looks at it before anyone goes in/)
    site.put(morningLook({ safe: false, seen: 'crack behind the edge' }, at('07:10')))
    expect(needs(site, at('08:00'))[0]).toMatch(/Rhea Moss says that nobody goes in: crack behind the edge/)
    site.put(morningLook({}, at('09:00')))
    expect(needs(site, at('09:30'))).toEqual([])
  })
  test('again after rain; what comes late counts by its own clock', () => {
    const site = started().put(weather({ rain: 4.9 }, '07:30'))
    expect(needs(site, at('08:00'))).toEqual([])
    site.put(weather({ rain: 5 }, '07:40'))
    expect(needs(site, at('08:00'))[0]).toMatch(/It rained since it was looked at/)
    // A forecast is no rain.
    const dry = started().put(weather({ rain: 40, expected: true }, '07:40'))
    expect(needs(dry, at('08:00'))).toEqual([])
    // A look of before the rain, sent afterwards, answers nothing; one of after it does.
    site.put(morningLook({}, at('07:20')))
    expect(needs(site, at('08:00'))).toHaveLength(1)
    site.put(morningLook({}, at('07:50')))
    expect(needs(site, at('08:00'))).toEqual([])
  })
  test('nobody looked: said so; where the fill has come up it is no trench any more', () => {
    const site = started()
    for (const e of site.entries.filter((x) => x.kind === 'look')) site.put(entry('strike', {}, { reason: 'wrong wall' }, { supersedes: e.id }))
    expect(needs(site, at('08:00'))[0]).toMatch(/Nobody has looked at it yet/)
    expect(needs(site, at('08:00'), 'units', 2)[0]).toMatch(/Nobody has looked/)
    const depths = [1, 2, 3, 4].map((c) => +openDepth(site.state, site.step('units', 'B', c)).toFixed(2))
    expect(depths).toEqual([1.5, 1.3, 1.1, 0.9])
    expect(needs(site, at('08:00'), 'units', 3)).toEqual([])
  })
  test('a hump of the ground between two ends is as deep as it is', () => {
    const hump = today({
      ...smallPlan,
      grades: [
        { station: 0, toe: 10, top: 10.5 },
        { station: 6, toe: 10, top: 11.4 },
        { station: 9, toe: 10, top: 10.5 },
      ],
    })
    const site = new Site(hump)
    expect(openDepth(site.state, site.step('dig', 'B'))).toBeCloseTo(11.4 - 9.8 + 0.15, 9)
    expect(layoutOf({ ...hump, excavation: { behind: 1.2, slope: 0.5 } }).cautions.some((c) => c.id === 'cut-slope')).toBe(true)
    // And a dip of the ground in front is where least is buried.
    const dip = today({
      ...smallPlan,
      frost: 0.4,
      grades: [
        { station: 0, toe: 10.3, top: 11.3 },
        { station: 6, toe: 10, top: 11.3 },
        { station: 9, toe: 10.3, top: 11.3 },
      ],
      pad: { ...smallPlan.pad, minRun: 9 },
    })
    expect(
      plain(
        layoutOf(dip)
          .cautions.filter((c) => c.id === 'frost')
          .map((c) => c.message),
      ).join(),
    ).toMatch(/bottom of the pad lies 0\.35 m/)
  })
  test('under table 1 nothing is asked', () => {
    const site = new Site({ ...plan, ruleTable: 1 })
    expect(dailyNeeds(site.state, site.step('dig', 'B'), at('08:00'))).toEqual([])
  })
})

describe('a locate ticket has a last day', () => {
  const [services] = good(new Site(plan).step('services'))
  const ticket = (until: string | undefined) => ({ ...(services as Entry), data: { ...((services as Entry).data as object), until } })
  test('which is asked for, runs out, and is renewed by another', () => {
    const site = new Site(plan)
    site.put(ticket(undefined))
    expect(statusOf(site.state, site.step('services')).missing).toEqual(['Last day of the ticket'])
    expect(site.refusal(good(site.step('set-out'))[0] as Entry)).toMatch(/services are not located and marked yet.*Last day of the ticket/)
    site
      .put({ ...ticket('2026-05-19'), id: '01900000-0000-7000-8000-0000000000e0' })
      .work('set-out')
      .release('set-out')
    expect(site.refusal(dug(site, at('08:00')))).toMatch(/The locate ticket ran out on Tue 19 May/)
    expect(needs(site, at('08:00'), 'units', 1)).toEqual([])
    site.put({ ...ticket('2026-05-20'), id: '01900000-0000-7000-8000-0000000000e1' })
    expect(site.refusal(dug(site, at('08:00')))).toBe('')
  })
})

describe('frozen or soaked fill holds the lift', () => {
  const lift = (site: Site, data: object = {}) => ({
    ...(good(site.step('pad', 'B'))[1] as Entry),
    at: at('09:00'),
    data: { ...((good(site.step('pad', 'B'))[1] as Entry).data as object), ...data },
  })
  const ready = () => {
    const site = started()
      .work('dig', 'B')
      .put(...groundOf(layoutOf(plan), 'B'))
      .work('subgrade', 'B')
      .release('subgrade', 'B')
    return site.put({ ...(good(site.step('pad', 'B'))[0] as Entry), at: at('08:00') })
  }
  test.each([
    [{ rain: 20 }, true],
    [{ rain: 19.9 }, false],
    [{ low: 0 }, true],
    [{ low: 0.1 }, false],
    [{ low: -4, expected: true }, false],
  ])('%j: %s', (data, held) => {
    const site = ready().put(weather(data, '08:30'), morningLook({}, at('08:40')))
    expect(fillHeld(site.state, site.step('pad', 'B'), at('09:00')) !== undefined).toBe(held)
    expect(site.refusal(lift(site))).toMatch(held ? /data\.looked: is missing; the weather was .*Frozen or soaked fill/ : /^$/)
    expect(site.refusal(lift(site, { looked: 'Rhea Moss: crust bladed off, squeezed dry' }))).toBe('')
  })
  test('weather of before the last lift holds nothing', () => {
    const site = ready().put(weather({ low: -6 }, '07:30'), morningLook({}, at('08:40')))
    expect(site.refusal(lift(site))).toBe('')
  })
})
