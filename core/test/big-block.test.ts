// Big blocks set by a machine: its table, picks and trucks, a block that is out, and a wall of them built to the end.
import { capacityAt, layOut, limitsOf, type Plan, picksOf, pickWrong, quantities, readPlan, storedPlan, verdictOf } from '@stone-tally/core'
import { build } from './build'
import { entry, plain } from './plans'
import { Site } from './site'
import { started, startedLayout } from './started'

/** Its part, as far as it is changed here. */
type BigBlockPart = { readonly lifting: { readonly table: readonly object[]; readonly stands: number } }

const TABLE = [
  { reach: 4, height: 0, capacity: 3000 },
  { reach: 4, height: 3, capacity: 2600 },
  { reach: 6, height: 0, capacity: 1800 },
  { reach: 6, height: 3, capacity: 1900 },
]

describe('the table of a machine', () => {
  test('the next reach counts, and of its heights the lesser beside the one asked for', () => {
    expect(capacityAt(TABLE, 4, 0)).toBe(3000)
    expect(capacityAt(TABLE, 4, 1)).toBe(2600)
    expect(capacityAt(TABLE, 4.01, 1)).toBe(1800)
    expect(capacityAt(TABLE, 6, 3)).toBe(1900)
    // A row given twice is read by its lesser figure, whichever comes first.
    const twice = [
      { reach: 4, height: 1, capacity: 2600 },
      { reach: 4, height: 1, capacity: 2100 },
      { reach: 4, height: 2, capacity: 2400 },
    ]
    expect([capacityAt(twice, 4, 1), capacityAt([...twice].reverse(), 4, 1), capacityAt(twice, 4, 1.5)]).toEqual([2100, 2100, 2100])
    expect(capacityAt(TABLE, 2, 3)).toBe(2600)
  })
  test('beyond it nothing is lifted: further, higher or lower than it says', () => {
    expect([capacityAt(TABLE, 6.01, 0), capacityAt(TABLE, 4, 3.01), capacityAt(TABLE, 4, -0.1), capacityAt([], 1, 1)]).toEqual(
      Array(4).fill(undefined),
    )
  })
  test('a row without a height holds at any; with one beside it the lesser of them', () => {
    expect(capacityAt([{ reach: 5, capacity: 2000 }], 5, 40)).toBe(2000)
    expect(
      capacityAt(
        [
          { reach: 5, capacity: 2000 },
          { reach: 5, height: 2, capacity: 1500 },
        ],
        5,
        2,
      ),
    ).toBe(1500)
  })
})

