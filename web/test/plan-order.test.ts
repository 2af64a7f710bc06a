// The plan is what stands in the fields, however it came there: any order of any edits gives the plan that typing the last values gives.
import { type CatalogueUnit, type Question, SYSTEMS, type UnitSystem } from '@stone-tally/core'
import fc from 'fast-check'
import { afterUnit, answerOf } from '@/features/plan/plan/chosen'
import { type Draft, emptyDraft, planRead } from '@/features/plan/plan/draft'
import { heightsOf, standing, withHeight } from '@/features/plan/plan/standing'

const CATALOGUE: readonly CatalogueUnit[] = SYSTEMS.flatMap((s) => s.units.map((unit) => ({ system: s.id, unit })))
const SINGLE = [
  'name',
  'site',
  'length',
  'grades.0.toe',
  'grades.0.top',
  'grades.1.toe',
  'grades.1.top',
  'benchmark',
  'behind',
  'slope',
  'topStyle',
  'frost',
] as const
const TEXTS: Readonly<Record<string, readonly string[]>> = {
  name: ['North terrace', 'Lower bed'],
  site: ['Quarry lane'],
  length: ['6', '14.5', ''],
  topStyle: ['stepped', 'level'],
  slope: ['0', '0.5'],
  benchmark: ['', '0', '101.2'],
}
const valuesOf = (name: string): readonly string[] => TEXTS[name] ?? ['0', '1', '1.35', '', '100.4']

const questions = new Map<string, Question>(SYSTEMS.flatMap((s) => s.questions.filter((q) => q.of !== 'unit').map((q) => [q.id, q] as const)))
const answersTo = (q: Question): readonly string[] =>
  q.of === 'choice' ? q.options.map(([id]) => id) : q.of === 'text' ? ['as drawn', 'other'] : ['1', '2', '0.3', '0.45', '15']

type Edit =
  | { readonly of: 'field'; readonly name: string; readonly value: string }
  | { readonly of: 'part'; readonly name: string; readonly value: string }
  | { readonly of: 'cell'; readonly list: string; readonly column: string; readonly value: string }
  | { readonly of: 'height'; readonly value: string }
  | { readonly of: 'unit'; readonly id: string }
const edit: fc.Arbitrary<Edit> = fc.oneof(
  {
    weight: 3,
    arbitrary: fc
      .constantFrom(...SINGLE)
      .chain((name) => fc.record({ of: fc.constant('field' as const), name: fc.constant(name), value: fc.constantFrom(...valuesOf(name)) })),
  },
  {
    weight: 4,
    arbitrary: fc
      .constantFrom(...[...questions.values()].filter((q) => q.of !== 'list'))
      .chain((q) => fc.record({ of: fc.constant('part' as const), name: fc.constant(q.id), value: fc.constantFrom(...answersTo(q)) })),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      of: fc.constant('cell' as const),
      list: fc.constant('outlets'),
      column: fc.constantFrom('station', 'invert'),
      value: fc.constantFrom('0', '2', '-0.3', ''),
    }),
  },
  { weight: 1, arbitrary: fc.record({ of: fc.constant('height' as const), value: fc.constantFrom('0.6', '1.2', '') }) },
  { weight: 3, arbitrary: fc.record({ of: fc.constant('unit' as const), id: fc.constantFrom(...CATALOGUE.map((c) => c.unit.id)) }) },
)

