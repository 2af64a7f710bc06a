import {
  alongFace,
  besideStation,
  type Cap,
  type FaceLeg,
  legsOf,
  lineBeside,
  pointAt,
  pointOnFace,
  stakesOf,
  stationOf,
  trenchOf,
} from '@stone-tally/core'
import fc from 'fast-check'
import { layoutOf, smallPlan } from './plans'
import { at, circle, planOn, unitNamed } from './walls'

const cornered = planOn([at(0, 0), at(8, 0, 0.25), at(14, 3), at(12, 9), at(20, 9)], false)

describe('legs of a wall', () => {
  test('a straight wall is one leg with free ends; a ring one with none', () => {
    expect(legsOf(layoutOf(smallPlan).alignment)).toMatchObject([{ from: 0, to: 9, start: 'free', end: 'free' }])
    expect(legsOf(layoutOf(planOn(circle(6), true)).alignment)).toMatchObject([{ start: 'ring', end: 'ring' }])
  })
  test('corners part legs, tangents and kinks do not; outside and inside are told apart', () => {
    const kinds = legsOf(layoutOf(cornered).alignment).map((l) => [l.start, l.end])
    expect(kinds).toEqual([
      ['free', 'outside-corner'],
      ['outside-corner', 'inside-corner'],
      ['inside-corner', 'free'],
    ])
  })
  test('in a closed wall the last leg runs over the first station', () => {
    // The first point lies in the middle of a side.
    const layout = layoutOf(planOn([at(4, 0), at(8, 0), at(8, 6), at(0, 6), at(0, 0)], true))
    const legs = legsOf(layout.alignment)
    expect(legs).toHaveLength(4)
    const last = legs[legs.length - 1]
    expect([last?.from, last?.to].map((x) => Math.round((x ?? 0) * 1000) / 1000)).toEqual([24, 32])
    // Its course is one run without a joint forced at the first station.
    const run = layout.runs[0]?.find((r) => r.leg === last?.index)
    expect([run?.from, run?.to]).toEqual([24, 32])
    for (const p of run?.pieces ?? []) expect(p.start).toBeLessThanOrEqual(28)
  })
})

describe('the face of a course', () => {
  const layout = layoutOf(cornered)
  const each = (check: (face: FaceLeg, offset: number) => void) =>
    layout.faces.forEach((faces, i) => {
      for (const f of faces) check(f, layout.courses[i]?.offset ?? 0)
    })
  test('distance along it and the station beside it are each other’s inverse', () =>
    each((f) => {
      const length = alongFace(f, f.u1)
      for (let k = 0; k <= 10; k++) expect(alongFace(f, besideStation(f, (length * k) / 10))).toBeCloseTo((length * k) / 10, 6)
    }))
  test('every point of it stands its setback behind the first course, beside its own station', () =>
    each((f, offset) => {
      const length = alongFace(f, f.u1)
      for (let k = 1; k < 10; k++) {
        const c = (length * k) / 10
        const p = pointOnFace(f, c)
        const foot = stationOf(layout.alignment, p)
        expect(foot.away).toBeLessThanOrEqual(offset + 1e-6)
        const u = besideStation(f, c)
        if (u > f.leg.from && u < f.leg.to) {
          const q = pointAt(layout.alignment, u, offset)
          expect(Math.hypot(p.easting - q.easting, p.northing - q.northing)).toBeLessThan(0.01 + offset * 0.05)
        }
      }
    }))
  test('an outside corner cuts a course back by its setback, an inside one lengthens it', () => {
    const square = layoutOf(planOn([at(0, 0), at(8, 0), at(8, 6)], false))
    square.faces.forEach((faces, i) => {
      const offset = square.courses[i]?.offset ?? 0
      expect(faces[0]?.u1).toBeCloseTo(8 - offset, 6)
      expect(faces[1]?.u0).toBeCloseTo(8 + offset, 6)
    })
    const inside = layoutOf(planOn([at(0, 0), at(8, 0), at(8, -6)], false))
    inside.faces.forEach((faces, i) => expect(faces[0]?.u1).toBeCloseTo(8 + (inside.courses[i]?.offset ?? 0), 6))
  })
})

describe('caps', () => {
  const total = (caps: readonly Cap[]) => caps.reduce((n, c) => n + c.length, 0)
  test('cover the top whatever the line, none a sliver, the cut away from the ends', () =>
    fc.assert(
      fc.property(fc.integer({ min: 12, max: 260 }), fc.constantFrom('lug-200', 'tongue-200', 'lip-150'), (length, id) => {
        const unit = unitNamed(id)
        const plan = planOn([at(0, 0), at(length / 10, 0)], false, { unit, top: { style: 'level' } })
        const { caps } = layoutOf(plan)
        expect(total(caps)).toBeCloseTo(length / 10, 4)
        const full = unit.capLength ?? unit.length
        if (length / 10 > 3 * full) {
          for (const c of caps) expect(c.length).toBeGreaterThan(full / 2 - 1e-6)
          expect([caps[0]?.kind, caps[caps.length - 1]?.kind]).toEqual(['end', 'end'])
          expect(caps[0]?.length).toBeCloseTo(full, 6)
          expect(caps[caps.length - 1]?.length).toBeCloseTo(full, 6)
        }
        for (const [i, c] of caps.entries()) if (i > 0) expect(c.start).toBeCloseTo(caps[i - 1]?.to ?? 0, 5)
      }),
      { numRuns: 80, seed: 2 },
    ))
  test('baskets have none', () => {
    const plan = planOn([at(0, 0), at(9, 0)], false, { system: 'gabion', unit: unitNamed('basket-2x1x1') })
    expect(layoutOf({ ...plan, pad: { ...plan.pad, width: 1.3 } }).caps).toEqual([])
  })
})

describe('lines beside the wall', () => {
  test('a trench edge keeps its distance; one too far inside a bend is still drawn', () => {
    const { alignment, plan } = layoutOf(cornered)
    for (const offset of [trenchOf(plan).front, trenchOf(plan).back]) {
      // At the sharpest corner, of 108°, the edge is cut where its two sides meet.
      const inner = lineBeside(alignment, offset).filter((p) => {
        const { station } = stationOf(alignment, p)
        return station > 0.01 && station < alignment.length - 0.01
      })
      for (const p of inner) expect(stationOf(alignment, p).away).toBeLessThanOrEqual(Math.abs(offset) / Math.cos(0.95) + 0.01)
    }
    expect(lineBeside(layoutOf(planOn(circle(3), true)).alignment, 5).length).toBeGreaterThan(10)
  })
  test('a stake names every reason it stands for', () => {
    const layout = layoutOf({ ...smallPlan, openings: [{ name: 'storm pipe', station: 4.5, width: 0.3, bottom: 10, height: 0.3 }] })
    expect(stakesOf(layout).find((s) => s.station === 4.5)?.why).toBe('section B, storm pipe')
    expect(new Set(stakesOf(layout).map((s) => s.name)).size).toBe(stakesOf(layout).length)
  })
})
