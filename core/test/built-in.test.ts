// What is built with a wall and is no part of it: planned, counted, recorded with a photo, and covered only then.
import {
  BUILT_INS,
  type BuiltInData,
  builtInDrawn,
  builtInKindOf,
  compareLayouts,
  layOut,
  type Plan,
  quantities,
  readPlan,
  SYSTEMS,
  slugOf,
  stepsOf,
} from '@stone-tally/core'
import { good } from './build'
import { entry, layoutOf, plain } from './plans'
import { Site } from './site'
import { started, startedLayout } from './started'

const cable = { kind: 'conduit', name: 'Light cable', from: 2, to: 8, elevation: 10.3, behind: 0.9, diameter: 0.05 }
const posts = { kind: 'sleeves', name: 'Rail posts', from: 1, to: 8.5, spacing: 2, behind: 1, diameter: 0.15, deep: 0.6 }
const openings = [{ name: 'Yard pipe', station: 6, width: 0.2, bottom: 10.1, height: 0.2 }]
const inlet = { kind: 'basin', name: 'Yard basin', station: 6, behind: 1.2, size: 0.4, grate: 11.1, bottom: 10, opening: 'Yard pipe' }
const ONE: Readonly<Record<string, object>> = {
  clear: { kind: 'clear', name: 'Old step', from: 0, to: 9.6, what: 'structure', how: 'remove' },
  erosion: { kind: 'erosion', name: 'Toe', from: 0, to: 9.6, measure: 'silt-fence' },
  underlay: { kind: 'underlay', name: 'Soft end', from: 0, to: 4, type: 'biaxial 20', width: 1.2, lap: 0.4, roll: 2 },
  sealing: { kind: 'sealing', name: 'Yard collar', opening: 'Yard pipe' },
  basin: inlet,
  conduit: cable,
  'water-line': { ...cable, kind: 'water-line', name: 'Planting water' },
  sleeves: posts,
  shaft: { kind: 'shaft', name: 'Flush A', station: 5, behind: 1, diameter: 0.2, bottom: 9.7 },
  'pad-outlet': { kind: 'pad-outlet', name: 'South', station: 2, towards: 'front', length: 3, fall: 0.02 },
  'found-pipe': {
    kind: 'found-pipe',
    name: 'Old drain',
    station: 3,
    elevation: 10.2,
    behind: 1,
    diameter: 0.1,
    into: 'own',
    note: 'Field drain of the meadow',
  },
  planting: { kind: 'planting', name: 'Hedge', from: 0, to: 9.6, thickness: 0.3, width: 0.8, tight: 'yes' },
}
const withThem = (list: readonly object[], change: Partial<Plan> = {}): Plan =>
  started('hollow-core', { openings, ...change, builtIn: list as BuiltInData[] })
const bad = (...list: object[]) => {
  const read = readPlan({ ...withThem([]), builtIn: list })
  return read.ok ? [] : read.problems.map((p) => `${p.field}: ${plain(p.message)}`)
}

