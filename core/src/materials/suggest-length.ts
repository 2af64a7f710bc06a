import { fail, ok, type Result } from '../base/result'
import { type Layout, layOut } from '../layout'
import type { Plan } from '../plan'
import { withLine } from '../systems'
import { cutList } from './cut-list'

/** A length within the play that takes fewer cuts, beside the wall as it is given. m. */
export interface LengthSuggested {
  readonly length: number
  readonly cuts: number
  /** As given. */
  readonly given: { readonly length: number; readonly cuts: number }
  /** No length that was tried takes fewer: each course by itself at the best of them. */
  readonly bound: number
  readonly tried: number
}

/** A saw’s width of play tried at a time, m. */
const GRAIN = 0.01
/** A play beyond this is another wall, m. */
export const MOST_PLAY = 1

/** A straight plan of another length: grades, sections, outlets and openings follow its end. */
export function ofLength(plan: Plan, length: number): Plan {
  const { alignment: _, ...made } = withLine(
    plan,
    [
      { easting: 0, northing: 0 },
      { easting: length, northing: 0 },
    ],
    false,
  )
  return made
}
const perCourse = (layout: Layout) => {
  const by = new Map<number, number>()
  for (const p of cutList(layout).pieces) by.set(p.course, (by.get(p.course) ?? 0) + 1)
  return by
}

/**
 * The length within a play that takes the fewest cuts; of equals the one nearest to what was given. Never worse than the given one.
 *
 * @param play - so much longer or shorter it may be, m
 * @param told - how far it is, 0 to 1; says false to end it
 * @returns refused for a wall on a line of its own: its corners and arcs are moved on Set-out
 * @example fewestCuts(plan, 0.3).value // { length: 12.06, cuts: 0, given: { length: 12, cuts: 9 }, bound: 0, tried: 61 }
 */
export function fewestCuts(plan: Plan, play: number, told: (share: number) => boolean = () => true): Result<LengthSuggested> {
  if (plan.alignment) return fail('length', 'is that of a line with points of its own; move these on Set-out')
  if (!(play > 0 && play <= MOST_PLAY)) return fail('play', `must be above 0 and at most ${MOST_PLAY} m, not ${play}`)
  const first = layOut(plan)
  if (!first.ok) return first
  const given = { length: plan.length, cuts: cutList(first.value).pieces.length }
  const steps = Math.floor(play / GRAIN + 1e-9)
  const least = perCourse(first.value)
  let best = { ...given, away: 0 }
  let tried = 1
  // From what was given outwards, so that of equals the nearest is found first.
  for (let k = 1; k <= steps; k++) {
    for (const sign of [1, -1]) {
      const length = Math.round((plan.length + sign * k * GRAIN) * 1e6) / 1e6
      if (length <= 0) continue
      const laid = layOut(ofLength(plan, length))
      // A length at which it cannot be built is none.
      if (!laid.ok) continue
      tried++
      const own = perCourse(laid.value)
      // A course the wall lacks at this length takes no cut there.
      for (const course of least.keys()) least.set(course, Math.min(least.get(course) ?? 0, own.get(course) ?? 0))
      const cuts = [...own.values()].reduce((a, b) => a + b, 0)
      if (cuts < best.cuts) best = { length, cuts, away: k }
    }
    if (!told(k / steps)) break
  }
  return ok({ length: best.length, cuts: best.cuts, given, bound: [...least.values()].reduce((a, b) => a + b, 0), tried })
}
