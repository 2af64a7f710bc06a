import { atMost, below, LENGTH_TOLERANCE, tidy } from '../geometry'
import type { Plan } from '../plan'
import { type Building, offsetOfCourse, riseOf } from '../systems'
import type { PadStep } from './base-steps'

/** Stations along the face, m. */
export interface Stretch {
  readonly from: number
  readonly to: number
}

/** A row of units at one elevation, numbered from the lowest pad step up. Elevations m. */
export interface Course {
  readonly course: number
  readonly bottom: number
  readonly top: number
  /** How far the face stands back from the face of course 1, m. */
  readonly offset: number
  readonly stretches: readonly Stretch[]
}

/** The stretches of a course that carry another on top: where a layer of geogrid can lie. */
export function carrying(courses: readonly Course[], number: number): Stretch[] {
  const course = courses.find((c) => c.course === number)
  const above = courses.find((c) => c.course === number + 1)
  if (!course || !above) return []
  return course.stretches.flatMap((s) =>
    above.stretches.flatMap((a) => {
      const cut = { from: Math.max(s.from, a.from), to: Math.min(s.to, a.to) }
      return below(cut.from, cut.to) ? [cut] : []
    }),
  )
}

/** Courses between pad and top steps, stopped at openings. */
export function rowsOf(plan: Plan, building: Building, steps: readonly PadStep[], tops: readonly PadStep[]): Course[] {
  const base = Math.min(...steps.map((s) => s.elevation))
  const highest = Math.max(...tops.map((s) => s.elevation))
  const openings = plan.openings ?? []
  const breaks = [...steps, ...tops].flatMap((s) => [s.start, s.end])
  for (const o of openings) breaks.push(Math.max(0, o.station - o.width / 2), Math.min(plan.length, o.station + o.width / 2))
  const edges = [...new Set(breaks)].sort((a, b) => a - b)
  // Every stretch between two edges has one pad and one top; found once, not once a course.
  const parts: { from: number; to: number; pad: number; top: number; open: typeof openings }[] = []
  let p = 0
  let t = 0
  for (let e = 1; e < edges.length; e++) {
    const [from, to] = [edges[e - 1] as number, edges[e] as number]
    if (to - from < LENGTH_TOLERANCE) continue
    const middle = (from + to) / 2
    while (p < steps.length - 1 && !below(middle, (steps[p] as PadStep).end)) p++
    while (t < tops.length - 1 && !below(middle, (tops[t] as PadStep).end)) t++
    const open = openings.filter((o) => Math.abs(o.station - middle) < o.width / 2)
    parts.push({ from, to, pad: (steps[p] as PadStep).elevation, top: (tops[t] as PadStep).elevation, open })
  }
  const result: Course[] = []
  for (let i = 0; riseOf(building, i) + building.course(i + 1).height / 2 <= highest - base; i++) {
    const bottom = tidy(base + riseOf(building, i))
    const top = tidy(bottom + building.course(i + 1).height)
    const stretches: { from: number; to: number }[] = []
    for (const part of parts) {
      if (!atMost(part.pad, bottom) || !atMost(top, part.top)) continue
      if (part.open.some((o) => below(bottom, o.bottom + o.height) && below(o.bottom, top))) continue
      const last = stretches[stretches.length - 1]
      if (last && Math.abs(last.to - part.from) < LENGTH_TOLERANCE) last.to = part.to
      else stretches.push({ from: part.from, to: part.to })
    }
    if (stretches.length > 0) result.push({ course: i + 1, bottom, top, offset: tidy(offsetOfCourse(building, i + 1)), stretches })
  }
  return result
}