describe('each kind', () => {
  test('is here, asks in a form for all that it holds, and says what is looked at', () => {
    expect(Object.keys(ONE).sort()).toEqual(BUILT_INS.map((k) => k.id).sort())
    for (const [id, data] of Object.entries(ONE)) {
      const kind = builtInKindOf(id)
      for (const field of Object.keys(data))
        if (field !== 'kind') expect([id, field, kind?.fields.some((f) => f.id === field)]).toEqual([id, field, true])
      expect(kind?.work(data as BuiltInData).items.length).toBeGreaterThan(0)
    }
  })
  test.each(Object.keys(ONE))('%s: planned, it is a stage of its own in every section it touches, counted, and the wall is laid out', (id) => {
    const sections = [
      { id: 'A', from: 0, to: 4 },
      { id: 'B', from: 4, to: 9.6 },
    ]
    const layout = layoutOf(withThem([ONE[id] as object], { sections }))
    const own = stepsOf(layout).filter((s) => s.stage.id.startsWith('in-'))
    const where = { sealing: 'B', basin: 'B', underlay: 'A', shaft: 'B', 'found-pipe': 'A' }[id] ?? 'AB'
    expect(own.map((s) => s.section).join('')).toBe(where)
    expect(new Set(layout.system.stages.map((s) => s.id)).size).toBe(layout.system.stages.length)
    const takes = quantities(layout).filter((q) => q.id.endsWith(slugOf((ONE[id] as { name: string }).name)))
    expect(takes.length > 0).toBe(id !== 'clear' && id !== 'found-pipe')
    for (const q of takes) expect(q.value).toBeGreaterThan(0)
  })
  test('is drawn somewhere: what has no elevation of its own under the pad, along the toe or on top', () => {
    const layout = layoutOf(withThem(Object.values(ONE)))
    const drawn = builtInDrawn(layout)
    for (const data of Object.values(ONE)) expect(drawn.some((d) => d.item.name === (data as { name: string }).name)).toBe(true)
    const of = (name: string) => drawn.find((d) => d.item.name === name)
    const [step] = layout.steps
    expect(of('Soft end')?.high).toBeCloseTo((step?.elevation ?? 0) - layout.building.foundation.thickness, 9)
    expect([of('Toe')?.high, of('Hedge')?.high]).toEqual([10, 11.2])
    expect([Math.sign(of('Toe')?.behind ?? 0), Math.sign(of('Hedge')?.behind ?? 0)]).toEqual([-1, 1])
  })
  test.each(SYSTEMS.map((s) => s.id))('a wall of %s takes all of them', (id) => {
    // Behind whatever reaches into the fill, and with the engineer's word.
    const far = (d: object = {}) => ('behind' in d ? { ...d, behind: 2.4 } : d)
    const list = Object.values({ ...ONE, sleeves: { ...posts, word: 'SP-1, note 4' } }).map(far)
    const plan = started(id, { openings: [{ name: 'Yard pipe', station: 6, width: 0.2, bottom: 10.1, height: 0.2 }], builtIn: list as BuiltInData[] })
    const made = layOut(plan)
    expect(made.ok ? [] : made.problems).toEqual([])
    const steps = made.ok ? stepsOf(made.value) : []
    expect(steps.filter((s) => s.stage.id.startsWith('in-')).length).toBe(list.length)
  })
})

test('a small wall has few stages, and none of them is lost on it', () => {
  const far = (d: object = {}) => ('behind' in d ? { ...d, behind: 2.4 } : d)
  const list = Object.values({
    ...ONE,
    basin: { ...inlet, grate: 10.2, bottom: 9.9 },
    sealing: ONE.sealing,
    shaft: { ...ONE.shaft, bottom: 9.7 },
    sleeves: { ...posts, word: 'SP-1, note 4' },
  })
    .map(far)
    .map((d) => ((d as { kind: string }).kind === 'found-pipe' ? { ...d, elevation: 10.1 } : d))
  const low = {
    openings: [{ name: 'Yard pipe', station: 6, width: 0.2, bottom: 10.02, height: 0.05 }],
    grades: [0, 9.6].map((station) => ({ station, toe: 10, top: 10.24 })),
  }
  const layout = layoutOf(started('landscape', { ...low, builtIn: list as BuiltInData[] }, ((d: object) => ({ ...d, small: 'yes' })) as never))
  const steps = stepsOf(layout)
  expect(steps.filter((s) => s.stage.id.startsWith('in-')).length).toBe(list.length)
  const ids = new Set(layout.system.stages.map((s) => s.id))
  for (const s of layout.system.stages) for (const r of s.requires) expect([s.id, ids.has(r.stage)]).toEqual([s.id, true])
  // Each is waited for by something that comes after it.
  for (const s of layout.system.stages.filter((x) => x.id.startsWith('in-')))
    expect([s.id, layout.system.stages.some((x) => x.requires.some((r) => r.stage === s.id))]).toEqual([s.id, true])
})