describe('picks', () => {
  const layout = startedLayout('big-block')
  const picks = picksOf(layout)
  test('every block of the wall once, numbered along its course, in the order of setting', () => {
    const pieces = [...layout.cells.values()].flatMap((c) => c.pieces)
    expect(picks).toHaveLength(pieces.length)
    expect(new Set(picks.map((p) => p.name)).size).toBe(picks.length)
    expect(picks.slice(0, 2).map((p) => p.name)).toEqual(['1-01', '1-02'])
    for (let i = 1; i < picks.length; i++) {
      const [a, b] = [picks[i - 1], picks[i]] as [(typeof picks)[number], (typeof picks)[number]]
      expect(b.course > a.course || (b.course === a.course && b.station > a.station)).toBe(true)
    }
  })
  test('a half weighs half; gear hangs with it; the hook is over the ground the machine stands on', () => {
    const half = picks.find((p) => p.piece.kind === 'half')
    expect(half?.mass).toBeCloseTo(505, 6)
    expect(half?.load).toBeCloseTo(565, 6)
    const [first] = picks
    const row = layout.courses[0]
    expect(first?.height).toBeCloseTo((row?.top ?? 0) + 1.2 - 10, 6)
    expect(first?.reach).toBeCloseTo(4 + 0.3, 6)
  })
  test('trucks bring them in that order, none over its mass or count', () => {
    const trucks = new Map<number, number>()
    for (const p of picks) trucks.set(p.truck ?? 0, (trucks.get(p.truck ?? 0) ?? 0) + p.mass)
    expect(picks.map((p) => p.truck)).toEqual([...picks.map((p) => p.truck ?? 0)].sort((a, b) => a - b))
    for (const mass of trucks.values()) expect(mass).toBeLessThanOrEqual(18_000 + 1e-6)
    expect(quantities(layout).find((q) => q.id === 'trucks')?.value).toBe(trucks.size)
  })
  test('over its share, beyond the table, weak inserts and flat slings are each said', () => {
    const lifting = layout.building.lifting
    if (!lifting) throw new Error('no machine')
    const wrong = (mass: number, reach: number, gear = {}) =>
      plain(pickWrong(layout, { ...lifting, gear: { ...lifting.gear, ...gear } }, mass, reach, 2).join('; '))
    // 2,900 kg at 4.5 m, three quarters of it 2,175 kg; 60 kg of gear hang with the block.
    expect(wrong(2115, 4.5, { tested: 1300 })).toBe('')
    expect(wrong(2116, 4.5, { tested: 1300 })).toMatch(/over 2,175 kg/)
    expect(wrong(500, 7.6)).toMatch(/beyond the table/)
    expect(wrong(2100, 4.5, { tested: 1200 })).toMatch(/each of its inserts would carry 1,247 kg, tested to 1,200 kg/)
    // Of four inserts two carry a stiff block.
    expect(wrong(2100, 4.5, { points: 4, tested: 1200 })).toMatch(/1,247 kg/)
    expect(wrong(900, 4.5, { angle: 45 })).toMatch(/slings at 45° over the level, at least 60°/)
    expect(wrong(900, 4.5, { points: 1, angle: 45 })).not.toMatch(/slings at/)
    expect(limitsOf(layout.plan).pickShare.value).toBe(0.75)
  })
  test('a plan whose machine does not reach says so before a truck comes', () => {
    const far = startedLayout('big-block', {}, (d: BigBlockPart) => ({ ...d, lifting: { ...d.lifting, stands: 7.4 } }) as never)
    expect(plain(far.cautions.find((c) => c.id === 'picks')?.message)).toMatch(/picks may not be lifted as planned, first course 1 at 0.60/)
    expect(far.cautions.find((c) => c.id === 'picks')?.blocks).toBe(false)
    const small = startedLayout('big-block', {}, (d: BigBlockPart) => ({ ...d, lifting: { ...d.lifting, truck: { mass: 900, count: 4 } } }) as never)
    expect(plain(small.cautions.find((c) => c.id === 'truck')?.message)).toMatch(/over the 900 kg a truck carries/)
  })
})

describe('its part of the plan', () => {
  const bad = (change: (d: BigBlockPart) => unknown) => {
    const plan = started('big-block')
    const read = readPlan({ ...plan, system: { id: 'big-block', data: change(plan.system.data as BigBlockPart) } })
    return read.ok ? [] : read.problems.map((p) => `${p.field}: ${plain(p.message)}`)
  }
  test('a table that lifts more further out, or has a reach twice, is refused by its line', () => {
    const table = (list: object[]) => bad((d) => ({ ...d, lifting: { ...d.lifting, table: list } }))
    expect(
      table([
        { reach: 3, capacity: 1000 },
        { reach: 4, capacity: 1200 },
      ]),
    ).toEqual([expect.stringMatching(/^system.data.lifting.table\[1\].capacity: .*lifts less further out/)])
    expect(
      table([
        { reach: 3, capacity: 1000 },
        { reach: 3, capacity: 900 },
      ]),
    ).toEqual([expect.stringMatching(/table\[1\].reach: .*twice/)])
    expect(table([])).toEqual([expect.stringMatching(/lifting.table/)])
  })
  test('a footing of the old wall that reaches past the new face is refused, one under the blocks is said', () => {
    expect(bad((d) => ({ ...d, stays: { gap: 0.1, footing: { top: 10.2, out: 0.9 } } }))).toEqual([
      expect.stringMatching(/stays.footing.out: .*past the face/),
    ])
    const layout = startedLayout('big-block', {}, (d: BigBlockPart) => ({ ...d, stays: { gap: 0.1, footing: { top: 10.2, out: 0.4 } } }) as never)
    expect(plain(layout.cautions.find((c) => c.id === 'old-footing')?.message)).toMatch(/reaches 300 mm under the blocks/)
    expect(layout.cautions.some((c) => c.id === 'stays')).toBe(true)
    expect(quantities(layout).find((q) => q.id === 'infill')?.value).toBeCloseTo(
      (quantities(layout).find((q) => q.id === 'face')?.value ?? 0) * 0.1,
      6,
    )
  })
  test('in front of a wall that stays it is an engineer’s, and so are four rows', () => {
    const nobody = (change: Partial<Plan>, part?: (d: never) => unknown) => {
      const { engineer: _a, engineerBy: _b, ...plan } = started('big-block', change, part)
      const laid = layOut(plan)
      return laid.ok ? (plain(laid.value.cautions.find((c) => c.id === 'engineer')?.message) ?? '') : ''
    }
    expect(nobody({})).not.toMatch(/leans on it|rows of/)
    expect(
      nobody({
        grades: [
          { station: 0, toe: 10, top: 12.2 },
          { station: 9.6, toe: 10, top: 12.2 },
        ],
      }),
    ).toMatch(/5 rows of big blocks stand on one another/)
    expect(nobody({}, (d: BigBlockPart) => ({ ...d, stays: { gap: 0.2 } }))).toMatch(/a wall that stays leans on it/)
  })
  test('it is stored and read as it is, its machine with it', () => {
    const plan = started('big-block')
    expect(storedPlan(JSON.parse(JSON.stringify(plan)))).toEqual(plan)
  })
})

