// Rule table 2, held against hand-worked cases: each says what it rests on. Earlier revisions keep table 1 (record-truth and edges).
import {
  barriers,
  type Entry,
  identifySoil,
  lineOf,
  openStops,
  type SoilAnswers,
  soilParameters,
  soilQuestions,
  statusOf,
  verdictOf,
} from '@stone-tally/core'
import * as fc from 'fast-check'
import { FIRM_CLAY, good, groundOf } from '../build'
import { entry, layoutOf, plain, SIGNED, smallPlan, stateOf } from '../plans'
import { Site } from '../site'
import { judge, plan } from './wall'

describe('soil: as bad as the worst of it', () => {
  const find = (a: Partial<SoilAnswers>) => identifySoil({ ...FIRM_CLAY, ...a } as SoilAnswers, 2)
  const sand = { grain: 'sand', ribbon: 'none', feel: 'gritty' } as const
  test.each([
    ['a long ribbon with grains one can see is clay all the same', { ...sand, ribbon: 'long' }, 'fat-clay', false],
    ['a medium one makes sandy clay', { ...sand, ribbon: 'medium' }, 'lean-clay', true],
    ['gravel in fat clay', { grain: 'gravel', ribbon: 'long' }, 'fat-clay', false],
    ['clean sand, moist and firm', sand, 'clean-sand', true],
    ['silty sand, moist and firm', { ...sand, ribbon: 'short' }, 'silty-sand', true],
    ['silty sand that is wet', { ...sand, ribbon: 'short', water: 'wet' }, 'silty-sand', false],
    ['clayey sand with water running in', { ...sand, ribbon: 'medium', water: 'seeping' }, 'lean-clay', false],
    ['clean sand with water running in', { ...sand, water: 'seeping' }, 'clean-sand', false],
    ['gravel with fines, wet', { grain: 'gravel', ribbon: 'short', water: 'wet' }, 'dirty-gravel', false],
    ['clean gravel, wet, firm', { grain: 'gravel', ribbon: 'none', feel: 'gritty', water: 'wet' }, 'clean-gravel', true],
    ['firm by the look, soft under the heel', { firm: 'soft' }, 'lean-clay', false],
    ['gravel that moves under the wheel', { grain: 'gravel', ribbon: 'none', feel: 'gritty', firm: 'pumps' }, 'clean-gravel', false],
    ['nobody tried it', { firm: undefined }, 'lean-clay', false],
    ['an old trench', { origin: 'made' }, 'made-ground', false],
    ['nobody is sure', { origin: 'unsure' }, 'made-ground', false],
    ['peat', { feel: 'spongy' }, 'organic', false],
  ] as [string, Partial<SoilAnswers>, string, boolean][])('%s', (_name, a, kind, suitable) =>
    expect(find(a)).toMatchObject({ class: kind, suitable, stop: false }),
  )
  test('more cautious answers never give a kinder finding', () => {
    const one = (id: keyof SoilAnswers) => fc.constantFrom(...(soilQuestions(2).find((q) => q.id === id)?.answers ?? []).map((a) => a[0]))
    const any = fc.record(Object.fromEntries(soilQuestions(2).map((q) => [q.id, one(q.id)])))
    fc.assert(
      fc.property(any, (a) => {
        const found = identifySoil(a as unknown as SoilAnswers, 2)
        if (found.suitable) return
        for (const worse of [
          { water: 'seeping' },
          { ribbon: 'long' },
          { firm: 'pumps' },
          { firm: undefined },
          { origin: 'made' },
          { smell: 'foul' },
        ]) {
          const more = identifySoil({ ...a, ...worse } as unknown as SoilAnswers, 2)
          expect(more.suitable).toBe(false)
          // A stop is answered by name, not by depth.
          if (!more.stop) expect(more.undercut).toBeGreaterThanOrEqual(worse.origin === 'made' ? 0.3 : Math.min(found.undercut, 0.3))
        }
      }),
      { numRuns: 500 },
    )
  })
  test('values for what is held back are cautious on both sides: weak and heavy; light where it carries', () => {
    const site = new Site(plan).put(...groundOf(layoutOf(plan), 'B', { ...FIRM_CLAY, ...sand }))
    expect(soilParameters(site.state, 'retained')?.values).toEqual({ phi: 30, gamma: 20, c: 0 })
    expect(soilParameters(site.state, 'foundation')?.values).toEqual({ phi: 30, gamma: 18, c: 0 })
    site.put(...groundOf(layoutOf(plan), 'A'))
    // The weakest and the heaviest of what was found, though they are two soils.
    expect(soilParameters(site.state, 'retained')?.values).toMatchObject({ phi: 24, gamma: 20.5 })
  })
})

