import { failAll, ok, type Problem, type Result } from '../base/result'
import { said } from '../base/said'
import { LENGTH_TOLERANCE } from './number'
import { crossings, directionAt, distance, footOn, pointOn, type Segment, type SitePoint, segmentOf, signed } from './segment'

/** A point of the face line and how the element that leaves it bends (tan of a quarter of its angle, positive to the left). */
export interface Vertex extends SitePoint {
  readonly bulge?: number | undefined
}

/**
 * The face line of the first course, in the direction of stations, with the fill always on its left: someone who stands in
 * front of the wall sees stations run to the right.
 */
export interface Alignment {
  readonly vertices: readonly Vertex[]
  readonly closed: boolean
  readonly segments: readonly Segment[]
  /** m along the face of course 1. */
  readonly length: number
}

/** A kink smaller than this is taken up in the joints; a larger one is a corner of the wall (radians). */
export const CORNER_ANGLE = (3 * Math.PI) / 180

/** A place where the wall turns: positive to the left, an outside corner; negative an inside corner (radians). */
export interface Corner {
  readonly vertex: number
  readonly station: number
  readonly turn: number
}

const show = (p: SitePoint) => `E ${p.easting.toFixed(2)}, N ${p.northing.toFixed(2)}`

/**
 * Lines and arcs through points, stationed from the first.
 *
 * @param vertices - m, at least two (three for a ring of straights; two arcs make a circle)
 * @returns the alignment, or each point that is doubled and each place where the line crosses itself
 * @example alignmentOf([{ easting: 0, northing: 0 }, { easting: 10, northing: 0, bulge: 0.4142 }, { easting: 20, northing: 10 }], false)
 */
export function alignmentOf(vertices: readonly Vertex[], closed: boolean): Result<Alignment> {
  const problems: Problem[] = []
  const segments: Segment[] = []
  const count = closed ? vertices.length : vertices.length - 1
  if (vertices.length < 2) return failAll([{ field: 'vertices', message: 'an alignment needs two points' }])
  vertices.forEach((v, i) => {
    if (![v.easting, v.northing, v.bulge ?? 0].every(Number.isFinite))
      problems.push({ field: `vertices[${i}]`, message: 'is not a point: its numbers are not finite' })
  })
  if (problems.length > 0) return failAll(problems)
  let station = 0
  for (let i = 0; i < count; i++) {
    const from = vertices[i] as Vertex
    const to = vertices[(i + 1) % vertices.length] as Vertex
    if (distance(from, to) < 0.001) {
      problems.push({
        field: `vertices[${(i + 1) % vertices.length}]`,
        message: `is the same point as the one before (${show(from)}); remove one of the two`,
      })
      continue
    }
    const segment = segmentOf(from, to, from.bulge ?? 0, station)
    segments.push(segment)
    station += segment.length
  }
  if (problems.length > 0) return failAll(problems)
  const alignment: Alignment = { vertices, closed, segments, length: station }
  const crossed = selfCrossings(alignment)
  if (crossed.length > 0) {
    return failAll(
      crossed.slice(0, 5).map((c) => ({
        field: `vertices[${c.element}]`,
        message: `the line crosses itself at ${show(c.at)}: station ${said.length(c.first, 2)} meets station ${said.length(c.second, 2)}`,
      })),
    )
  }
  return ok(alignment)
}

/** Pairs of elements, by their places, whose boxes come within a distance of each other. @param apart - m */
export function nearPairs(segments: readonly Segment[], apart: number): [number, number][] {
  const boxes = segments.map(boxOf)
  // Swept from west to east: only those that begin before one ends can meet it.
  const west = boxes.map((_, i) => i).sort((i, j) => (boxes[i] as Box)[0] - (boxes[j] as Box)[0])
  const near: [number, number][] = []
  west.forEach((i, w) => {
    const p = boxes[i] as Box
    for (let k = w + 1; k < segments.length && (boxes[west[k] as number] as Box)[0] <= p[2] + apart; k++) {
      const j = west[k] as number
      const q = boxes[j] as Box
      if (p[1] <= q[3] + apart && q[1] <= p[3] + apart) near.push(i < j ? [i, j] : [j, i])
    }
  })
  return near.sort((a, b) => a[0] - b[0] || a[1] - b[1])
}

/** Every place where a line of elements meets itself other than end to start. */
export function selfCrossings(a: { readonly segments: readonly Segment[]; readonly closed: boolean }) {
  const found: { element: number; at: SitePoint; first: number; second: number }[] = []
  const n = a.segments.length
  const near = nearPairs(a.segments, 0)
  for (const [i, j] of near) {
    const [s, t] = [a.segments[i] as Segment, a.segments[j] as Segment]
    // Two straight ones after each other that turn meet where they join, and nowhere else.
    if (j === i + 1 && s.kind === 'line' && t.kind === 'line' && Math.abs(Math.sin(t.angle - s.angle)) > 1e-3 && distance(s.to, t.from) < 1e-6)
      continue
    const shared: SitePoint[] = []
    if (j === i + 1) shared.push(s.to)
    if (a.closed && i === 0 && j === n - 1) shared.push(s.from)
    for (const at of crossings(s, t)) {
      if (shared.some((v) => distance(v, at) < 1e-3)) continue
      found.push({ element: j, at, first: s.station + footOn(s, at).along, second: t.station + footOn(t, at).along })
    }
  }
  return found
}

