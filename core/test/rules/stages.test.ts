// Schools that change the work change the stages; points that are added hold it. Every wall that comes of it can be built to its end.
import {
  admit,
  barriers,
  CHOICES,
  changesStages,
  densityReport,
  emptyRules,
  fold,
  issueUnder,
  limitsOf,
  lineOf,
  nextStep,
  openFindings,
  type EarlierPlan as Plan,
  type Rules,
  SYSTEMS,
  schoolOf,
  stageChanges,
  statusOf,
  stepKey,
  stepsOf,
  type WallSystem,
} from '@stone-tally/core'
import { build } from '../build'
import { ENGINEERED, entry, layoutOf, NOW, plain, recorded, SIGNED, smallPlan } from '../plans'
import { started } from '../started'
import { at, planOn, unitNamed } from '../walls'

const rules = (more: Partial<Rules>): Rules => ({ ...emptyRules(), ...more })
const under = (more: Partial<Rules>, of: Plan = smallPlan): Plan => {
  const made = issueUnder({ ...of, ...ENGINEERED }, { company: rules(more) })
  if (!made.ok) throw new Error(JSON.stringify(plain(made.problems)))
  return made.value
}
const school = (choice: string, option: string, of?: Plan) => under({ choices: [{ choice, option, why: 'ours' }] }, of)
const standard = layoutOf(under({})).system
const words = (s: WallSystem) => plain(stageChanges(standard, s)).map((c) => c.text)
const changing = CHOICES.flatMap((c) => c.options.filter((o) => changesStages(c.id, o.id)).map((o) => [c.id, o.id] as const))

describe('schools', () => {
  test('those that change the work are known, and no standard is among them: walls of before keep their stages', () => {
    expect(changing.length).toBeGreaterThanOrEqual(15)
    for (const [c, o] of changing) expect(CHOICES.find((x) => x.id === c)?.standard).not.toBe(o)
  })
  test.each(changing)('%s: %s changes what is asked, says what, and the wall is built to its final release', (choice, option) => {
    // A choice that says nothing of a wall of block is looked at on one of which it does.
    const own = SYSTEMS.filter((s) => s.schools?.includes(choice) ?? true)
    const block = own.some((s) => s.id === 'hollow-core')
    const company = rules({ choices: [{ choice, option, why: 'ours' }] })
    const id = own[0]?.id ?? ''
    const layout = layoutOf(block ? school(choice, option) : started(id, {}, undefined, 0, company))
    const plainly = block ? standard : layoutOf(started(id)).system
    expect(plain(stageChanges(plainly, layout.system)).length).toBeGreaterThan(0)
    const { state, order } = build(layout)
    expect(order[order.length - 1]).toBe('final||')
    expect(state.steps.every((s) => statusOf(state, s).state === 'done')).toBe(true)
  })
  const gabions = planOn([at(0, 0), at(6, 0)], false, { system: 'gabion', unit: unitNamed('basket-2x1x1'), pad: { ...smallPlan.pad, width: 1.3 } })
  test('all of them at once, on block and on baskets', () => {
    const last = new Map(changing)
    const choices = [...last].map(([choice, option]) => ({ choice, option, why: 'ours' }))
    for (const wall of [smallPlan, gabions]) {
      const { order } = build(layoutOf(under({ choices }, wall)))
      expect(order[order.length - 1]).toBe('final||')
    }
  })
  test('a school that means nothing to a system changes nothing of it: baskets are not glued', () => {
    expect(layoutOf(school('adhesive', 'each', gabions)).system.stages).toEqual(layoutOf(under({}, gabions)).system.stages)
    expect(layoutOf(school('floor', 'undisturbed', gabions)).system.stages).not.toEqual(layoutOf(under({}, gabions)).system.stages)
  })
  test('adhesive each course is a stage above the first, and the course above waits for it', () => {
    const layout = layoutOf(school('adhesive', 'each'))
    const glued = stepsOf(layout).filter((s) => s.stage.id === 'adhesive')
    expect(glued.length).toBeGreaterThan(0)
    expect(glued.some((s) => s.course === 1 && s.section === 'B')).toBe(false)
    expect(words(layout.system)).toContain('Adhesive: a stage more')
  })
  test('level every third course: what lies on the pad, every third above, and the last', () => {
    const tall: Plan = {
      ...smallPlan,
      sections: [{ id: 'A', from: 0, to: 9 }],
      grid: [],
      grades: [
        { station: 0, toe: 10, top: 11.6 },
        { station: 9, toe: 10, top: 11.6 },
      ],
    }
    const courses = (p: Plan) =>
      stepsOf(layoutOf(p))
        .filter((s) => s.stage.id === 'level')
        .map((s) => s.course)
    const all = courses(under({}, tall))
    const third = courses(school('level-interval', 'third', tall))
    expect(third).toEqual(all.filter((c, i) => c === 1 || ((c as number) - 1) % 3 === 0 || i === all.length - 1))
    expect(third.length).toBeLessThan(all.length)
  })
  test('two open courses, thin lifts and a flush cap are limits; a limit that somebody set goes before its school', () => {
    expect(limitsOf(school('open-courses', 'two')).openCourses.value).toBe(2)
    expect(limitsOf(school('lift-thickness', 'thin')).backfillLift.value).toBe(0.1)
    expect(limitsOf(school('cap', 'flush')).overhangMax.value).toBe(0.003)
    const both = under({
      choices: [{ choice: 'open-courses', option: 'two', why: 'x' }],
      limits: [{ limit: 'openCourses', value: 3, why: 'tiny stones' }],
    })
    expect(limitsOf(both).openCourses).toEqual({ value: 3, reason: 'A rule of the company: tiny stones' })
  })
  test('in thin lifts the plan asks for more of them, and a thick one is out', () => {
    const count = (p: Plan) => stepsOf(layoutOf(p)).find((s) => s.stage.id === 'backfill')?.lifts?.count ?? 0
    expect(count(school('lift-thickness', 'thin'))).toBeGreaterThan(count(under({})))
  })
})