describe('fuel or sewage is a stop, not a dig', () => {
  const started = () => new Site(plan).work('services').work('set-out').release('set-out').work('dig', 'B')
  const [soil] = groundOf(layoutOf(plan), 'B', { ...FIRM_CLAY, smell: 'foul' })
  const where = { stage: 'dig', section: 'B' }
  const undercut = { from: 4.5, to: 9, depth: 0.4, fill: 'stone', passes: 4, material: 'clean-stone', lifts: 4, firm: 'bar' }
  test('nothing on the wall goes on until somebody who may says by name that it is safe', () => {
    const site = started().put(soil as Entry)
    expect(plain(site.state.outs.get((soil as Entry).id)?.text)).toMatch(/^Stop: .*Leave the cut.*call the owner/)
    // The other section too: gas keeps to no line on a drawing.
    for (const s of [good(site.step('dig', 'A'))[0], good(site.step('subgrade', 'B'))[0]])
      expect(site.refusal(s as Entry)).toMatch(/Work is stopped: .*4\.50 to 9\.00.*by name/)
    expect(barriers(site.state, site.step('subgrade', 'B')).map((b) => b.force)).toContain('hard')
    site.put(entry('action', where, { of: (soil as Entry).id, cause: 'old tank', action: 'left the cut' }))
    // Neither digging it out nor a good reading answers it.
    expect(site.refusal(entry('undercut', where, undercut, { recheckOf: (soil as Entry).id }))).toMatch(/digging does not answer it/)
    const dug = site.entries.find((e) => e.kind === 'reading')
    expect(
      site.refusal({ ...good(site.step('dig', 'B'))[0], id: '01900000-0000-7000-8000-0000000000f1', supersedes: dug?.id, reason: 'slip' } as Entry),
    ).toMatch(/Work is stopped/)
    const safe = entry('clearance', where, { who: 'Ada Finch', as: 'owner', seen: 'line shut, meter at zero' }, { recheckOf: (soil as Entry).id })
    site.put(safe)
    expect(barriers(site.state, site.step('subgrade', 'B'))).toEqual([])
    // Safe to enter is not fit to build on.
    site.put(...good(site.step('subgrade', 'B')))
    expect(plain(statusOf(site.state, site.step('subgrade', 'B')).missing).join()).toMatch(/the soil from 4.50 to 9.00.*the cut/)
  })
  test('no other answer, no strike and no correction takes a stop out of the way', () => {
    const site = started().put(soil as Entry)
    site.put(entry('action', where, { of: (soil as Entry).id, cause: 'old tank', action: 'left the cut' }))
    const good_ = { answers: FIRM_CLAY, from: 4.5, to: 9 }
    expect(site.refusal(entry('soil', where, good_, { recheckOf: (soil as Entry).id }))).toMatch(/that is a stop: it is answered by name/)
    expect(site.refusal(entry('strike', where, { reason: 'wrong tap' }, { supersedes: (soil as Entry).id }))).toMatch(/not struck or corrected/)
    expect(site.refusal(entry('soil', where, good_, { supersedes: (soil as Entry).id, reason: 'wrong tap' }))).toMatch(/not struck or corrected/)
    expect(openStops(site.state)).toHaveLength(1)
  })
  test('peat, made ground and swelling clay are dug out, not judged away; what was wet may have dried', () => {
    const again = (bad: object) => {
      const site = started()
      const [found] = groundOf(layoutOf(plan), 'B', { ...FIRM_CLAY, ...bad })
      site.put(found as Entry, entry('action', where, { of: (found as Entry).id, cause: 'rain', action: 'drained' }))
      return site.refusal(entry('soil', where, { answers: FIRM_CLAY, from: 4.5, to: 9 }, { recheckOf: (found as Entry).id }))
    }
    expect(again({ feel: 'spongy' })).toMatch(/organic soil is dug out and replaced/)
    expect(again({ origin: 'made' })).toMatch(/made ground is dug out/)
    expect(again({ ribbon: 'long' })).toMatch(/clay of high plasticity is dug out/)
    expect(again({ water: 'wet' })).toBe('')
  })
  test('a clearance belongs to a stop, and to nothing else', () => {
    const site = started().put(...groundOf(layoutOf(plan), 'B', { ...FIRM_CLAY, firm: 'soft' }))
    const of = site.entries.find((e) => e.kind === 'soil') as Entry
    expect(site.refusal(entry('clearance', where, { who: 'Ada Finch', as: 'owner', seen: 'looked' }, { recheckOf: of.id }))).toMatch(
      /did not stop the work/,
    )
    expect(site.refusal(entry('clearance', where, { who: 'Ada Finch', as: 'owner', seen: 'looked' }))).toMatch(/name the finding/)
    expect(site.refusal(entry('clearance', where, { who: 'A', as: 'owner', seen: 'x' }, { role: 'crew', recheckOf: of.id }))).toMatch(
      /the crew may not record/,
    )
  })
  test('a wall of table 1 keeps its verdicts: rot and fuel were one answer there, and out', () => {
    const old = judge(smallPlan, 'soil', where, { answers: { ...FIRM_CLAY, smell: 'foul' }, from: 0, to: 1 })
    expect(old).toMatchObject({ verdict: 'out', text: expect.stringMatching(/dig out at least 300 mm/) })
  })
})