/** As the form sets a field: the text, and that somebody typed it. */
function set(draft: Draft, path: string, value: string): Draft {
  const next = structuredClone(draft) as unknown as Record<string, unknown>
  const parts = path.split('.')
  let at: Record<string, unknown> = next
  for (const p of parts.slice(0, -1)) at = at[p] as Record<string, unknown>
  at[parts[parts.length - 1] as string] = value
  const answer = answerOf(path)
  if (answer) next.typed = [...new Set([...((next.typed as string[]) ?? []), answer])]
  return next as unknown as Draft
}
/** One edit, and the fields it leaves with their last values; nothing where the form has no such field now. */
function after(draft: Draft, e: Edit, units: UnitSystem): { draft: Draft; wrote: readonly (readonly [string, string])[] } {
  const path = e.of === 'field' ? e.name : e.of === 'part' ? `part.${e.name}` : e.of === 'cell' ? `lists.${e.list}.0.cells.${e.column}` : undefined
  if (e.of === 'height') {
    const next = withHeight(draft, e.value, units)
    return { draft: next, wrote: next.grades.flatMap((g, i) => [[`grades.${i}.toe`, g.toe] as const, [`grades.${i}.top`, g.top] as const]) }
  }
  if (e.of === 'unit') return { draft: { ...draft, ...afterUnit(draft, CATALOGUE, e.id, units) }, wrote: [['part.unit', e.id]] }
  const there = e.of === 'part' ? e.name in draft.part : e.of === 'cell' ? (draft.lists[e.list]?.length ?? 0) > 0 : true
  return there && path ? { draft: set(draft, path, e.value), wrote: [[path, e.value]] } : { draft, wrote: [] }
}

test.each(['metric', 'imperial'] as UnitSystem[])('the order of edits leaves no trace in the plan, in %s', (units) => {
  fc.assert(
    fc.property(fc.array(edit, { minLength: 1, maxLength: 25 }), (edits) => {
      let draft = emptyDraft(units)
      const last = new Map<string, string>()
      for (const e of edits) {
        const made = after(draft, e, units)
        draft = made.draft
        for (const [field, value] of made.wrote) {
          last.delete(field)
          last.set(field, value)
        }
      }
      // The same values by somebody who knew from the start: the unit, then each field once, the other way round.
      let plain = emptyDraft(units)
      const unit = last.get('part.unit')
      if (unit) plain = after(plain, { of: 'unit', id: unit }, units).draft
      for (const [field, value] of [...last].reverse()) {
        const [root, name] = field.split('.') as [string, string]
        if (field === 'part.unit' || (root === 'part' && !(name in plain.part)) || (root === 'lists' && !plain.lists[name]?.length)) continue
        plain = set(plain, field, value)
      }
      expect(planRead(draft, units, CATALOGUE)).toEqual(planRead(plain, units, CATALOGUE))
    }),
    { numRuns: 300, endOnFailure: true },
  )
})

test('what stands in an empty field follows from the others and is never written', () => {
  const draft = withHeight({ ...emptyDraft('metric'), length: '10' }, '1.2', 'metric')
  expect(draft.benchmark).toBe('')
  expect(standing(draft, 'metric').benchmark?.text).toBe('0')
  const planOf = (d: Draft) => {
    const plan = planRead({ ...d, name: 'A', site: 'B' }, 'metric', CATALOGUE)
    if (!plan.ok) throw new Error(JSON.stringify(plan.problems))
    return plan.value
  }
  const outlets = (d: Draft) => (planOf(d).system.data as { drain: { outlets: unknown[] } }).drain.outlets
  expect(draft.lists.outlets).toEqual([])
  // Ten metres at 1 % and a pipe of 100 mm lie below the ground in front all the way.
  expect(outlets(draft)).toEqual([{ station: 0, invert: -0.2 }])
  expect(outlets({ ...draft, length: '22' })).toEqual([
    { station: 0, invert: -0.16 },
    { station: 11, invert: -0.16 },
    { station: 22, invert: -0.16 },
  ])
  const sloped = set(draft, 'grades.1.toe', '1')
  expect(planOf(draft).excavation.behind).toBe(planOf({ ...draft, behind: '' }).excavation.behind)
  // Grades of a survey have a benchmark of their own, which nobody can guess.
  expect(standing(set(draft, 'grades.0.toe', '101.2'), 'metric').benchmark).toBeUndefined()
  expect(heightsOf(sloped, 'metric')).toEqual([expect.closeTo(0.2, 9), 1.2])
})
