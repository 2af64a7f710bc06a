// Edges of the record that nothing else would notice: what exactly is a gap, a boundary of time, which barrier is said once.
import {
  admit,
  barriers,
  compareLayouts,
  drainPlan,
  fold,
  issued,
  linesOf,
  type Plan,
  stepKey,
  targetAt,
  uncovered,
  unmatched,
  verdictOf,
  weatherAt,
} from '@stone-tally/core'
import { covers } from '../src/record/kinds/kind'
import { ENGINEERED, entry, layoutOf, NOW, plain, recorded, smallPlan, stateOf } from './plans'
import { Site } from './site'
import { at, planOn, unitNamed } from './walls'

describe('what a list leaves uncovered', () => {
  const of = (laid: { from?: number; to?: number }[]) => uncovered({ from: 0, to: 9 }, laid)
  test('a gap between two, before the first and after the last, each as long as it is', () => {
    expect(
      of([
        { from: 1, to: 3 },
        { from: 4, to: 7 },
      ]),
    ).toEqual([
      { from: 0, to: 1 },
      { from: 3, to: 4 },
      { from: 7, to: 9 },
    ])
  })
  test('five centimetres are no gap, more are; what overlaps counts once; no ends mean all of it', () => {
    expect(
      of([
        { from: 0, to: 4 },
        { from: 4.05, to: 9 },
      ]),
    ).toEqual([])
    expect(
      of([
        { from: 0, to: 4 },
        { from: 4.06, to: 9 },
      ]),
    ).toEqual([{ from: 4, to: 4.06 }])
    expect(
      of([
        { from: 0, to: 6 },
        { from: 2, to: 3 },
        { from: 6, to: 8.94 },
      ]),
    ).toEqual([{ from: 8.94, to: 9 }])
    expect(of([{ from: 0, to: 8.95 }])).toEqual([])
    expect(of([{}])).toEqual([])
    expect(of([])).toEqual([{ from: 0, to: 9 }])
  })
  test('what lies beyond the section says nothing of it, whatever order it came in', () => {
    expect(
      of([
        { from: 9, to: 12 },
        { from: 0, to: 5 },
      ]),
    ).toEqual([{ from: 5, to: 9 }])
    expect(
      of([
        { from: 8, to: 12 },
        { from: 0, to: 5 },
      ]),
    ).toEqual([{ from: 5, to: 8 }])
  })
})

test('the first moment of 2000 is a time, the one before it a broken clock', () => {
  const said = (when: string) => {
    const judged = admit(stateOf([]), entry('note', {}, { text: 'x' }, { at: when }), NOW)
    return judged.ok ? '' : (judged.problems[0]?.message ?? '')
  }
  expect(said('2000-01-01T00:00:00.000Z')).toBe('')
  expect(said('1999-12-31T23:59:59.999Z')).toMatch(/before 2000/)
})

test('a layer that is missing is said once, not once for each thing it lacks', () => {
  const site = new Site().toBackfill()
  site.work('units', 'B', 2).work('level', 'B', 2).work('setback', 'B', 2).work('joints', 'B', 2).work('fill', 'B', 2).work('backfill', 'B', 2)
  const list = barriers(site.state, site.step('units', 'B', 3))
  expect(list.filter((b) => b.step?.stage.id === 'grid')).toHaveLength(1)
  expect(list.map((b) => b.force)).toEqual(['hard'])
})

test('only the pad is read across', () => {
  const layout = layoutOf()
  const stage = (id: string) => layout.system.stages.find((s) => s.id === id) as never
  expect(linesOf(layout, stage('dig'))).toEqual([])
  expect(linesOf(layout, stage('level'))).toEqual([])
  expect(linesOf(layout, stage('services'))).toEqual([])
  expect(linesOf(layout, stage('pad-level'))).toHaveLength(2)
})

