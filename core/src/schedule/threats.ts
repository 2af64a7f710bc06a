import { said } from '../base/said'
import { WEATHER_LIMITS } from '../ground'
import { titleOf, type WallState, weatherOf } from '../record'
import type { Programme, ProgrammeTask } from './programme'

/** Work of the next working day that the weather expected speaks against. */
export interface Threat {
  readonly task: ProgrammeTask
  readonly text: string
}
const FRESH = 2 * 86_400_000

/** What a kind of weather does to a kind of work; the first that fits says it. */
function against(t: ProgrammeTask, w: { rain: number; low: number; wind: number }): string | undefined {
  const { work, dry } = t.step.stage
  const L = WEATHER_LIMITS
  if (dry && (w.rain > L.damp || w.low <= L.frost)) return dry
  if (work.type === 'picks' && w.wind >= L.lift) return `nothing hangs on a hook at ${said.speed(w.wind)}`
  if (work.type === 'lifts' && w.low <= L.frost) return 'nothing is placed on or with frozen soil'
  if (work.type === 'lifts' && w.rain >= L.wet) return 'fill takes up more water than it can be compacted with; keep it covered'
  return undefined
}

/**
 * What the weather expected threatens of the next working day. A forecast older than two days is none, and no forecast says nothing.
 *
 * @param at - now, ISO 8601
 * @example threats(state, programme, now)[0].text // 'Backfill, section B course 7: fill takes up more water …'
 */
export function threats(state: WallState, p: Programme, at: string): readonly Threat[] {
  const { expected } = weatherOf(state)
  if (!expected || Date.parse(at) - Date.parse(expected.at) > FRESH) return []
  const first = p.calendar.from
  const next = p.calendar.dayOf(p.calendar.data.hours + 1e-6)
  return p.tasks.flatMap((task) => {
    if (task.kind !== 'work' || task.to < first || task.from > next) return []
    const why = against(task, expected)
    return why ? [{ task, text: `${titleOf(task.step)}: ${why}` }] : []
  })
}
