import { said } from '../base/said'
import { type Alignment, offsetOf, pointAt, pointOn, type SitePoint, stationOf, tidy } from '../geometry'
import { type Plan, toeAt, topAt } from '../plan'
import { buildingOf } from '../systems'
import { type Layout, stepAt } from './layout'
import { cutTopAt } from './site-cautions'

/** A stake of the set-out: where it goes, and what is written on it. m; offset positive into the fill. */
export interface Stake {
  readonly name: string
  readonly station: number
  /** Why here: corner, arc, pad step, outlet, section, end. */
  readonly why: string
  readonly face: SitePoint
  /** The stake itself, off the line so that the dig does not take it. */
  readonly stake: SitePoint
  readonly offset: number
  readonly bearing: number
  readonly toe: number
  readonly top: number
  readonly pad: number
  readonly dig: number
  /** Dig below toe grade. */
  readonly cut: number
}

/** An arc as it is swung with a tape: centre, radius, from and to. */
export interface RadiusPoint {
  readonly element: number
  readonly from: number
  readonly to: number
  readonly centre: SitePoint
  readonly radius: number
  readonly degrees: number
  /** The centre lies in the fill: the wall bulges out. */
  readonly inFill: boolean
}

/**
 * Stakes at every point that matters: ends, corners, ends of arcs and every `spacing` along them, pad steps, outlets, section ends.
 *
 * @param offset - of the stake from the face, m, negative in front of the wall
 * @param spacing - of stakes along arcs and long straights, m
 * @example stakesOf(layout, -1, 3)[0]?.name // 'S1'
 */
export function stakesOf(layout: Layout, offset = -1, spacing = 3): Stake[] {
  const { plan, alignment } = layout
  const why = new Map<number, Set<string>>()
  const at = (station: number, reason: string) => {
    const key = Math.round(station * 1000) / 1000
    const known = why.get(key) ?? new Set<string>()
    known.add(reason)
    why.set(key, known)
  }
  at(0, alignment.closed ? 'start of ring' : 'end of wall')
  if (!alignment.closed) at(plan.length, 'end of wall')
  alignment.segments.forEach((s, i) => {
    if (i > 0) at(s.station, 'corner or tangent point')
    const parts = Math.max(s.kind === 'arc' ? 2 : 1, Math.ceil(s.length / (s.kind === 'arc' ? spacing : spacing * 3)))
    for (let k = 1; k < parts; k++) at(s.station + (s.length * k) / parts, s.kind === 'arc' ? 'on the arc' : 'on line')
  })
  for (const s of layout.steps.slice(1)) at(s.start, 'pad step')
  for (const s of plan.sections.slice(1)) at(s.from, `section ${s.id}`)
  for (const o of layout.building.drain?.outlets ?? []) at(o.station, 'outlet')
  for (const o of plan.openings ?? []) at(o.station, o.name)
  return [...why]
    .sort((a, b) => a[0] - b[0])
    .map(([station, reasons], i) => {
      const { bearing, ...face } = pointAt(alignment, station)
      const { bearing: _, ...stake } = pointAt(alignment, station, offset)
      const pad = stepAt(layout.steps, station)
      const [toe, dig] = [toeAt(plan, station), pad - layout.building.foundation.thickness]
      return {
        name: `S${i + 1}`,
        station,
        why: [...reasons].join(', '),
        face,
        stake,
        offset,
        bearing,
        toe,
        top: topAt(plan, station),
        pad,
        dig: tidy(dig),
        cut: tidy(toe - dig),
      }
    })
}

/** Centres and radii of every arc. */
export const radiusPoints = (alignment: Alignment): RadiusPoint[] =>
  alignment.segments.flatMap((s, element) =>
    s.kind === 'arc'
      ? [
          {
            element,
            from: s.station,
            to: s.station + s.length,
            centre: s.centre,
            radius: s.radius,
            degrees: (Math.abs(s.sweep) * 180) / Math.PI,
            inFill: s.sweep > 0,
          },
        ]
      : [],
  )

