import { failAll, ok, type Problem, type Result } from '../base/result'
import { said } from '../base/said'
import { type Alignment, CORNER_ANGLE, selfCrossings, turnBetween } from './alignment'
import { distance, meetings, pointOn, type Segment, type SitePoint, signed } from './segment'

/**
 * One element of a line that runs beside an alignment. `from` and `to` are the stations its ends stand beside: past the
 * element's own station where an inside corner lengthens it, short of it where an outside corner cuts it back.
 */
export interface OffsetSegment {
  readonly segment: Segment
  readonly from: number
  readonly to: number
  /** Length of this line for each metre of station: under 1 where an arc shrinks, over 1 where it grows. */
  readonly scale: number
}

/** A line at a constant offset (m, positive to the left, into the fill). */
export interface OffsetLine {
  readonly offset: number
  readonly closed: boolean
  readonly elements: readonly OffsetSegment[]
  readonly length: number
}

function shifted(s: Segment, offset: number): Segment | undefined {
  if (s.kind === 'line') return { ...s, from: pointOn(s, 0, offset), to: pointOn(s, s.length, offset) }
  const radius = s.radius - Math.sign(s.sweep) * offset
  if (radius <= 1e-6) return undefined
  return { ...s, radius, from: pointOn(s, 0, offset), to: pointOn(s, s.length, offset), length: radius * Math.abs(s.sweep) }
}

/** Distance of a point of the element's endless line or circle from its start, signed (m). */
function reach(s: Segment, p: SitePoint, near: 'start' | 'end'): number {
  if (s.kind === 'line') return (p.easting - s.from.easting) * Math.cos(s.angle) + (p.northing - s.from.northing) * Math.sin(s.angle)
  const angle = Math.atan2(p.northing - s.centre.northing, p.easting - s.centre.easting)
  const anchor = near === 'start' ? s.start : s.start + s.sweep
  const by = Math.sign(s.sweep) * signed(angle - anchor) * s.radius
  return near === 'start' ? by : s.length + by
}

/**
 * The line that runs `offset` metres to the left of an alignment: arcs shrink or grow about their centres, corners are cut
 * anew where the shifted elements meet.
 *
 * @returns the line; or the element that vanishes, and where, or the place where the line crosses itself
 * @example offsetOf(alignment, 0.4) // face of a course 0.4 m back
 */
export function offsetOf(a: Alignment, offset: number): Result<OffsetLine> {
  const problems: Problem[] = []
  const n = a.segments.length
  const moved = a.segments.map((s, i) => {
    const m = shifted(s, offset)
    if (!m && s.kind === 'arc') {
      problems.push({
        field: `vertices[${i}].bulge`,
        message: `the arc at station ${said.length(s.station, 2)} has a radius of ${said.length(s.radius, 2)}; a line ${said.length(Math.abs(offset), 2)} inside it has none left`,
      })
    }
    return m
  })
  if (problems.length > 0) return failAll(problems)
  const lines = moved as Segment[]
  const head = new Float64Array(n)
  const tail = lines.map((s) => s.length)
  for (let i = a.closed ? 0 : 1; i < n; i++) {
    const p = (i - 1 + n) % n
    const [before, after] = [lines[p] as Segment, lines[i] as Segment]
    const turn = turnBetween(a.segments[p] as Segment, a.segments[i] as Segment)
    if (Math.abs(turn) < 1e-7 || n === 1) continue
    const meet = meetings(before, after)
    const vertex = (a.segments[i] as Segment).from
    const at = meet.sort((x, y) => distance(x, vertex) - distance(y, vertex))[0]
    if (!at || distance(at, vertex) > 40 * Math.abs(offset) + 1e-6) {
      // Nearly tangent elements whose shifted lines miss each other by a hair keep their own ends.
      if (Math.abs(turn) <= CORNER_ANGLE) continue
      problems.push({
        field: `vertices[${i}]`,
        message: `at station ${said.length((a.segments[i] as Segment).station, 2)} the lines beside the corner no longer meet ${said.length(Math.abs(offset), 2)} back`,
      })
      continue
    }
    tail[p] = reach(before, at, 'end')
    head[i] = reach(after, at, 'start')
  }
  if (problems.length > 0) return failAll(problems)
  let station = 0
  const elements: OffsetSegment[] = []
  for (let i = 0; i < n; i++) {
    const base = a.segments[i] as Segment
    const line = lines[i] as Segment
    const [from, to] = [head[i] as number, tail[i] as number]
    if (to - from < 1e-6) {
      problems.push({
        field: `vertices[${i}]`,
        message: `the element of ${said.length(base.length, 2)} at station ${said.length(base.station, 2)} is too short: ${said.length(Math.abs(offset), 2)} back nothing of it is left`,
      })
      continue
    }
    const scale = line.length / base.length
    const cut: Segment =
      line.kind === 'line'
        ? { ...line, from: pointOn(line, from), to: pointOn(line, to), length: to - from, station }
        : {
            ...line,
            from: pointOn(line, from),
            to: pointOn(line, to),
            start: line.start + (Math.sign(line.sweep) * from) / line.radius,
            sweep: (Math.sign(line.sweep) * (to - from)) / line.radius,
            length: to - from,
            station,
          }
    elements.push({ segment: cut, from: base.station + from / scale, to: base.station + to / scale, scale })
    station += cut.length
  }
  if (problems.length > 0) return failAll(problems)
  const crossed = selfCrossings({ segments: elements.map((e) => e.segment), closed: a.closed })[0]
  if (crossed) {
    return failAll([
      {
        field: `vertices[${crossed.element}]`,
        message: `a line ${said.length(Math.abs(offset), 2)} back crosses itself at E ${crossed.at.easting.toFixed(2)}, N ${crossed.at.northing.toFixed(2)}`,
      },
    ])
  }
  return ok({ offset, closed: a.closed, elements, length: station })
}
