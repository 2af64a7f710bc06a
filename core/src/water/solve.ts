import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { type DrainProfile, drain, type Outlet } from './drain'

/** Where the pipe may not stand higher, m. */
export interface Ceiling {
  readonly station: number
  readonly elevation: number
}

export interface DrainTask {
  readonly length: number
  /** m per m */
  readonly fall: number
  /** Neighbouring outlets, and the first and last from the ends, m. */
  readonly maxOutletSpacing: number
  /** Everywhere water could leave by gravity. */
  readonly possible: readonly Outlet[]
  readonly ceiling: readonly Ceiling[]
}

export interface DrainSolution {
  readonly outlets: readonly Outlet[]
  readonly profile: DrainProfile
}

const EPS = 1e-9

/**
 * Chooses outlets: the fewest of the possible ones with which the pipe falls everywhere, stands nowhere above its ceiling and is
 * nowhere further than allowed from the next; of those, the ones with the shortest longest way.
 *
 * Only outlets that water reaches are used: neighbours whose inverts differ by no more than the fall between them. Then the pipe
 * between two neighbours depends on these two alone, and the best choice is a shortest path from the start of the wall to its end.
 *
 * @returns outlets in order and their profile, or what stands in the way and where
 * @example solveDrain({ length: 20, fall: 0.01, maxOutletSpacing: 15, possible: [{ station: 0, invert: 9 }, { station: 14, invert: 9 }], ceiling: [] })
 */
export function solveDrain(task: DrainTask): Result<DrainSolution> {
  const { length, fall, maxOutletSpacing } = task
  for (const [i, o] of task.possible.entries())
    if (o.station > length + EPS)
      return fail(`possible[${i}].station`, `${said.given(o.station)} is beyond the wall, which ends at ${said.given(length)}`)
  // Two at one place are two choices: the lower one draws from further, the higher one may be the one its neighbours' fall can reach.
  const at = task.possible.toSorted((a, b) => a.station - b.station)
  if (at.length === 0) return fail('possible', 'needs at least one place where water can leave')
  const under = (from: number, to: number, invert: (s: number) => number) =>
    task.ceiling.every((c) => c.station < from - EPS || c.station > to + EPS || invert(c.station) <= c.elevation + EPS)
  const single = (o: Outlet) => (s: number) => o.invert + fall * Math.abs(s - o.station)
  const between = (a: Outlet, b: Outlet) => (s: number) => Math.min(single(a)(s), single(b)(s))
  const near = (a: number, b: number) => b - a <= maxOutletSpacing + EPS
  const wayBetween = (a: Outlet, b: Outlet) => {
    const span = b.station - a.station
    const meet = fall > 0 ? span / 2 + (b.invert - a.invert) / (2 * fall) : span / 2
    return Math.max(meet, span - meet)
  }
  type Best = { count: number; way: number; before: number }
  const better = (a: Best, b: Best | undefined) => !b || a.count < b.count || (a.count === b.count && a.way < b.way - EPS)
  const best: (Best | undefined)[] = at.map((o) =>
    near(0, o.station) && under(0, o.station, single(o)) ? { count: 1, way: o.station, before: -1 } : undefined,
  )
  for (let j = 1; j < at.length; j++) {
    const b = at[j] as Outlet
    for (let i = 0; i < j; i++) {
      const [a, known] = [at[i] as Outlet, best[i]]
      if (!known || a.station === b.station || !near(a.station, b.station)) continue
      if (Math.abs(a.invert - b.invert) > fall * (b.station - a.station) + EPS) continue
      if (!under(a.station, b.station, between(a, b))) continue
      const next = { count: known.count + 1, way: Math.max(known.way, wayBetween(a, b)), before: i }
      if (better(next, best[j])) best[j] = next
    }
  }
  let last = -1
  let chosen: Best | undefined
  at.forEach((o, i) => {
    const known = best[i]
    if (!known || !near(o.station, length) || !under(o.station, length, single(o))) return
    const whole = { ...known, way: Math.max(known.way, length - o.station) }
    if (better(whole, chosen)) [chosen, last] = [whole, i]
  })
  if (!chosen) return explain(task, at)
  const outlets: Outlet[] = []
  for (let i = last; i >= 0; i = best[i]?.before ?? -1) outlets.unshift(at[i] as Outlet)
  const profile = drain({ length, fall, maxOutletSpacing, outlets, ceiling: [...task.ceiling] })
  return profile.ok ? ok({ outlets, profile: profile.value }) : profile
}

/** Why no choice of outlets will do, with every possible one in use. */
function explain(task: DrainTask, at: readonly Outlet[]): Result<never> {
  const { length, fall, maxOutletSpacing } = task
  const ends = [0, ...at.map((o) => o.station), length]
  for (let i = 1; i < ends.length; i++) {
    const [a, b] = [ends[i - 1] as number, ends[i] as number]
    if (b - a > maxOutletSpacing + EPS) {
      return fail(
        'possible',
        `there is no place for an outlet on ${said.given(Number((b - a).toFixed(3)))} of wall, from ${said.given(a)} to ${said.given(b)}; ${said.given(maxOutletSpacing)} is allowed between two`,
      )
    }
  }
  // Of two at one place the lower one leaves the pipe lower.
  const lowest = new Map(at.toSorted((a, b) => b.invert - a.invert).map((o) => [o.station, o]))
  const all = drain({ length, fall, maxOutletSpacing, outlets: [...lowest.values()], ceiling: [...task.ceiling] })
  if (!all.ok) return all
  const worst = all.value.violations.reduce<{ station: number; by: number } | undefined>((w, v) => (!w || v.by > w.by ? v : w), undefined)
  if (worst) {
    return fail(
      'ceiling',
      `at ${said.given(worst.station)} the pipe would stand ${said.small(worst.by)} too high even with every outlet; a lower outlet near there, or less fall, is needed`,
    )
  }
  return fail(
    'possible',
    `neighbouring outlets differ by more than the fall of ${(fall * 100).toFixed(1)} % between them: the higher ones would drain nothing`,
  )
}