/** Points along a line beside the wall, close enough to draw it. */
export function lineBeside(alignment: Alignment, offset: number, from = 0, to = alignment.length): SitePoint[] {
  const line = offsetOf(alignment, offset)
  const points: SitePoint[] = []
  if (line.ok && from <= 1e-6 && to >= alignment.length - 1e-6) {
    for (const e of line.value.elements) {
      const n = e.segment.kind === 'arc' ? Math.max(2, Math.ceil(Math.abs(e.segment.sweep) / 0.08)) : 1
      for (let k = 0; k <= n; k++) points.push(pointOn(e.segment, (e.segment.length * k) / n))
    }
    return points
  }
  const stations = [from, to, ...alignment.segments.map((s) => s.station).filter((s) => s > from && s < to)]
  for (let s = from; s < to; s += 0.5) stations.push(s)
  return stations.sort((a, b) => a - b).map((s) => pointAt(alignment, s, offset))
}

/** Offsets from the face of course 1 to the edges of the work, m; positive into the fill. */
export function trenchOf(plan: Plan) {
  const { foundation, stone, drain, course } = buildingOf(plan)
  const { depth } = course(1)
  const front = -(foundation.width - depth) / 2
  const middle = drain && depth + Math.max(stone?.width ?? 0, drain.diameter) / 2
  return { front, back: depth + plan.excavation.behind, ...(middle === undefined ? {} : { drain: middle }) }
}

/** Top edge of the cut behind: it leans back, so it is further from the face where the cut is deeper. */
export function cutEdge(layout: Layout): SitePoint[] {
  const { plan, alignment } = layout
  const { back } = trenchOf(plan)
  const points: SitePoint[] = []
  const parts = Math.max(8, Math.ceil(alignment.length / 0.75))
  for (let k = 0; k <= parts; k++) {
    const s = (alignment.length * k) / parts
    const depth = cutTopAt(plan, s) - (stepAt(layout.steps, s) - layout.building.foundation.thickness)
    points.push(pointAt(alignment, s, back + plan.excavation.slope * depth))
  }
  return points
}

/** Something that stands too near the work, and by how much. */
export interface Clearance {
  readonly obstacle: number
  readonly name: string
  /** Least distance from the edge of the cut or the pad, m; negative inside it. */
  readonly distance: number
  readonly clearance: number
  readonly station: number
  readonly ok: boolean
  readonly message: string
}

/**
 * Distance of every obstacle from the excavation, from the front of the pad to the top of the cut behind.
 *
 * @example clearances(layout).filter((c) => !c.ok)
 */
export function clearances(layout: Layout): Clearance[] {
  const { plan, alignment } = layout
  const { front, back } = trenchOf(plan)
  return (plan.obstacles ?? []).map((o, obstacle) => {
    let best = { distance: Number.POSITIVE_INFINITY, station: 0 }
    const look = (p: SitePoint) => {
      const at = stationOf(alignment, p)
      const depth = cutTopAt(plan, at.station) - (stepAt(layout.steps, at.station) - layout.building.foundation.thickness)
      const edge = back + plan.excavation.slope * depth
      // Past an end of the wall the straight distance counts.
      const across = at.offset < front ? front - at.offset : at.offset > edge ? at.offset - edge : -Math.min(at.offset - front, edge - at.offset)
      const past = Math.sqrt(Math.max(0, at.away ** 2 - at.offset ** 2))
      const distance = past > 1e-6 ? Math.hypot(past, Math.max(0, across)) : across
      if (distance < best.distance) best = { distance, station: at.station }
    }
    const points = o.points
    points.forEach((p, i) => {
      look(p)
      const next = points[i + 1]
      if (!next) return
      const n = Math.max(1, Math.ceil(Math.hypot(next.easting - p.easting, next.northing - p.northing) / 0.25))
      for (let k = 1; k < n; k++)
        look({ easting: p.easting + ((next.easting - p.easting) * k) / n, northing: p.northing + ((next.northing - p.northing) * k) / n })
    })
    const distance = tidy(best.distance - (o.radius ?? 0))
    const good = distance >= o.clearance - 1e-6
    return {
      obstacle,
      name: o.name,
      distance,
      clearance: o.clearance,
      station: best.station,
      ok: good,
      message: good
        ? `${o.name}: ${said.length(distance, 2)} from the excavation at station ${said.length(best.station, 1)}; ${said.given(o.clearance)} asked`
        : distance < 0
          ? `${o.name} stands in the excavation at station ${said.length(best.station, 1)}, ${said.length(-distance, 2)} inside its edge; ${said.given(o.clearance)} clear is asked. Move the line, steepen or shore the cut as a competent person decides, or have it moved`
          : `${o.name} is ${said.length(distance, 2)} from the excavation at station ${said.length(best.station, 1)}; ${said.given(o.clearance)} is asked`,
    }
  })
}
