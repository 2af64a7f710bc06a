import { LENGTH_TOLERANCE } from './number'

/** A point of the site grid, m. */
export interface SitePoint {
  readonly easting: number
  readonly northing: number
}

/**
 * One element of an alignment: a straight or an arc, with the station it starts at.
 * Angles in radians, counter-clockwise from east; `sweep` is signed, positive to the left.
 */
export type Segment =
  | {
      readonly kind: 'line'
      readonly from: SitePoint
      readonly to: SitePoint
      readonly station: number
      readonly length: number
      readonly angle: number
    }
  | {
      readonly kind: 'arc'
      readonly from: SitePoint
      readonly to: SitePoint
      readonly station: number
      readonly length: number
      readonly centre: SitePoint
      readonly radius: number
      /** Direction from the centre to `from`. */
      readonly start: number
      readonly sweep: number
    }

export const distance = (a: SitePoint, b: SitePoint) => Math.hypot(b.easting - a.easting, b.northing - a.northing)
const turnOf = (a: number) => {
  const full = 2 * Math.PI
  return ((a % full) + full) % full
}
/** An angle brought between −π and π. */
export const signed = (a: number) => {
  const t = turnOf(a)
  return t > Math.PI ? t - 2 * Math.PI : t
}
export const along = (p: SitePoint, angle: number, by: number): SitePoint => ({
  easting: p.easting + Math.cos(angle) * by,
  northing: p.northing + Math.sin(angle) * by,
})

/**
 * The element between two points.
 *
 * @param bulge - tan of a quarter of the arc's angle, positive when it bends to the left; 0 is a straight
 * @param station - of `from`, m
 */
export function segmentOf(from: SitePoint, to: SitePoint, bulge: number, station: number): Segment {
  const chord = distance(from, to)
  const angle = Math.atan2(to.northing - from.northing, to.easting - from.easting)
  if (Math.abs(bulge) < 1e-9) return { kind: 'line', from, to, station, length: chord, angle }
  const sweep = 4 * Math.atan(bulge)
  const radius = Math.abs(chord / (2 * Math.sin(sweep / 2)))
  // The centre lies on the chord's perpendicular, to the left for a bend to the left.
  const centre = along(along(from, angle, chord / 2), angle + Math.PI / 2, (chord / 2) * (1 / Math.tan(sweep / 2)))
  return {
    kind: 'arc',
    from,
    to,
    station,
    length: radius * Math.abs(sweep),
    centre,
    radius,
    start: Math.atan2(from.northing - centre.northing, from.easting - centre.easting),
    sweep,
  }
}

/** Direction of travel at a distance along the element, radians counter-clockwise from east. */
export const directionAt = (s: Segment, distanceAlong: number): number =>
  s.kind === 'line' ? s.angle : s.start + Math.sign(s.sweep) * (distanceAlong / s.radius + Math.PI / 2)

/** The point at a distance along the element, `offset` m to the left. */
export function pointOn(s: Segment, distanceAlong: number, offset = 0): SitePoint {
  if (s.kind === 'line') {
    const p = along(s.from, s.angle, distanceAlong)
    return offset === 0 ? p : along(p, s.angle + Math.PI / 2, offset)
  }
  const angle = s.start + (Math.sign(s.sweep) * distanceAlong) / s.radius
  return along(s.centre, angle, s.radius - Math.sign(s.sweep) * offset)
}

/** Foot of a point on the element (kept on it), and how far the point is to the left of it, m. */
export function footOn(s: Segment, p: SitePoint): { along: number; offset: number; away: number } {
  let at: number
  if (s.kind === 'line') {
    at = (p.easting - s.from.easting) * Math.cos(s.angle) + (p.northing - s.from.northing) * Math.sin(s.angle)
  } else {
    const angle = Math.atan2(p.northing - s.centre.northing, p.easting - s.centre.easting)
    const ahead = turnOf(Math.sign(s.sweep) * (angle - s.start))
    const beyond = ahead - Math.abs(s.sweep)
    // Past the end: nearer to the end or, the long way round, to the start.
    at = beyond <= 0 ? ahead * s.radius : beyond < 2 * Math.PI - ahead ? s.length : 0
  }
  const kept = Math.min(s.length, Math.max(0, at))
  const foot = pointOn(s, kept)
  const direction = directionAt(s, kept)
  const offset = (p.northing - foot.northing) * Math.cos(direction) - (p.easting - foot.easting) * Math.sin(direction)
  return { along: kept, offset, away: distance(foot, p) }
}