test('where the pipe sits follows from pad and outlet, unless the rules or the plan say otherwise', () => {
  const seat = (of: Plan) => {
    const layout = layoutOf(of)
    return schoolOf(layout.plan, layout.steps)
  }
  expect(seat(under({}))).not.toBe('raised')
  for (const option of ['on-bed', 'raised'] as const) expect(seat(school('drain-seat', option))).toBe(option)
  expect(seat(school('drain-seat', 'raised', { ...smallPlan, water: { school: 'on-bed' } } as Plan))).toBe('on-bed')
  build(layoutOf(school('drain-seat', 'raised')))
})
test('something follows from every choice', () => {
  const without = CHOICES.filter((c) => c.options.every((o) => !changesStages(c.id, o.id))).map((c) => c.id)
  const planned = [
    'pad-material',
    'pad-test',
    'open-courses',
    'drain-seat',
    'lift-thickness',
    'top-grade',
    'embedment',
    'grid-length',
    'height-from',
    'second-eyes',
    'crew',
    'low-pipe',
    'layer-edge',
  ]
  expect(without.filter((id) => !planned.includes(id))).toEqual([])
})

describe('how the pad is proved', () => {
  const where = { stage: 'pad', section: 'B' }
  const lift = entry('lift', where, { lift: 1, thickness: 0.075, passes: 4, plant: 'light-plate' })
  const method = entry('density', where, { method: 'record', lift: 1, seen: 'four passes with the plate, nothing moved any more' })
  const refusal = (of: Plan) => {
    const judged = admit(fold([layoutOf(of)], recorded([lift])), method, NOW)
    return judged.ok ? '' : plain(judged.problems)[0]?.message
  }
  test('by density a method record of dense stone is refused; by method it is what is asked, one a lift', () => {
    expect(refusal(under({}))).toMatch(/a method record serves stone without fines/)
    const byMethod = school('pad-test', 'method')
    expect(refusal(byMethod)).toBe('')
    const owed = (of: Plan, ...more: (typeof lift)[]) => densityReport(fold([layoutOf(of)], recorded([lift, ...more])), stepKey(where))
    expect(owed(byMethod)).toMatchObject({ wanted: 1, owed: 1 })
    expect(owed(byMethod, method)).toMatchObject({ wanted: 1, owed: 0 })
    // Fill behind the wall is tested all the same.
    const backfill = { stage: 'backfill', section: 'B', course: 1 }
    const behind = admit(fold([layoutOf(byMethod)], []), entry('density', backfill, { method: 'record', lift: 1, seen: 'firm' }), NOW)
    expect(behind.ok ? '' : plain(behind.problems)[0]?.message).toMatch(/a method record serves/)
  })
})