describe('an undercut goes to firm ground', () => {
  const where = { stage: 'dig', section: 'B' }
  const peat = entry('soil', where, { answers: { ...FIRM_CLAY, feel: 'spongy' }, from: 5, to: 7 })
  const state = () => stateOf([peat], plan)
  const whole = { from: 5, to: 7, depth: 0.32, fill: 'crushed stone', passes: 3, material: 'pad-material', lifts: 2, firm: 'bar' }
  const dug = (data: object) => plain(verdictOf(state(), entry('undercut', where, { ...whole, ...data }, { recheckOf: peat.id })))
  test.each([
    ['to firm ground, in lifts', {}, ''],
    ['300 mm of any fill without firm ground seen', { firm: undefined }, /nobody says that firm ground was seen/],
    ['no deeper, by the engineer’s word', { firm: undefined, depth: 0.2, engineer: 'E. of record, letter 12' }, ''],
    ['too shallow', { depth: 0.29 }, /290 mm dug out, at least 300 mm/],
    ['too short', { to: 6.9 }, /runs 5 m to 7 m/],
    ['filled with what lay about', { material: 'site-soil' }, /only by the engineer/],
    ['filled with nobody says what', { material: undefined }, /nobody says what/],
    ['in one lift', { lifts: 1 }, /320 mm in 1 lift, at most 160 mm each/],
    ['in lifts nobody counted', { lifts: undefined }, /in nobody says how many/],
    ['two passes', { passes: 2 }, /2 passes a lift, at least 3/],
    ['lean concrete is poured', { material: 'lean-concrete', lifts: undefined, passes: 0 }, ''],
  ])('%s', (_name, data, text) => {
    const v = dug(data)
    expect(v?.verdict).toBe(text === '' ? 'ok' : 'out')
    if (text !== '') expect(v?.text).toMatch(text)
  })
})

describe('an undercut under table 1', () => {
  const where = { stage: 'dig', section: 'B' }
  const dug = (passes: number) => judge(smallPlan, 'undercut', where, { from: 5, to: 7, depth: 0.3, fill: 'stone', passes })?.verdict
  test('two passes were enough, one was not', () => expect([dug(1), dug(2), dug(3)]).toEqual(['out', 'ok', 'ok']))
})

