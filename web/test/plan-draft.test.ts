// Every field a plan can hold is reached from the form, kept to the last digit where nobody touched it, and moved on the drawing as it is typed.
import { EVERY_WALL, issued, meaningsOf, movedBy, type Plan, planSchema, SYSTEMS, startPlan, takeIn, type UnitSystem } from '@stone-tally/core'
import { draftAlong, planAlong } from '@/features/plan/plan/along-line'
import { applyPlan } from '@/features/plan/plan/apply-plan'
import { type Draft, draftOf, emptyDraft, planOf, planRead } from '@/features/plan/plan/draft'
import { changedFields, keptDraft } from '@/features/plan/plan/kept-draft'
import { toJsonSchema } from '../../core/src/base/schema'

type Node = { properties?: Record<string, Node>; type?: string; items?: Node; oneOf?: Node[]; anyOf?: Node[] }
const leaves = (s: Node, at = ''): string[] =>
  s.properties
    ? Object.entries(s.properties).flatMap(([k, v]) => leaves(v, at ? `${at}.${k}` : k))
    : s.type === 'array' && s.items
      ? leaves(s.items, `${at}[]`)
      : (s.oneOf ?? s.anyOf)
        ? [...new Set((s.oneOf ?? s.anyOf ?? []).flatMap((x) => leaves(x, at)))]
        : [at]

const landscape = SYSTEMS.find((s) => s.id === 'landscape') as (typeof SYSTEMS)[number]
const hollow = SYSTEMS.find((s) => s.id === 'hollow-core') as (typeof SYSTEMS)[number]
/** A plan with something in every field that every wall may have. */
const full = (): Plan =>
  ({
    ...startPlan(hollow, 12),
    holds: ['seismic'],
    stands: [{ kind: 'slope', away: 0.7, size: 0.333333, note: 'grass' }, { kind: 'fence' }],
    found: {
      points: [
        { station: 0, behind: -0.123456, level: 10.1 },
        { station: 3.3333333, behind: 2, level: 10.7654321 },
      ],
      back: 4.5678,
    },
    padSteps: [],
    top: { style: 'stepped', minRun: 1.7777 },
    openings: [{ name: 'culvert', station: 4.1111, width: 0.4, bottom: 0.2, height: 0.2 }],
    references: [{ name: 'house', kind: 'building-line', points: [{ easting: 1.23456, northing: 2 }] }],
    obstacles: [{ name: 'oak', kind: 'tree', points: [{ easting: 3, northing: 9 }], radius: 1, clearance: 2 }],
    front: { slope: 0.05, erodible: false },
    frost: 0.8123,
    water: {
      school: 'raised',
      sock: false,
      holes: 0.004321,
      bed: 0.0777,
      cover: 0.1555,
      possible: [{ name: 'ditch', station: 12, invert: 9.3333 }],
      heel: { above: 0.3111, fall: 0.0123, outlets: [{ station: 12, invert: 9.9999 }] },
      area: 123.456,
      runoff: 0.33333,
      rain: 44.4,
    },
    rules: { pointSpacing: 2.2222, engineeredAbove: 1.1111, heightFrom: 'first-course', ownRelease: false, openCourses: 2 },
    builtIn: [{ kind: 'clear', name: 'hedge', from: 0, to: 3.3333, what: 'plant', how: 'keep' }],
  }) as unknown as Plan