const onLine = (s: Extract<Segment, { kind: 'line' }>, p: SitePoint) =>
  (p.easting - s.from.easting) * Math.cos(s.angle) + (p.northing - s.from.northing) * Math.sin(s.angle)

/** Points where the endless line or full circle of one element meets the other's. */
export function meetings(a: Segment, b: Segment): SitePoint[] {
  if (a.kind === 'line' && b.kind === 'line') {
    const cross = Math.sin(b.angle - a.angle)
    if (Math.abs(cross) < 1e-12) return []
    const dx = b.from.easting - a.from.easting
    const dy = b.from.northing - a.from.northing
    return [along(a.from, a.angle, (dx * Math.sin(b.angle) - dy * Math.cos(b.angle)) / cross)]
  }
  if (a.kind === 'arc' && b.kind === 'arc') {
    const d = distance(a.centre, b.centre)
    if (d < LENGTH_TOLERANCE || d > a.radius + b.radius + LENGTH_TOLERANCE || d < Math.abs(a.radius - b.radius) - LENGTH_TOLERANCE) return []
    const x = (d * d + a.radius * a.radius - b.radius * b.radius) / (2 * d)
    const h = Math.sqrt(Math.max(0, a.radius * a.radius - x * x))
    const angle = Math.atan2(b.centre.northing - a.centre.northing, b.centre.easting - a.centre.easting)
    const middle = along(a.centre, angle, x)
    return h < 1e-9 ? [middle] : [along(middle, angle + Math.PI / 2, h), along(middle, angle - Math.PI / 2, h)]
  }
  const [l, c] =
    a.kind === 'line'
      ? [a, b as Extract<Segment, { kind: 'arc' }>]
      : [b as Extract<Segment, { kind: 'line' }>, a as Extract<Segment, { kind: 'arc' }>]
  const foot = along(l.from, l.angle, onLine(l, c.centre))
  const away = distance(foot, c.centre)
  if (away > c.radius + LENGTH_TOLERANCE) return []
  const h = Math.sqrt(Math.max(0, c.radius * c.radius - away * away))
  return h < 1e-9 ? [foot] : [along(foot, l.angle, h), along(foot, l.angle, -h)]
}

/** Is a point of the element's line or circle within its ends? */
function within(s: Segment, p: SitePoint): boolean {
  if (s.kind === 'line') {
    const at = onLine(s, p)
    return at >= -LENGTH_TOLERANCE && at <= s.length + LENGTH_TOLERANCE
  }
  const angle = Math.atan2(p.northing - s.centre.northing, p.easting - s.centre.easting)
  const ahead = turnOf(Math.sign(s.sweep) * (angle - s.start)) * s.radius
  return ahead <= s.length + LENGTH_TOLERANCE || ahead >= 2 * Math.PI * s.radius - LENGTH_TOLERANCE
}

/** Where two elements cross or touch. */
export function crossings(a: Segment, b: Segment): SitePoint[] {
  if (a.kind === 'line' && b.kind === 'line' && Math.abs(Math.sin(b.angle - a.angle)) < 1e-9) {
    // Parallel: they overlap only when on one line; any end of one inside the other tells.
    const offset = footOn(a, b.from)
    if (offset.away > 1e-4 && footOn(a, b.to).away > 1e-4 && footOn(b, a.from).away > 1e-4) return []
    return [b.from, b.to].filter((p) => footOn(a, p).away <= 1e-4).concat([a.from, a.to].filter((p) => footOn(b, p).away <= 1e-4))
  }
  return meetings(a, b).filter((p) => within(a, p) && within(b, p))
}
