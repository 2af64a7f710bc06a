import {
  type CourseRun,
  kindOf,
  type LaidRun,
  LIMITS,
  type RunEnd,
  SYSTEMS,
  shippedPoint,
  systemOf,
  type Unit,
  type WallSystem,
} from '@stone-tally/core'
import fc from 'fast-check'
import { layoutOf } from './plans'
import { SHIPPED_STARTS } from './started'
import { at, planOn, unitNamed } from './walls'

const system = (id: string): WallSystem => {
  const found = systemOf(id)
  if (!found) throw new Error(id)
  return found
}
/** A run with the unit it is laid of. */
type Run = CourseRun & { unit: Unit }
const run = (change: Partial<Run> & { unitId?: string } = {}): Run => {
  const { unitId = 'lug-200', ...rest } = change
  return { unit: unitNamed(unitId), length: 9, course: 1, onPad: false, start: 'free', end: 'free', startTurn: 0, endTurn: 0, below: [], ...rest }
}
const lay = (r: Run, id = 'hollow-core'): LaidRun => system(id).lay(r, { unit: r.unit })
const kinds = (l: LaidRun) => l.pieces.map((p) => p.kind)
const SQUARE = Math.PI / 2

describe('every system', () => {
  test.each(SYSTEMS.map((s) => [s.id, s] as const))(
    '%s: its stages lead from the first mark to the final, each asking only for what exists',
    (_id, s) => {
      const ids = s.stages.map((x) => x.id)
      expect(new Set(ids).size).toBe(ids.length)
      expect([ids[0], ids[ids.length - 1]]).toEqual(['services', 'final'])
      for (const stage of s.stages) {
        for (const r of stage.requires) expect(ids).toContain(r.stage)
        // What stands above needs something of what is below it; only then can courses not run ahead.
        expect(stage.how.length).toBeGreaterThan(20)
      }
      // Something must be asked of the course below, or courses could run ahead of it.
      expect(s.stages.some((x) => x.requires.some((r) => r.of === 'below' && r.force === 'hard'))).toBe(true)
      expect(ids).toContain(s.open.from)
      for (const until of s.open.until) expect(ids).toContain(until)
      expect(s.stages.filter((x) => x.caution).length).toBeGreaterThan(2)
    },
  )
  test.each(SYSTEMS.map((s) => [s.id, s] as const))('%s: its units are sound and have an outline as deep and high as they are', (_id, s) => {
    for (const unit of s.units) {
      const { body } = s.outline({ ...(s.start(unit, SHIPPED_STARTS) as object), unit }, 1)
      expect(Math.max(...body.map((p) => p[0]))).toBe(unit.depth)
      expect(Math.max(...body.map((p) => p[1]))).toBe(unit.height)
      expect(unit.minRadius).toBeGreaterThan(0)
    }
  })
  test('two systems do not share a unit', () => {
    const ids = SYSTEMS.flatMap((s) => s.units.map((u) => u.id))
    expect(new Set(ids).size).toBe(ids.length)
  })
})