type Box = readonly [number, number, number, number]
function boxOf(s: Segment): Box {
  // An arc bulges past its sampled points by less than this.
  const slack = s.kind === 'arc' ? s.radius * 0.02 * Math.min(1, Math.abs(s.sweep)) + 1e-3 : 1e-3
  let west = Math.min(s.from.easting, s.to.easting)
  let east = Math.max(s.from.easting, s.to.easting)
  let south = Math.min(s.from.northing, s.to.northing)
  let north = Math.max(s.from.northing, s.to.northing)
  for (let q = 1; s.kind === 'arc' && q < 16; q++) {
    const { easting, northing } = pointOn(s, (s.length * q) / 16)
    west = Math.min(west, easting)
    east = Math.max(east, easting)
    south = Math.min(south, northing)
    north = Math.max(north, northing)
  }
  return [west - slack, south - slack, east + slack, north + slack]
}

/** Least and greatest easting and northing of a line, m. */
export function extentOf(segments: readonly Segment[]): { min: SitePoint; max: SitePoint } {
  const boxes = segments.map(boxOf)
  return {
    min: { easting: Math.min(...boxes.map((b) => b[0])), northing: Math.min(...boxes.map((b) => b[1])) },
    max: { easting: Math.max(...boxes.map((b) => b[2])), northing: Math.max(...boxes.map((b) => b[3])) },
  }
}

/** A wall that runs straight east from the origin. */
export const straight = (length: number): Alignment => ({
  vertices: [
    { easting: 0, northing: 0 },
    { easting: length, northing: 0 },
  ],
  closed: false,
  segments: [segmentOf({ easting: 0, northing: 0 }, { easting: length, northing: 0 }, 0, 0)],
  length,
})

/** The element under a station; a ring is walked round as often as needed. */
export function elementAt(a: Alignment, station: number): { index: number; segment: Segment; along: number } {
  const s = a.closed ? ((station % a.length) + a.length) % a.length : station
  let low = 0
  let high = a.segments.length - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if ((a.segments[middle] as Segment).station <= s + LENGTH_TOLERANCE) low = middle
    else high = middle - 1
  }
  const segment = a.segments[low] as Segment
  return { index: low, segment, along: s - segment.station }
}

/**
 * The point at a station, `offset` m to the left (into the fill), and the bearing there (degrees clockwise from north).
 * Beyond the ends the first and last elements go on.
 */
export function pointAt(a: Alignment, station: number, offset = 0): SitePoint & { bearing: number } {
  const { segment, along } = elementAt(a, station)
  return { ...pointOn(segment, along, offset), bearing: bearingOf(directionAt(segment, along)) }
}

/** Radians counter-clockwise from east to degrees clockwise from north, and back. */
export const bearingOf = (angle: number) => (((90 - (angle * 180) / Math.PI) % 360) + 360) % 360
export const angleOf = (bearing: number) => ((90 - bearing) * Math.PI) / 180

/** Station and offset (m, positive to the left) of a point: its foot on the nearest element. */
export function stationOf(a: Alignment, p: SitePoint): { station: number; offset: number; away: number } {
  let best = { station: 0, offset: 0, away: Number.POSITIVE_INFINITY }
  for (const s of a.segments) {
    const foot = footOn(s, p)
    if (foot.away < best.away - 1e-9) best = { station: s.station + foot.along, offset: foot.offset, away: foot.away }
  }
  return best
}

/** Turn between the element before a vertex and the one after it, radians. */
export const turnBetween = (before: Segment, after: Segment) => signed(directionAt(after, 0) - directionAt(before, before.length))

/** The corners of the wall; kinks within `CORNER_ANGLE` are none. */
export function cornersOf(a: Alignment): Corner[] {
  const result: Corner[] = []
  a.segments.forEach((s, i) => {
    const before = i > 0 ? a.segments[i - 1] : a.closed ? a.segments[a.segments.length - 1] : undefined
    if (!before) return
    const turn = turnBetween(before, s)
    if (Math.abs(turn) > CORNER_ANGLE) result.push({ vertex: i, station: s.station, turn })
  })
  return result
}

/** The same line walked the other way, so that the fill comes to its other side. */
export function reversed(vertices: readonly Vertex[], closed: boolean): Vertex[] {
  const n = vertices.length
  const bulge = (from: number) => -((vertices[((from % n) + n) % n] as Vertex).bulge ?? 0) || 0
  return Array.from({ length: n }, (_, i) => {
    const v = vertices[n - 1 - i] as Vertex
    return { easting: v.easting, northing: v.northing, bulge: !closed && i === n - 1 ? 0 : bulge(n - 2 - i) }
  })
}