describe('the record', () => {
  const toUnits = () => {
    const site = new Site(started('big-block'))
    site.work('services').work('set-out').release('set-out').work('cleared', 'A').work('dig', 'A').work('subgrade', 'A').release('subgrade', 'A')
    return site.work('pad', 'A').work('pad-level', 'A').release('pad-level', 'A')
  }
  const set = (number: number, level: number, more: object = {}, rest: object = {}) => {
    const p = picksOf(startedLayout('big-block')).find((x) => x.course === 1 && x.number === number)
    return entry('pick', { stage: 'units', section: 'A', course: 1, station: p?.station }, { number, level, wind: 10, ...more }, rest)
  }
  test('no block before somebody said that machine, gear and zone are ready', () => {
    const site = toUnits()
    expect(site.refusal(set(1, 0))).toMatch(/machine, gear and zone/)
    site.work('lifting', 'A').put(set(1, 0.002))
    expect(site.refusal(set(1, 0.001))).toMatch(/1-01 is set already/)
    expect(site.refusal(set(99, 0))).toMatch(/no unit 99/)
  })
  test('a reach beyond the table is a finding that stops, a nearer one than planned is taken, one short of its shortest row is not', () => {
    const site = toUnits().work('lifting', 'A')
    // It happened: it is kept, as a finding that stops the next one.
    expect(verdictOf(site.state, set(1, 0, { reach: 8 }))).toMatchObject({
      verdict: 'out',
      stop: true,
      text: expect.stringMatching(/beyond the table/),
    })
    expect(verdictOf(site.state, set(1, 0, { reach: 2 }))).toMatchObject({
      verdict: 'out',
      stop: true,
      text: expect.stringMatching(/beyond the table/),
    })
    expect(verdictOf(site.state, set(1, 0, { reach: 3 }))?.verdict).toBe('ok')
  })
  test('a block out of level comes off: its pad is mended and read again, then it is set anew', () => {
    const site = toUnits().work('lifting', 'A')
    site.put(set(1, 0.0031 + 0.001))
    const out = site.entries[site.entries.length - 1]
    expect(plain(site.state.outs.get(out?.id ?? '')?.text)).toMatch(/4 mm high.*comes off again, and its pad is mended/)
    const again = () => set(1, 0.001, {}, { recheckOf: out?.id })
    site.put(entry('action', out?.where ?? {}, { of: out?.id, cause: 'A stone under its corner.', action: 'Lifted off, pad scraped and plated.' }))
    expect(site.refusal(again())).toMatch(/lift it off, mend the pad and read it/)
    const step = site.step('pad-level', 'A')
    const at = { stage: 'pad-level', section: 'A', station: step.points[0], offset: step.lines[0] }
    site.put(entry('reading', at, { method: 'deviation', value: 0.001 }, { role: 'crew' }))
    expect(site.refusal(set(2, 0, {}, { recheckOf: out?.id }))).toMatch(/re-check|station/)
    site.put(again())
    expect(site.state.outs.has(site.entries[site.entries.length - 1]?.id ?? '')).toBe(false)
  })
  test('a block that leans front to back is out too', () => {
    const site = toUnits()
      .work('lifting', 'A')
      .put(set(1, 0, { tilt: -0.004 }))
    expect(plain([...site.state.outs.values()][0]?.text)).toMatch(/leans 4 mm front against back/)
  })
  test('the wall is built from the first mark to its released final', () => {
    const { order } = build(
      startedLayout('big-block', {
        length: 12,
        sections: [
          { id: 'A', from: 0, to: 6 },
          { id: 'B', from: 6, to: 12 },
        ],
      }),
    )
    expect(order[order.length - 1]).toBe('final||')
    expect(order).toEqual(expect.arrayContaining(['cleared|A|', 'lifting|B|', 'units|B|2']))
  })
})
