// Welded-wire reinforced soil: its mats, how they are laid and narrowed, what is judged of them, and a wall built to the end.
import { cellKey, misplaced, type Plan, quantities, readPlan, sectionAt, systemOf, type WallSystem } from '@stone-tally/core'
import fc from 'fast-check'
import { build, good } from './build'
import { entry, layoutOf, plain } from './plans'
import { Site } from './site'
import { started, startedLayout } from './started'

type Mat = { from: number; section?: string; type: string; length: number; wire: number }
/** Its part, as far as it is changed here. */
type Part = { readonly mats: readonly Mat[]; readonly unit: { length: number } }
const wire = systemOf('wire') as WallSystem
const tall: Partial<Plan> = {
  length: 10.4,
  grades: [
    { station: 0, toe: 10, top: 11.9 },
    { station: 10.4, toe: 10, top: 11.9 },
  ],
}
const MATS: Mat[] = [
  { from: 1, type: 'long', length: 1.5, wire: 0.008 },
  { from: 3, type: 'short', length: 1.4, wire: 0.006 },
]
const withMats =
  (mats: readonly Mat[] = MATS) =>
  (d: Part) =>
    ({ ...d, mats }) as never
const part = () => started('wire', tall, withMats() as never).system.data

describe('mats along a run', () => {
  const lay = (length: number) =>
    wire.lay({ length, course: 1, onPad: true, start: 'free', end: 'free', startTurn: 0, endTurn: 0, below: [] }, part())
  test('whole ones with their gap, the last narrowed', () => {
    expect(lay(7.8).pieces.map((p) => p.length)).toEqual([2.6, 2.6, 2.6].map((x) => expect.closeTo(x, 9)))
    expect(lay(6.5).pieces.map((p) => [p.kind, p.length])).toEqual([
      ['full', 2.6],
      ['full', 2.6],
      ['cut', expect.closeTo(1.3, 9)],
    ])
  })
  test('two narrowed ones rather than one too narrow, the first between two wires', () => {
    const { pieces } = lay(5.3)
    expect(pieces.map((p) => p.kind)).toEqual(['full', 'cut', 'cut'])
    expect((pieces[1]?.length ?? 0) / 0.15).toBeCloseTo(Math.round((pieces[1]?.length ?? 0) / 0.15), 9)
  })
  test('any run is filled without gap or overlap; only a run narrower than a mat may be breaks a rule', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.3, max: 60, noNaN: true }), (length) => {
        const { pieces, broken } = lay(length)
        let at = 0
        for (const p of pieces) {
          expect(p.at).toBeCloseTo(at, 6)
          at += p.length
          if (!broken) expect(p.length).toBeGreaterThan(0.6 - 1e-6)
          expect(p.length).toBeLessThan(2.6 + 1e-6)
        }
        expect(at).toBeCloseTo(length, 6)
        expect(broken !== undefined).toBe(length < 0.6 - 1e-6)
      }),
      { numRuns: 300 },
    ))
})

describe('its part of the plan', () => {
  const bad = (mats: readonly Mat[], more: object = {}) => {
    const plan = started('wire', tall)
    const read = readPlan({ ...plan, ...more, system: { id: 'wire', data: { ...(plan.system.data as object), mats } } })
    return read.ok ? [] : read.problems.map((p) => `${p.field}: ${plain(p.message)}`)
  }
  const [one] = MATS as [Mat]
  test('mats begin at course 1, do not stand twice, name a section that is there and fit the cut', () => {
    expect(bad([{ ...one, from: 2 }])).toEqual([expect.stringMatching(/data.mats: no mat begins at course 1/)])
    expect(bad([one, one])).toEqual([expect.stringMatching(/mats\[1\].from: .*already/)])
    expect(bad([one, { ...one, section: 'Z' }])).toEqual([expect.stringMatching(/mats\[1\].section: there is no section Z/)])
    expect(bad([{ ...one, length: 1.51 }])).toEqual([
      expect.stringMatching(/mats\[0\].length: 1.51 m of mat does not fit: the excavation gives 1.50 m/),
    ])
    expect(bad(MATS)).toEqual([])
  })
  test('a culvert wider than its section is refused', () => {
    const openings = [{ name: 'Culvert', station: 5, width: 11, bottom: 10, height: 0.8 }]
    expect(bad(MATS, { openings })).toContainEqual(expect.stringMatching(/openings: Culvert is 11 m wide, wider than section A/))
  })
  test('a mat of a section goes before one of all, and of them the one that begins nearest below', () => {
    const size = (course: number, section?: string) =>
      wire.size?.({ mats: [...MATS, { from: 2, section: 'B', type: 'extra', length: 2.2, wire: 0.01 }] }, 'length', { course, section })
    expect([size(1), size(2), size(3), size(9), size(1, 'B'), size(2, 'B'), size(4, 'B')]).toEqual([1.5, 1.5, 1.4, 1.4, 1.5, 2.2, 2.2])
  })
  test('the section shows every mat as long as it is; the inside has no verdict without figures', () => {
    const layout = startedLayout('wire', tall, withMats() as never)
    for (const c of sectionAt(layout, 5).courses)
      expect(wire.outline(layout.plan.system.data, c.course).lines?.[0]?.[0]).toEqual([c.course < 3 ? 1.5 : 1.4, 0])
    expect(plain(layout.cautions.find((c) => c.id === 'inside')?.message)).toMatch(/no verdict here/)
  })
  test('mats, backing mats with their halves, caps and clips are counted', () => {
    const layout = startedLayout('wire', tall, withMats() as never)
    const q = (id: string) => quantities(layout).find((x) => x.id === id)?.value
    const courses = layout.courses.length
    // Four whole mats a course of 10.4 m: three gaps, two halves.
    expect([q('mat-long'), q('mat-short'), q('backing'), q('backing-half'), q('cap-mats')]).toEqual([
      8,
      4 * (courses - 2),
      3 * courses,
      2 * courses,
      4,
    ])
    expect(q('clips')).toBe(Math.ceil((10.4 / 0.45) * 2 * courses))
    expect(q('pad')).toBeUndefined()
  })
})

