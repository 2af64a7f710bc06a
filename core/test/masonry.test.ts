// Reinforced masonry on a footing: its bars, what is measured before they are covered, clocks, and a wall built to the end.
import { advance, barriers, type Plan, quantities, readPlan, stepsOf } from '@stone-tally/core'
import { build, good } from './build'
import { entry, NOW, plain } from './plans'
import { Site } from './site'
import { started, startedLayout } from './started'

/** Its part, as far as it is changed here. */
type Part = {
  readonly vertical: object
  readonly foundation: object
  readonly beams: readonly object[]
  readonly groutEvery: number
  readonly grout: string
  readonly slab?: number
}
const changed = (change: (d: Part) => object) => change as never
const DAY = 86_400_000
const AT = Date.parse('2026-05-20T08:00:00Z')
const on = (day: number, hours = 0) => new Date(AT + day * DAY + hours * 3_600_000).toISOString()

describe('its part of the plan', () => {
  const bad = (change: (d: Part) => object) => {
    const plan = started('masonry')
    const read = readPlan({ ...plan, system: { id: 'masonry', data: change(plan.system.data as Part) } })
    return read.ok ? [] : read.problems.map((p) => `${p.field}: ${plain(p.message)}`)
  }
  test('bars that miss the cells are refused, with the spacings that fall in them', () => {
    const spacing = (v: number) => bad((d) => ({ ...d, vertical: { ...d.vertical, spacing: v } }))
    expect(spacing(0.5)).toEqual([
      expect.stringMatching(/vertical.spacing: 0.5 m is no whole number of cells of 0.200 m.*0.400 m or 0.600 m falls in every cell/),
    ])
    expect([spacing(0.2), spacing(0.6), spacing(0.8)]).toEqual([[], [], []])
    expect(spacing(0.1)).toHaveLength(1)
  })
  test('a grout lift too high, a starter too short for its lap, two beams in one course', () => {
    expect(bad((d) => ({ ...d, groutEvery: 7 }))).toEqual([
      expect.stringMatching(/groutEvery: 7 courses are 1.40 m of grout in one lift, at most 1.2 m/),
    ])
    expect(bad((d) => ({ ...d, groutEvery: 6 }))).toEqual([])
    expect(bad((d) => ({ ...d, vertical: { ...d.vertical, starter: 0.6 } }))).toEqual([
      expect.stringMatching(/starter: 0.6 m is shorter than its lap/),
    ])
    const beam = { course: 3, bars: 2, diameter: 0.012 }
    expect(bad((d) => ({ ...d, beams: [beam, beam] }))).toEqual([expect.stringMatching(/beams\[1\].course: course 3 is a beam already/)])
  })
  test('laps longer than half a bar are refused, and counting them ends all the same', () => {
    const short = (d: Part) => ({ ...d, foundation: { ...d.foundation, stock: 2, bars: { count: 3, diameter: 0.012, lap: 2.5 } } })
    expect(bad(short)).toEqual([expect.stringMatching(/foundation.bars.lap: a lap of 2.5 m is over half of a bar of 2 m/)])
    expect(quantities(startedLayout('masonry', {}, changed(short))).find((q) => q.id === 'bars-12')?.value).toBeGreaterThan(0)
  })
  test('only a footing: on stone it does not stand', () => {
    expect(
      bad((d) => ({ ...d, foundation: { kind: 'dense-graded', thickness: 0.2, width: 0.6, minRun: 1, lifts: { max: 0.1, loose: 1.2 } } })),
    ).not.toEqual([])
  })
  test('it is an engineer’s whatever its height, and the slab says whether the footing will be seen', () => {
    const caution = (slab: number | undefined, id: string) =>
      plain(
        startedLayout(
          'masonry',
          {},
          changed((d) => ({ ...d, ...(slab === undefined ? {} : { slab }) })),
        ).cautions.find((c) => c.id === id)?.message,
      ) ?? ''
    // The footing lies 0.15 m below the toe of 10 m.
    expect(caution(undefined, 'slab')).toBe('')
    expect(caution(9.92, 'slab')).toMatch(/at least 75 mm below is wanted/)
    expect(caution(9.95, 'slab')).toMatch(/covers 100 mm of the unit it meets.*half a unit is 100 mm/)
    const { engineer: _, ...nobody } = started('masonry')
    const site = new Site(nobody)
    expect(plain(site.state.layout.cautions.find((c) => c.id === 'ask-first')?.message)).toMatch(/stands on a reinforced footing/)
  })
  test('control joints stand evenly, none further apart than the plan lets them; a finish that is planned is looked at', () => {
    const joints = (apart?: number) =>
      startedLayout(
        'masonry',
        { length: 9 },
        changed((d) => ({ ...d, ...(apart === undefined ? {} : { joints: apart }) })),
      ).building.joints
    expect([joints(), joints(9), joints(4.5), joints(4)]).toEqual([[], [], [4.5], [3, 6]])
    const items = (finish?: string) =>
      JSON.stringify(
        startedLayout(
          'masonry',
          {},
          changed((d) => ({ ...d, ...(finish ? { finish } : {}) })),
        ).system.stages.find((s) => s.id === 'finish')?.work,
      )
    expect(items('lime render')).toMatch(/Face finished: lime render/)
    expect(items()).not.toMatch(/Face finished/)
  })
  test('bars, grout, membrane and board are counted, bars cut from what is delivered', () => {
    const layout = startedLayout('masonry', { length: 9.6 })
    const q = (id: string) => quantities(layout).find((x) => x.id === id)?.value
    const courses = layout.courses.length
    // 9.6 m with a bar every 0.6 m: 17 places.
    expect([q('starters'), q('verticals')]).toEqual([17, expect.closeTo(17 * (courses * 0.2 + 0.6), 6)])
    const face = q('face') as number
    expect([q('board'), q('membrane')]).toEqual([expect.closeTo(face, 9), expect.closeTo(face * 1.12, 9)])
    const each = (n: string) =>
      quantities(
        startedLayout(
          'masonry',
          {},
          changed((d) => ({ ...d, grout: n })),
        ),
      ).find((x) => x.id === 'grout')?.value as number
    expect(each('barred')).toBeCloseTo(each('all') / 3, 9)
    // Three bars of 9.6 m along the footing out of 6 m with laps of 0.6 m: 6 + 4.2; 17 of 2 m up, 17 starters of 0.9 m.
    const height = courses * 0.2 + 0.6
    const metres = 3 * (6 + 4.2) + 17 * height + 17 * 0.9
    expect(q('bars-12')).toBeGreaterThanOrEqual(Math.ceil(metres / 6 - 1e-9))
    expect(q('bars-12')).toBeLessThanOrEqual(Math.ceil(metres / 6) + 2)
  })
})