describe.each(['metric', 'imperial', 'decimal-feet'] as UnitSystem[])('a plan with everything in it, opened in %s', (units) => {
  test('and issued as it is, is the same plan to the last digit', () => {
    const plan = full()
    const made = planOf(draftOf(plan, units), units, undefined, plan)
    expect(made).toEqual({ ok: true, value: plan })
  })
  test('one field changed changes that field alone', () => {
    const plan = full()
    const shown = draftOf(plan, units)
    const change = (draft: Draft) => {
      const made = planOf(draft, units, undefined, plan)
      if (!made.ok) throw new Error(JSON.stringify(made.problems))
      return made.value
    }
    expect(change({ ...shown, every: { ...shown.every, rain: units === 'metric' ? '50' : '2' } })).toEqual({
      ...plan,
      water: { ...plan.water, rain: units === 'metric' ? 50 : 50.8 },
    })
    expect(change({ ...shown, every: { ...shown.every, sock: 'yes' } })).toEqual({ ...plan, water: { ...plan.water, sock: true } })
    expect(change({ ...shown, everyLists: { ...shown.everyLists, openings: [] } })).toEqual((({ openings: _, ...rest }) => rest)(plan))
    expect(change({ ...shown, stands: shown.stands.slice(1) })).toEqual({ ...plan, stands: [{ kind: 'fence' }] })
    const noHeel = change({
      ...shown,
      every: { ...shown.every, heelAbove: '', heelFall: '' },
      everyLists: { ...shown.everyLists, heelOutlets: [] },
    })
    expect(noHeel.water).not.toHaveProperty('heel')
    expect(change({ ...shown, found: '', foundBack: '' })).not.toHaveProperty('found')
  })
  test('moved on its drawing, everything nobody touched stays to the last digit', () => {
    const plan = full()
    const moved = { ...plan, grades: plan.grades.map((g, i) => (i === 1 ? { ...g, top: g.top + 0.25 } : g)) }
    const made = planOf(applyPlan(draftOf(plan, units), plan, moved, units), units, undefined, plan)
    if (!made.ok) throw new Error(JSON.stringify(made.problems))
    expect({ ...made.value, grades: [] }).toEqual({ ...plan, grades: [] })
    expect(made.value.grades[0]).toEqual(plan.grades[0])
    expect(made.value.grades[1]?.top).toBeCloseTo((plan.grades[1]?.top ?? 0) + 0.25, 2)
    // A line put in between leaves the others what they were.
    const more = { ...plan, grades: [...plan.grades.slice(0, 1), { station: 6, toe: 0, top: 0.8 }, ...plan.grades.slice(1)] } as Plan
    const added = planOf(applyPlan(draftOf(plan, units), plan, more, units), units, undefined, plan)
    if (!added.ok) throw new Error(JSON.stringify(added.problems))
    expect([added.value.grades[0], added.value.grades[2]]).toEqual(plan.grades)
  })
})

describe('what a plan file can hold', () => {
  /** Set by the house, by another place, or told in the part of its system. */
  const ELSEWHERE = [/^ruleTable$/, /^book/, /^rules\.(choices|points)/, /^alignment/, /^system\.data/, /^builtIn/]
  test('every field of every wall is on the form: a change of it survives the form', () => {
    const shown = draftOf(full(), 'metric')
    const texts = JSON.stringify(shown)
    const named = (leaf: string) => EVERY_WALL.some((q) => (q.of === 'list' ? q.columns.some((c) => `${q.at}[].${c.id}` === leaf) : q.at === leaf))
    const OF: Readonly<Record<string, string>> = {
      benchmark: 'benchmark',
      engineer: 'engineer',
      engineerBy: 'engineerBy',
      engineerLicence: 'engineerLicence',
      engineerOn: 'engineerOn',
      engineerCovers: 'coversHeight',
      asked: 'asked',
      soil: 'soilBehind',
      edge: 'edge',
      excavation: 'behind',
      front: 'frontSlope',
      frost: 'frost',
      grades: 'grades',
      holds: 'holds',
      length: 'length',
      name: 'name',
      site: 'site',
      drawing: 'drawing',
      sections: 'sections',
      stands: 'stands',
      found: 'found',
      padSteps: 'padSteps',
      references: 'drawn',
      obstacles: 'drawn',
      system: 'system',
      'rules.limits': 'limits',
      'rules.openCourses': 'openCourses',
      'rules.added': 'drawn',
      'top.style': 'topStyle',
    }
    const missing = leaves(toJsonSchema(planSchema as never) as Node).filter((leaf) => {
      if (named(leaf) || ELSEWHERE.some((e) => e.test(leaf))) return false
      const at = Object.keys(OF).find((k) => leaf === k || leaf.startsWith(`${k}.`) || leaf.startsWith(`${k}[`))
      return at === undefined || !((OF[at] as string) in shown)
    })
    expect(missing).toEqual([])
    expect(texts).toContain('culvert')
  })
  /** A system builds without these: what an older file holds of them stays in it. */
  const NOT_BUILT: Readonly<Record<string, readonly string[]>> = {
    wire: ['stone.width', 'layers[]', 'rolls[]', 'waste.grid'],
    masonry: ['layers[]', 'rolls[]', 'waste.grid', 'embedment[]'],
  }
  test.each(SYSTEMS.map((s) => [s.id, s] as const))('%s: every field of its part is asked', (id, system) => {
    const asked = (leaf: string) =>
      system.questions.some((q) =>
        q.of === 'list'
          ? q.columns.some((c) => `${q.at}[].${c.id}` === leaf)
          : q.of === 'unit'
            ? leaf.startsWith(`${q.at}.`)
            : leaf === q.at.replace(/\[\w+=\w+\]/, '[]'),
      )
    const all = [...new Set(leaves(toJsonSchema(system.schema as never) as Node))]
    const missing = all.filter((leaf) => !asked(leaf) && leaf !== 'embedment[].kind' && !NOT_BUILT[id]?.some((n) => leaf.startsWith(n)))
    expect(missing).toEqual([])
  })
})

