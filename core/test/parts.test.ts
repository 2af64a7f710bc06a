import {
  answerIn,
  type Building,
  baseSteps,
  buildingOf,
  compareLayouts,
  drainPlan,
  evenCourses,
  issued,
  layOut,
  offsetOfCourse,
  type Plan,
  proposeOutlets,
  type Question,
  quantities,
  riseOf,
  rowsOf,
  SYSTEMS,
  sectionAt,
  staged,
  stakesOf,
  stepsOf,
  systemOf,
  trenchOf,
  type Unit,
  withAnswer,
  withAnswerTo,
} from '@stone-tally/core'
import fc from 'fast-check'
import { built, ENGINEERED, layoutOf, plain, smallPlan } from './plans'
import { Site } from './site'

/** A plan with other answers to its system's questions. */
const answered = (plan: Plan, answers: Record<string, unknown>): Plan => {
  const system = systemOf(plan.system.id)
  const made = Object.entries(answers).reduce((p, [q, a]) => withAnswerTo(p, q, a), plan)
  return { ...made, system: { ...made.system, data: system?.settle(made.system.data) } }
}
const small = built({ ...smallPlan, ...ENGINEERED })
const FOOTING = { padMaterial: 'footing', cover: 0.05, barCount: 3, barDiameter: 0.012, barLap: 0.5, barStock: 6 }

/** Asked, and answered by whoever wants them. */
const SCHOOLS_TO_ADD = new Set(['embedBase', 'embedPerMetre', 'embedCourses', 'rolls'])

describe('answers in a part', () => {
  const part = {
    embedment: [
      { kind: 'fixed', depth: 0.2 },
      { kind: 'courses', count: 1 },
    ],
    stone: { width: 0.3 },
  }
  test('are found and put, everything else as it was', () => {
    expect([answerIn(part, 'embedment[kind=fixed].depth'), answerIn(part, 'stone.width'), answerIn(part, 'drain.fall')]).toEqual([
      0.2,
      0.3,
      undefined,
    ])
    expect(withAnswer(part, 'embedment[kind=fraction].fraction', 0.1)).toEqual({
      ...part,
      embedment: [...part.embedment, { kind: 'fraction', fraction: 0.1 }],
    })
    expect(withAnswer(part, 'embedment[kind=fixed].depth', undefined)).toEqual({ ...part, embedment: [part.embedment[1]] })
    // What was taken out last takes what held it along.
    expect(withAnswer(part, 'stone.width', undefined)).toEqual({ embedment: part.embedment })
    expect(withAnswer(undefined, 'a.b[k=v].c', 1)).toEqual({ a: { b: [{ k: 'v', c: 1 }] } })
    expect(part).toEqual({
      embedment: [
        { kind: 'fixed', depth: 0.2 },
        { kind: 'courses', count: 1 },
      ],
      stone: { width: 0.3 },
    })
  })
  test.each(SYSTEMS.map((s) => [s.id, s] as const))(
    '%s: every question has its answer in what a new wall starts with, and its own name',
    (_id, s) => {
      const start = s.start(s.units[0] as Unit, { value: () => 0.5, school: () => 'dense-graded' })
      expect(new Set(s.questions.map((q) => q.id)).size).toBe(s.questions.length)
      // What is asked only after another answer has its own only there.
      const asked = ({ when }: Question) => !when || when.is.includes(`${answerIn(start, s.questions.find((x) => x.id === when.question)?.at ?? '')}`)
      for (const q of s.questions)
        if (asked(q) && !('optional' in q && (q.chapter === 'own' || SCHOOLS_TO_ADD.has(q.id))))
          expect([q.id, answerIn(start, q.at)]).not.toEqual([q.id, undefined])
      // What was asked by one question is what another finds: the part is a tree, not a list of texts.
      expect(s.compare(start, start)).toEqual([])
      expect(s.refit(start, 3)).toEqual(start)
    },
  )
  test('a new wall starts from the school of its company, never from a footing nobody planned', () => {
    const s = systemOf('hollow-core')
    const of = (school: string) => answerIn(s?.start(s.units[0] as Unit, { value: () => 0.5, school: () => school }), 'foundation.kind')
    expect(['open-graded', 'footing', 'straw'].map(of)).toEqual(['open-graded', 'dense-graded', 'dense-graded'])
  })
})

