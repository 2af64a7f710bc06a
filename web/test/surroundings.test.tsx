import { issued, type Plan, type UnitSystem } from '@stone-tally/core'
import { built, ENGINEERED, smallPlan } from '../../core/test/plans'
import { type Draft, draftOf, planOf } from '../features/plan/plan/draft'

const small = built(smallPlan)
const full: Plan = {
  ...small,
  ...ENGINEERED,
  holds: ['load', 'water'],
  front: { slope: 0.33, erodible: true },
  frost: 0.81234,
  rules: {
    openCourses: 1,
    limits: [
      { limit: 'courseLevel', value: 0.0042345, source: 'S-1' },
      { limit: 'compaction', value: 98, source: 'S-3, note 4' },
    ],
  },
}
const typed = (change: Partial<Draft>, of: Plan = full, units: UnitSystem = 'metric') =>
  planOf({ ...draftOf(of, units), ...change }, units, undefined, of)
const value = (r: ReturnType<typeof planOf>): Plan => {
  if (!r.ok) throw new Error(JSON.stringify(r.problems))
  return r.value
}

describe('what stands round a wall, as it is typed', () => {
  test.each(['metric', 'imperial'] as const)('opened in %s and left alone it is the very same plan', (units) => {
    expect(value(typed({}, full, units))).toEqual(full)
    expect(value(typed({}, small, units))).toEqual(small)
    expect(value(typed({}, { ...small, holds: [] }, units)).holds).toEqual([])
  })
  test('asked, answered, and taken back', () => {
    expect(draftOf(small, 'metric').holds).toBe('')
    expect(value(typed({ holds: 'none' })).holds).toEqual([])
    expect(value(typed({ holds: 'slope,tier' })).holds).toEqual(['slope', 'tier'])
    expect(value(typed({ holds: '' })).holds).toBeUndefined()
    expect(value(typed({ frontSlope: '0.5', frontErodible: 'no' })).front).toEqual({ slope: 0.5, erodible: false })
    expect(value(typed({ frontSlope: '', frontErodible: '' })).front).toBeUndefined()
    expect(value(typed({ frontErodible: 'no' })).front).toEqual({ slope: 0.33, erodible: false })
    expect(value(typed({ frost: '' })).frost).toBeUndefined()
    expect(value(typed({ frost: '0,5' })).frost).toBe(0.5)
    expect(value(typed({ engineerBy: ' ' })).engineerBy).toBeUndefined()
  })
  test('a limit of the drawing in its own unit; the one beside it keeps its last digit', () => {
    const [level, compaction] = draftOf(full, 'metric').limits as [Draft['limits'][number], Draft['limits'][number]]
    const more = value(typed({ limits: [level, { ...compaction, value: '97,5' }, { limit: 'liftPlate', value: '120', source: 'S-3' }] })).rules
      ?.limits
    expect(more).toEqual([
      full.rules?.limits?.[0],
      { limit: 'compaction', value: 97.5, source: 'S-3, note 4' },
      { limit: 'liftPlate', value: 0.12, source: 'S-3' },
    ])
    expect(value(typed({ limits: [] })).rules).toEqual({ openCourses: 1 })
    expect(value(typed({ limits: [] }, { ...small, rules: { limits: full.rules?.limits } } as Plan)).rules).toBeUndefined()
  })
  test.each([
    [{ limit: 'compaction', value: 'most', source: 'S-3' }, 'limits.0.value', /is not a number/],
    [{ limit: 'compaction', value: '', source: 'S-3' }, 'limits.0.value', /is missing/],
    [{ limit: 'liftPlate', value: 'thin', source: 'S-3' }, 'limits.0.value', /is not a length/],
    [{ limit: 'compaction', value: '40', source: 'S-3' }, 'limits.0.value', /85 to 105/],
    [{ limit: 'compaction', value: '98', source: '' }, 'limits.0.source', /is missing/],
  ])('%j is named at its field', (limit, field, message) => {
    const made = typed({ limits: [limit] })
    expect(made.ok ? undefined : made.problems[0]).toMatchObject({ field, message: expect.stringMatching(message) })
  })
  test('the house issues it under the table of today', () => expect(issued(value(typed({}))).ruleTable).toBe(3))
})
