// A wall of a few courses of small stone: planned and recorded with what such a wall needs.
import { type Plan, type Question, quantities, readPlan, SYSTEMS, stepsOf, systemOf, type WallSystem } from '@stone-tally/core'
import { build } from './build'
import { layoutOf, plain } from './plans'
import { Site } from './site'
import { started, startedLayout } from './started'

type Part = Record<string, unknown>
const small = ((d: Part) => ({ ...d, small: 'yes' })) as never
const low = (top: number): Partial<Plan> => ({
  length: 6,
  grades: [
    { station: 0, toe: 10, top },
    { station: 6, toe: 10, top },
  ],
})
const perCourse = (layout: ReturnType<typeof layoutOf>) => stepsOf(layout).filter((s) => s.course !== undefined).length / layout.courses.length

describe.each(['landscape', 'glued'])('%s', (id) => {
  const unit = (systemOf(id) as WallSystem).units[0] as WallSystem['units'][number]
  const top = 10 + unit.height * 2.4
  test('takes a quarter of the steps a course of a big wall takes, and is built to its final', () => {
    const layout = startedLayout(id, low(top), small)
    const big = startedLayout('hollow-core')
    expect(layout.courses.length).toBe(3)
    expect(perCourse(layout)).toBeLessThanOrEqual(perCourse(big) / 4)
    const whole = (l: typeof layout) => stepsOf(l).filter((s) => s.course === undefined).length
    expect(whole(layout)).toBeLessThan(whole(big))
    const { order } = build(layout)
    expect(order).toEqual(['services||', 'set-out||', 'base|A|', 'units|A|1', 'units|A|2', 'units|A|3', 'fill|A|3', 'finish||', 'final||'])
  })
  test('is asked a quarter of the questions', () => {
    const { questions } = systemOf(id) as WallSystem
    const asked = (part: Record<string, string>) =>
      questions.filter(
        (q: Question) => (!q.when || q.when.is.includes(part[q.when.question] ?? '')) && !q.unless?.is.includes(part[q.unless.question] ?? ''),
      ).length
    expect(asked({ small: 'yes' })).toBeLessThanOrEqual(asked({ small: 'no', padMaterial: 'dense-graded' }) / 4)
  })
  test('stands on sand, half a course in the ground, without pipe or stone', () => {
    const layout = startedLayout(id, low(top), small)
    expect([layout.building.foundation.kind, layout.building.drain, layout.building.stone]).toEqual(['sand', undefined, undefined])
    expect(quantities(layout).find((q) => q.id === 'pad')?.value).toBeCloseTo(6 * (unit.depth + 0.2) * 0.025, 9)
    expect(quantities(layout).find((q) => q.id === 'stone')?.value).toBe(0)
  })
  test('higher than three courses it is none: refused, with what it needs then', () => {
    const plan = started(id, low(top), small)
    const raised = { ...plan, grades: plan.grades.map((g) => ({ ...g, top: 10 + unit.height * 2.6 })) }
    const read = readPlan(raised)
    expect(read.ok ? [] : read.problems.map((p) => `${p.field} ${plain(p.message)}`)).toEqual([
      expect.stringMatching(/^system.data.small .*over 3 courses.*needs a pad and a pipe/),
    ])
  })
  test('a stone wall of eight courses is an engineer’s', () => {
    const { engineer: _a, engineerBy: _b, ...plan } = started(id, low(10 + unit.height * 8))
    expect(plain(layoutOf(plan).cautions.find((c) => c.id === 'engineer')?.message)).toMatch(/courses of (small|flat) stone high; over 7/)
  })
  test('nobody digs before the line is verified, no course before the one below is set', () => {
    const site = new Site(started(id, low(top), small)).work('services').work('set-out')
    expect(() => site.work('base', 'A')).toThrow(/digging may not start/)
    site.release('set-out').work('base', 'A')
    expect(() => site.work('units', 'A', 2)).toThrow(/course below is not set through/)
  })
})
test('other systems are asked whatever they were asked', () => {
  for (const s of SYSTEMS) if (!['landscape', 'glued'].includes(s.id)) expect([s.id, s.questions.some((q) => q.unless)]).toEqual([s.id, false])
})