describe('what is wrong with them is said at their field', () => {
  test('two of one name, a name of signs alone, ends beyond the wall or before its start', () => {
    expect(bad(cable, { ...posts, name: 'light CABLE' })).toEqual([
      expect.stringMatching(/^builtIn\[1\].name: "light CABLE" is told from "Light cable" by nothing/),
    ])
    expect(bad({ ...cable, name: '–' })).toEqual([expect.stringMatching(/letter or digit/)])
    expect(bad({ ...cable, to: 9.61 })).toEqual([expect.stringMatching(/^builtIn\[0\].to: 9.61 m is beyond the wall/)])
    expect(bad({ ...cable, to: 2 })).toEqual([expect.stringMatching(/must be beyond 2 m/)])
    expect(bad({ ...posts, to: 0.5 })).toEqual([expect.stringMatching(/must not be before 1 m/)])
    expect(bad({ kind: 'moat', name: 'x' })).toContainEqual(expect.stringMatching(/builtIn\[0\].kind: must be one of clear, erosion/))
  })
  test('an opening that is not there; a basin under its own pipe, over the ground or upside down', () => {
    expect(bad({ ...inlet, opening: 'None' })).toEqual([expect.stringMatching(/there is no opening None; there are Yard pipe/)])
    expect(bad({ ...inlet, grate: 10.05, bottom: 9.9 })).toEqual([expect.stringMatching(/opening: Yard pipe lies at 10.1 m, not below the grate/)])
    expect(bad({ ...inlet, bottom: 11.2 })).toEqual([expect.stringMatching(/bottom: must be below its grate/)])
    expect(bad({ ...inlet, grate: 11.6 })).toEqual([expect.stringMatching(/grate: 11.6 m stands over the ground/)])
  })
  test('a shaft that begins over the ground, a found pipe outside it', () => {
    expect(bad({ ...ONE.shaft, bottom: 11.3 })).toEqual([expect.stringMatching(/bottom: must be below the ground/)])
    expect(bad({ ...ONE['found-pipe'], elevation: 12 })).toEqual([expect.stringMatching(/elevation: 12 m is not in the ground/)])
  })
  test('a lap as wide as the roll', () => expect(bad({ ...ONE.underlay, lap: 2 })).toEqual([expect.stringMatching(/as wide as the roll/)]))
})

describe('where it must not be', () => {
  const cautions = (list: readonly object[], layers: readonly object[] = [], id = 'hollow-core') =>
    startedLayout(id, { builtIn: list as BuiltInData[] }, (d: object) => (layers.length > 0 ? { ...d, layers } : d) as never)
      .cautions.filter((c) => c.id.startsWith('built-in'))
      .map((c) => `${c.blocks ? 'stops: ' : ''}${plain(c.message)}`)
  const layer = [{ course: 5, length: 1.2, type: 'uniaxial 30' }]
  test('a sleeve through a layer, through the units, in the drainage stone: refused until the engineer’s word stands in the plan', () => {
    expect(cautions([posts], layer)).toEqual([expect.stringMatching(/stops: Rail posts goes through the layer on course 5/)])
    expect(cautions([{ ...posts, behind: 1.5 }], layer)).toEqual([])
    expect(cautions([{ ...posts, word: 'SP-1, note 4' }], layer)).toEqual([])
    expect(cautions([{ ...posts, behind: 0.25 }])).toEqual([expect.stringMatching(/stops: Rail posts stands in the units of course/)])
    expect(cautions([{ ...posts, behind: 0.25, word: 'SP-1, note 4' }])).toEqual([expect.stringMatching(/never through the units/)])
    expect(cautions([{ ...posts, behind: 0.6 }])).toEqual([expect.stringMatching(/stops: Rail posts stands in the drainage stone/)])
  })
  test('a shallow sleeve passes over the layer, a conduit in the stone is said and stops nothing', () => {
    expect(cautions([{ ...posts, deep: 0.15 }], layer)).toEqual([])
    expect(cautions([{ ...cable, behind: 0.5 }])).toEqual([expect.stringMatching(/^Light cable stands in the drainage stone/)])
  })
  test('through the mats of a wire wall', () => {
    expect(cautions([{ ...posts, behind: 1 }], [], 'wire')).toEqual([expect.stringMatching(/stops: Rail posts goes through the mats of course/)])
  })
})

