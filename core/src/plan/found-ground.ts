import Delaunator from 'delaunator'
import type { Problem } from '../base/result'
import { said } from '../base/said'
import { type InferType, list, optionalQuantity, optionalRecord, quantity, record } from '../base/schema'

/** Points that a plan may hold of the ground as found. */
export const MOST_FOUND = 2000
const point = record({
  station: quantity({ min: 0, max: 2000, unit: 'm' }),
  /** Behind the face of course 1; in front of it negative. */
  behind: quantity({ min: -50, max: 50, unit: 'm' }),
  level: quantity({ min: -500, max: 9000, unit: 'm' }),
})
/**
 * The ground as it was found: levels along the wall and across it. `back`: how far behind the face it is filled at most, where the ground there
 * is lower than the top.
 */
export const foundSchema = () => optionalRecord({ points: list(point, 1, MOST_FOUND), back: optionalQuantity({ min: 0.2, max: 50, unit: 'm' }) })
export type FoundPoint3 = InferType<typeof point>
export type FoundGround = NonNullable<InferType<ReturnType<typeof foundSchema>>>

/** The level of the ground at a place of the wall, m; undefined nowhere: outside what was measured it is that of the nearest that was. */
export type GroundAt = (station: number, behind: number) => number

const known = new WeakMap<FoundGround, GroundAt>()

/**
 * Reads the ground as found. Where levels lie along one line only, the ground is level across it; elsewhere it is the plane of the three points
 * round a place, and beyond them the nearest point or edge of what was measured.
 *
 * @example groundReader({ points: [{ station: 0, behind: 0, level: 10 }, { station: 10, behind: 0, level: 11 }] })(5, 2) // 10.5
 */
export function groundReader(found: FoundGround): GroundAt {
  let reader = known.get(found)
  if (!reader) {
    reader = made(found.points)
    known.set(found, reader)
  }
  return reader
}

type At = readonly [station: number, behind: number]
interface Nearest {
  readonly away: number
  readonly level: number
}

/** The level on a straight between two points, where it comes nearest to a place. */
function onEdge([s, b]: At, p: FoundPoint3, q: FoundPoint3): Nearest {
  const [ds, db] = [q.station - p.station, q.behind - p.behind]
  const long = ds * ds + db * db
  const t = long < 1e-12 ? 0 : Math.min(1, Math.max(0, ((s - p.station) * ds + (b - p.behind) * db) / long))
  return { away: Math.hypot(p.station + t * ds - s, p.behind + t * db - b), level: p.level + t * (q.level - p.level) }
}
/** The metre of the wall a station lies in. */
const metre = (station: number) => Math.floor(station)

/**
 * Where the nearest of many edges is. They are looked through from a place outwards, metre by metre, until none further off can be nearer: a
 * cross section asks for hundreds of places, and a survey has thousands of edges.
 */
function nearestOf(edges: readonly (readonly [FoundPoint3, FoundPoint3])[]): (at: At) => Nearest {
  const by = new Map<number, (readonly [FoundPoint3, FoundPoint3])[]>()
  let [first, last] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
  for (const edge of edges) {
    const [from, to] = [metre(Math.min(edge[0].station, edge[1].station)), metre(Math.max(edge[0].station, edge[1].station))]
    first = Math.min(first, from)
    last = Math.max(last, to)
    for (let m = from; m <= to; m++) {
      const own = by.get(m)
      if (own) own.push(edge)
      else by.set(m, [edge])
    }
  }
  return (at) => {
    const middle = metre(at[0])
    let best: Nearest = { away: Number.POSITIVE_INFINITY, level: 0 }
    for (let ring = 0; ring <= Math.max(middle - first, last - middle, 0); ring++) {
      // Whatever lies in a ring is at least so far off.
      if (ring - 1 > best.away) break
      for (const m of ring === 0 ? [middle] : [middle - ring, middle + ring])
        for (const [p, q] of by.get(m) ?? []) {
          const near = onEdge(at, p, q)
          if (near.away < best.away) best = near
        }
    }
    return best
  }
}

function made(points: readonly FoundPoint3[]): GroundAt {
  const net = new Delaunator(Float64Array.from(points.flatMap((p) => [p.station, p.behind])))
  const { triangles, hull } = net
  const at = (i: number) => points[i] as FoundPoint3
  if (triangles.length === 0) {
    // All on one line, or too few: along it.
    const sorted = [...points].sort((a, b) => a.station - b.station || a.behind - b.behind)
    const nearest = nearestOf(sorted.map((p, i) => [sorted[Math.max(0, i - 1)] as FoundPoint3, p] as const))
    return (station, behind) => nearest([station, behind]).level
  }
  // Triangles by the metres of station they lie in: a place is looked for among a few.
  const by = new Map<number, number[]>()
  for (let t = 0; t < triangles.length; t += 3) {
    const s = [0, 1, 2].map((k) => at(triangles[t + k] as number).station)
    for (let m = metre(Math.min(...s)); m <= metre(Math.max(...s)); m++) {
      const bin = by.get(m)
      if (bin) bin.push(t)
      else by.set(m, [t])
    }
  }
  const outside = nearestOf(Array.from(hull, (h, i) => [at(h), at(hull[(i + 1) % hull.length] as number)] as const))
  return (station, behind) => {
    for (const t of by.get(metre(station)) ?? []) {
      const [a, b, c] = [at(triangles[t] as number), at(triangles[t + 1] as number), at(triangles[t + 2] as number)]
      const area = (b.station - a.station) * (c.behind - a.behind) - (c.station - a.station) * (b.behind - a.behind)
      if (Math.abs(area) < 1e-9) continue
      const u = ((b.station - station) * (c.behind - behind) - (c.station - station) * (b.behind - behind)) / area
      const v = ((c.station - station) * (a.behind - behind) - (a.station - station) * (c.behind - behind)) / area
      const w = 1 - u - v
      if (u >= -1e-9 && v >= -1e-9 && w >= -1e-9) return u * a.level + v * b.level + w * c.level
    }
    return outside([station, behind]).level
  }
}

/** What of the ground as found cannot be: places beyond the wall, one place at two levels. */
export function checkFound(plan: { readonly length: number; readonly found?: FoundGround | undefined }): Problem[] {
  const seen = new Map<string, number>()
  return (plan.found?.points ?? []).flatMap((p, i) => {
    const place = `${p.station.toFixed(3)} ${p.behind.toFixed(3)}`
    const before = seen.get(place)
    seen.set(place, p.level)
    const field = `found.points[${i}]`
    if (p.station > plan.length + 1e-6)
      return [{ field: `${field}.station`, message: `${said.given(p.station)} is beyond the wall, which ends at ${said.given(plan.length)}` }]
    return before !== undefined && Math.abs(before - p.level) > 1e-6
      ? [{ field: `${field}.level`, message: `is ${said.given(p.level)}, and ${said.given(before)} at the same place further up` }]
      : []
  })
}
