// All cuts of a saw day on one list: whole units, off-cuts, angles, what is done and what a changed plan makes wrong.
import { type CutPiece, cutList, fold, type SawCut, sawDay } from '@stone-tally/core'
import fc from 'fast-check'
import { entry, layoutOf, plain, recorded, smallPlan } from './plans'
import { Site } from './site'
import { at, planOn, unitNamed } from './walls'

const odd = planOn([at(0, 0), at(7.13, 0), at(7.13, 4.21)], false, {
  system: 'glued',
  unit: unitNamed('flat-75'),
  grades: [
    { station: 0, toe: 10, top: 10.3 },
    { station: 11.34, toe: 10, top: 10.3 },
  ],
  drain: { ...smallPlan.drain, outlets: [{ station: 0, invert: 9.8 }] },
})
const state = (plan = odd, entries: Parameters<typeof recorded>[0] = []) => fold([layoutOf(plan)], recorded(entries))
const sawn = (c: SawCut, more: object = {}) =>
  entry('sawn', { section: c.section, course: c.course, station: c.station }, { length: c.length, kind: c.kind, ...more }, { role: 'crew' })

describe('the list', () => {
  const day = sawDay(state())
  test('is every cut and every mitre of the wall, once', () => {
    const pieces = [...layoutOf(odd).cells.values()].flatMap((c) => c.pieces)
    expect(day.cuts.filter((c) => c.kind === 'mitre')).toHaveLength(pieces.filter((p) => p.kind === 'mitre').length)
    const listed = cutList(layoutOf(odd)).pieces
    expect(day.cuts.filter((c) => c.kind !== 'mitre').map((c): CutPiece => ({ course: c.course, station: c.station, length: c.length }))).toEqual(
      expect.arrayContaining([...listed]),
    )
    expect(new Set(day.cuts.map((c) => c.key)).size).toBe(day.cuts.length)
  })
  test('takes no more whole units than the cut list, and a whole one for each mitre', () => {
    const mitres = day.cuts.filter((c) => c.kind === 'mitre').length
    expect(mitres).toBeGreaterThan(0)
    expect(day.units).toBe(cutList(layoutOf(odd)).units.length + mitres)
    // What comes out of one unit fits into it.
    const units = new Map<number, number>()
    for (const c of day.cuts) units.set(c.unit, (units.get(c.unit) ?? 0) + c.length)
    for (const length of units.values()) expect(length).toBeLessThanOrEqual(0.3 + 1e-9)
    for (const unit of units.keys()) expect(day.cuts.filter((c) => c.unit === unit && !c.offcut)).toHaveLength(1)
  })
  test('a mitre of a right angle is cut at half of it, its finished end kept away from the corner', () => {
    for (const c of day.cuts.filter((x) => x.kind === 'mitre')) {
      expect((((c.angle ?? 0) * 180) / Math.PI).toFixed(3)).toBe('45.000')
      expect(c.keep).toBe(c.station > 7.13 - 1e-6 ? 'right' : 'left')
    }
  })
  test('courses chosen, a section chosen', () => {
    expect(sawDay(state(), { from: 2, to: 3 }).cuts.every((c) => c.course === 2 || c.course === 3)).toBe(true)
    expect(sawDay(state(), { from: 2, to: 2 }).cuts.length + sawDay(state(), { to: 1 }).cuts.length + sawDay(state(), { from: 3 }).cuts.length).toBe(
      day.cuts.length,
    )
    expect(sawDay(state(), { section: 'Z' })).toMatchObject({ cuts: [], units: 0, astray: [] })
  })
  test('any straight wall: pieces of a unit never exceed it, and each is cut once', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1500, max: 9000 }), (mm) => {
        const length = mm / 1000
        const { cuts } = sawDay(
          state({
            ...smallPlan,
            length,
            grades: [
              { station: 0, toe: 10, top: 11 },
              { station: length, toe: 10, top: 11 },
            ],
            sections: [{ id: 'A', from: 0, to: length }],
            drain: { ...smallPlan.drain, outlets: [{ station: 0, invert: 9.6 }] },
            grid: [],
          }),
        )
        const units = new Map<number, number>()
        for (const c of cuts) units.set(c.unit, (units.get(c.unit) ?? 0) + c.length)
        for (const long of units.values()) expect(long).toBeLessThanOrEqual(0.45 + 1e-9)
        expect(cuts.every((c) => c.unit > 0)).toBe(true)
      }),
      { numRuns: 25 },
    ))
})

describe('ticked off', () => {
  test('what is cut is done; struck out it is to be cut again; a piece is ticked once', () => {
    const [first, second] = sawDay(state()).cuts as [SawCut, SawCut]
    const site = new Site(odd)
    site.put(sawn(first))
    expect(
      sawDay(site.state)
        .cuts.filter((c) => c.done)
        .map((c) => c.key),
    ).toEqual([first.key])
    const done = site.entries[site.entries.length - 1]
    site.put(entry('strike', {}, { reason: 'Ticked by mistake.' }, { supersedes: done?.id }))
    expect(sawDay(site.state).cuts.filter((c) => c.done)).toEqual([])
    site.put(sawn(second)).put(sawn(second))
    expect(sawDay(site.state).cuts.filter((c) => c.done)).toHaveLength(1)
    expect(sawDay(site.state).astray).toHaveLength(1)
  })
  test('a changed plan: what still fits stays done, what does not is named with what is wanted now', () => {
    const cuts = sawDay(state()).cuts
    const cut = cuts.find((c) => c.kind === 'cut') as SawCut
    const near = { ...cut, length: cut.length + 0.0029 }
    const far = { ...cut, length: cut.length + 0.0032 }
    expect(sawDay(state(odd, [sawn(near)])).astray).toEqual([])
    expect(plain(sawDay(state(odd, [sawn(far)])).astray[0]?.message)).toMatch(/: the plan in force wants 0\.\d+ m there/)
    expect(plain(sawDay(state(odd, [sawn({ ...cut, course: 99 })])).astray[0]?.message)).toMatch(/nothing is cut there any more/)
    expect(sawDay(fold([layoutOf(odd), layoutOf(smallPlan)], recorded([sawn(cut)]))).astray).toHaveLength(1)
  })
  test('the office cuts nothing', () => {
    const [first] = sawDay(state()).cuts as [SawCut]
    expect(new Site(odd).refusal({ ...sawn(first), by: { id: 'o', name: 'Olu', role: 'office' } })).toMatch(/the office may not record this \(sawn\)/)
  })
})