describe('a course of block', () => {
  test('a free run is whole units', () => expect(kinds(lay(run()))).toEqual(Array.from({ length: 20 }, () => 'full')))
  test('corner units take turns at both legs of an outside corner', () => {
    const end = (course: number) => lay(run({ course, end: 'outside-corner', endTurn: SQUARE })).pieces.slice(-1)[0]
    const start = (course: number) => lay(run({ course, start: 'outside-corner', startTurn: SQUARE })).pieces[0]
    expect([end(1)?.kind, end(2)?.kind]).toEqual(['corner', 'return'])
    expect([start(1)?.kind, start(2)?.kind]).toEqual(['return', 'corner'])
    expect([end(1)?.length, end(2)?.length]).toEqual([0.45, 0.3])
  })
  test('a unit without a corner piece is mitred at a right angle too', () =>
    expect(lay(run({ unitId: 'lip-150', end: 'outside-corner', endTurn: SQUARE })).pieces.slice(-1)[0]).toMatchObject({ kind: 'mitre', length: 0.4 }))
  test('a leg too short for its corner pieces is bonded as if it ended there', () => {
    const short = lay(run({ length: 0.5, start: 'outside-corner', end: 'outside-corner', startTurn: SQUARE, endTurn: SQUARE }))
    expect(short.pieces.some((p) => p.kind === 'corner' || p.kind === 'return')).toBe(false)
    expect(short.pieces.reduce((n, p) => n + p.length, 0)).toBeCloseTo(0.5, 6)
  })
  test('what cannot be kept is said: a cut at an end, too little overlap, a sliver', () => {
    expect(lay(run({ length: 0.3 })).broken).toBe('a cut piece stands at an end')
    expect(lay(run({ length: 0.05 })).broken).toBe('a piece is a sliver')
    const crowded = Array.from({ length: 90 }, (_, i) => i * 0.1)
    expect(lay(run({ below: crowded })).broken).toMatch(/joints (overlap by less than a quarter unit|line up)/)
    expect(lay(run()).broken).toBeUndefined()
  })
  test('at an opening and against an inside corner a cut may stand at the end', () => {
    const unit = { ...unitNamed('lug-200'), half: false }
    for (const end of ['opening', 'inside-corner'] as RunEnd[]) expect(lay(run({ unit, length: 0.75, end, course: 2 })).broken).toBeUndefined()
    expect(lay(run({ unit, length: 0.75, course: 2 })).broken).toBe('a cut piece stands at an end')
  })
  test('any run of any unit is filled from end to end, in order, without overlap', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 4, max: 300 }),
        fc.constantFrom(...system('hollow-core').units.map((u) => u.id)),
        fc.integer({ min: 1, max: 6 }),
        fc.constantFrom<RunEnd>('free', 'step', 'outside-corner', 'opening'),
        fc.array(fc.integer({ min: 0, max: 300 }), { maxLength: 20 }),
        (length, unitId, course, end, below) => {
          const r = run({ unitId, length: length / 10, course, end, endTurn: SQUARE, below: [...below].sort((a, b) => a - b).map((b) => b / 10) })
          const { pieces } = lay(r)
          const area = pieces.reduce((n, p) => n + p.length * (p.height ?? r.unit.height), 0)
          expect(area).toBeCloseTo(r.length * r.unit.height, 5)
          // Along every row of a band the pieces touch and do not overlap.
          for (const y of [0.01, r.unit.height - 0.01]) {
            const row = pieces.filter((p) => y >= (p.bottom ?? 0) && y < (p.bottom ?? 0) + (p.height ?? r.unit.height)).sort((a, b) => a.at - b.at)
            row.forEach((p, i) => expect(p.at).toBeCloseTo(i === 0 ? 0 : (row[i - 1]?.at ?? 0) + (row[i - 1]?.length ?? 0), 5))
          }
        },
      ),
      { numRuns: 200, seed: 6 },
    ))
})

describe('a band of a pattern', () => {
  test('courses on the pad are whole units; above them the tile, shifted from course to course', () => {
    expect(lay(run({ unitId: 'pattern-300', onPad: true })).pieces.every((p) => p.shape === undefined)).toBe(true)
    const [a, b] = [2, 3].map((course) => lay(run({ unitId: 'pattern-300', course })).pieces.map((p) => p.at))
    expect(a).not.toEqual(b)
  })
  test('joints at its foot keep a quarter unit from the joints below', () => {
    const lower = lay(run({ unitId: 'pattern-300', onPad: true }))
    const joints = lower.pieces.slice(1).map((p) => p.at)
    const upper = lay(run({ unitId: 'pattern-300', course: 2, below: joints }))
    const clear = upper.pieces.filter((p) => (p.bottom ?? 0) === 0 && p.at > 1e-6).map((p) => Math.min(...joints.map((j) => Math.abs(j - p.at))))
    if (upper.broken) expect(upper.broken).toMatch(/come within \d+ mm/)
    else expect(Math.min(...clear)).toBeGreaterThanOrEqual(0.1 - 1e-6)
  })
})

