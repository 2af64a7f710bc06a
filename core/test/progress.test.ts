import {
  advance,
  courseSheet,
  emptyState,
  misplaced,
  nextStep,
  openFindings,
  type EarlierPlan as Plan,
  progressBook,
  progressOf,
  settled,
  statusOf,
  type WallState,
  waitingHolds,
} from '@stone-tally/core'
import fc from 'fast-check'
import { good } from './build'
import { entry, layoutOf, smallPlan } from './plans'
import { Site } from './site'
import { at, planOn, unitNamed } from './walls'

describe('progress kept from state to state', () => {
  const all = (state: WallState) => [...state.layout.cells.values()].map((c) => progressOf(state, c.section, c.course))
  test('is what it would be made anew, and only what was touched is another object', () => {
    const site = new Site().toBackfill()
    let state = emptyState([layoutOf()])
    let book = progressBook(state)
    const cells = [...state.layout.cells.values()]
    let before = cells.map((c) => book.of(c.section, c.course))
    let moved = 0
    site.entries.forEach((e, i) => {
      state = advance(state, { seq: i + 1, receivedAt: '', entry: e })
      book = progressBook(state, book)
      const after = cells.map((c) => book.of(c.section, c.course))
      expect(after).toEqual(all(state))
      after.forEach((p, k) => {
        if (p !== before[k]) {
          moved++
          expect([cells[k]?.section, cells[k]?.course]).toEqual([e.where.section, e.where.course])
        }
      })
      before = after
    })
    expect(moved).toBeGreaterThan(5)
  })
  test('an action or a re-check touches the course its finding is on', () => {
    const where = { stage: 'level', section: 'B', course: 2, station: 4.6 }
    const site = new Site().toBackfill().work('units', 'B', 2)
    const bad = entry('reading', where, { method: 'deviation', value: 0.02 })
    site.put(bad)
    let book = progressBook(site.state)
    expect(book.of('B', 2).open).toBe(true)
    site.put(
      entry('action', {}, { of: bad.id, cause: 'stone', action: 'swept' }),
      entry('reading', where, { method: 'deviation', value: 0 }, { recheckOf: bad.id }),
    )
    book = progressBook(site.state, book)
    expect(book.of('B', 2).open).toBe(false)
  })
  test('another plan starts a book of its own', () => {
    const site = new Site().toFirstCourse()
    const book = progressBook(site.state)
    expect(book.of('B', 1).set).toBe(10)
    expect(progressBook(emptyState([layoutOf()]), book).of('B', 1).set).toBe(0)
  })
  test('open findings and waiting holds are those that every step would name', () => {
    const site = new Site()
      .toFirstCourse()
      .put(entry('reading', { stage: 'level', section: 'B', course: 1, station: 6.75 }, { method: 'deviation', value: 0.009 }))
    const { state } = site
    expect(openFindings(state).map((f) => f.entry.id)).toEqual(state.steps.flatMap((s) => statusOf(state, s).open.map((f) => f.entry.id)))
    const holds = state.steps.filter((s) => s.stage.hold && statusOf(state, s).hold !== 'released' && settled(statusOf(state, s)))
    expect(waitingHolds(state)).toEqual(holds)
  })
})

/** Builds a wall as a crew does: the first courses step by step, every other one by its sheet. */
function raise(plan: Plan): { site: Site; sheets: number } {
  const site = new Site(plan)
  let sheets = 0
  for (let guard = 0; guard < 3000; guard++) {
    const step =
      plan.sections.map((s) => nextStep(site.state, s.id)).find((s) => s && !['finish', 'pour', 'final'].includes(s.stage.id)) ?? nextStep(site.state)
    if (!step) return { site, sheets }
    const sheet = step.section && step.course ? courseSheet(site.state, step.section, step.course) : undefined
    if (sheet && sheet.lines[0]?.step.key === step.key) {
      expect(sheet.barriers).toEqual([])
      sheets++
      for (const f of sheet.facts(0.002)) site.put(entry(f.kind, f.where, f.data))
      continue
    }
    site.put(...good(step))
    if (step.stage.hold) site.release(step.stage.id, step.section, step.course)
  }
  throw new Error('the wall was never finished')
}

describe('a wall raised by its sheets', () => {
  test('every fact of every sheet goes through the gates in its order, for any wall', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 20, max: 120 }),
        fc.integer({ min: 5, max: 16 }),
        fc.integer({ min: 1, max: 3 }),
        fc.uniqueArray(fc.integer({ min: 1, max: 6 }), { maxLength: 3 }),
        (length, height, parts, layers) => {
          const metres = length / 10
          const plan: Plan = {
            ...smallPlan,
            length: metres,
            grades: [
              { station: 0, toe: 10.3, top: 10.3 + height / 10 },
              { station: metres, toe: 10, top: 10.3 + height / 10 },
            ],
            drain: { ...smallPlan.drain, outlets: [{ station: metres, invert: 9 }] },
            grid: layers.map((course) => ({ course, length: 1.2, type: 'uniaxial 30' })),
            sections: Array.from({ length: parts }, (_, i) => ({
              id: String.fromCharCode(65 + i),
              from: (metres * i) / parts,
              to: (metres * (i + 1)) / parts,
            })),
          }
          fc.pre(misplaced(layoutOf(plan)).length === 0)
          const { site, sheets } = raise(plan)
          expect(openFindings(site.state)).toEqual([])
          expect(sheets).toBeGreaterThan(0)
          expect(site.entries.filter((e) => e.kind === 'geogrid').length).toBe(site.state.steps.filter((s) => s.stage.work.type === 'grid').length)
        },
      ),
      { numRuns: 20 },
    ))
  test('baskets too', () => {
    const basket = unitNamed('basket-2x1x1')
    const plan = planOn([at(0, 0), at(8, 0)], false, {
      system: 'gabion',
      unit: basket,
      pad: { ...smallPlan.pad, width: basket.depth + 0.4 },
      grades: [0, 8].map((station) => ({ station, toe: 10, top: 12.9 })),
      drain: { ...smallPlan.drain, outlets: [{ station: 0, invert: 9 }] },
      rules: { openCourses: 1 },
    })
    const { site, sheets } = raise(plan)
    expect(nextStep(site.state)).toBeUndefined()
    expect(sheets).toBeGreaterThan(0)
  })
})
