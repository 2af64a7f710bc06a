import { stationOf } from '../geometry'
import { alignmentFor } from './alignment'
import { type FoundPoint3, MOST_FOUND } from './found-ground'
import type { Plan } from './plan'

/** How far beside the line measured points still belong to a wall, m. */
const BESIDE = 30

/**
 * Points of a survey as the ground of a wall: those beside its line, by station and how far behind it they lie; thinned evenly where there are
 * more than a plan may hold.
 *
 * @param points - on the site grid, m; those without an elevation are left out
 * @returns the points, and how many were too far off, had no elevation, or were thinned out
 * @example foundAlong(plan, drawing.points).points.length
 */
export function foundAlong(
  plan: Pick<Plan, 'alignment' | 'length'>,
  points: readonly { readonly easting: number; readonly northing: number; readonly elevation?: number | undefined }[],
): { points: FoundPoint3[]; far: number; flat: number; thinned: number } {
  const line = alignmentFor(plan)
  const mm = (v: number) => Math.round(v * 1000) / 1000
  let [far, flat] = [0, 0]
  const places = new Map<string, FoundPoint3>()
  for (const p of points) {
    if (p.elevation === undefined || !Number.isFinite(p.elevation)) {
      flat++
      continue
    }
    const { station, offset, away } = stationOf(line, p)
    // Beyond an end its foot is the end itself, and it lies further off than beside it.
    if (away > BESIDE || away > Math.abs(offset) + 0.5) {
      far++
      continue
    }
    const found = { station: mm(Math.min(Math.max(0, station), plan.length)), behind: mm(offset), level: mm(p.elevation) }
    // Measured twice: the first stands.
    const key = `${found.station.toFixed(3)} ${found.behind.toFixed(3)}`
    if (!places.has(key)) places.set(key, found)
  }
  const all = [...places.values()].sort((a, b) => a.station - b.station || a.behind - b.behind)
  const every = Math.ceil(all.length / MOST_FOUND)
  const kept = every > 1 ? all.filter((_, i) => i % every === 0) : all
  return { points: kept, far, flat, thinned: all.length - kept.length }
}