describe('inspection points', () => {
  const point = (p: string, kind: 'hold' | 'witness' | 'off') =>
    under({ points: [{ point: p, kind, roles: ['inspector'], own: false, why: 'ours' }] })
  test.each(['hold', 'witness'] as const)('pad level as %s, and the wall is built to its end', (kind) => {
    const layout = layoutOf(point('pad-level', kind))
    const stage = layout.system.stages.find((s) => s.id === 'pad-level')
    expect([stage?.hold, stage?.witness]).toEqual(
      kind === 'hold' ? ['pad-level', undefined] : kind === 'witness' ? [undefined, 'pad-level'] : [undefined, undefined],
    )
    build(layout)
  })
  test('each course as a hold: level, setback and joints are released before what comes after', () => {
    const layout = layoutOf(point('course', 'hold'))
    expect(layout.system.stages.find((s) => s.id === 'setback')?.hold).toBe('course')
    build(layout)
  })
  const client = (more: object = {}): Partial<Rules> => ({
    added: [
      {
        id: 'client-look',
        title: 'Client looks at the first course',
        kind: 'hold',
        roles: ['inspector'],
        own: false,
        at: { stage: 'line', section: 'B', course: 1 },
        why: 'the contract, 7.2',
        ...more,
      },
    ],
  })
  test('a point of one’s own at one course holds what comes after it, there and nowhere else', () => {
    const layout = layoutOf(under(client()))
    const key = stepKey({ stage: 'point-client-look', section: 'B', course: 1 })
    expect(
      stepsOf(layout)
        .filter((s) => s.stage.id === 'point-client-look')
        .map((s) => s.key),
    ).toEqual([key])
    const { state, order } = build(layout)
    expect(order.indexOf(key)).toBe(order.indexOf(stepKey({ stage: 'line', section: 'B', course: 1 })) + 1)
    // What asked for the line asks for the point: built up to it, the next stage waits and names it.
    const upTo = state.entries.filter((e) => e.seq < (state.logs.get(key)?.releases[0]?.seq ?? 0))
    const held = fold([layout], upTo)
    const next =
      held.byKey.get(stepKey({ stage: 'invert', section: 'B', course: 1 })) ?? held.byKey.get(stepKey({ stage: 'fill', section: 'B', course: 1 }))
    expect(
      next &&
        plain(barriers(held, next))
          .map((b) => b.message)
          .join(),
    ).toMatch(/Hold point Client looks at the first course section B course 1 is not released: the contract, 7\.2/)
  })
  test('it is released by the roles it names, with a second pair of eyes', () => {
    const layout = layoutOf(under(client({ roles: ['office'] })))
    const where = { stage: 'point-client-look', section: 'B', course: 1 }
    const state = fold([layout], recorded([entry('check', where, { confirmed: ['seen'] })]))
    const by = (role: 'office' | 'inspector') => {
      const judged = admit(state, entry('release', where, { decision: 'released', reason: 'seen', signature: SIGNED }, { role }), NOW)
      return judged.ok ? '' : plain(judged.problems)[0]?.message
    }
    expect(by('inspector')).toMatch(/takes the office; the inspector may not/)
    expect(by('office')).toBe('')
  })
  test('a witness of one’s own is listed and stops nothing', () => {
    const layout = layoutOf(under(client({ kind: 'witness', at: { stage: 'backfill' } })))
    expect(layout.system.stages.find((s) => s.id === 'point-client-look')?.witness).toBe('client-look')
    build(layout)
  })
  test('a point taken out by a later revision leaves what was recorded at it readable, and stops nothing any more', () => {
    const [before, after] = [layoutOf(under(client())), layoutOf(under({}))]
    const { state } = build(before)
    const released = fold([before, after], state.entries)
    const own = state.entries.filter((e) => e.entry.where.stage === 'point-client-look')
    expect(own.map((e) => e.entry.kind)).toEqual(['check', 'release'])
    for (const e of own) expect(plain(lineOf(released, e.entry, { units: 'metric' }))).toMatch(/Client looks at the first course/)
    expect(released.byKey.has(stepKey({ stage: 'point-client-look', section: 'B', course: 1 }))).toBe(false)
    expect(openFindings(released)).toEqual([])
    expect(released.steps.every((s) => statusOf(released, s).state === 'done')).toBe(true)
    // And one that comes with a later revision is owed on a wall that was finished.
    const later = fold([after, before], build(after).state.entries)
    expect(nextStep(later, 'B')?.stage.id).toBe('point-client-look')
  })
  test('a company may let people release their own work, but not what nobody can look at later', () => {
    const own = under({ choices: [{ choice: 'second-eyes', option: 'own', why: 'two people' }] }, smallPlan)
    const by = (stage: string, course?: number) => {
      const where = { stage, section: 'B', ...(course ? { course } : {}) }
      const layout = layoutOf(own)
      const state = build(layout).state
      const upTo = state.entries.filter((e) => e.seq < (state.logs.get(stepKey(where))?.releases[0]?.seq ?? 0))
      const mine = upTo.map((e) => ({ ...e, entry: { ...e.entry, by: { id: 'ian', name: 'Ian', role: 'inspector' as const } } }))
      const judged = admit(
        fold([layout], mine),
        entry('release', where, { decision: 'released', reason: 'seen', signature: SIGNED }, { by: { id: 'ian', name: 'Ian', role: 'inspector' } }),
        NOW,
      )
      return judged.ok ? '' : plain(judged.problems)[0]?.message
    }
    expect(by('subgrade')).toBe('')
    expect(by('grid', 2)).toMatch(/takes a second pair of eyes/)
    expect(by('drain', 1)).toMatch(/takes a second pair of eyes/)
  })
  test('on every section and as part of the whole wall', () => {
    for (const stage of ['services', 'dig', 'units', 'cap', 'pour']) build(layoutOf(under(client({ at: { stage } }))))
  })
})
