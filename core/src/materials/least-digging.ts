import { fail, ok, type Result } from '../base/result'
import { stationsOver } from '../geometry'
import { type Layout, layOut } from '../layout'
import { type FoundGround, groundReader, type Plan } from '../plan'
import { answerIn, systemOf, withAnswer } from '../systems'
import { cutArea } from './earth'

/** What may move: the whole wall back into the ground, or up and down. */
export type Shift = 'line' | 'grade'
/** A place within the play at which less is dug, beside the wall as it is given. m, m³. */
export interface LessDug {
  /** Back from where it is planned, or up; negative forward or down. */
  readonly shift: number
  readonly dig: number
  readonly given: number
  /** No place that was tried takes less: each half metre of the wall by itself at the best of them. */
  readonly bound: number
  readonly tried: number
}

/** A play beyond this is another wall, m; steps that are tried, m. */
export const DIG_PLAY: Readonly<Record<Shift, { readonly most: number; readonly grain: number }>> = {
  line: { most: 3, grain: 0.05 },
  grade: { most: 0.5, grain: 0.01 },
}

/** The same plan moved back by so much, or up. Only the wall moves: ground, benchmark and what stands around stay. */
export function movedBy(plan: Plan, of: Shift, by: number): Plan {
  const mm = (v: number) => Math.round(v * 1e6) / 1e6
  if (of === 'line') {
    const [a, b] = plan.alignment?.vertices ?? []
    const long = a && b ? Math.hypot(b.easting - a.easting, b.northing - a.northing) : 0
    // The fill lies on the left of the line.
    const [e, n] = a && b && long > 0 ? [-(b.northing - a.northing) / long, (b.easting - a.easting) / long] : [0, 0]
    return {
      ...plan,
      ...(plan.alignment
        ? {
            alignment: {
              ...plan.alignment,
              vertices: plan.alignment.vertices.map((v) => ({ ...v, easting: mm(v.easting + e * by), northing: mm(v.northing + n * by) })),
            },
          }
        : {}),
      ...(plan.found ? { found: { ...plan.found, points: plan.found.points.map((p) => ({ ...p, behind: mm(p.behind - by) })) } } : {}),
    }
  }
  const up = <T extends { readonly invert: number }>(list: readonly T[]) => list.map((o) => ({ ...o, invert: mm(o.invert + by) }))
  const { heel } = plan.water ?? {}
  return {
    ...plan,
    grades: plan.grades.map((g) => ({ ...g, toe: mm(g.toe + by), top: mm(g.top + by) })),
    ...(plan.openings ? { openings: plan.openings.map((o) => ({ ...o, bottom: mm(o.bottom + by) })) } : {}),
    ...(heel?.outlets ? { water: { ...plan.water, heel: { ...heel, outlets: up(heel.outlets) } } } : {}),
    system: { ...plan.system, data: outletsUp(plan, by, mm) },
  }
}

/** The system's part with its outlets as much higher. */
function outletsUp(plan: Plan, by: number, mm: (v: number) => number): unknown {
  return (systemOf(plan.system.id)?.questions ?? []).reduce((part: unknown, q) => {
    if (q.of !== 'list' || !q.columns.some((c) => c.id === 'invert')) return part
    const rows = (answerIn(part, q.at) ?? []) as { readonly invert: number }[]
    return withAnswer(
      part,
      q.at,
      rows.map((r) => ({ ...r, invert: mm(r.invert + by) })),
    )
  }, plan.system.data)
}

/** The ground as a wall moved by so much would find it. */
const seenFrom = (found: FoundGround, of: Shift, by: number): FoundGround => ({
  ...found,
  points: found.points.map((p) => (of === 'line' ? { ...p, behind: p.behind - by } : { ...p, level: p.level - by })),
})

/**
 * The place within a play at which the least is dug in the ground as it was found; of equals the one nearest to what was given. Never more than
 * as given. A wall that only moves is laid out once: its steps stay what they are to it.
 *
 * @param play - so far it may be moved either way, m
 * @param told - how far it is, 0 to 1; says false to end it
 * @returns refused without ground as found, and along a line with corners or arcs, which is moved on Set-out
 * @example leastDigging(plan, 'line', 0.5).value // { shift: -0.35, dig: 18.2, given: 24.9, bound: 17.6, tried: 21 }
 */
export function leastDigging(plan: Plan, of: Shift, play: number, told: (share: number) => boolean = () => true): Result<LessDug> {
  const { most, grain } = DIG_PLAY[of]
  const { found } = plan
  if (!found) return fail('found', 'is not given: measure or take in the ground as it was found first')
  if (of === 'line' && plan.alignment && (plan.alignment.vertices.length > 2 || plan.alignment.vertices.some((v) => v.bulge)))
    return fail('alignment', 'has corners or arcs; move its points on Set-out')
  if (!(play > 0 && play <= most)) return fail('play', `must be above 0 and at most ${most} m, not ${play}`)
  const laid = layOut(plan)
  if (!laid.ok) return laid
  const layout: Layout = laid.value
  const parts = layout.steps.flatMap((s) => {
    const at = stationsOver(s.start, s.end, 0.5)
    return at.slice(1).map((to, i) => ({ at: (to + (at[i] as number)) / 2, long: to - (at[i] as number) }))
  })
  const least = parts.map(() => Number.POSITIVE_INFINITY)
  const at = (by: number) => {
    const ground = seenFrom(found, of, by)
    groundReader(ground)
    return parts.reduce((sum, p, i) => {
      const volume = cutArea(layout, ground, p.at) * p.long
      least[i] = Math.min(least[i] as number, volume)
      return sum + volume
    }, 0)
  }
  const given = at(0)
  let best = { shift: 0, dig: given }
  let tried = 1
  const steps = Math.floor(play / grain + 1e-9)
  for (let k = 1; k <= steps; k++) {
    for (const sign of [1, -1]) {
      const shift = Math.round(sign * k * grain * 1e6) / 1e6
      const dig = at(shift)
      tried++
      if (dig < best.dig - 1e-6) best = { shift, dig }
    }
    if (!told(k / steps)) break
  }
  return ok({ ...best, given, bound: least.reduce((a, b) => a + b, 0), tried })
}
