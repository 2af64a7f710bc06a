import {
  admit,
  advance,
  baseSteps,
  type Entry,
  emptyState,
  exposedHeight,
  gridPlaced,
  type Layout,
  layOut,
  misplaced,
  nextStep,
  onPad,
  openFindings,
  type EarlierPlan as Plan,
  progressOf,
  readPlan,
  sectionAt,
  toeAt,
  topAt,
} from '@stone-tally/core'
import fc from 'fast-check'
import { plans } from './any-plan'
import { build, good } from './build'
import { built, entry, layoutOf, NOW, plain, SIGNED, smallPlan } from './plans'

describe('any wall a person could plan', () => {
  const each = (check: (layout: Layout, plan: Plan) => void) =>
    fc.assert(
      fc.property(plans, (plan) => {
        expect(readPlan(plan)).toMatchObject({ ok: true })
        const laid = layOut(built(plan))
        if (!laid.ok) throw new Error(JSON.stringify(laid.problems))
        check(laid.value, plan)
      }),
      { numRuns: 60 },
    )

  test('is buried everywhere, reaches its top grade everywhere, and steps in whole courses', () =>
    each((layout, plan) => {
      for (let s = 0.05; s < plan.length; s += plan.length / 37) {
        const section = sectionAt(layout, s)
        expect(toeAt(layout.plan, s) - section.pad.top).toBeGreaterThanOrEqual(layout.buried.depth - 1e-6)
        const top = layout.tops.find((t) => s >= t.start && s <= t.end)
        expect((top?.elevation ?? 0) + plan.unit.capHeight).toBeGreaterThanOrEqual(topAt(layout.plan, s) - 1e-6)
      }
      const base = layout.steps[0]?.elevation ?? 0
      for (const step of [...layout.steps, ...layout.tops]) {
        const courses = (step.elevation - base) / plan.unit.height
        expect(Math.abs(courses - Math.round(courses))).toBeLessThan(1e-4)
      }
    }))
  test('has courses without holes from the pad to the top at every station', () =>
    each((layout, plan) => {
      for (let s = 0.05; s < plan.length; s += plan.length / 23) {
        const { courses, pad } = sectionAt(layout, s)
        courses.forEach((c, i) => expect(c.bottom).toBeCloseTo(i === 0 ? pad.top : (courses[i - 1]?.top ?? 0), 5))
      }
    }))
  test('sections share the pieces of every course between them, each piece once', () =>
    each((layout) => {
      for (const course of layout.courses) {
        const cells = [...layout.cells.values()].filter((c) => c.course === course.course)
        const length = cells.flatMap((c) => c.pieces).reduce((sum, p) => sum + p.length, 0)
        expect(length).toBeCloseTo(
          course.stretches.reduce((sum, x) => sum + x.to - x.from, 0),
          3,
        )
      }
    }))
  test('deeper embedment never raises the pad', () =>
    each((layout, plan) => {
      const deeper = layoutOf({ ...plan, embedment: [{ kind: 'fixed', depth: 0.5 }] })
      const lowest = (l: Layout) => Math.min(...l.steps.map((x) => x.elevation))
      expect(lowest(deeper)).toBeLessThan(lowest(layout) + 1e-6)
    }))
  test('the pad is no worse than one level pad', () =>
    each((layout, plan) => {
      const stepped = baseSteps({
        datum: 9,
        minEmbedment: 0.2,
        minRun: plan.pad.minRun,
        unit: plan.unit,
        profile: plan.grades.map((g) => ({ station: g.station, toe: g.toe })),
      })
      const level = baseSteps({
        datum: 9,
        minEmbedment: 0.2,
        minRun: 1000,
        unit: plan.unit,
        profile: plan.grades.map((g) => ({ station: g.station, toe: g.toe })),
      })
      expect(stepped.ok && level.ok && stepped.value.buriedArea <= level.value.buriedArea + 1e-6).toBe(true)
      expect(exposedHeight(layout.plan)).toBeGreaterThan(0)
    }))
})

