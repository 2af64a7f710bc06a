import { type Alignment, nearPairs, turnBetween } from './alignment'
import { directionAt, footOn, pointOn, type Segment, segmentOf } from './segment'

/** Two places of a line that are nearer to each other than they may be. */
export interface NearItself {
  /** Stations, m. */
  readonly first: number
  readonly second: number
  /** Between the two, m. */
  readonly distance: number
  /** The element on which the second lies. */
  readonly element: number
  /** Do the backs of both face each other, with the fill between them, or their faces? */
  readonly facing: 'backs' | 'faces'
}

/** How far apart two places must be, m: across the fill, and across the open ground in front. */
export interface RoomBetween {
  readonly backs: number
  readonly faces: number
}

/** A line that turns by less than this in all never comes back on itself, radians. */
const TURNS_BACK = 2.5
/** Along the line two places are neighbours for so many times the distance. */
const NEIGHBOURS = 4
/** Places of an element looked at within the distance. */
const FINE = 4

const known = new WeakMap<Alignment, Map<string, NearItself | undefined>>()

/**
 * Where a line comes nearest to itself, for what it needs there: a leg that turns back beside another, a spiral, the ends of a hook. What is
 * near along the line itself, as at any corner or jog, does not count.
 *
 * @returns undefined where it keeps its distance
 * @example nearItself(hairpin, { backs: 0.6, faces: 0.3 }) // { first: 4.1, second: 6.3, distance: 0.48, element: 2, facing: 'backs' }
 */
export function nearItself(line: Alignment, apart: RoomBetween): NearItself | undefined {
  const key = `${apart.backs} ${apart.faces}`
  const before = known.get(line)
  if (before?.has(key)) return before.get(key)
  const found = lookFor(line, apart)
  known.set(line, (before ?? new Map()).set(key, found))
  return found
}

function lookFor(line: Alignment, needs: RoomBetween): NearItself | undefined {
  const least = Math.min(needs.backs, needs.faces)
  if (!(least > 0)) return undefined
  const bend = line.segments.map((s, i) => {
    const next = line.segments[i + 1] ?? (line.closed ? line.segments[0] : undefined)
    return (s.kind === 'arc' ? Math.abs(s.sweep) : 0) + (next ? Math.abs(turnBetween(s, next)) : 0)
  })
  if (bend.reduce((sum, b) => sum + b, 0) < TURNS_BACK) return undefined
  // An arc of more than half a turn comes back on itself: taken as two.
  const pieces = line.segments.flatMap((segment, element) => halves(segment).map((s) => ({ s, element })))
  let nearest: NearItself | undefined
  let most = 0
  for (const [i, j] of nearPairs(
    pieces.map((p) => p.s),
    Math.max(needs.backs, needs.faces),
  )) {
    const [a, b] = [pieces[i] as (typeof pieces)[number], pieces[j] as (typeof pieces)[number]]
    const count = Math.ceil((a.s.length * FINE) / least)
    for (let k = 0; k <= count; k++) {
      const by = (a.s.length * k) / count
      const place = pointOn(a.s, by)
      const { along, away } = footOn(b.s, place)
      if (away >= needs.backs && away >= needs.faces) continue
      const [first, second] = [a.s.station + by, b.s.station + along]
      const between = line.closed ? Math.min(second - first, line.length - second + first) : second - first
      const foot = pointOn(b.s, along)
      const heading = directionAt(a.s, by)
      // The fill lies to the left of the line as it runs.
      const left = (foot.northing - place.northing) * Math.cos(heading) - (foot.easting - place.easting) * Math.sin(heading)
      const facing = left > 0 ? 'backs' : 'faces'
      const lack = needs[facing] - away
      if (between <= NEIGHBOURS * needs[facing] || lack <= most) continue
      most = lack
      nearest = { first, second, distance: away, element: b.element, facing }
    }
  }
  return nearest
}

function halves(s: Segment): readonly Segment[] {
  if (s.kind === 'line' || Math.abs(s.sweep) <= Math.PI) return [s]
  const [middle, bulge] = [pointOn(s, s.length / 2), Math.tan(s.sweep / 8)]
  return [segmentOf(s.from, middle, bulge, s.station), segmentOf(middle, s.to, bulge, s.station + s.length / 2)]
}
