import {
  buildingOf,
  emptyRules,
  issued,
  type Problem,
  readPlan,
  resolveRules,
  SYSTEMS,
  systemOf,
  type Unit,
  type WallSystem,
} from '@stone-tally/core'
import { built, ENGINEERED, plain, smallPlan } from '../../core/test/plans'
import { afterUnit } from '../features/plan/plan/chosen'
import { draftOf, emptyDraft, planOf } from '../features/plan/plan/draft'
import { fieldLabel } from '../features/plan/plan/labels'
import { emptyLine, isAsked, partField, partLabel, partRead, partTexts } from '../features/plan/plan/part'

const system = systemOf('hollow-core') as WallSystem
const small = built({ ...smallPlan, gridRolls: [{ type: 'uniaxial 30', width: 2, length: 50 }] })
const { data } = small.system
const unit = (data as { unit: Unit }).unit
const FOOTING = { padMaterial: 'footing', cover: '50', barCount: '3', barDiameter: '12', barLap: '0.5', barStock: '6' }

/** What the part becomes when some of its fields are typed, and what is wrong with them. */
function typed(part: Record<string, string>, lists: ReturnType<typeof partTexts>['lists'] = {}, units: 'metric' | 'imperial' = 'metric') {
  const shown = partTexts(system, data, units)
  const problems: Problem[] = []
  const made = partRead({
    system,
    typed: { part: { ...shown.part, ...part }, lists: { ...shown.lists, ...lists } },
    units,
    data,
    shown,
    unit,
    problems,
  })
  return { made: made as Record<string, unknown>, problems: problems.map((p) => `${p.field} ${p.message}`) }
}

describe('a system’s part as it is typed', () => {
  test.each(['metric', 'imperial', 'decimal-feet'] as const)('left alone in %s it is the very part, what no question asks included', (units) => {
    const shown = partTexts(system, data, units)
    expect(partRead({ system, typed: shown, units, data, shown, unit, problems: [] })).toEqual(data)
  })
  test('one answer changes one field, and is said in the reader’s units', () => {
    expect(typed({ stone: '0.4' }).made).toEqual({ ...(data as object), stone: { width: 0.4 } })
    expect((typed({ stone: `1'` }, {}, 'imperial').made.stone as { width: number }).width).toBeCloseTo(0.3048, 9)
    expect(typed({ embedShare: '' }).made.embedment).toEqual([{ kind: 'fixed', depth: 0.2 }])
    expect(typed({ embedShare: '12,5' }).made.embedment).toEqual([
      { kind: 'fixed', depth: 0.2 },
      { kind: 'fraction', fraction: 0.125 },
    ])
  })
  test('a footing: its own questions are asked, small sizes in millimetres, and lifts go', () => {
    const asked = (part: Record<string, string>) => system.questions.filter((q) => isAsked(q, part)).map((q) => q.id)
    expect(asked({ padMaterial: 'footing' })).toEqual(expect.arrayContaining(['cover', 'barCount']))
    expect(asked({ padMaterial: 'footing' })).not.toContain('padLift')
    expect(asked({ padMaterial: 'sand' })).toContain('padLift')
    const { made, problems } = typed(FOOTING)
    expect(problems).toEqual([])
    expect(made.foundation).toEqual({
      kind: 'footing',
      ...{ thickness: 0.15, width: 0.6, minRun: 1.35 },
      ...{ cover: 0.05, bars: { count: 3, diameter: 0.012, lap: 0.5 }, stock: 6 },
    })
    expect(readPlan({ ...small, system: { ...small.system, data: made } }).ok).toBe(true)
    expect(partTexts(system, made, 'metric').part).toMatchObject(FOOTING)
  })
  test('what is wrong is said at its field, in the words of the form', () => {
    const { problems } = typed({ padMaterial: 'footing', cover: 'thick', barCount: 'three' }, { outlets: [{ cells: { station: 'x', invert: '' } }] })
    expect(problems).toEqual([
      expect.stringMatching(/^part.cover .*not a length/),
      'part.barCount "three" is not a number',
      expect.stringMatching(/^lists.outlets.0.cells.station .*not a length/),
      'lists.outlets.0.cells.invert is missing',
    ])
    // What nobody typed is missed by the schema, and said at the same field.
    const none = planOf(
      { ...draftOf(small, 'metric'), part: { ...draftOf(small, 'metric').part, ...FOOTING, barLap: '' } },
      'metric',
      undefined,
      small,
    )
    expect(none.ok ? [] : none.problems.map((p) => `${p.field} ${p.message}`)).toEqual(['part.barLap is missing'])
    expect(fieldLabel('lists.outlets.0.cells.invert', system)).toBe('Outlet 1: invert')
    expect([partLabel(system, 'part.fall'), partLabel(system, 'lists.outlets'), partLabel(system, 'part.nothing')]).toEqual([
      'Fall',
      'Outlets',
      undefined,
    ])
  })
  test('a line added, one changed, one taken out; what a line holds besides stays', () => {
    const grid = partTexts(system, data, 'metric').lists.grid as { was?: number; cells: Record<string, string> }[]
    const more = typed({}, { grid: [...grid, { cells: { course: '3', length: '1.1', type: 'uniaxial 30' } }] })
    expect(more.made.layers).toEqual([
      { course: 2, length: 1.2, type: 'uniaxial 30' },
      { course: 3, length: 1.1, type: 'uniaxial 30' },
    ])
    expect(typed({}, { grid: [] }).made.layers).toEqual([])
    expect(emptyLine(system.questions.find((q) => q.id === 'outlets') as never, true)).toEqual({ cells: { station: '0', invert: '' } })
  })
  test('fields of the part by where they stand on the form', () => {
    expect(
      ['foundation.width', 'unit.minRadius', 'drain.outlets[1].station', 'layers', 'embedment[0].depth', 'rolls[0].length'].map((f) =>
        partField(system, f),
      ),
    ).toEqual(['part.padWidth', 'part.unit', 'lists.outlets.1.cells.station', 'lists.grid', 'part.embedFixed', 'lists.rolls.0.cells.length'])
  })
})

