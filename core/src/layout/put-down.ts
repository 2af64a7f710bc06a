import { said } from '../base/said'
import { pointAt, type SitePoint } from '../geometry'
import { toeAt, topAt } from '../plan'
import { limitsOf } from '../rules'
import { type Layout, stepAt } from './layout'
import { trenchOf } from './stakes'

/** Where something stands: its middle along the wall, and in front of the face; behind it where negative. m. */
export interface Spot {
  readonly station: number
  readonly out: number
}
/** What it takes of the ground: along the wall and across, m. */
export interface Footprint {
  readonly along: number
  readonly across: number
}
/** A pallet with room to walk round it. */
export const PALLET: Footprint = { along: 1.2, across: 1.2 }

/** Past the ends of the wall it is anybody's ground. */
const PAST = 15

/** Ground in front that is worked in: the front of the pad and as far out as the dig is deep. */
function workedFront(layout: Layout, station: number): number {
  const at = Math.max(0, Math.min(layout.plan.length, station))
  const depth = Math.max(0, toeAt(layout.plan, at) - (stepAt(layout.steps, at) - layout.building.foundation.thickness))
  return -trenchOf(layout.plan).front + Math.max(limitsOf(layout.plan).spoilSetback.value, depth)
}
/** How high the wall holds the ground there, from the bottom of its pad. */
const heightAt = (layout: Layout, station: number) =>
  Math.max(0, topAt(layout.plan, station) - (stepAt(layout.steps, station) - layout.building.foundation.thickness))

/** A spot on the site grid. @example spotPoint(layout, { station: 4, out: 3 }) */
export const spotPoint = (layout: Layout, spot: Spot): SitePoint => pointAt(layout.alignment, spot.station, -spot.out)

function nearest(p: SitePoint, points: readonly SitePoint[]): number {
  let best = Number.POSITIVE_INFINITY
  points.forEach((a, i) => {
    const b = points[i + 1] ?? a
    const [dx, dy] = [b.easting - a.easting, b.northing - a.northing]
    const t =
      dx === 0 && dy === 0 ? 0 : Math.max(0, Math.min(1, ((p.easting - a.easting) * dx + (p.northing - a.northing) * dy) / (dx * dx + dy * dy)))
    best = Math.min(best, Math.hypot(a.easting + t * dx - p.easting, a.northing + t * dy - p.northing))
  })
  return best
}
/** Is a point within a ring of points? */
function within(p: SitePoint, ring: readonly SitePoint[]): boolean {
  let inside = false
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [a, b] = [ring[i] as SitePoint, ring[j] as SitePoint]
    if (a.northing > p.northing !== b.northing > p.northing) {
      const x = a.easting + ((b.easting - a.easting) * (p.northing - a.northing)) / (b.northing - a.northing)
      if (p.easting < x) inside = !inside
    }
  }
  return inside
}

/**
 * Why material should not be put down at a spot: behind the wall, on the edge of the dig, in the swing of the machine, on a service. An empty
 * list says that nothing the plan knows speaks against it; what is under the ground and what the ground carries are for somebody to look at.
 *
 * @example spotWrong(layout, { station: 6, out: -1 }, PALLET)[0] // 'it stands 1.0 m behind a wall that holds 2.1 m …'
 */