test('what is taken in for what stands around is in the plan that is issued', () => {
  const draft: Draft = {
    ...draftOf({ ...startPlan(landscape, 12), holds: [] } as Plan, 'metric'),
    stands: [{ kind: 'pool', cells: { away: '1', size: '1.5', note: '' } }],
  }
  const first = planOf(draft, 'metric')
  if (!first.ok) throw new Error(JSON.stringify(first.problems))
  const stages = landscape.stages.map((s) => s.id)
  const meanings = meaningsOf({ kind: 'pool', away: 1, size: 1.5 }, issued(first.value), { height: 1, length: 12, stages }).filter((m) => m.takes)
  expect(meanings.map((m) => m.of)).toEqual(['drain', 'point'])
  let [now, plan] = [draft, first.value]
  for (const m of meanings) {
    now = applyPlan(now, plan, takeIn(plan, m), 'metric')
    const made = planOf(now, 'metric')
    if (!made.ok) throw new Error(JSON.stringify(made.problems))
    plan = made.value
  }
  expect(plan.water?.heel).toEqual({ above: 0.3, fall: 0.01 })
  expect(plan.rules?.added?.map((p) => p.id)).toEqual(['pool-drain'])
})

test('levels are typed or pasted a line each; what is none is named by its line', () => {
  const draft = { ...emptyDraft('imperial'), found: `0; 0; 33'-4"\n12\t2\t34\n\n12 0 34.5\nabc; 1; 2\n1 2 3 4` }
  const made = planOf({ ...draft, name: 'W', site: 'S', length: "40'" }, 'imperial')
  expect(made.ok).toBe(false)
  if (!made.ok) {
    const found = made.problems.filter((p) => p.field === 'found').map((p) => p.message)
    expect(found).toHaveLength(2)
    expect(found[0]).toMatch(/^line 4: /)
    expect(found[1]).toMatch(/^line 5: "1 2 3 4" is not a station/)
  }
})

test('a wall on the line of a survey moves with its line, and its ground stays where it is', () => {
  const line = {
    length: 12,
    alignment: {
      vertices: [
        { easting: 100, northing: 50, bulge: 0 },
        { easting: 112, northing: 50, bulge: 0 },
      ],
      closed: false,
    },
    notes: [],
  }
  const draft = draftAlong({ ...draftOf({ ...startPlan(landscape, 12), holds: [] } as Plan, 'metric'), found: '0; 0; 0\n12; 3; 1' }, line, 'metric')
  const read = planRead(draft, 'metric')
  if (!read.ok) throw new Error(JSON.stringify(read.problems))
  const plan = planAlong(read.value, line, draft, 'metric')
  // Over a reload, and a step back, the line is in what is kept.
  expect(JSON.parse(JSON.stringify(draft)).drawn.line).toEqual(line)
  const next = applyPlan(draft, plan, movedBy(plan, 'line', 0.3), 'metric')
  expect(next.drawn.line).toEqual(line)
  const again = planRead(next, 'metric')
  if (!again.ok) throw new Error(JSON.stringify(again.problems))
  const moved = planAlong(again.value, line, next, 'metric')
  expect(moved.alignment?.vertices.map((v) => [v.easting, v.northing])).toEqual([
    [100, 50.3],
    [112, 50.3],
  ])
  expect(moved.found?.points.map((p) => p.behind)).toEqual([-0.3, 2.7])
  expect(moved.length).toBe(12)
})

describe('what was typed to a revision and not issued', () => {
  test('is kept with the fields that read otherwise, line by line', () => {
    const shown = draftOf(full(), 'metric')
    const typed: Draft = {
      ...shown,
      frost: '',
      grades: shown.grades.map((g, i) => (i === 1 ? { ...g, top: '9' } : g)),
      every: { ...shown.every, rain: '50' },
      stands: shown.stands.slice(0, 1),
    }
    expect(changedFields(shown, typed)).toEqual(
      [
        ['frost', 'empty'],
        ['grades.1.top', '9'],
        ['stands.1', 'taken out'],
        ['every.rain', '50'],
      ].sort(
        (a, b) =>
          Object.keys(shown).indexOf((a[0] as string).split('.')[0] as string) - Object.keys(shown).indexOf((b[0] as string).split('.')[0] as string),
      ),
    )
    const text = JSON.stringify({ revision: 3, draft: typed, changed: changedFields(shown, typed) })
    expect(keptDraft(text)?.draft).toEqual(typed)
  })
  test('of another version, cut off, or nothing, it is nothing', () => {
    for (const text of ['', '{', '{}', 'null', '{"revision":1}', '{"revision":1,"changed":[],"draft":{}}']) expect(keptDraft(text)).toBeUndefined()
  })
})