test('a plan is judged by the rules it would be issued under', () => {
  const draft = { ...draftOf(small, 'metric'), part: { ...draftOf(small, 'metric').part } }
  const refused = planOf(draft, 'metric', undefined, small, () => ({
    ok: false,
    problems: [{ field: 'rules.choices[0].why', message: 'is missing' }],
  }))
  expect(plain(refused)).toMatchObject({ ok: false, problems: [{ message: 'is missing' }] })
  expect(planOf(draft, 'metric', undefined, small)).toEqual({ ok: true, value: small })
})
test('another unit of another system takes the part along as far as that system reads it', () => {
  const shown = draftOf(small, 'metric')
  const made = planOf({ ...shown, part: { ...shown.part, unit: 'lip-150' } }, 'metric', undefined, small)
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  expect(made.value.system.id).toBe('rear-lip')
  expect(made.value.system.data).toMatchObject({ rolls: [{ width: 2 }], layers: [{ course: 2, length: 1.2 }], foundation: { width: 0.6 } })
  expect(emptyDraft('imperial').part.padThickness).toMatch(/"/)
})

test.each([
  ['fixed-and-height', ['perHeight']],
  ['whole-course', ['courses']],
  ['deepest', ['fixed', 'fraction', 'courses']],
])('a new wall of a company that buries by %s is planned so, without anything typed for it', (option, kinds) => {
  const made = resolveRules({ company: { ...emptyRules(), choices: [{ choice: 'embedment', option, why: 'x' }] } })
  if (!made.ok) throw new Error('no rules')
  const empty = emptyDraft('metric', made.value)
  const plan = planOf(
    {
      ...empty,
      ...{ name: 'New', site: 'Yard', length: '9', benchmark: '10' },
      grades: [
        { station: '0', toe: '10', top: '10.8' },
        { station: '', toe: '10', top: '10.8' },
      ],
      lists: { ...empty.lists, outlets: [{ cells: { station: '0', invert: '9.6' } }] },
    },
    'metric',
    undefined,
    undefined,
    undefined,
    made.value,
  )
  if (!plan.ok) throw new Error(JSON.stringify(plan.problems))
  expect(buildingOf(plan.value).embedment.map((e) => e.kind)).toEqual(kinds)
})

describe('another unit is chosen', () => {
  const catalogue = SYSTEMS.flatMap((s) => s.units.map((unit) => ({ system: s.id, unit })))
  const to = (id: string, draft = emptyDraft('metric')) => ({ ...draft, ...afterUnit(draft, catalogue, id, 'metric') })
  test.each(SYSTEMS.map((s) => [s.id, s] as const))(
    'of %s: all that it asks has what such a wall starts with, and with a line and grades it is a plan',
    (_id, s) => {
      const unit = s.units[0] as (typeof catalogue)[number]['unit']
      const draft = to(unit.id)
      const top = 10 + 2 * unit.height
      const filled = {
        ...draft,
        name: 'Wall',
        site: 'Yard',
        length: '12',
        benchmark: '10',
        holds: 'none',
        ...ENGINEERED,
        grades: [
          { station: '0', toe: '10', top: `${top}` },
          { station: '12', toe: '10', top: `${top}` },
        ],
        lists: { ...draft.lists, ...(draft.lists.outlets ? { outlets: [{ cells: { station: '12', invert: '9.2' } }] } : {}) },
      }
      const plan = planOf(filled, 'metric', catalogue)
      expect(plan.ok ? [] : plan.problems).toEqual([])
      expect(plan.ok && plan.value.system.id).toBe(s.id)
    },
  )
  test('what was typed stays, what nobody touched is the new unit’s; back again it is as it was', () => {
    const typed = { ...emptyDraft('metric'), part: { ...emptyDraft('metric').part, stone: '0.45' } }
    const big = to('big-600', typed)
    expect([big.part.stone, big.part.machine, big.part.padWidth]).toEqual(['0.45', expect.stringMatching(/excavator/), '1'])
    const back = { ...big, ...afterUnit(big, catalogue, 'lug-200', 'metric') }
    expect(back.part).toEqual({ ...typed.part })
  })
  test('of a plan in force its own answers stay to the last digit, and only what was never asked is new', () => {
    const base = issued(built(smallPlan))
    const draft = draftOf(base, 'imperial')
    const next = afterUnit(draft, catalogue, 'big-24', 'imperial', base)
    expect(next.part.stone).toBe(draft.part.stone)
    expect(next.part.machine).toMatch(/excavator/)
    expect(next.lists.outlets).toEqual(draft.lists.outlets)
  })
})
