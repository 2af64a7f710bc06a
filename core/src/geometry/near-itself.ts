import { type Alignment, pointAt, turnBetween } from './alignment'

/** Two places of a line that are nearer to each other than they may be. */
export interface NearItself {
  /** Stations, m. */
  readonly first: number
  readonly second: number
  /** Between the two, m; taken at places along the line, so a hundredth or two more than it is. */
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
/** Places looked at within the distance. */
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
  const apart = Math.max(needs.backs, needs.faces)
  const least = Math.min(needs.backs, needs.faces)
  const fine = least / FINE
  if (!(fine > 0)) return undefined
  const { segments } = line
  const bend = (i: number) => {
    const next = segments[i + 1] ?? (line.closed ? segments[0] : undefined)
    const own = segments[i]
    return (own?.kind === 'arc' ? Math.abs(own.sweep) : 0) + (own && next ? Math.abs(turnBetween(own, next)) : 0)
  }
  if (segments.reduce((sum, _, i) => sum + bend(i), 0) < TURNS_BACK) return undefined
  const count = Math.ceil(line.length / fine)
  const step = line.length / count
  const grid = new Map<string, { station: number; easting: number; northing: number; bearing: number }[]>()
  let nearest: NearItself | undefined
  let most = 0
  for (let k = 0; k <= count; k++) {
    const station = k * step
    const { easting, northing, bearing } = pointAt(line, station)
    const [x, y] = [Math.floor(easting / apart), Math.floor(northing / apart)]
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (const p of grid.get(`${x + dx} ${y + dy}`) ?? []) {
          const along = station - p.station
          const between = line.closed ? Math.min(along, line.length - along) : along
          // Most are neighbours along the line: nothing more is reckoned for those.
          if (between <= NEIGHBOURS * least) continue
          const [e, n] = [easting - p.easting, northing - p.northing]
          const distance = Math.hypot(e, n)
          // The fill lies to the left of the line as it runs.
          const b = (p.bearing * Math.PI) / 180
          const facing = n * Math.sin(b) - e * Math.cos(b) > 0 ? 'backs' : 'faces'
          const lack = needs[facing] - distance
          if (between <= NEIGHBOURS * needs[facing] || lack <= 0 || (nearest && most >= lack)) continue
          const element = segments.findIndex((s) => station <= s.station + s.length + 1e-9)
          most = lack
          nearest = { first: p.station, second: station, distance, element: Math.max(0, element), facing }
        }
    const cell = grid.get(`${x} ${y}`)
    const place = { station, easting, northing, bearing }
    if (cell) cell.push(place)
    else grid.set(`${x} ${y}`, [place])
  }
  return nearest
}
