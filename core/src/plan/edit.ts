import {
  type Alignment,
  alignmentOf,
  along,
  angleOf,
  directionAt,
  distance,
  elevationAt,
  pointAt,
  type SitePoint,
  segmentOf,
  type Vertex,
} from '../geometry'
import { foundAlong } from './found-along'
import type { Plan } from './plan'

const tidy = (v: number) => Math.round(v * 1e6) / 1e6
const vertex = (v: Vertex): { easting: number; northing: number; bulge: number } => ({
  easting: tidy(v.easting),
  northing: tidy(v.northing),
  bulge: v.bulge ?? 0,
})

/**
 * What every wall has, along another line: its length follows, grades and sections are stretched to its end or cut off there, openings and
 * other places beyond it move to it. Its system's part follows in `withLine` of the systems.
 *
 * @example commonAlong(plan, [{ easting: 0, northing: 0 }, { easting: 12, northing: 0 }], false).length // 12
 */
export function commonAlong(plan: Plan, vertices: readonly Vertex[], closed: boolean): Plan {
  const alignment = { vertices: vertices.map(vertex), closed }
  const made = alignmentOf(alignment.vertices, closed)
  // A line that cannot be is kept for its problem to be shown; nothing else can follow it.
  if (!made.ok) return { ...plan, alignment }
  const length = tidy(made.value.length)
  const inside = plan.grades.filter((g) => g.station < length - 0.01 && g.station < plan.length - 1e-6)
  const at = (of: 'toe' | 'top') =>
    elevationAt(
      plan.grades.map((g) => ({ station: g.station, elevation: g[of] })),
      length,
    )
  const last = plan.grades[plan.grades.length - 1]
  const grown = last !== undefined && length >= plan.length - 1e-6
  const grades = [...inside, { station: length, toe: grown ? last.toe : tidy(at('toe')), top: grown ? last.top : tidy(at('top')) }]
  const sections = plan.sections.filter((s) => s.from < length - 0.01).map((s, i, list) => (i === list.length - 1 ? { ...s, to: length } : s))
  const near = <T extends { station: number }>(list: readonly T[]) => list.map((o) => (o.station > length ? { ...o, station: length } : o))
  return {
    ...plan,
    alignment,
    length,
    grades,
    sections,
    ...(plan.padSteps ? { padSteps: plan.padSteps.filter((s) => s < length - 0.01) } : {}),
    ...foundAt(plan, { alignment, length }),
    ...(plan.openings ? { openings: near(plan.openings) } : {}),
    ...(plan.water?.possible ? { water: { ...plan.water, possible: near(plan.water.possible) } } : {}),
  }
}

/**
 * The ground as found, seen from another line: it lies where it lies, so that a wall that moves into the hill finds the hill. A wall without a line
 * on the site grid only gets longer or shorter; what lay beyond its end is of another place.
 *
 * @example foundAt(plan, { alignment, length: 12 }).found
 */
export function foundAt(plan: Plan, to: Pick<Plan, 'alignment' | 'length'>): { found?: Plan['found'] } {
  const { found, alignment } = plan
  if (!found) return {}
  const before = alignment && alignmentOf(alignment.vertices.map(vertex), alignment.closed)
  const points = before?.ok
    ? foundAlong(
        to,
        found.points.map((p) => ({ ...pointAt(before.value, p.station, p.behind), elevation: p.level })),
      ).points
    : found.points.filter((p) => p.station <= to.length + 1e-6)
  return { found: points.length > 0 ? { ...found, points } : undefined }
}

/** One point moved; arcs at it keep their angle. */
export const movePoint = (vertices: readonly Vertex[], i: number, to: SitePoint): Vertex[] =>
  vertices.map((v, k) => (k === i ? { ...v, easting: to.easting, northing: to.northing } : v))

/** A point taken out; what left it is gone with it. */
export const removePoint = (vertices: readonly Vertex[], i: number): Vertex[] => vertices.filter((_, k) => k !== i)

/** A point put in the middle of the element that leaves point `i`; an arc stays the same arc in two halves. */
export function splitElement(vertices: readonly Vertex[], i: number): Vertex[] {
  const from = vertices[i]
  const to = vertices[(i + 1) % vertices.length]
  if (!from || !to) return [...vertices]
  const s = segmentOf(from, to, from.bulge ?? 0, 0)
  const middle = pointAt({ segments: [s], length: s.length, closed: false, vertices: [from, to] }, s.length / 2)
  const bulge = Math.tan(Math.atan(from.bulge ?? 0) / 2)
  const result = vertices.map((v, k) => (k === i ? { ...v, bulge } : v))
  result.splice(i + 1, 0, { easting: middle.easting, northing: middle.northing, bulge })
  return result
}

/** A longest first step of a point put at the end of a line, m: it stays on the paper. */
const ON = 6

/**
 * A point more at the end of an open line: straight on in the direction it ends in, as far as its last element is long, 6 m at most.
 *
 * @example addPoint([{ easting: 0, northing: 0 }, { easting: 4, northing: 0 }])[2] // { easting: 8, northing: 0 }
 */