describe('building a whole wall step by step', () => {
  test('the next step is always open, and the last one is the final', () => {
    const layout = layoutOf()
    const { state, order } = build(layout)
    expect(order[0]).toBe('services||')
    expect(order[order.length - 1]).toBe('final||')
    expect(order).toHaveLength(state.steps.length)
    expect(new Set(order).size).toBe(order.length)
    expect(openFindings(state)).toEqual([])
    for (const cell of layout.cells.values()) {
      expect(progressOf(state, cell.section, cell.course)).toEqual({
        set: cell.pieces.length,
        planned: cell.pieces.length,
        filled: true,
        changed: false,
        open: false,
      })
    }
    expect(gridPlaced(state, 'B', 2)).toBe(true)
    expect(gridPlaced(state, 'B', 3)).toBe(false)
  })
  test('a section end that leaves a sliver of a course gives it to the neighbour', () => {
    const layout = layoutOf({
      ...smallPlan,
      length: 22.3,
      grades: [
        { station: 0, toe: 10, top: 10.6 },
        { station: 22.3, toe: 9.7, top: 10.3 },
      ],
      pad: { ...smallPlan.pad, minRun: 0 },
      drain: { ...smallPlan.drain, outlets: [{ station: 22.3, invert: 9 }] },
      grid: [],
      sections: [
        { id: 'A', from: 0, to: 7.4333 },
        { id: 'B', from: 7.4333, to: 22.3 },
      ],
    })
    expect(layout.cells.has('A/1')).toBe(false)
    expect(layout.cells.get('A/2')).toMatchObject({ first: true })
    expect(nextStep(build(layout).state)).toBeUndefined()
  })
  test('the same is true of any wall', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        const layout = layoutOf(plan)
        // A plan that asks for a layer nowhere is stopped before digging.
        fc.pre(misplaced(layout).length === 0)
        const { state } = build(layout)
        expect(nextStep(state)).toBeUndefined()
      }),
      { numRuns: 25 },
    )
  })
  test('skipping ahead is refused at every step that is not next and not beside it', () => {
    const layout = layoutOf()
    const state = emptyState([layout])
    const first = nextStep(state)
    for (const step of state.steps) {
      if (step.key === first?.key) continue
      const judged = admit(state, good(step)[0] as Entry, NOW)
      // The setback and level of an unset course, a lift on unfilled stone: nothing but the very first is open on a bare site.
      expect([step.key, judged.ok]).toEqual([step.key, false])
    }
  })
  test('a finding anywhere keeps the final closed, whatever else is done', () => {
    const layout = layoutOf()
    const { state } = build(layout)
    const where = { stage: 'level', section: 'A', course: 4, station: 1.5 }
    const later = advance(state, { seq: 100_000, receivedAt: '', entry: entry('reading', where, { method: 'deviation', value: 0.03 }) })
    const again = admit(
      later,
      entry('release', { stage: 'final' }, { decision: 'released', reason: 'again', signature: SIGNED }, { role: 'inspector' }),
      NOW,
    )
    expect(again).toMatchObject({ ok: false, problems: [{ message: '1 nonconformances are open; close them first' }] })
  })
  test('a course on the pad takes the first-course limit at every pad step', () => {
    const layout = layoutOf()
    const second = layout.courses[1]
    if (!second) throw new Error('no second course')
    expect(onPad(layout, second, 1)).toBe(true)
    const state = emptyState([layout])
    const reading = (station: number, course: number) => {
      const e = entry('reading', { stage: 'level', section: station < 4.5 ? 'A' : 'B', course, station }, { method: 'deviation', value: 0.004 })
      return advance(state, { seq: 1, receivedAt: '', entry: e }).outs.get(e.id)?.text
    }
    expect(plain(reading(1, 2))).toMatch(/limit ±3 mm/)
    expect(reading(8, 3)).toBeUndefined()
  })
})
