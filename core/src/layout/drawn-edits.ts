import type { Plan } from '../plan'
import { answerIn, type PlannedLayer, systemOf, withAnswerTo } from '../systems'
import type { Layout } from './layout'
import { onGrid } from './set-steps'

/** Where something of a plan was put on a drawing of the wall along its length: station and elevation, m. */
export interface Put {
  readonly station: number
  readonly elevation: number
}
/** Something of a plan that is moved on a drawing: where it is, which way it goes, and the plan once it was moved. */
export interface Handle {
  readonly id: string
  readonly of: 'toe' | 'top' | 'outlet' | 'opening' | 'layer' | 'step'
  /** Its place in the list it belongs to. */
  readonly index: number
  readonly at: Put
  /** Along the wall, up and down, or both. */
  readonly goes: 'along' | 'up' | 'both'
  /** What it goes by where that is not up to the hand: half a unit, a course; m. */
  readonly grain?: number
  move(plan: Plan, to: Put): Plan
}

const within = (v: number, from: number, to: number) => Math.min(to, Math.max(from, v))
const answers = <T>(plan: Plan, id: string): T[] | undefined => {
  const q = systemOf(plan.system.id)?.questions.find((x) => x.id === id)
  return q && (answerIn(plan.system.data, q.at) as T[] | undefined)
}
type Outlet = { readonly station: number; readonly invert: number }

/** A grade point moved up or down; one between the ends goes along too, never past its neighbours. */
function gradeMoved(plan: Plan, i: number, of: 'toe' | 'top', to: Put): Plan {
  const [before, after] = [plan.grades[i - 1], plan.grades[i + 1]]
  return {
    ...plan,
    grades: plan.grades.map((g, k) =>
      k !== i
        ? g
        : { ...g, [of]: to.elevation, ...(before && after ? { station: within(to.station, before.station + 0.05, after.station - 0.05) } : {}) },
    ),
  }
}

/**
 * What of a plan can be moved on a drawing along the wall: grades, outlets, openings, layers of geogrid, pad steps. A layer goes from course to
 * course, a step along the half-unit grid and never past the next; whatever is moved, the rest of the plan stays as it is.
 *
 * @param layout - the wall as it is drawn
 * @example handlesOf(layout).find((h) => h.of === 'outlet')?.move(plan, { station: 12, elevation: 9.4 })
 */
export function handlesOf(layout: Layout): Handle[] {
  const { plan, steps, courses, building } = layout
  const along = (s: number) => within(s, 0, plan.length)
  const list: Handle[] = plan.grades.flatMap((g, i) =>
    (['toe', 'top'] as const).map(
      (of): Handle => ({
        id: `${of}-${i}`,
        of,
        index: i,
        at: { station: g.station, elevation: g[of] },
        goes: i > 0 && i < plan.grades.length - 1 ? 'both' : 'up',
        move: (p, to) => gradeMoved(p, i, of, to),
      }),
    ),
  )
  answers<Outlet>(plan, 'outlets')?.forEach((o, index) => {
    list.push({
      id: `outlet-${index}`,
      of: 'outlet',
      index,
      at: { station: o.station, elevation: o.invert },
      goes: 'both',
      move: (p, to) =>
        withAnswerTo(
          p,
          'outlets',
          answers<Outlet>(p, 'outlets')?.map((x, k) => (k === index ? { ...x, station: along(to.station), invert: to.elevation } : x)),
        ),
    })
  })
  plan.openings?.forEach((o, index) => {
    list.push({
      id: `opening-${index}`,
      of: 'opening',
      index,
      at: { station: o.station, elevation: o.bottom + o.height / 2 },
      goes: 'both',
      move: (p, to) => ({
        ...p,
        openings: p.openings?.map((x, k) => (k === index ? { ...x, station: along(to.station), bottom: to.elevation - x.height / 2 } : x)),
      }),
    })
  })
  const rows = courses.filter((c) => c !== courses[courses.length - 1])
  answers<PlannedLayer>(plan, 'grid')?.forEach((l, index) => {
    const on = courses.find((c) => c.course === l.course)
    if (!on) return
    list.push({
      id: `layer-${index}`,
      of: 'layer',
      index,
      at: { station: plan.length, elevation: on.top },
      goes: 'up',
      grain: on.top - on.bottom,
      move: (p, to) => {
        const nearest = rows.reduce((a, b) => (Math.abs(b.top - to.elevation) < Math.abs(a.top - to.elevation) ? b : a), on)
        const own = answers<PlannedLayer>(p, 'grid') ?? []
        // One layer to a course: where one lies already it stays where it was.
        if (own.some((x, k) => k !== index && x.course === nearest.course)) return p
        return withAnswerTo(
          p,
          'grid',
          own.map((x, k) => (k === index ? { ...x, course: nearest.course } : x)),
        )
      },
    })
  })
  const { length } = building.course(1)
  const edges = steps.slice(1).map((s) => s.start)
  edges.forEach((edge, index) => {
    list.push({
      id: `step-${index}`,
      of: 'step',
      index,
      at: { station: edge, elevation: Math.max(steps[index]?.elevation ?? 0, steps[index + 1]?.elevation ?? 0) },
      goes: 'along',
      grain: length / 2,
      move: (p, to) => {
        const { minRun } = building.foundation
        const [from, until] = [(edges[index - 1] ?? 0) + minRun, (edges[index + 1] ?? plan.length) - minRun]
        if (until < from) return p
        const grid = (v: number, round: 1 | -1) => {
          const on = onGrid(v, length)
          return round * (on - v) < -1e-9 ? on + (round * length) / 2 : on
        }
        const [least, most] = [grid(from, 1), grid(until, -1)]
        if (most < least - 1e-9) return p
        const station = within(onGrid(to.station, length), least, most)
        return { ...p, padSteps: edges.map((e, k) => (k === index ? station : e)) }
      },
    })
  })
  return list
}