describe('a row of baskets', () => {
  const baskets = (change: Partial<CourseRun> = {}) => lay(run({ unitId: 'basket-2x1x1', length: 13, ...change }), 'gabion')
  test('the longest first, a half to stagger, one cut down where the run is odd', () => {
    expect(kinds(baskets({ length: 12 }))).toEqual(Array.from({ length: 6 }, () => 'full'))
    const over = baskets({ length: 12, course: 2, below: [2, 4, 6, 8, 10] })
    expect(kinds(over).filter((k) => k === 'half')).toHaveLength(2)
    expect(kinds(baskets({ length: 13.3 }))).toContain('cut')
  })
  test('at an outside corner one leg runs through and the other butts against it, in turn', () => {
    const end = (course: number) => baskets({ course, end: 'outside-corner', endTurn: SQUARE }).pieces
    expect([end(1).slice(-1)[0]?.kind, end(2).slice(-1)[0]?.kind]).toEqual(['full', 'return'])
  })
  test('too little lean is cautioned', () => {
    const plan = planOn([at(0, 0), at(9, 0)], false, { system: 'gabion', unit: { ...unitNamed('basket-2x1x1'), setback: 0.02 } })
    expect(
      layoutOf({ ...plan, pad: { ...plan.pad, width: 1.3 } })
        .cautions.map((c) => c.message)
        .join(),
    ).toMatch(/lean 1.1° into the slope; 6° is usual/)
  })
})

test.each(SYSTEMS.map((s) => [s.id, s] as const))('%s: every stage names points, limits and stages that exist', (_id, system) => {
  const ids = new Set(system.stages.map((s) => s.id))
  expect(ids.size).toBe(system.stages.length)
  for (const stage of system.stages) {
    if (stage.hold) expect(shippedPoint(stage.hold)?.kind).toBe('hold')
    if (stage.witness) expect(shippedPoint(stage.witness)?.kind).toBe('witness')
    for (const r of stage.requires) expect([stage.id, r.stage, ids.has(r.stage)]).toEqual([stage.id, r.stage, true])
    for (const kind of stage.also ?? []) expect(kindOf(kind)?.beside).toBeTruthy()
    const names =
      stage.work.type === 'readings'
        ? [stage.work.limit, stage.work.firstLimit]
        : stage.work.type === 'check'
          ? (stage.work.measures ?? []).flatMap((m) => [m.least, m.most])
          : []
    const start = system.start(system.units[0] as Unit, SHIPPED_STARTS)
    // A limit that the part or its foundation sets is there in what a new wall starts with.
    const sizes = { ...system.building({} as never, start).foundation.sizes }
    const known = (name: string) => {
      const [from, own] = name.split('.')
      return own === undefined ? name in LIMITS : from === 'own' ? system.size?.(start, own, { course: 1 }) !== undefined : own in sizes
    }
    for (const name of [...names, ...stage.requires.map((r) => r.days)])
      if (typeof name === 'string') expect([name, known(name)]).toEqual([name, true])
  }
})

test.each(SYSTEMS.map((s) => [s.id, s] as const))('%s: two units or more to begin with, one of them made in inches', (_id, { units }) => {
  expect(units.length).toBeGreaterThan(1)
  const inInches = (v: number) => Math.abs(v / 0.0254 - Math.round((v / 0.0254) * 4) / 4) < 1e-6
  expect(units.some((u) => [u.height, u.length, u.depth].every(inInches))).toBe(true)
  // Stone of a pattern covers its tile without a gap.
  for (const u of units)
    if (u.pattern) expect(u.pattern.pieces.reduce((sum, p) => sum + p.length * p.height, 0)).toBeCloseTo(u.pattern.length * u.height, 9)
})