describe('a foundation is a thing of its own kind', () => {
  test('a footing: bars and pour instead of lifts, an engineer whatever the height, bars counted with their laps', () => {
    const plan = answered(small, FOOTING)
    const layout = layoutOf(issued(plan))
    expect(layout.system.stages.map((s) => s.id)).toEqual(expect.arrayContaining(['subgrade', 'bars', 'pad', 'pad-level']))
    const pad = layout.system.stages.find((s) => s.id === 'pad')
    expect([pad?.title, pad?.work.type, pad?.requires[0]?.stage]).toEqual(['Footing poured', 'check', 'bars'])
    expect(stepsOf(layout).some((s) => s.stage.work.type === 'lifts' && s.stage.work.of === 'pad')).toBe(false)
    const { engineer: _, ...unnamed } = issued(plan)
    expect(plain(layoutOf(unnamed).cautions.find((c) => c.id === 'ask-first'))?.message).toMatch(/stands on a reinforced footing/)
    // 9 m of footing out of bars of 6 m that lap by 0.5 m: two pieces a bar, one lap, three bars.
    expect(quantities(layout).find((q) => q.id === 'footing-bars')?.value).toBeCloseTo(3 * (9 + 0.5), 9)
    expect(plain(quantities(layout).find((q) => q.id === 'pad')?.name)).toBe('Foundation, cast')
  })
  test('it is built: no pour before the bars are released, no unit before its level is', () => {
    const site = new Site(issued(answered(small, FOOTING)))
    site.work('services').work('set-out').release('set-out').work('dig', 'B').work('subgrade', 'B').release('subgrade', 'B')
    expect(() => site.work('pad', 'B')).toThrow(/bars/i)
    site.work('bars', 'B')
    expect(() => site.work('pad', 'B')).toThrow(/bars/i)
    site.release('bars', 'B').work('pad', 'B').work('damp', 'B').work('pad-level', 'B').release('pad-level', 'B')
    // Its measures and its clock are the footing's, whatever stands on it.
    expect(site.step('pad', 'B').stage.work).toMatchObject({ measures: [{ id: 'slump' }, { id: 'warm' }] })
    expect(() => site.work('units', 'B', 1)).toThrow(/concrete cures before it is loaded.*wants 3 days/)
  })
  test('lean concrete needs no lifts, and a part with them keeps them', () => {
    const without = answered(small, { padMaterial: 'lean-concrete' })
    expect(answerIn(without.system.data, 'foundation.lifts')).toEqual({ max: 0.1, loose: 1.25 })
    const cast = withAnswerTo(without, 'padLift', undefined)
    const bare = { ...cast, system: { ...cast.system, data: withAnswer(cast.system.data, 'foundation.lifts', undefined) } }
    const lift = stepsOf(layoutOf(bare)).find((s) => s.stage.id === 'pad')?.lifts
    expect(lift).toEqual({ count: 1, compacted: 0.15, loose: 0.15 })
  })
  test('back from a footing to stone: its bars go, its lifts come', () => {
    const back = answered(answered(small, FOOTING), { padMaterial: 'dense-graded', padLift: 0.08 })
    expect(answerIn(back.system.data, 'foundation')).toEqual({
      kind: 'dense-graded',
      ...{ thickness: 0.15, width: 0.6, minRun: 1.35 },
      lifts: { loose: 1.25, max: 0.08 },
    })
  })
  test('another foundation is a change with words', () => {
    const changes = compareLayouts(layoutOf(small), layoutOf(answered(small, { padMaterial: 'open-graded', stone: 0.4 }))).map((c) => plain(c.text))
    expect(changes).toEqual([expect.stringMatching(/^Pad: dense-graded.* → open-graded/), 'Stone behind: 0.3 m → 0.4 m'])
    const gabion = { ...small, system: { ...small.system, id: 'gabion' } }
    expect(compareLayouts(layoutOf(small), layoutOf(gabion)).map((c) => plain(c.text))).toContain('System: hollow-core → gabion')
  })
})

describe('a wall without a pipe', () => {
  const dry = answered(small, {})
  const plan = { ...dry, system: { ...dry.system, data: withAnswer(dry.system.data, 'drain', undefined) } }
  const layout = layoutOf(issued(plan))
  test('is asked for none, draws none, counts none', () => {
    expect(layout.system.stages.filter((s) => ['invert', 'drain', 'cover', 'pour'].includes(s.id))).toEqual([])
    for (const s of layout.system.stages) for (const r of s.requires) expect(layout.system.stages.map((x) => x.id)).toContain(r.stage)
    expect(sectionAt(layout, 3).pipe).toBeUndefined()
    expect(drainPlan(layout)).toBeUndefined()
    expect(proposeOutlets(layout)).toMatchObject({ ok: false, problems: [{ field: 'drain' }] })
    expect(quantities(layout).some((q) => q.id === 'pipe')).toBe(false)
    expect(stakesOf(layout).some((s) => s.why.includes('outlet'))).toBe(false)
    expect(trenchOf(plan).drain).toBeUndefined()
  })
  test('and says so where water could stand behind it', () => {
    const of = (p: Plan) => layoutOf(issued(p)).cautions.find((c) => c.id === 'no-pipe')
    expect(of(plan)).toMatchObject({ blocks: false, message: expect.stringMatching(/another way out/) })
    const { engineer: _, ...nobody } = plan
    expect(of(nobody)).toMatchObject({ blocks: true, message: expect.stringMatching(/plan one, or name the engineered plan/) })
    expect(of({ ...nobody, grades: nobody.grades.map((g) => ({ ...g, toe: 10, top: 10.3 })) })).toMatchObject({ blocks: false })
    expect(layoutOf(issued(small)).cautions.some((c) => c.id === 'no-pipe')).toBe(false)
  })
  test('a revision that takes the pipe out leaves its work standing as work of before', () => {
    expect(compareLayouts(layoutOf(small), layout).map((c) => plain(c.text))).toContainEqual(expect.stringMatching(/^Drain: 0.1 m pipe.* → none/))
  })
})