describe('the record', () => {
  const site = () => new Site(withThem([cable, { ...ONE.clear }, { ...ONE.underlay }, ONE.planting as object]))
  const dug = (s: Site) => s.work('services').work('set-out').release('set-out')
  test('what is cleared first holds the dig, what lies under the pad the pad: nothing is covered unseen', () => {
    const s = dug(site())
    expect(s.refusal(good(s.step('dig', 'A'))[0] as never)).toMatch(/Old step comes before the dig/)
    s.work('in-old-step-A', 'A').work('dig', 'A').work('subgrade', 'A').release('subgrade', 'A')
    expect(s.refusal(good(s.step('pad', 'A'))[0] as never)).toMatch(/Soft end is not recorded; it cannot be seen again/)
    s.work('in-soft-end-A', 'A')
    // Looked at, but nobody has a photo of it.
    expect(s.refusal(good(s.step('pad', 'A'))[0] as never)).toMatch(/Missing: a photo/)
    s.put(photo('in-soft-end-A'))
    expect(s.refusal(good(s.step('pad', 'A'))[0] as never)).toBe('')
  })
  test('a lap that is too narrow is a finding by the plan’s own figure', () => {
    const s = dug(site()).work('in-old-step-A', 'A').work('dig', 'A').work('subgrade', 'A').release('subgrade', 'A')
    s.put(entry('check', { stage: 'in-soft-end-A', section: 'A' }, { confirmed: [], measured: [{ id: 'lap', value: 0.35 }] }))
    expect(plain([...s.state.outs.values()][0]?.text)).toMatch(/narrowest lap.*350 mm, at least 400 mm/)
  })
  test('the course beside a conduit is not filled before it is recorded; another course is not held', () => {
    const layout = layoutOf(withThem([cable]))
    const own = stepsOf(layout).find((s) => s.stage.id === 'in-light-cable-A')
    const row = layout.courses.find((c) => c.course === own?.course)
    expect(row && row.bottom <= 10.275 && row.top > 10.275).toBe(true)
    const fill = (course: number | undefined) => stepsOf(layout).find((s) => s.stage.id === 'backfill' && s.course === course)
    const needs = (course: number | undefined) => fill(course)?.stage.requires.some((r) => r.stage === 'in-light-cable-A')
    // Every backfill names it; only beside it is there a step to wait for.
    expect([needs(own?.course), stepsOf(layout).filter((s) => s.stage.id === 'in-light-cable-A').length]).toEqual([true, 1])
  })
  const photo = (stage: string) =>
    entry(
      'photo',
      { stage, section: 'A' },
      {
        file: '01900000-0000-7000-8000-00000000f0f0',
        sha256: 'a'.repeat(64),
        name: 'a.jpg',
        type: 'image/jpeg',
        bytes: 1200,
        width: 16,
        height: 12,
        location: 'none',
      },
    )
  test('a revision says what of it came, went or moved, and work on what is gone stays in the record', () => {
    const of = (list: readonly object[]) => layoutOf(withThem(list))
    const words = (was: readonly object[], is: readonly object[]) => compareLayouts(of(was), of(is)).map((c) => plain(c.text))
    expect(words([cable], [cable])).toEqual([])
    expect(words([cable], [{ ...cable, to: 7 }, posts])).toEqual(
      expect.arrayContaining(['Built in: Light cable changed', 'Built in: Rail posts added']),
    )
    expect(words([cable], [])).toContain('Built in: Light cable taken out')
  })
  test('a plan without any of it has the very stages it had', () => {
    expect(layoutOf(withThem([])).system.stages.map((s) => s.id)).toEqual(
      layoutOf(started('hollow-core', { openings })).system.stages.map((s) => s.id),
    )
  })
})
