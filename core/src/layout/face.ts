import { failAll, ok, type Problem, type Result } from '../base/result'
import { said } from '../base/said'
import { type Alignment, cornersOf, LENGTH_TOLERANCE, type OffsetLine, offsetOf, pointOn, type SitePoint } from '../geometry'
import { type Building, fieldOfPart, type RunEnd } from '../systems'
import type { Course } from './rows'

/** A stretch of the wall between two corners or ends. In a ring it may run past the last station into the first. */
export interface Leg {
  readonly index: number
  readonly from: number
  readonly to: number
  readonly start: RunEnd
  readonly end: RunEnd
  readonly startTurn: number
  readonly endTurn: number
}

/** The legs of a wall in the order of stations. */
export function legsOf(alignment: Alignment): Leg[] {
  const corners = cornersOf(alignment)
  const at = (i: number) => {
    const c = corners[i]
    return c ? { end: (c.turn > 0 ? 'outside-corner' : 'inside-corner') as RunEnd, turn: Math.abs(c.turn) } : { end: 'free' as RunEnd, turn: 0 }
  }
  if (corners.length === 0) {
    const end: RunEnd = alignment.closed ? 'ring' : 'free'
    return [{ index: 0, from: 0, to: alignment.length, start: end, end, startTurn: 0, endTurn: 0 }]
  }
  const legs: Leg[] = []
  const stations = corners.map((c) => c.station)
  if (alignment.closed) {
    stations.forEach((from, i) => {
      const next = (i + 1) % stations.length
      const to = next === 0 ? (stations[0] as number) + alignment.length : (stations[next] as number)
      const [a, b] = [at(i), at(next)]
      legs.push({ index: i, from, to, start: a.end, end: b.end, startTurn: a.turn, endTurn: b.turn })
    })
    return legs
  }
  const edges = [0, ...stations, alignment.length]
  for (let i = 0; i + 1 < edges.length; i++) {
    const [a, b] = [at(i - 1), at(i)]
    legs.push({ index: i, from: edges[i] as number, to: edges[i + 1] as number, start: a.end, end: b.end, startTurn: a.turn, endTurn: b.turn })
  }
  return legs
}

/** One element of a leg on the face of a course: the stations it stands beside and the distance along the face there (m). */
interface Reach {
  readonly element: number
  readonly u0: number
  readonly u1: number
  readonly c0: number
  readonly c1: number
}

/**
 * The face of one course along one leg. `u` is the station a point stands beside (it may pass a corner by the setback, or
 * fall short of it); `c` is the distance along the course's own face.
 */
export interface FaceLeg {
  readonly leg: Leg
  readonly line: OffsetLine
  readonly reaches: readonly Reach[]
  readonly u0: number
  readonly u1: number
}

/** The legs of a course's face, in the order of `legsOf`. */
export function faceLegs(alignment: Alignment, legs: readonly Leg[], line: OffsetLine): FaceLeg[] {
  const n = line.elements.length
  let first = 0
  return legs.map((leg) => {
    const reaches: Reach[] = []
    let c = 0
    // Legs go on along the wall, so what lies before one lies before all that follow; what begins beyond it ends it.
    while (first < n && (alignment.segments[first]?.station ?? 0) < leg.from - LENGTH_TOLERANCE) first++
    for (let k = first; k < 2 * n; k++) {
      const base = alignment.segments[k % n]
      const e = line.elements[k % n]
      if (!base || !e) continue
      const turn = k >= n ? alignment.length : 0
      const start = base.station + turn
      if (start > leg.to - LENGTH_TOLERANCE || (turn > 0 && !alignment.closed)) break
      if (start < leg.from - LENGTH_TOLERANCE) continue
      reaches.push({ element: k % n, u0: e.from + turn, u1: e.to + turn, c0: c, c1: c + e.segment.length })
      c += e.segment.length
    }
    const [head, tail] = [reaches[0] as Reach, reaches[reaches.length - 1] as Reach]
    return { leg, line, reaches, u0: head.u0, u1: tail.u1 }
  })
}

/** Distance along the face beside a station; past the ends the end elements go on. */
export function alongFace(f: FaceLeg, u: number): number {
  let r = f.reaches[0] as Reach
  for (let i = 1; i < f.reaches.length && u > (f.reaches[i] as Reach).u0; i++) r = f.reaches[i] as Reach
  return r.c0 + ((u - r.u0) * (r.c1 - r.c0)) / (r.u1 - r.u0)
}

/** The station beside a distance along the face. */
export function besideStation(f: FaceLeg, c: number): number {
  let r = f.reaches[0] as Reach
  for (let i = 1; i < f.reaches.length && c > (f.reaches[i] as Reach).c0; i++) r = f.reaches[i] as Reach
  return r.u0 + ((c - r.c0) * (r.u1 - r.u0)) / (r.c1 - r.c0)
}

/** The point of the site grid at a distance along the face, `offset` m further into the fill. */
export function pointOnFace(f: FaceLeg, c: number, offset = 0): SitePoint {
  let r = f.reaches[0] as Reach
  for (let i = 1; i < f.reaches.length && c > (f.reaches[i] as Reach).c0; i++) r = f.reaches[i] as Reach
  const element = f.line.elements[r.element]
  if (!element) throw new RangeError('a reach has its element')
  return pointOn(element.segment, c - r.c0, offset)
}

/** Where a course's face bends tighter than the unit can be laid. */
export function checkRadii(alignment: Alignment, courses: readonly Course[], building: Building): Problem[] {
  const problems: Problem[] = []
  alignment.segments.forEach((s, i) => {
    if (s.kind !== 'arc') return
    const field = `alignment.vertices[${i}].bulge`
    if (building.course(1).minRadius === undefined) {
      problems.push({
        field: fieldOfPart(building.at.minRadius),
        message: `is missing: the wall bends at station ${said.length(s.station, 2)}, so the smallest radius of the unit must be known`,
      })
      return
    }
    const over = courses.filter((c) => c.stretches.some((x) => x.from < s.station + s.length && x.to > s.station))
    const inward = s.sweep > 0
    // The fill lies inside a bend to the left: each course back is tighter. Otherwise the first is the tightest.
    const tightest = inward ? over[over.length - 1] : over[0]
    if (!tightest) return
    const radius = s.radius - Math.sign(s.sweep) * tightest.offset
    const make = building.course(tightest.course)
    const least = make.minRadius ?? 0
    if (radius >= least - LENGTH_TOLERANCE) return
    const needed = least + Math.sign(s.sweep) * tightest.offset
    problems.push({
      field,
      message: `the arc at station ${said.length(s.station, 2)} has a radius of ${said.length(s.radius, 2)}; at course ${tightest.course} the face is down to ${said.length(Math.max(0, radius), 2)}, and ${make.name} needs ${said.given(least)}. The first course must have ${said.length(needed, 2)} or more`,
    })
  })
  return problems
}

/** The face line of every course. */
export function faceLines(alignment: Alignment, courses: readonly Course[]): Result<OffsetLine[]> {
  const lines: OffsetLine[] = []
  for (const c of courses) {
    const line = offsetOf(alignment, c.offset)
    if (!line.ok) return failAll(line.problems.map((p) => ({ field: `alignment.${p.field}`, message: `${p.message} (course ${c.course})` })))
    lines.push(line.value)
  }
  return ok(lines)
}
