import { type Adopted, adopt, layOut, type Plan, readDrawing, UNIT_SYSTEMS, type UnitSystem } from '@stone-tally/core'
import { built, smallPlan } from '../../core/test/plans'
import { draftAlong, planAlong } from '../features/plan/plan/along-line'
import { type Draft, draftOf, planOf } from '../features/plan/plan/draft'

const survey = `point,northing (m),easting (m),elevation (m),code
1,10,20,9.653,TOE
2,10,26.123,9.688,TOE
3,13.777,31.4,9.72,TOE
4,10,20,10.853,TOP
5,13.777,31.4,10.92,TOP`

/** The toe line of the survey, as a person takes it. */
function taken(top = false): Adopted {
  const drawing = readDrawing(survey)
  if (!drawing.ok) throw new Error('not read')
  const id = (code: string) => drawing.value.lines.find((l) => l.name === code)?.id ?? ''
  const made = adopt(drawing.value, { line: id('TOE'), unit: 'm', fillRight: false, ...(top ? { toe: id('TOE'), top: id('TOP') } : {}) })
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  return made.value
}
const lug = built({ ...smallPlan, sections: [{ id: 'A', from: 0, to: smallPlan.length }], grid: [] })
const typed = (line: Adopted, units: UnitSystem, change: Partial<Draft> = {}) => {
  const draft = { ...draftAlong(draftOf(lug, units), line, units), ...change }
  const plan = planOf(draft, units)
  return plan.ok ? planAlong(plan.value, line, draft, units) : plan.problems
}

describe('a new wall on the line of a survey', () => {
  test.each(UNIT_SYSTEMS)('in %s its length, line and end are the survey’s own to the last digit', (units) => {
    const line = taken()
    const plan = typed(line, units) as Plan
    expect(plan).toMatchObject({ length: line.length, alignment: line.alignment })
    expect(plan.grades[plan.grades.length - 1]?.station).toBe(line.length)
    expect(plan.sections[plan.sections.length - 1]?.to).toBe(line.length)
    expect(layOut(plan).ok).toBe(true)
  })
  test.each(UNIT_SYSTEMS)('in %s its grades come with it, and one that is changed by hand is the person’s', (units) => {
    const line = taken(true)
    expect(line.grades?.length).toBeGreaterThan(1)
    const grades = draftAlong(draftOf(lug, units), line, units).grades
    const plan = typed(line, units) as Plan
    expect(plan.grades).toEqual(line.grades)
    const raised = typed(line, units, { grades: grades.map((g, i) => (i === 0 ? { ...g, top: '11 m' } : g)) }) as Plan
    expect(raised.grades[0]).toEqual({ ...line.grades?.[0], top: 11 })
    expect(raised.grades.slice(1)).toEqual(line.grades?.slice(1))
  })
})
