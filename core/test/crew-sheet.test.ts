import { crewSheet, type EarlierPlan, issued } from '@stone-tally/core'
import { ENGINEERED, entry, plain, smallPlan } from './plans'
import { Site } from './site'

const today = issued<EarlierPlan>({ ...smallPlan, ...ENGINEERED })
const AT = '2026-05-20T12:00:00Z'

describe('the crew sheet', () => {
  test('a wall that is begun: first what the whole wall wants, then each section from its first step on', () => {
    const sheet = crewSheet(new Site(today).state)
    expect(sheet.sections.map((s) => s.section)).toEqual(['', 'A', 'B'])
    expect(sheet.sections[0]?.steps.map((s) => s.title)).toEqual(['Services located'])
    expect(sheet.sections[1]?.steps.map((s) => s.step.stage.id).slice(0, 4)).toEqual(['dig', 'subgrade', 'pad', 'pad-level'])
    // The dig waits for what the whole wall wants, not for what stands before it on this sheet.
    expect(plain(sheet.sections[1]?.steps[0]?.waitsFor.join())).toMatch(/set-out|services/i)
    expect(sheet.sections[1]?.steps[1]?.waitsFor.join()).not.toMatch(/trench is not read/)
  })
  test('targets, rod, amounts, limits and who releases; each in words', () => {
    const site = new Site(today).toFirstCourse('B')
    site.put(entry('setup', {}, { benchmark: 10, backsight: 1.5 }, { role: 'crew' }))
    const of = (stage: string, section = 'A') => {
      const found = crewSheet(site.state, { ahead: 40 })
        .sections.find((s) => s.section === section)
        ?.steps.find((s) => s.step.stage.id === stage)
      if (!found) throw new Error(stage)
      return { ...found, words: plain(found.wants.join(' · ')) }
    }
    expect(of('pad').words).toBe('2 lifts of 75 mm, placed 94 mm loose')
    // Section A lies on two steps of the pad; the rod reads less on the higher one.
    expect(of('pad-level').words).toMatch(/^at 9\.\d{3} m to 10\.\d{3} m · rod 1\.\d{3} m to 1\.\d{3} m · within ±5 mm$/)
    expect(of('pad-level').releasedBy).toBe('Pad level, released by the inspector')
    expect(of('units').words).toMatch(/^\d+ blocks$/)
    expect(of('drain').words).toBe('pipe of 100 mm, falling 1 %')
    expect(of('grid').words).toMatch(/^1.20 m of uniaxial 30/)
    expect(of('setback').words).toBe('within ±12 mm')
    expect(of('units').caution).toBeDefined()
    expect(of('subgrade').words).toMatch(/compacted/)
  })
  test('what is cut stands with the course it is for, as long as the layout has it', () => {
    const site = new Site({
      ...today,
      length: 9.1,
      grades: today.grades.map((g) => (g.station === 9 ? { ...g, station: 9.1 } : g)),
      sections: [{ id: 'A', from: 0, to: 9.1 }],
    })
    const steps = crewSheet(site.state, { ahead: 200 }).sections.find((s) => s.section === 'A')?.steps ?? []
    const cuts = steps.flatMap((s) => s.cuts.map((c) => [s.step.course, c.length]))
    expect(cuts.length).toBeGreaterThan(0)
    const pieces = [...site.state.layout.cells.values()].flatMap((c) =>
      c.pieces.filter((p) => p.kind === 'cut' || p.kind === 'mitre').map((p) => [c.course, p.length]),
    )
    expect(cuts).toEqual(pieces)
    expect(steps.filter((s) => s.cuts.length > 0).every((s) => s.step.stage.id === 'units')).toBe(true)
  })
  test('half done says what is missing; done and released is not on it', () => {
    const site = new Site(today).toFirstCourse('B')
    const first = () => crewSheet(site.state).sections.find((s) => s.section === 'B')?.steps[0]
    expect(first()?.step.stage.id).toBe('line')
    site.release('line', 'B', 1)
    expect(first()?.step.stage.id).not.toBe('line')
    site.put(entry('reading', { stage: 'dig', section: 'A', station: site.step('dig', 'A').points[0] }, { method: 'deviation', value: 0 }))
    const dig = crewSheet(site.state).sections.find((s) => s.section === 'A')?.steps[0]
    expect(plain(dig?.wants.join())).toMatch(/1 of \d+ done; missing/)
  })
  test('no more of a section than a day takes; weather of today, and old weather said to be', () => {
    const site = new Site(today)
    expect(crewSheet(site.state, { ahead: 3 }).sections.every((s) => s.steps.length <= 3)).toBe(true)
    expect(Math.max(...crewSheet(site.state).sections.map((s) => s.steps.length))).toBe(8)
    site.put(entry('weather', {}, { rain: 30, high: 10, low: 4, wind: 10 }, { at: '2026-05-20T07:30:00Z' }))
    const said = (at?: string) => plain(crewSheet(site.state, at ? { at } : {}).cautions.join(' '))
    expect(said(AT)).toMatch(/soaked/)
    expect(said('2026-05-25T12:00:00Z')).toMatch(/newest weather recorded is of Wed 20 May/)
    expect(said()).not.toMatch(/soaked|newest weather/)
  })
  test('what stops the wall stands once at its top, and the trench is looked at again for the next day', () => {
    const { engineer: _, ...nobody } = today
    const blocked = crewSheet(new Site({ ...nobody, holds: ['slope'] }).state, { at: AT })
    expect(plain(blocked.stops).filter((s) => /This wall is an engineer/.test(s))).toHaveLength(1)
    expect(plain(blocked.cautions.join())).not.toMatch(/This wall is an engineer/)
    expect(blocked.sections.flatMap((x) => x.steps).every((x) => !/engineer/.test(x.waitsFor.join()))).toBe(true)
    // 1.65 m of cut: looked at this morning, and again before anybody goes in tomorrow.
    const deep = new Site({ ...today, grades: today.grades.map((g) => ({ ...g, top: g.toe + 1.6 })) })
    expect(plain(crewSheet(deep.state, { at: AT }).stops.join())).toMatch(/stands 1\.\d\d m open.*competent person looks at it/)
    expect(plain(crewSheet(deep.state).stops.join())).not.toMatch(/competent person/)
    const flat = new Site({ ...today, grades: today.grades.map((g) => ({ ...g, toe: 10, top: 10.5 })) })
    expect(crewSheet(flat.state, { at: AT }).stops).toEqual([])
  })
})