export function spotWrong(layout: Layout, spot: Spot, size: Footprint = PALLET): readonly string[] {
  const { plan } = layout
  const { standBehind, swing, standSlope } = limitsOf(plan)
  const wrong: string[] = []
  const beside = spot.station < -1e-9 || spot.station > plan.length + 1e-9
  const at = Math.max(0, Math.min(plan.length, spot.station))
  if (spot.station < -PAST || spot.station > plan.length + PAST)
    wrong.push(`it is more than ${said.given(PAST)} past the end of the wall, where this plan knows nothing of the ground`)
  if (!beside && spot.out < 0) {
    const high = heightAt(layout, at)
    const far = -spot.out - size.across / 2
    if (far < standBehind.value * high)
      wrong.push(
        `it stands ${said.length(Math.max(0, far), 1)} behind a wall that holds ${said.length(high, 1)}: it pushes on it. In front, or at least ${said.length(standBehind.value * high, 1)} behind; nearer only as the engineer says`,
      )
  }
  if (!beside && spot.out >= 0) {
    const least = workedFront(layout, at)
    const near = spot.out - size.across / 2
    if (near < least)
      wrong.push(
        `it stands ${said.length(Math.max(0, near), 1)} in front of the face, where the dig and the work are; at least ${said.length(least, 1)}`,
      )
    const { lifting } = layout.building
    if (lifting && Math.abs(spot.out - lifting.stands) < swing.value + size.across / 2)
      wrong.push(
        `the ${lifting.machine} stands ${said.given(lifting.stands)} out and swings ${said.given(swing.value)} to either side: nothing is put down from ${said.length(Math.max(0, lifting.stands - swing.value), 1)} to ${said.length(lifting.stands + swing.value, 1)} out`,
      )
  }
  if (spot.out >= 0 && (plan.front?.slope ?? 0) > standSlope.value)
    wrong.push('the ground in front falls away too steeply to carry a load beside the dig')
  const p = spotPoint(layout, spot)
  const reach = Math.hypot(size.along, size.across) / 2
  for (const o of plan.obstacles ?? []) {
    const inside = o.points.length > 2 && o.kind !== 'service' && within(p, o.points)
    const away = inside ? 0 : nearest(p, o.points) - (o.radius ?? 0) - reach
    if (away < o.clearance - 1e-6)
      wrong.push(
        o.kind === 'service'
          ? `it stands ${away <= 0 ? 'on' : `${said.length(away, 1)} from`} ${o.name}; ${said.given(o.clearance)} clear is asked`
          : `it stands ${away <= 0 ? 'in' : `${said.length(away, 1)} from`} ${o.name}; ${said.given(o.clearance)} clear is asked`,
      )
  }
  return wrong
}

/** More pallets than this side by side are drawn and judged as so many. */
const ROW = 40
/** Pallets side by side along the wall, about the spot. @example palletsOf({ station: 4, out: 3 }, 2) // at 3.4 and 4.6 */
export const palletsOf = (spot: Spot, pallets: number): readonly Spot[] => {
  const count = Math.min(Math.max(1, pallets), ROW)
  return Array.from({ length: count }, (_, i) => ({ station: spot.station + (i - (count - 1) / 2) * PALLET.along, out: spot.out }))
}
/** What speaks against any of so many pallets, each reason once. @example standWrong(layout, { station: 4, out: 3 }, 5) */
export const standWrong = (layout: Layout, spot: Spot, pallets: number): readonly string[] => [
  ...new Set(palletsOf(spot, pallets).flatMap((s) => spotWrong(layout, s))),
]

const touches = (a: Spot, b: Spot, s: Footprint) => Math.abs(a.station - b.station) < s.along - 1e-9 && Math.abs(a.out - b.out) < s.across - 1e-9

/**
 * Places for so many pallets or heaps, nearest to where they are wanted first, in front of the wall and clear of all that speaks against them.
 *
 * @param near - station where it is built in next, m
 * @param taken - what stands there already
 * @returns fewer than asked for where there is no more room
 * @example proposeSpots(layout, 4, 6)[0] // { station: 6, out: 2.4 }
 */
export function proposeSpots(layout: Layout, count: number, near: number, taken: readonly Spot[] = [], size: Footprint = PALLET): readonly Spot[] {
  const { plan } = layout
  const round = (v: number) => Math.round(v * 10) / 10
  const found: Spot[] = []
  const rows: number[] = []
  const first = Math.min(...layout.steps.flatMap((s) => [workedFront(layout, s.start), workedFront(layout, s.end)])) + size.across / 2
  for (let out = first; out < first + 16; out += size.across / 2) rows.push(Math.ceil(out * 10 - 1e-6) / 10)
  const stations: number[] = []
  for (let k = 0; stations.length < 400; k++) {
    const up = near + k * size.along
    const down = near - k * size.along
    if (up > plan.length + 3 && down < -3) break
    if (up <= plan.length + 3) stations.push(round(up))
    if (k > 0 && down >= -3) stations.push(round(down))
  }
  // A load further out costs a step for every unit; one further along costs a walk.
  const spots = stations.flatMap((station) => rows.map((out) => ({ station, out })))
  spots.sort((a, b) => Math.abs(a.station - near) + a.out * 1.5 - (Math.abs(b.station - near) + b.out * 1.5))
  for (const spot of spots) {
    if (found.length >= count) break
    if ([...taken, ...found].some((t) => touches(t, spot, size))) continue
    if (spotWrong(layout, spot, size).length === 0) found.push(spot)
  }
  return found
}
