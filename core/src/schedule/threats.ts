import { titleOf, type WallState } from '../record'
import { weatherLimitsOf } from '../rules'
import type { Programme, ProgrammeTask } from './programme'
import { against, expectedDays } from './windows'

/** Work of a day that the weather expected speaks against. */
export interface Threat {
  readonly task: ProgrammeTask
  /** As 2026-05-31. */
  readonly day: string
  readonly text: string
}

/**
 * What the weather expected threatens, day by day. A forecast older than two days is none, and no forecast says nothing.
 *
 * @param at - now, ISO 8601
 * @example threats(state, programme, now)[0].text // 'Backfill, section B course 7: fill takes up more water …'
 */
export function threats(state: WallState, p: Programme, at: string): readonly Threat[] {
  const seen = new Set<string>()
  return expectedDays(state, at.slice(0, 10)).flatMap((w) =>
    p.tasks.flatMap((task): Threat[] => {
      // Days that were taken out of the calendar for it are threatened too: what would have been done then comes next.
      const begins = p.lost.some((l) => l.day === w.day) && task.from === nextWorked(p, w.day)
      if (task.kind !== 'work' || !task.step || seen.has(task.id) || ((task.to < w.day || task.from > w.day) && !begins)) return []
      const why = against(task.step.stage, w, weatherLimitsOf(state.layout.plan))
      if (!why) return []
      seen.add(task.id)
      return [{ task, day: w.day, text: `${titleOf(task.step)}: ${why}` }]
    }),
  )
}
const nextWorked = (p: Programme, day: string): string => {
  for (let i = 0; ; i++) {
    const next = p.calendar.nth(i)
    if (next > day || next === p.calendar.nth(i + 1)) return next
  }
}
