// What a form makes of one level's rules.
import { emptyRules, type Rules, resolveRules } from '@stone-tally/core'
import { emptyDraft } from '../features/plan/plan/draft'
import { addedPoint, limitText, merged, named, readLimit, setsRule, unitOf, withChange, withoutChange } from '../features/plan/rules/edit'

const rules = (more: Partial<Rules>): Rules => ({ ...emptyRules(), ...more })
const limit = (name: string, value: number, why = 'ours') => ({ limit: name, value, why })

test('a rule is set once, changed in place, and given back to the level above', () => {
  const one = withChange(emptyRules(), { rule: 'limit', id: 'compaction', value: 97, why: 'ours', firm: true })
  const two = withChange(one, { rule: 'limit', id: 'compaction', value: 98, why: 'more', firm: false })
  expect(two.limits).toEqual([limit('compaction', 98, 'more')])
  expect(setsRule(two, 'limit.compaction')).toBe(true)
  expect(withoutChange(two, 'limit.compaction').limits).toBeUndefined()
  const school = withChange(two, { rule: 'choice', id: 'stone', option: 'plated', why: 'x', firm: false })
  expect([setsRule(school, 'choice.stone'), setsRule(withoutChange(school, 'choice.stone'), 'choice.stone')]).toEqual([true, false])
  const point = withChange(school, { rule: 'point', id: 'subgrade', point: { kind: 'witness', roles: [], own: false }, why: 'x' })
  expect([setsRule(point, 'point.subgrade'), withoutChange(point, 'point.subgrade').points]).toEqual([true, undefined])
})
test('what the planner starts from is set, read and given back like a limit', () => {
  const one = withChange(emptyRules(), { rule: 'start', id: 'padWidth', value: 0.75, why: 'wide plates' })
  expect(one.starts).toEqual([{ start: 'padWidth', value: 0.75, why: 'wide plates' }])
  expect([setsRule(one, 'start.padWidth'), withoutChange(one, 'start.padWidth').starts]).toEqual([true, undefined])
  expect(emptyDraft('metric', undefined)).toMatchObject({
    part: { padWidth: '0.6', padMaterial: 'dense-graded' },
    openCourses: '1',
    topStyle: 'stepped',
  })
  const made = resolveRules({
    company: {
      ...one,
      choices: ['pad-material open-graded', 'open-courses two', 'top-grade level'].map((c) => ({
        choice: c.split(' ')[0] as string,
        option: c.split(' ')[1] as string,
        why: 'x',
      })),
    },
  })
  expect(emptyDraft('metric', made.ok ? made.value : undefined)).toMatchObject({
    part: { padWidth: '0.75', padMaterial: 'open-graded' },
    openCourses: '2',
    topStyle: 'level',
  })
})
test.each([
  ['padLevel', 0.005, 'metric', '±5 mm'],
  ['shoreAbove', 1.2, 'metric', '1.20 m'],
  ['overhangMin', -0.003, 'metric', '−3 mm'],
  ['compaction', 95, 'imperial', '95 %'],
  ['padLevel', 0.00635, 'imperial', '±1/4"'],
  ['cutSlope', 1.5, 'metric', '1.5H:1V'],
  ['manualOne', 25, 'metric', '25 kg'],
  ['manualOne', 25, 'imperial', '55 lb'],
] as const)('%s of %d in %s reads %s', (name, value, units, text) => expect(limitText(name, value, units)).toBe(text))
test('what is typed comes to SI; what is no number is said', () => {
  expect(readLimit('padLevel', '4', 'metric')).toEqual({ ok: true, value: 0.004 })
  expect(readLimit('shoreAbove', '1,1', 'metric')).toEqual({ ok: true, value: 1.1 })
  expect(readLimit('compaction', '97,5', 'metric')).toEqual({ ok: true, value: 97.5 })
  const pounds = readLimit('manualOne', '44', 'imperial')
  expect(pounds.ok && pounds.value).toBeCloseTo(44 * 0.45359237, 6)
  for (const bad of ['', 'much', '1e999']) expect(readLimit('compaction', bad, 'metric').ok).toBe(false)
})
test('two changed: each keeps what the other changed; of one rule it is the one who goes on; what was taken out stays out', () => {
  const from = rules({ limits: [limit('compaction', 97), limit('invert', 0.008)] })
  const mine = rules({ limits: [limit('compaction', 98)], choices: [{ choice: 'stone', option: 'plated', why: 'x' }] })
  const theirs = rules({ limits: [limit('compaction', 97), limit('invert', 0.008), limit('padLevel', 0.004)], keepers: ['office'] })
  expect(merged(from, mine, theirs)).toMatchObject({
    limits: [limit('padLevel', 0.004), limit('compaction', 98)],
    choices: [{ choice: 'stone', option: 'plated', why: 'x' }],
    keepers: ['office'],
  })
  expect(merged(from, from, theirs)).toEqual({ ...theirs })
})
test('a problem is said by the name of its rule', () =>
  expect(named([{ field: 'company.limits[0].value', message: 'is off' }], rules({ limits: [limit('padLevel', 4)] }))).toEqual([
    { field: 'Pad level', message: 'is off' },
  ]))

test('a temperature of the book is typed and read as a thermometer of the reader has it', () => {
  expect([limitText('concreteCold', 10, 'metric'), limitText('concreteCold', 10, 'imperial')]).toEqual(['10 °C', '50 °F'])
  expect([unitOf('concreteHot', 'metric'), unitOf('concreteHot', 'imperial')]).toEqual(['°C', '°F'])
  const read = readLimit('concreteCold', '50', 'imperial')
  expect(read.ok && read.value).toBeCloseTo(10, 9)
  expect(limitText('cureBackfill', 7, 'imperial')).toBe('7 days')
})

describe('a point of one’s own', () => {
  const typed = {
    title: 'Drain tape',
    stage: 'grid',
    kind: 'hold' as const,
    roles: ['inspector' as const],
    section: '',
    course: '',
    why: 'drawing D-4',
  }
  const wrong = (over: Partial<typeof typed>, taken: { id: string; title: string }[] = []) => {
    const made = addedPoint({ ...typed, ...over }, taken)
    return made.ok ? made.value.id : made.problems.map((p) => p.field).join()
  }
  test('is named by what is looked at, in the letters a file of rules takes', () => {
    expect(wrong({})).toBe('drain-tape')
    expect(wrong({ title: '  Größe der Fuge (3 mm) ' })).toBe('gro-e-der-fuge-3-mm')
    expect(wrong({ title: '排水' })).toBe('point')
    expect(wrong({ title: 'x'.repeat(80) })).toHaveLength(36)
  })
  test('never takes the place of another without a word', () => {
    const taken = [{ id: 'drain-tape', title: 'Drain tape' }]
    expect(wrong({ title: 'DRAIN tape ' }, taken)).toBe('title')
    expect(wrong({ title: 'Drain-tape' }, taken)).toBe('drain-tape-2')
    expect(wrong({ title: '水' }, [{ id: 'point', title: '排水' }])).toBe('point-2')
  })
  test('one course only is a course there can be, of a section', () => {
    expect(wrong({ course: '3' })).toBe('course')
    expect(wrong({ course: '3', section: 'B' })).toBe('drain-tape')
    for (const course of ['0', '1.5', '-2', '201', 'three']) expect(wrong({ course, section: 'B' })).toBe('course')
    expect(wrong({ title: ' ' })).toBe('title')
  })
})