export function addPoint(vertices: readonly Vertex[]): Vertex[] {
  const [from, to] = vertices.slice(-2)
  if (!from || !to) return [...vertices]
  const s = segmentOf(from, to, from.bulge ?? 0, 0)
  const by = Math.min(ON, s.length)
  const way = directionAt(s, s.length)
  const mm = (v: number) => Math.round(v * 1000) / 1000
  return [...vertices, { easting: mm(to.easting + by * Math.cos(way)), northing: mm(to.northing + by * Math.sin(way)) }]
}

/** What can be typed for the element that leaves a point. Bearing in degrees from north (of the chord of an arc), m. */
export interface ElementChange {
  readonly bearing?: number
  readonly length?: number
  /** Positive: the centre in the fill, the wall bulges out; negative: the other way; 0: straight. */
  readonly radius?: number
}

/**
 * The element that leaves point `i` as typed. What follows it is carried along unchanged, as on a drawing board. A radius under half
 * the distance of its two points joins nothing: the line stays as it is.
 *
 * @example setElement(vertices, 0, { length: 12 })
 */
export function setElement(vertices: readonly Vertex[], i: number, closed: boolean, change: ElementChange): Vertex[] {
  const from = vertices[i]
  const next = (i + 1) % vertices.length
  const to = vertices[next]
  if (!from || !to || (!closed && i === vertices.length - 1)) return [...vertices]
  const was = segmentOf(from, to, from.bulge ?? 0, 0)
  const radius = change.radius ?? (was.kind === 'arc' ? Math.sign(was.sweep) * was.radius : 0)
  const length = change.length ?? was.length
  const chordAngle = Math.atan2(to.northing - from.northing, to.easting - from.easting)
  const angle = change.bearing === undefined ? chordAngle : angleOf(change.bearing)
  let chord: number
  let bulge = 0
  if (radius === 0) chord = change.radius === 0 && change.length === undefined ? distance(from, to) : length
  else if (change.length === undefined && change.radius !== undefined) {
    // A new radius between the same two points.
    chord = distance(from, to)
    const r = Math.abs(radius)
    if (r < chord / 2 - 1e-6) return [...vertices]
    bulge = Math.sign(radius) * Math.tan(Math.asin(Math.min(1, chord / (2 * r))) / 2)
  } else {
    const sweep = Math.min(length / Math.abs(radius), 2 * Math.PI - 0.01)
    chord = 2 * Math.abs(radius) * Math.sin(sweep / 2)
    bulge = Math.sign(radius) * Math.tan(sweep / 4)
  }
  const end = along(from, angle, chord)
  const [dx, dy] = [end.easting - to.easting, end.northing - to.northing]
  return vertices.map((v, k) => {
    if (k === i) return { ...v, bulge }
    // In a ring the last element leads back to the first point, which stays.
    if (k <= i || (closed && next === 0)) return v
    return { ...v, easting: v.easting + dx, northing: v.northing + dy }
  })
}

/** The bend that makes the element leaving point `i` tangent to the one before it; undefined where there is none before. */
export function tangentBulge(a: Alignment, i: number): number | undefined {
  const before = i > 0 ? a.segments[i - 1] : a.closed ? a.segments[a.segments.length - 1] : undefined
  const own = a.segments[i]
  if (!before || !own) return undefined
  const chord = Math.atan2(own.to.northing - own.from.northing, own.to.easting - own.from.easting)
  const turn = chord - directionAt(before, before.length)
  const half = Math.atan2(Math.sin(turn), Math.cos(turn))
  return Math.tan(half / 2)
}

/** A point along a reference line and beside it (m, positive to its left); beyond a single point, east and north of it. */
export function fromReference(points: readonly SitePoint[], alongBy: number, offset: number): SitePoint | undefined {
  const [a, b] = points
  if (!a) return undefined
  if (!b) return { easting: a.easting + alongBy, northing: a.northing + offset }
  const angle = Math.atan2(b.northing - a.northing, b.easting - a.easting)
  return along(along(a, angle, alongBy), angle + Math.PI / 2, offset)
}

/**
 * The nearest thing a dragged point can snap to: a point of a reference, or its foot on one of its lines.
 *
 * @param within - m
 */
export function snapTo(references: NonNullable<Plan['references']>, p: SitePoint, within: number): { point: SitePoint; name: string } | undefined {
  let best: { point: SitePoint; name: string; away: number } | undefined
  const offer = (point: SitePoint, name: string, bonus = 0) => {
    const away = distance(point, p) - bonus
    if (distance(point, p) <= within && (!best || away < best.away)) best = { point, name, away }
  }
  for (const r of references) {
    // A point goes before the line it lies on.
    for (const q of r.points) offer(q, r.name, within / 2)
    for (let i = 1; i < r.points.length; i++) {
      const [a, b] = [r.points[i - 1] as SitePoint, r.points[i] as SitePoint]
      const length = distance(a, b)
      if (length < 1e-6) continue
      const t = ((p.easting - a.easting) * (b.easting - a.easting) + (p.northing - a.northing) * (b.northing - a.northing)) / length ** 2
      if (t >= 0 && t <= 1) offer({ easting: a.easting + t * (b.easting - a.easting), northing: a.northing + t * (b.northing - a.northing) }, r.name)
    }
  }
  return best
}
