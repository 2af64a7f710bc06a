import { LENGTH_TOLERANCE } from './number'

/** An elevation (m) at a station (m); linear between points. */
export interface ProfilePoint {
  readonly station: number
  readonly elevation: number
}

/**
 * Elevation of a profile at a station; level beyond its ends.
 *
 * @param points - in order of station, at least one
 * @returns m
 * @example elevationAt([{ station: 0, elevation: 1 }, { station: 2, elevation: 2 }], 1) // 1.5
 */
export function elevationAt(points: readonly ProfilePoint[], station: number): number {
  const first = points[0]
  if (!first) throw new RangeError('a profile needs a point')
  if (station <= first.station) return first.elevation
  let low = 0
  let high = points.length - 1
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if ((points[middle] as ProfilePoint).station <= station) low = middle
    else high = middle
  }
  const a = points[low] as ProfilePoint
  const b = points[high] as ProfilePoint
  if (station >= b.station) return b.elevation
  return a.elevation + ((b.elevation - a.elevation) * (station - a.station)) / (b.station - a.station)
}

/**
 * As `elevationAt`, for many stations one after the other: it goes on from where the last one was found.
 *
 * @example const toe = readerOf(points); [0.2, 0.6, 1.1].map(toe)
 */
export function readerOf(points: readonly ProfilePoint[]): (station: number) => number {
  let at = 0
  return (station) => {
    while (at < points.length - 2 && (points[at + 1] as ProfilePoint).station <= station) at++
    while (at > 0 && (points[at] as ProfilePoint).station > station) at--
    const a = points[at]
    const b = points[at + 1]
    if (a && b && station > a.station && station < b.station)
      return a.elevation + ((b.elevation - a.elevation) * (station - a.station)) / (b.station - a.station)
    return elevationAt(points, station)
  }
}

/** Area under a profile over a stretch (m²), by exact trapezoids. */
export function areaUnder(points: readonly ProfilePoint[], from: number, to: number): number {
  const stations = [from, ...points.map((p) => p.station).filter((s) => s > from && s < to), to]
  let area = 0
  for (let i = 1; i < stations.length; i++) {
    const a = stations[i - 1] as number
    const b = stations[i] as number
    area += ((elevationAt(points, a) + elevationAt(points, b)) / 2) * (b - a)
  }
  return area
}

/** Stations no further apart than `spacing` over a stretch, both ends included (m). */
export function stationsOver(from: number, to: number, spacing: number): number[] {
  const parts = Math.max(1, Math.ceil((to - from) / spacing - LENGTH_TOLERANCE))
  return Array.from({ length: parts + 1 }, (_, i) => Math.round((from + ((to - from) * i) / parts) * 1000) / 1000)
}