test('a target that moved says which way', () => {
  const read = entry('reading', { stage: 'dig', section: 'B', station: 6 }, { method: 'deviation', value: 0 })
  const moved = (toe: number) => {
    const next = { ...smallPlan, grades: smallPlan.grades.map((g) => ({ ...g, toe: g.toe + toe })) }
    const by = targetAt(layoutOf(next), 'dig', { station: 6 }) - targetAt(layoutOf(), 'dig', { station: 6 })
    const state = fold([layoutOf(), layoutOf(next)], recorded([read, entry('revision', {}, { number: 2, plan: 'x' })]))
    return [Math.sign(by), plain(unmatched(state).map((u) => u.message)).join()] as const
  }
  expect(moved(-0.2)).toEqual([-1, expect.stringMatching(/lower/)])
  expect(moved(0.2)).toEqual([1, expect.stringMatching(/higher/)])
})

test('a cut without a station is judged where the wall begins', () => {
  const layout = layoutOf(issued({ ...smallPlan, ...ENGINEERED }) as never)
  const state = fold([layout], [])
  const cut = (station?: number) =>
    verdictOf(
      state,
      entry(
        'cut',
        { stage: 'dig', section: 'A', ...(station === undefined ? {} : { station }) },
        { slope: 0.5, water: false, spoil: 1, plant: 1.5, ladder: 6, by: 'Mara Quill' },
      ),
    )?.text
  expect(cut()).toBe(cut(0))
})

test('run along: exactly at the limit is within it, a tenth of a millimetre past it is not, and then it has a place', () => {
  const site = new Site().toBackfill().work('units', 'B', 2)
  const run = (worst: number, station?: number) =>
    entry('sighting', { stage: 'level', section: 'B', course: 2, ...(station === undefined ? {} : { station }) }, { worst }, { role: 'crew' })
  expect(site.refusal(run(0.006))).toBe('')
  expect(site.refusal(run(-0.006))).toBe('')
  expect(site.refusal(run(0.0062))).toMatch(/say where/)
  expect(site.refusal(run(0.0062, 6))).toBe('')
})

test('where the pipe stands above the ground in front both ends of the stretch are named', () => {
  // One outlet, low ground in the middle of the wall.
  const plan = {
    ...smallPlan,
    grades: [
      { station: 0, toe: 10.3, top: 11.3 },
      { station: 4, toe: 10, top: 11.3 },
      { station: 6, toe: 10, top: 11.3 },
      { station: 9, toe: 10.3, top: 11.3 },
    ],
    drain: { ...smallPlan.drain, outlets: [{ station: 9, invert: 10.0 }] },
  }
  const words = plain(drainPlan(layoutOf(plan))?.cautions ?? []).find((c) => c.includes('above the ground'))
  expect(words).toMatch(/^Between (\d+\.?\d*) m and (\d+\.?\d*) m the pipe stands up to \d+ mm above the ground in front/)
  const [, from, to] = /^Between (\d+\.?\d*) m and (\d+\.?\d*) m/.exec(words ?? '') ?? []
  expect(Number(from)).toBeLessThanOrEqual(4)
  expect(Number(to)).toBeGreaterThanOrEqual(6)
})

test('a point of the drawing that is set on a course where there is none is refused, each with why', () => {
  const of = (where: object): string => {
    const plan = issued({
      ...smallPlan,
      ...ENGINEERED,
      rules: { added: [{ id: 'client', title: 'Client looks', kind: 'hold', roles: ['inspector'], why: 'the contract', at: where }] },
    } as never)
    return plain(
      layoutOf(plan)
        .cautions.filter((c) => c.id.startsWith('misplaced'))
        .map((c) => c.message),
    ).join()
  }
  expect(of({ stage: 'pad', section: 'A', course: 1 })).toMatch(/Pad lifts is not done course by course/)
  expect(of({ stage: 'units', section: 'A', course: 99 })).toMatch(/no course 99 in section A/)
  expect(of({ stage: 'units', section: 'A', course: 3 })).toBe('')
  expect(of({ stage: 'units', section: 'Z', course: 3 })).toMatch(/no section Z/)
  expect(of({ stage: 'moat' })).toMatch(/not a stage/)
  expect(of({ stage: 'units', section: 'A', station: 9.1 })).toMatch(/beyond the wall/)
})