describe('the record', () => {
  const site = () => new Site(started('wire', tall, withMats() as never))
  const judged = (measured: { id: string; value: number }[], course = 1) => {
    const s = site()
    const e = entry('check', { stage: 'mats', section: 'A', course }, { confirmed: [], measured })
    const floor = s.work('services').work('set-out').release('set-out').work('dig', 'A').work('subgrade', 'A').release('subgrade', 'A')
    floor.work('pad-level', 'A').release('pad-level', 'A').work('units', 'A', 1)
    if (course > 1) throw new Error('only the first is laid here')
    floor.put(e)
    return plain(floor.state.outs.get(e.id)?.text) ?? ''
  }
  test('a mat shortened, a thin wire, a wire into the fill that was cut: findings, each with what is wanted there', () => {
    expect(judged([{ id: 'length', value: 1.49 }])).toMatch(/shortest mat.*1490 mm, at least 1500 mm/)
    expect(judged([{ id: 'length', value: 1.5 }])).toBe('')
    expect(judged([{ id: 'wire', value: 0.007 }])).toMatch(/thinnest wire.*at least 8 mm/)
    expect(judged([{ id: 'into', value: 1 }])).toMatch(/wires into the fill that were cut 1, at most 0/)
    expect(judged([{ id: 'clips', value: 0.5 }])).toMatch(/at most 450 mm/)
  })
  test('fill over its best moisture is a finding', () => {
    const s = site().work('services').work('set-out').release('set-out').work('dig', 'A').work('subgrade', 'A').release('subgrade', 'A')
    s.work('pad-level', 'A').release('pad-level', 'A').work('units', 'A', 1).work('mats', 'A', 1).release('mats', 'A', 1)
    s.work('invert', 'A', 1).work('drain', 'A', 1).release('drain', 'A', 1).work('cover', 'A', 1)
    const [lift] = good(s.step('backfill', 'A', 1))
    if (!lift) throw new Error('no lift')
    s.put({ ...lift, data: { ...(lift.data as object), squeeze: 'print' } })
    expect(plain([...s.state.outs.values()][0]?.text)).toMatch(/Over its best moisture/)
  })
  test('a fourth mat course waits for the toe berm; a section of fewer has it on its last', () => {
    const layout = layoutOf(started('wire', tall, withMats() as never))
    const { order } = build(layout)
    expect(order.indexOf('berm|A|3')).toBeLessThan(order.indexOf('units|A|4'))
    expect(order.filter((k) => k.startsWith('berm'))).toEqual(['berm|A|3'])
    expect(order[order.length - 1]).toBe('final||')
    expect(order).toContain('void|A|2')
    expect(order.some((k) => k.startsWith('pad|'))).toBe(false)
    expect(layout.cells.has(cellKey('A', 4))).toBe(true)
    const low = build(
      startedLayout('wire', {
        grades: [
          { station: 0, toe: 10, top: 10.5 },
          { station: 9.6, toe: 10, top: 10.5 },
        ],
      }),
    ).order
    expect(low.filter((k) => k.startsWith('berm')).length).toBe(1)
  })
})
test('where the top steps a corner mat is counted, and none where it is level', () => {
  const stepped = startedLayout(
    'wire',
    {
      ...tall,
      grades: [
        { station: 0, toe: 10, top: 11 },
        { station: 5, toe: 10, top: 11 },
        { station: 5.2, toe: 10, top: 11.9 },
        { station: 10.4, toe: 10, top: 11.9 },
      ],
    },
    withMats() as never,
  )
  expect(stepped.tops.length).toBeGreaterThan(1)
  expect(quantities(stepped).find((q) => q.id === 'corner-mats')?.value).toBe(stepped.tops.length - 1)
  expect(quantities(startedLayout('wire', tall, withMats() as never)).some((q) => q.id === 'corner-mats')).toBe(false)
})
test('at an angle the mats beside it are cut along the wall and bent; nothing else of the run changes', () => {
  const run = { length: 7.8, course: 1, onPad: true, startTurn: 0, endTurn: 0.5, below: [] }
  const kinds = (start: 'free' | 'outside-corner', end: 'free' | 'inside-corner') =>
    wire.lay({ ...run, start, end }, part()).pieces.map((p) => p.kind)
  expect(kinds('free', 'free')).toEqual(['full', 'full', 'full'])
  expect(kinds('free', 'inside-corner')).toEqual(['full', 'full', 'mitre'])
  expect(kinds('outside-corner', 'inside-corner')).toEqual(['mitre', 'full', 'mitre'])
})
test('an opening wider than its section is refused whatever the wall is built of', () => {
  const plan = {
    ...started('hollow-core', {
      sections: [
        { id: 'A', from: 0, to: 1 },
        { id: 'B', from: 1, to: 9.6 },
      ],
    }),
    openings: [{ name: 'Culvert', station: 0.6, width: 1.1, bottom: 10, height: 0.4 }],
  }
  expect(misplaced(layoutOf(plan)).map((p) => `${p.field}: ${plain(p.message)}`)).toContainEqual(
    expect.stringMatching(/openings\[0\].width: Culvert is 1.1 m wide, wider than section A/),
  )
})
