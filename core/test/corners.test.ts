import { alongFace, baseSteps, cornersOf, type Layout, type EarlierPlan as Plan, stationOf } from '@stone-tally/core'
import fc from 'fast-check'
import { pointOnFace } from '../src/layout/face'
import { layoutOf } from './plans'
import { at, planOn } from './walls'

/** Does a leg come nearer than a metre to one that is not its neighbour? */
function comesBack(vertices: readonly ReturnType<typeof at>[]): boolean {
  const along = vertices.slice(1).map((b, i) => {
    const a = vertices[i] as typeof b
    return Array.from({ length: 101 }, (_, k) => ({
      e: a.easting + ((b.easting - a.easting) * k) / 100,
      n: a.northing + ((b.northing - a.northing) * k) / 100,
    }))
  })
  return along.some((one, i) => along.slice(i + 2).some((two) => one.some((p) => two.some((q) => Math.hypot(p.e - q.e, p.n - q.n) < 1))))
}

/** Walls with one to three corners either way, grades that fall and rise, an opening now and then. */
const cornered = fc
  .record({
    parts: fc.array(fc.record({ length: fc.integer({ min: 30, max: 90 }), turn: fc.constantFrom(-90, -60, 60, 90) }), { minLength: 2, maxLength: 4 }),
    toes: fc.array(fc.integer({ min: -6, max: 6 }), { minLength: 2, maxLength: 5 }),
    tall: fc.integer({ min: 8, max: 16 }),
  })
  .map(({ parts, toes, tall }): Plan | undefined => {
    const vertices = [at(0, 0)]
    let angle = 0
    parts.forEach((p, i) => {
      const last = vertices[vertices.length - 1] ?? at(0, 0)
      // Turned one way and back again: it never meets itself.
      angle += i === 0 ? 0 : (Math.sign(p.turn) * (i % 2 === 0 ? -1 : 1) * Math.abs(p.turn) * Math.PI) / 180
      const length = p.length / 10 + 0.137 * i
      vertices.push(at(last.easting + length * Math.cos(angle), last.northing + length * Math.sin(angle)))
    })
    // Where one leg comes back to within a unit of another, the nearest place on the line may be that one's.
    if (comesBack(vertices)) return undefined
    let plan: Plan
    try {
      plan = planOn(vertices, false)
    } catch {
      // A line that meets itself all the same is none.
      return undefined
    }
    const grades = toes.map((t, i) => ({ station: (plan.length * i) / (toes.length - 1), toe: 10 + t / 10, top: 10 + t / 10 + tall / 10 }))
    return { ...plan, grades: grades.map((g, i) => (i === toes.length - 1 ? { ...g, station: plan.length } : g)) }
  })
  .filter((p): p is Plan => p !== undefined)
const laid = (plan: Plan): Layout | undefined => {
  try {
    return layoutOf(plan)
  } catch {
    // Too short a leg for its corners, or a line that meets itself: refused, and not what is looked at here.
    return undefined
  }
}

describe('beside a corner', () => {
  test('no step of pad or top breaks nearer to it than the shortest piece, unless at the corner itself', () =>
    fc.assert(
      fc.property(cornered, (plan) => {
        const layout = laid(plan)
        fc.pre(layout !== undefined)
        if (!layout) return
        const least = plan.unit.minPiece ?? plan.unit.length / 4
        for (const corner of cornersOf(layout.alignment)) {
          for (const s of [...layout.steps, ...layout.tops]) {
            for (const edge of [s.start, s.end]) {
              const away = Math.abs(edge - corner.station)
              expect(away < 1e-6 || away >= least - 1e-6).toBe(true)
            }
          }
        }
      }),
      { numRuns: 60 },
    ))
  test('units stand where they stand on the ground: only what touches the corner is drawn otherwise', () =>
    fc.assert(
      fc.property(cornered, (plan) => {
        const layout = laid(plan)
        fc.pre(layout !== undefined)
        if (!layout) return
        layout.runs.forEach((runs, i) => {
          for (const run of runs) {
            const face = layout.faces[i]?.find((f) => f.leg.index === run.leg)
            if (!face || run.pieces.length < 6) continue
            expect(run.pieces[0]?.start).toBeCloseTo(run.from, 6)
            expect(run.pieces[run.pieces.length - 1]?.to).toBeCloseTo(run.to, 6)
            run.pieces.forEach((p, k) => {
              if (k > 0) expect(p.start).toBeCloseTo(run.pieces[k - 1]?.to ?? Number.NaN, 6)
              // A unit and its neighbour at each end may touch the corner.
              const near = 1.5 * plan.unit.length
              if (p.start - run.from < near || run.to - p.start < near) return
              const point = pointOnFace(face, run.c0 + p.at)
              const foot = stationOf(layout.alignment, point)
              if (Math.abs(foot.offset) > 1.5) return
              expect(Math.abs(foot.station - p.start)).toBeLessThan(0.002)
              expect(alongFace(face, p.start)).toBeCloseTo(run.c0 + p.at, 3)
            })
          }
        })
      }),
      { numRuns: 40 },
    ))
  test('the solver keeps its steps off what it is told, and is the optimum of what is left', () => {
    const input = {
      datum: 9,
      minEmbedment: 0.2,
      minRun: 1.2,
      unit: { height: 0.2, length: 0.45 },
      profile: [
        { station: 0, toe: 10 },
        { station: 9, toe: 10.1 },
        { station: 15, toe: 10.75 },
      ],
    }
    const free = baseSteps(input)
    const edge = free.ok ? (free.value.steps[1]?.start ?? 0) : 0
    const kept = baseSteps(input, [{ station: edge + 0.004, within: 0.1125 }])
    const edges = kept.ok ? kept.value.steps.map((s) => s.start) : []
    expect(edges).not.toContain(edge)
    for (const e of edges) expect(Math.abs(e - edge - 0.004) < 1e-6 || Math.abs(e - edge - 0.004) >= 0.1125 - 1e-6).toBe(true)
    expect(kept.ok && free.ok && kept.value.buriedArea >= free.value.buriedArea).toBe(true)
    // At the station itself a step may break.
    const same = baseSteps(input, [{ station: edge, within: 0.1125 }])
    expect(same.ok && same.value.steps.map((s) => s.start)).toContain(edge)
  })
})
