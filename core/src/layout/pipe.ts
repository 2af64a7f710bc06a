import { said } from '../base/said'
import { type Plan, toeAt } from '../plan'
import { limitsOf, schoolBy, since, tableOf } from '../rules'
import { buildingOf, type Drain, PIPE_CLEAR, placesBuiltIn, staged, type WallSystem } from '../systems'
import { drainInvert } from '../water/drain'
import { type DrainSchool, drainSeat } from '../water/seat'
import type { PadStep } from './base-steps'
import type { Course } from './rows'

/** Stone below the pipe, m: as the plan wants it, else the rule. */
export const bedOf = (plan: Plan): number => (since(plan, 3) ? limitsOf(plan).pipeBed.value : (plan.water?.bed ?? limitsOf(plan).pipeBed.value))

/** Where the pipe sits: as the plan says, else as pad and outlets allow; undefined where there is none. */
export function schoolOf(plan: Plan, steps: readonly PadStep[]): DrainSchool | undefined {
  const { foundation, drain } = buildingOf(plan)
  if (!drain) return undefined
  if (plan.water?.school) return plan.water.school
  const rule = schoolBy(plan, 'drain-seat')
  if (rule === 'in-pad' || rule === 'on-bed' || rule === 'raised') return rule
  const lowest = Math.min(...steps.map((s) => s.elevation))
  return drainSeat({
    open: foundation.drains,
    padBottom: lowest - foundation.thickness,
    padTop: lowest,
    outlet: Math.min(...drain.outlets.map((o) => o.invert)),
    bed: bedOf(plan),
  }).school
}

/** Does the stone behind the units reach far enough for the pipe to lie behind the pad, not over it? */
export function besidePad(plan: Plan): boolean {
  const { foundation, stone, drain, course } = buildingOf(plan)
  const { depth } = course(1)
  const rear = depth + (foundation.width - depth) / 2
  return depth + (stone?.width ?? 0) >= rear + (drain?.diameter ?? 0) + PIPE_CLEAR - 1e-9
}

/**
 * The lowest the invert may lie behind a step of the pad, m. Behind the pad: not below the line that falls 1 : 1 from its lower edge, which
 * carries it. Over it: on its bed on top. In an open pad: on its bed at the bottom.
 *
 * @example pipeFloor(plan, 'on-bed', 9.4) // 9.1
 */
export function pipeFloor(plan: Plan, school: DrainSchool, padTop: number): number {
  const bottom = padTop - buildingOf(plan).foundation.thickness
  if (school === 'in-pad') return bottom + bedOf(plan)
  if (school === 'on-bed' && besidePad(plan)) return bottom - PIPE_CLEAR
  return padTop + bedOf(plan)
}

/**
 * Invert of the toe drain, m, as the pad allows it: from each outlet it rises at least at its fall, follows the pad up at its steps, and
 * takes the lower way. Where the pad lets it lie as it would, that is the plain line between the outlets.
 *
 * @example seatedInvert(plan, steps, 'on-bed', drain, 12) // 9.91
 */
export function seatedInvert(
  plan: Plan,
  steps: readonly PadStep[],
  school: DrainSchool,
  drain: Pick<Drain, 'outlets' | 'fall'>,
  station: number,
): number {
  const { outlets, fall } = drain
  const floors = steps.map((s) => ({ from: s.start, to: s.end, floor: pipeFloor(plan, school, s.elevation) }))
  const from = (o: { station: number; invert: number }) => {
    const [a, b] = [Math.min(o.station, station), Math.max(o.station, station)]
    let invert = o.invert + fall * Math.abs(station - o.station)
    for (const f of floors) {
      if (f.to <= a + 1e-9 && !(f.from <= a + 1e-9 && f.to >= a - 1e-9 && b - a < 1e-9)) continue
      if (f.from >= b - 1e-9 && f.from > a + 1e-9) continue
      // The end of the step nearer to the outlet decides what lies beyond it.
      const near = o.station <= station ? Math.max(a, f.from) : Math.min(b, f.to)
      invert = Math.max(invert, f.floor + fall * Math.abs(station - near))
    }
    return invert
  }
  return Math.min(...outlets.map(from))
}

/** Invert at a station by the table of the plan, m; undefined where there is no pipe. */
export function plannedInvert(plan: Plan, steps: readonly PadStep[], station: number): number | undefined {
  const { drain } = buildingOf(plan)
  const school = schoolOf(plan, steps)
  if (!drain || !school) return undefined
  return tableOf(plan) === 1 ? drainInvert(drain.outlets, drain.fall, station) : seatedInvert(plan, steps, school, drain, station)
}

/** The system with its stages in the order in which this plan's pipe is laid. */
export const stagedFor = (system: WallSystem, plan: Plan, steps: readonly PadStep[], courses: readonly Course[]): WallSystem =>
  tableOf(plan) === 1
    ? system
    : staged(system, plan, {
        foundation: buildingOf(plan).foundation.kind,
        pipe: schoolOf(plan, steps),
        ...(plan.builtIn ? { builtIn: placesBuiltIn(plan, courses) } : {}),
      })

/** What the pipe cannot do here, each in words. */
export function pipeCautions(plan: Plan, steps: readonly PadStep[]): { id: string; message: string }[] {
  const { drain, foundation } = buildingOf(plan)
  const school = schoolOf(plan, steps)
  if (!drain || !school) return []
  const words: { id: string; message: string }[] = []
  if (school === 'in-pad' && !foundation.drains)
    words.push({
      id: 'pipe-pad',
      message: `The plan lays the pipe inside a pad of ${foundation.kind.replace('-', ' ')}: it weakens the pad and takes no water there. On a bed behind it, or an open pad.`,
    })
  for (const o of drain.outlets) {
    const step = steps.find((s) => o.station >= s.start - 1e-6 && o.station <= s.end + 1e-6) ?? steps[0]
    if (!step) continue
    const by = pipeFloor(plan, school, step.elevation) - o.invert
    if (by > 0.005)
      words.push({
        id: 'pipe-floor',
        message: `The outlet at ${said.given(o.station)} lies ${said.small(by)} lower than the pad lets the pipe lie behind it (${school === 'on-bed' && besidePad(plan) ? 'its line of 1 : 1' : 'its bed'}): the pipe comes out higher there and drops outside the wall, or the outlet moves.`,
      })
  }
  const stations = steps.flatMap((s) => [s.start, (s.start + s.end) / 2, s.end])
  const high = stations
    .map((s) => ({ station: s, by: seatedInvert(plan, steps, school, drain, s) + drain.diameter - toeAt(plan, s) }))
    .reduce((a, b) => (b.by > a.by ? b : a))
  if (high.by > 0.005)
    words.push({
      id: 'pipe-high',
      message: `At ${said.given(high.station)} the pipe would stand ${said.small(high.by)} above the ground in front, with the fall of the plan and as low as the pad lets it: more outlets, less fall, or a deeper pad there.`,
    })
  return words
}