describe('courses of several heights', () => {
  const heights = [0.3, 0.2, 0.2, 0.15]
  const uneven: Building = {
    ...buildingOf(small),
    course: (n) => ({ ...buildingOf(small).course(1), height: heights[n - 1] ?? 0.15, setback: n === 2 ? 0.05 : 0.01, depth: n === 1 ? 0.6 : 0.3 }),
  }
  test('rise and offset are sums; for equal ones plain products', () => {
    expect([riseOf(uneven, 0), riseOf(uneven, 1), riseOf(uneven, 3), riseOf(uneven, 6)].map((v) => +v.toFixed(9))).toEqual([0, 0.3, 0.7, 1.15])
    expect([offsetOfCourse(uneven, 1), offsetOfCourse(uneven, 2), offsetOfCourse(uneven, 4)].map((v) => +v.toFixed(9))).toEqual([0, 0.05, 0.07])
    const even = buildingOf(small)
    for (let n = 0; n < 60; n++) expect([riseOf(even, n), offsetOfCourse(even, n + 1)]).toEqual([n * 0.2, n * 0.02])
    expect([evenCourses(even, 40), evenCourses(uneven, 40), evenCourses(uneven, 1)]).toEqual([true, false, true])
  })
  test('rows stand on one another, each as high as it is', () => {
    const rows = rowsOf(small, uneven, [{ start: 0, end: 9, elevation: 10 }], [{ start: 0, end: 9, elevation: 10.85 }])
    expect(rows.map((r) => [r.course, +(r.top - r.bottom).toFixed(6), r.offset])).toEqual([
      [1, 0.3, 0],
      [2, 0.2, 0.05],
      [3, 0.2, 0.06],
      [4, 0.15, 0.07],
    ])
  })
  test('pad steps lie where a course ends, as well as with equal courses where they are equal', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 120 }), { minLength: 3, maxLength: 8 }),
        fc.boolean(),
        fc.integer({ min: 0, max: 3 }),
        (toes, even, run) => {
          const input = {
            datum: 9.8,
            minEmbedment: 0.2,
            minRun: run,
            unit: { height: 0.2, length: 0.45 },
            profile: toes.map((t, i) => ({ station: i * 3, toe: 10 + t / 100 })),
          }
          const levels = even ? Array.from({ length: 12 }, (_, i) => i * 0.2) : Array.from({ length: 14 }, (_, i) => riseOf(uneven, i))
          const made = baseSteps(input, [], levels)
          if (!made.ok) throw new Error(made.problems[0]?.message)
          for (const s of made.value.steps) {
            expect(levels.some((l) => Math.abs(9.8 + l - s.elevation) < 1e-6)).toBe(true)
            for (const p of input.profile)
              if (p.station >= s.start && p.station < s.end) expect(p.toe - s.elevation).toBeGreaterThanOrEqual(0.2 - 1e-6)
          }
          if (even) {
            const plainly = baseSteps(input)
            expect(plainly.ok && plainly.value.buriedArea).toBeCloseTo(made.value.buriedArea, 6)
          }
        },
      ),
      { numRuns: 120, seed: 4 },
    )
  })
})

test('nothing outside the systems looks into a part, and stages are the same object for the same rules and foundation', () => {
  const s = systemOf('hollow-core') as NonNullable<ReturnType<typeof systemOf>>
  const by = { foundation: 'dense-graded', pipe: 'on-bed' } as const
  expect(staged(s, {}, by)).toBe(staged(s, {}, by))
  expect(staged(s, {}, { ...by, foundation: 'footing' })).not.toBe(staged(s, {}, by))
  expect(layOut(small).ok).toBe(true)
})
