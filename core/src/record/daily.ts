import { said } from '../base/said'
import { cutTopAt, turnsOf } from '../layout'
import { limitsOf, tableOf, weatherLimitsOf } from '../rules'
import type { Entry, RecordedEntry } from './entry'
import type { CheckData, LookData, WeatherData } from './kinds'
import { live, type WallState } from './state'
import type { Step } from './step'
import { whenOf } from './time'

const HOUR = 3_600_000
/** A look serves the shift it was made for. */
const SHIFT = 16 * HOUR
/** Weather older than this is not today's. */
const FRESH = 24 * HOUR

/** The newest by its own clock up to `now` (ms): devices that were out of reach send late what was done early. */
function newest(state: WallState, now: number, is: (e: Entry, recorded: RecordedEntry) => boolean): RecordedEntry | undefined {
  let best: RecordedEntry | undefined
  let when = Number.NEGATIVE_INFINITY
  for (const e of state.entries) {
    if (!is(e.entry, e) || !live(state, e.entry.id)) continue
    const at = whenOf(state, e).earliest
    if (at <= now + HOUR && at >= when) [best, when] = [e, at]
  }
  return best
}

/** What has to be done again today before this step, each in words, with what answers it. */
export interface DailyNeed {
  readonly id: 'ticket' | 'look'
  readonly message: string
}

/**
 * How deep the cut behind a step still stands open, m: from the top grade down to where people work. Where the fill has come up the
 * trench is no longer one.
 *
 * @example openDepth(state, step) // 1.45
 */
export function openDepth(state: WallState, step: Step): number {
  const { layout } = state
  const own = layout.plan.sections.find((s) => s.id === step.section)
  if (!own) return 0
  const course = step.course === undefined ? undefined : layout.courses.find((c) => c.course === step.course)
  const { plan, building } = layout
  return Math.max(
    ...turnsOf(plan, layout.steps, own).map((t) => cutTopAt(plan, t.station) - (course?.bottom ?? t.pad - building.foundation.thickness)),
  )
}

/**
 * What this step asks for anew each day: a locate ticket that still runs while there is digging, and a trench somebody competent looked at
 * in this shift, and after the last rain. Nothing under rule table 1.
 *
 * @param at - when the work is done, as `2026-05-20T08:00:00Z`
 * @example dailyNeeds(state, step, new Date().toISOString()).map((n) => n.message)
 */
export function dailyNeeds(state: WallState, step: Step, at: string): DailyNeed[] {
  const { plan } = state.layout
  if (tableOf(plan) === 1 || step.section === undefined) return []
  const needs: DailyNeed[] = []
  const now = Date.parse(at)
  const { work } = step.stage
  if (work.type === 'readings' && work.target === 'dig') {
    const until = newest(state, now, (e) => e.kind === 'check' && e.where.stage === 'services')
    const day = (until?.entry.data as CheckData | undefined)?.until
    if (day !== undefined && day < at.slice(0, 10))
      needs.push({
        id: 'ticket',
        message: `The locate ticket ran out on ${said.day(day)}. Have the services located and marked again before anyone digs on.`,
      })
  }
  const deep = openDepth(state, step)
  if (deep <= limitsOf(plan).shoreAbove.value + 1e-6) return needs
  const rain = newest(
    state,
    now,
    (e) => e.kind === 'weather' && !(e.data as WeatherData).expected && (e.data as WeatherData).rain >= weatherLimitsOf(plan).wet,
  )
  const look = newest(state, now, (e) => e.kind === 'look')
  const seen = look ? whenOf(state, look).earliest : Number.NEGATIVE_INFINITY
  const wet = rain !== undefined && whenOf(state, rain).latest > seen
  const words = look?.entry.data as LookData | undefined
  if (words?.safe && now - seen <= SHIFT && !wet) return needs
  const why = !look
    ? 'Nobody has looked at it yet'
    : !words?.safe
      ? `${words?.by ?? ''} says that nobody goes in: ${words?.seen ?? ''}`
      : wet
        ? 'It rained since it was looked at'
        : `It was last looked at on ${said.day(new Date(seen).toISOString())}`
  needs.push({
    id: 'look',
    message: `The cut stands ${said.length(deep, 2)} open here. ${why}: a competent person looks at it before anyone goes in, every day and after rain.`,
  })
  return needs
}

/**
 * Has the fill that lies open frozen or been soaked since the last lift? Then somebody looks at it before the next one.
 *
 * @returns what the weather was, in words; undefined where the lift may be placed
 * @example fillHeld(state, step, at) // '24 mm in 24 h, down to 3 °C'
 */
export function fillHeld(state: WallState, step: Step, at: string): string | undefined {
  if (tableOf(state.layout.plan) === 1 || step.stage.work.type !== 'lifts') return undefined
  const now = Date.parse(at)
  const below = step.stage.id
  const last = newest(state, now, (e) => e.kind === 'lift' && e.where.section === step.section && e.where.stage === below)
  // The first lift lies on ground that was released; what held that is looked at there.
  const since = last ? whenOf(state, last).earliest : now - FRESH
  const limits = weatherLimitsOf(state.layout.plan)
  const bad = newest(state, now, (e, recorded) => {
    if (e.kind !== 'weather' || (e.data as WeatherData).expected) return false
    const d = e.data as WeatherData
    return whenOf(state, recorded).latest >= since && (d.rain >= limits.soaked || d.low <= limits.frost)
  })
  if (!bad) return undefined
  const d = bad.entry.data as WeatherData
  return `${said.rain(d.rain)}, down to ${said.temperature(d.low)} on ${said.day(bad.entry.at)}`
}