describe('the record', () => {
  const toPour = () =>
    new Site(started('masonry')).work('services').work('set-out').release('set-out').work('dig', 'A').work('subgrade', 'A').release('subgrade', 'A')
  const check = (stage: string, measured: { id: string; value: number }[], course?: number) =>
    entry('check', { stage, section: 'A', ...(course === undefined ? {} : { course }) }, { confirmed: [], measured })
  const found = (site: Site, e: ReturnType<typeof check>) => {
    site.put(e)
    return plain(site.state.outs.get(e.id)?.text) ?? ''
  }
  test('too little cover, a short lap, a starter missing: found before the pour', () => {
    expect(found(toPour(), check('bars', [{ id: 'cover', value: 0.06 }]))).toMatch(/cover.*60 mm, at least 75 mm/)
    expect(found(toPour(), check('bars', [{ id: 'lap', value: 0.55 }]))).toMatch(/lap.*550 mm, at least 600 mm/)
    expect(found(toPour(), check('bars', [{ id: 'starters', value: 16 }]))).toMatch(/starters tied in 16, at least 17/)
    expect(toPour().refusal(check('bars', [{ id: 'starters', value: 16.5 }]))).toMatch(/whole number/)
    expect(toPour().refusal(check('bars', [{ id: 'cover', value: 75 }]))).toMatch(/is the unit right/)
  })
  test('a pour too wet, too cold: a finding in the units it is measured in', () => {
    const site = () => toPour().work('bars', 'A').release('bars', 'A')
    expect(found(site(), check('pad', [{ id: 'slump', value: 0.18 }]))).toMatch(/slump.*180 mm, at most 150 mm/)
    expect(found(site(), check('pad', [{ id: 'warm', value: 4 }]))).toMatch(/temperature.*4 °C, at least 10 °C/)
  })
  /** Footing poured and read on the first day. */
  const poured = () =>
    toPour().work('bars', 'A').release('bars', 'A').work('pad', 'A').work('damp', 'A').work('pad-level', 'A').release('pad-level', 'A')
  const laid = (site: Site, day: number, hours = 0) => ({ ...(good(site.step('units', 'A', 1))[0] as ReturnType<typeof entry>), at: on(day, hours) })
  test('units wait until the footing has cured: to the hour, and a strength in writing passes it', () => {
    const site = poured()
    expect(site.refusal(laid(site, 2))).toMatch(
      /concrete cures before it is loaded.*Wed 20 May, 08:00 UTC and wants 3 days, until Sat 23 May, 08:00 UTC/,
    )
    expect(site.refusal(laid(site, 2, 23.99))).toMatch(/cures/)
    // Three days on the trench is to be looked at again, and nothing else stands in the way.
    expect(site.refusal(laid(site, 3))).not.toMatch(/cures/)
    // A reason alone opens nothing, nor does a strength under what is wanted; a tested one does, with its day and who tested it.
    const past = (strength?: object) =>
      entry('override', { stage: 'pad', section: 'A' }, { reason: 'Cylinders at two days.', ...(strength ? { strength } : {}) })
    const tested = { value: 21, wanted: 20, on: '2026-05-22', source: 'laboratory, sheet 7' }
    site.put(past())
    expect(site.refusal(laid(site, 1))).toMatch(/cures/)
    expect(site.refusal(past({ ...tested, value: 19 }))).toMatch(/19 N\/mm² is under the 20 N\/mm²/)
    site.put(past(tested))
    expect(site.refusal(laid(site, 1))).not.toMatch(/cures/)
  })
  test('days with a mean under five degrees do not count, and a day nobody looked is taken to be like the last', () => {
    const site = poured()
    const cold = (day: number, low: number, high?: number) =>
      entry('weather', {}, { rain: 0, low, wind: 5, ...(high === undefined ? {} : { high }) }, { at: on(day) })
    site.put(cold(0, 1, 6))
    expect(site.refusal(laid(site, 3))).toMatch(/cures.*not counted/)
    site.state = advance(site.state, { seq: site.entries.length + 1, receivedAt: '', entry: cold(1, 6, 12) })
    // The day of the pour was cold; the three after it count.
    expect(site.refusal(laid(site, 3, 23.9))).toMatch(/cures.*until Sun 24 May, 08:00 UTC \(1 day with a mean under 5 °C not counted\)/)
    expect(site.refusal(laid(site, 4))).not.toMatch(/cures/)
  })
  test('frost that is expected stops a pour until somebody writes how it is protected', () => {
    const site = toPour().work('bars', 'A').release('bars', 'A')
    const told = (day: string, low: number) =>
      entry('weather', {}, { rain: 0, low: 9, wind: 5, expected: true, days: [{ day, rain: 0, low, wind: 5 }] })
    const pour = () => good(site.step('pad', 'A'), site.state.layout)[0] as ReturnType<typeof entry>
    site.put(told('2026-05-25', -3))
    expect(site.refusal(pour())).not.toMatch(/expected within/)
    site.put(told('2026-05-22', -1))
    expect(site.refusal(pour())).toMatch(/-1 °C is expected within 48 hours|−1 °C is expected within 48 hours/)
    site.put(entry('override', { stage: 'pad', section: 'A' }, { reason: 'Insulating mats over hoops, thermometer under them.' }))
    expect(site.refusal(pour())).not.toMatch(/expected within/)
  })
  test('a reason that was written before the pour does not speak of its strength', () => {
    const site = toPour().work('bars', 'A').release('bars', 'A')
    site.put(entry('override', { stage: 'pad', section: 'A' }, { reason: 'Pour in two halves, the rest tomorrow.' }))
    site.work('pad', 'A').work('damp', 'A').work('pad-level', 'A').release('pad-level', 'A')
    expect(site.refusal(laid(site, 1))).toMatch(/cures/)
  })
  test('a device whose clock is days ahead cures nothing', () => {
    const site = poured()
    expect(site.refusal(laid(site, 30), NOW)).toMatch(/cures/)
    expect(site.refusal(laid(site, 30), NOW + 30 * DAY)).not.toMatch(/cures/)
  })
  test('where nobody says when it is the clock is shown as running', () => {
    const site = poured()
    const step = site.step('units', 'A', 1)
    expect(barriers(site.state, step).some((b) => b.message.includes('cures'))).toBe(true)
    expect(barriers(site.state, step, on(3))).toEqual([])
    expect(barriers(site.state, step, on(3, -0.1)).length).toBe(1)
  })
  test('built: barred and grouted to its top, then waterproofed, drained and filled from below', () => {
    const { order } = build(
      startedLayout('masonry', {
        length: 8,
        grades: [
          { station: 0, toe: 10, top: 11 },
          { station: 8, toe: 10, top: 11 },
        ],
        sections: [{ id: 'A', from: 0, to: 8 }],
      }),
    )
    const at = (key: string) => order.indexOf(key)
    expect(order[order.length - 1]).toBe('final||')
    const units = order.filter((k) => k.startsWith('units'))
    for (const k of units) expect(at(k)).toBeLessThan(at('membrane|A|'))
    expect(at('membrane|A|')).toBeLessThan(at('board|A|'))
    expect(at('drain|A|1')).toBeLessThan(at('backfill|A|1'))
    expect(at('backfill|A|1')).toBeLessThan(at('backfill|A|2'))
    // Three courses to a lift, and the last whatever is left of it.
    expect(order.filter((k) => k.startsWith('grout')).map((k) => k.split('|')[2])).toEqual(['3', '6'])
    expect(at('grout|A|3')).toBeLessThan(at('units|A|4'))
  })
  test('nothing leans on it before its grout has cured, nor on a membrane nobody has seen', () => {
    const { state } = build(startedLayout('masonry'))
    const poured_ = state.entries.find((e) => e.entry.where.stage === 'grout')?.entry.at as string
    const filled = state.entries.find((e) => e.entry.where.stage === 'backfill')?.entry.at as string
    expect((Date.parse(filled) - Date.parse(poured_)) / DAY).toBeGreaterThanOrEqual(7)
  })
  test('a brushed coating asks for coats, not for a dry face', () => {
    const plan = started('masonry')
    const of = (p: Plan) => stepsOf(new Site(p).state.layout).find((s) => s.stage.id === 'membrane')?.stage
    expect(of(plan)?.dry).toMatch(/dry, clean, primed/)
    const book = plan.book && {
      ...plan.book,
      choices: plan.book.choices.map((c) => (c.choice === 'waterproofing' ? { ...c, option: 'coating' } : c)),
    }
    const coated = of({ ...plan, book } as Plan)
    expect([coated?.dry, coated?.hold]).toEqual([undefined, 'membrane'])
    expect(JSON.stringify(coated)).toMatch(/Two coats crosswise/)
  })
})