test('caps of a ring are as long together as its top, each under its own middle', () => {
  const quarter = Math.tan(Math.PI / 8)
  const bent = planOn([at(0, 0), at(6, 0, quarter), at(9, 3), at(9, 9)], false, { unit: { ...unitNamed('lip-150'), capTaper: 8 } })
  const { caps } = layoutOf(bent)
  const kinds = caps.map((c) => c.kind === 'tapered')
  // One stretch of tapered ones, with no straight one in it.
  const [first, last] = [kinds.indexOf(true), kinds.lastIndexOf(true)]
  expect(kinds.slice(first, last + 1).every(Boolean)).toBe(true)
  const bend = [6, 6 + (3 * Math.PI) / 2] as const
  const middle = (i: number) => ((caps[i]?.start ?? 0) + (caps[i]?.to ?? 0)) / 2
  expect(middle(first - 1)).toBeLessThan(bend[0] + 0.12)
  expect(middle(first)).toBeGreaterThan(bend[0] - 0.12)
  expect(middle(last)).toBeLessThan(bend[1] + 0.12)
  expect(middle(last + 1)).toBeGreaterThan(bend[1] - 0.12)
})

test('nothing changed is no change', () => {
  const plan: Plan = issued({ ...smallPlan, ...ENGINEERED }) as never
  expect(compareLayouts(layoutOf(plan), layoutOf(plan))).toEqual([])
  expect(stepKey({ stage: 'units', section: 'B', course: 2 })).toBe('units|B|2')
})

describe('a docket that came twice', () => {
  const came = (docket: string, supplier?: string, item = 'a') =>
    entry('delivery', {}, { item, name: 'Blocks', unit: 'pieces', amount: 60, docket, ...(supplier === undefined ? {} : { supplier }) })
  const first = came('D-17', 'Quarry at the ford')
  const refused = (e: ReturnType<typeof entry>) => {
    const judged = admit(stateOf([first]), e, NOW)
    return judged.ok ? '' : plain(judged.problems[0]?.message)
  }
  test('is refused however it is written, and named by its number', () => {
    expect(refused(came(' d-17 ', 'quarry at the FORD '))).toMatch(/^docket d-17 of Blocks is in the record already, as no\. 1, by Fay/)
    expect(refused(came('D-17', 'Quarry at the ford'))).toMatch(/is in the record already/)
  })
  test('of another supplier, of none, of another item or with another number it is another', () => {
    expect(refused(came('D-17', 'Pit on the hill'))).toBe('')
    expect(refused(came('D-17'))).toBe('')
    expect(refused(came('D-17', 'Quarry at the ford', 'b'))).toBe('')
    expect(refused(came('D-18', 'Quarry at the ford'))).toBe('')
  })
})

describe('a re-check by stretches', () => {
  const found = { from: 2, to: 6 }
  test('takes in all of what was found, give or take five centimetres; the field that is short is named', () => {
    for (const now of [{}, { from: 2, to: 6 }, { from: 2.05, to: 5.95 }, { from: 0, to: 9 }, { to: 6 }, { from: 2 }])
      expect(covers(now, found)).toBeUndefined()
    expect(covers({ from: 2.06, to: 6 }, found)?.field).toBe('data.from')
    expect(covers({ from: 2, to: 5.94 }, found)?.field).toBe('data.to')
    expect(plain(covers({ from: 3, to: 5 }, found))).toEqual({
      field: 'data.from',
      message: 'a re-check takes in all of 2 m to 6 m, where the finding is',
    })
    expect(plain(covers({ from: 3 }, {})?.message)).toBe('a re-check takes in all of the section, where the finding is')
    expect(covers({ to: 5 }, {})?.field).toBe('data.to')
  })
})

describe('what the weather means now', () => {
  const at = (hours: number) => new Date(Date.parse('2026-05-20T08:00:00Z') + hours * 3_600_000).toISOString()
  const frost = { low: -6, high: -2, rain: 0, wind: 3 }
  const state = stateOf([entry('weather', {}, frost), entry('weather', {}, { ...frost, expected: true })])
  test('a day is now, a minute more is old and says of which day it is', () => {
    expect(weatherAt(state, at(24)).cautions.length).toBeGreaterThan(0)
    expect(weatherAt(state, at(24)).old).toBeUndefined()
    expect(weatherAt(state, at(24.02))).toEqual({ cautions: [], old: '2026-05-20' })
    expect(weatherAt(stateOf([]), at(0))).toEqual({ cautions: [], old: undefined })
  })
})