describe('soil and cut before the subgrade is released', () => {
  const ready = () => new Site(plan).work('services').work('set-out').release('set-out').work('dig', 'B')
  const check = (site: Site) => good(site.step('subgrade', 'B'))
  const missing = (site: Site) => plain(statusOf(site.state, site.step('subgrade', 'B')).missing).join('; ')
  const release = entry(
    'release',
    { stage: 'subgrade', section: 'B' },
    { decision: 'released', reason: 'seen', signature: SIGNED },
    { role: 'inspector' },
  )
  test('unsaid, it is not complete, whenever it is said', () => {
    const site = ready()
    site.put(...check(site))
    expect(missing(site)).toMatch(/the soil from 4.50 to 9.00; the cut, 1.\d+ m deep at 4.50/)
    expect(site.refusal(release)).toMatch(/not complete.*the soil from/)
    const [soil, from, to] = groundOf(site.state.layout, 'B')
    site.put({ ...(soil as Entry), data: { answers: FIRM_CLAY, from: 4.5, to: 7 } })
    expect(missing(site)).toMatch(/the soil from 7.00 to 9.00/)
    site.put(entry('soil', { stage: 'subgrade', section: 'B' }, { answers: FIRM_CLAY, from: 7, to: 9 }), from as Entry, to as Entry)
    expect(missing(site)).toBe('')
    expect(site.refusal(release)).toBe('')
  })
  test('a name does not make sand stand: what was found in the cut is used', () => {
    const site = ready()
    const [soil, from] = groundOf(site.state.layout, 'B', { ...FIRM_CLAY, grain: 'sand', ribbon: 'none', feel: 'gritty' })
    const clay = { slope: 0.75, soil: 'stiff-clay', sound: true, water: false, spoil: 1, plant: 1.5, ladder: 6, by: 'Rhea Moss' }
    site.put(...check(site), { ...(from as Entry), data: clay } as Entry)
    // A name alone makes no stiff clay since rule table 3: what was found there has to say so.
    expect(missing(site)).toMatch(/the cut at 4.50: nobody has said which soil is there/)
    site.put(soil as Entry)
    expect(missing(site)).toMatch(/the cut at 4.50: clean sand was found there, which stands no steeper than 1.5/)
    site.put(entry('cut', { stage: 'dig', section: 'B', station: 4.5 }, { ...clay, slope: 1.5 }))
    expect(missing(site)).toBe('')
    site.put(entry('cut', { stage: 'dig', section: 'B', station: 4.5 }, { ...clay, slope: 0, benched: true }))
    expect(missing(site)).toMatch(/does not stand in benches/)
  })
  test('the order in which it comes in changes nothing', () => {
    const site = ready()
    const all = [...check(site), ...groundOf(site.state.layout, 'B')]
    const [there, back] = [new Site(plan), new Site(plan)]
    for (const [s, list] of [
      [there, all],
      [back, [...all].reverse()],
    ] as const)
      for (const e of [...site.entries, ...list]) s.put(e)
    expect(missing(back)).toBe(missing(there))
  })
  test('nobody is made to confirm an undercut where there was none; what is wanted cannot be waved off', () => {
    const site = ready().put(...groundOf(layoutOf(plan), 'B'))
    const say = (data: object) => entry('check', { stage: 'subgrade', section: 'B' }, data)
    expect(site.refusal(say({ confirmed: ['unsuitable', 'undercut'], none: ['compacted'] }))).toMatch(
      /"Compacted; no movement under foot" is wanted here/,
    )
    expect(site.refusal(say({ confirmed: ['undercut', 'compacted'], none: ['undercut'] }))).toMatch(/one or the other/)
    expect(site.refusal(say({ confirmed: ['compacted'], none: ['nonsense'] }))).toMatch(/"nonsense" is wanted/)
    site.put(say({ confirmed: ['compacted'], none: ['unsuitable', 'undercut'] }))
    expect(missing(site)).toBe('')
    expect(lineOf(site.state, site.entries[site.entries.length - 1] as Entry, { units: 'metric' })).toMatch(
      /undercut replaced and compacted: does not apply/,
    )
  })
})

test('a stretch of soil ends beyond where it begins; table 1 did not ask', () => {
  const soil = entry('soil', { stage: 'dig', section: 'B' }, { answers: FIRM_CLAY, from: 8, to: 7 })
  const refused = (of: Site) => of.refusal(soil)
  expect(refused(new Site(plan).work('services').work('set-out').release('set-out'))).toMatch(/data\.to: must be beyond 8 m, not 7 m/)
  expect(refused(new Site().work('services').work('set-out').release('set-out'))).not.toMatch(/must be beyond/)
})
