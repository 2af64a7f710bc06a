import { exposedHeight, toeAt } from '../plan'
import type { Layout } from './layout'

/** What was asked of a wall and what its rows make of it, m. */
export interface ComesOut {
  /** The greatest height above the ground in front that the grades ask for. */
  readonly asked: number
  /** The least and the most it shows above the ground in front, its cap with it. */
  readonly shows: readonly [least: number, most: number]
  /** Rows over one another where it is highest, and how many of them lie wholly below the ground in front. */
  readonly rows: number
  readonly buried: number
}

/**
 * How high a wall comes out: whole rows are what it is made of, so it shows more than was asked, by as much as a row.
 *
 * @example comesOut(layout).shows // asked 1.5 of baskets a metre high: [2, 2]
 */
export function comesOut(layout: Pick<Layout, 'plan' | 'tops' | 'steps' | 'courses' | 'building'>): ComesOut {
  const { plan, tops, steps, courses, building } = layout
  const cap = building.cap?.height ?? 0
  const at = [...new Set([...tops.flatMap((t) => [t.start, t.end]), ...plan.grades.map((g) => g.station)])]
  const heights = at.flatMap((s) =>
    tops.filter((t) => s >= t.start - 1e-9 && s <= t.end + 1e-9).map((t) => ({ station: s, high: t.elevation + cap - toeAt(plan, s) })),
  )
  const most = heights.reduce((a, b) => (b.high > a.high ? b : a))
  const pad = steps.find((p) => most.station >= p.start - 1e-9 && most.station <= p.end + 1e-9)?.elevation ?? Number.NEGATIVE_INFINITY
  const over = courses.filter((c) => c.bottom >= pad - 1e-9 && c.stretches.some((r) => most.station >= r.from - 1e-9 && most.station <= r.to + 1e-9))
  const toe = toeAt(plan, most.station)
  return {
    asked: exposedHeight(plan),
    shows: [Math.min(...heights.map((h) => h.high)), most.high],
    rows: over.length,
    buried: over.filter((c) => c.top <= toe + 1e-9).length,
  }
}
