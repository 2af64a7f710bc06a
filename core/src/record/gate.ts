import { said } from '../base/said'
import { windOf } from '../layout'
import { type LimitName, limitsOf, pointOf, since, tableOf, weatherLimitsOf } from '../rules'
import { type Requirement, unproved } from '../systems'
import { statusOf } from './fold'
import { soilStops } from './found-soil'
import type { OverrideData, WeatherData } from './kinds'
import { owedBefore } from './owed'
import { live, type WallState } from './state'
import { cleared, complete, isClosed, settled } from './status'
import { placeOfStep, type Step, stepKey, titleOf } from './step'
import { whenOf } from './time'
import { weatherOf } from './weather'

/** Why work may not go on: what is missing, where, and who or what opens the gate. */
export interface Barrier {
  readonly force: Requirement['force']
  /** The step that is in the way; undefined when the plan itself is. */
  readonly step: Step | undefined
  readonly message: string
  /** What exactly is missing. */
  readonly missing: readonly string[]
  /** It warns before the work; what was done all the same is kept, as a finding. */
  readonly kept?: true
  /** It opens on a tested strength, recorded at its step. */
  readonly strength?: true
}

/** What a requirement of a step asks for: the steps that come before it. @example neededBefore(state, step, step.stage.requires[0]) */
export function neededBefore(state: WallState, step: Step, req: Requirement): Step[] {
  const stage = state.byStage.get(req.stage)
  if (!stage) return []
  if (stage.scope === 'wall') return pick(state, stepKey({ stage: stage.id }))
  if (step.section === undefined) return state.steps.filter((s) => s.stage.id === stage.id)
  if (stage.scope === 'section') return pick(state, stepKey({ stage: stage.id, section: step.section }))
  if (req.of === 'all') return state.steps.filter((s) => s.stage.id === stage.id && s.section === step.section)
  const course = (step.course ?? 0) - (req.of === 'below' ? 1 : 0)
  return pick(state, stepKey({ stage: stage.id, section: step.section, course }))
}
const DAY = 86_400_000

/**
 * What has to stand for some days before the next may go on: concrete that cures. It is passed with a written reason, such as a strength
 * that was tested. Where nobody says when it is, the clock is shown as running.
 */
function clockOfStep(state: WallState, other: Step, req: Requirement, at: string | undefined): Barrier | undefined {
  const { plan } = state.layout
  const days = typeof req.days === 'string' ? limitsOf(plan)[req.days as LimitName].value : req.days
  // Work that nobody did has no time it was done at.
  const work = (state.logs.get(other.key)?.work ?? []).filter((e) => live(state, e.entry.id) && !state.outs.has(e.entry.id))
  if (!days || work.length === 0) return undefined
  const done = Math.max(...work.map((e) => whenOf(state, e).latest))
  if (since(plan, 3)) return hardClock(state, other, { why: req.why, days, done, seq: Math.max(...work.map((e) => e.seq)) }, at)
  // A reason that was written before it was done speaks of something else.
  const { override } = statusOf(state, other)
  if (override && override.seq > Math.max(...work.map((e) => e.seq))) return undefined
  const until = done + days * DAY
  if (at !== undefined && Date.parse(at) >= until) return undefined
  return {
    force: 'soft',
    step: other,
    message: `${titleOf(other)}: ${req.why}. It was done ${saidTime(done)} and wants ${days} ${days === 1 ? 'day' : 'days'}, until ${saidTime(until)}; longer in the cold. Sooner only on a strength that was tested, in writing.`,
    missing: [],
  }
}

/**
 * A clock since rule table 3: days colder than the rules say do not count, and nothing but a tested strength opens it sooner, with its value,
 * the day of the test and its source.
 */
function hardClock(
  state: WallState,
  other: Step,
  of: { why: string; days: number; done: number; seq: number },
  at: string | undefined,
): Barrier | undefined {
  const { plan } = state.layout
  const tested = (state.logs.get(other.key)?.overrides ?? []).some((e) => {
    const { strength } = e.entry.data as OverrideData
    return (
      e.seq > of.seq &&
      live(state, e.entry.id) &&
      strength !== undefined &&
      strength.value >= strength.wanted &&
      strength.on >= new Date(of.done).toISOString().slice(0, 10) &&
      strength.source.trim().length > 2
    )
  })
  if (tested) return undefined
  const { until, cold } = curedAt(state, of.done, of.days, limitsOf(plan).cureMean.value)
  if (at !== undefined && Date.parse(at) >= until) return undefined
  return {
    force: 'hard',
    step: other,
    strength: true,
    message: `${titleOf(other)}: ${of.why}. It was done ${saidTime(of.done)} and wants ${of.days} ${of.days === 1 ? 'day' : 'days'}, until ${saidTime(until)}${
      cold > 0 ? ` (${cold} ${cold === 1 ? 'day' : 'days'} with a mean under ${said.temperature(limitsOf(plan).cureMean.value)} not counted)` : ''
    }. Sooner only on a strength that was tested: its value, the day and who tested it.`,
    missing: [],
  }
}
const saidTime = (ms: number) => said.moment(new Date(ms).toISOString())

/** So far a clock is looked ahead, in days. */
const AHEAD = 120
/**
 * When concrete has stood for so many days that count. A day nobody recorded the weather of is taken to be like the last one somebody did.
 *
 * @param done - when it was placed, ms
 * @param least - mean temperature from which on a day counts, °C
 */
function curedAt(state: WallState, done: number, days: number, least: number): { until: number; cold: number } {
  const means = new Map<string, number>()
  for (const recorded of state.entries) {
    const { entry } = recorded
    const d = entry.data as WeatherData
    if (entry.kind !== 'weather' || d.expected || !live(state, entry.id)) continue
    const mean = d.high === undefined ? d.low : (d.low + d.high) / 2
    const day = new Date(whenOf(state, recorded).earliest).toISOString().slice(0, 10)
    means.set(day, Math.min(means.get(day) ?? Number.POSITIVE_INFINITY, mean))
  }
  // Known from the day before the pour on.
  let mean = means.get(new Date(done - DAY).toISOString().slice(0, 10))
  let [left, cold, until] = [days, 0, done]
  for (let k = 0; k < AHEAD && left > 1e-9; k++) {
    mean = means.get(new Date(done + k * DAY).toISOString().slice(0, 10)) ?? mean
    const counts = mean === undefined || mean >= least
    if (counts) {
      const part = Math.min(1, left)
      until = done + (k + part) * DAY
      left -= part
    } else cold++
  }
  return { until: left > 1e-9 ? done + AHEAD * DAY : until, cold }
}

/** What is to be known before anything hangs on a hook: table and gear proved, the wind of today. */
function beforeLifting(state: WallState, step: Step, at: string | undefined): Barrier[] {
  const { plan, building } = state.layout
  const { lifting } = building
  if (step.stage.work.type !== 'picks' || !lifting || !since(plan, 3)) return []
  const say = (message: string): Barrier => ({ force: 'hard', kept: true, step: undefined, message, missing: [] })
  const proof = unproved(lifting)
  const { now } = weatherOf(state)
  const today = now !== undefined && (at === undefined || Math.abs(Date.parse(at) - Date.parse(now.at)) <= DAY)
  const most = windOf(plan, lifting)
  return [
    ...(proof.length > 0 ? [say(`No pick is judged without ${proof.join('; without ')}. Enter it in the plan.`)] : []),
    ...(!today
      ? [say('The wind of today is not recorded: nothing hangs on a hook before somebody has looked. Record the weather.')]
      : now.wind > most
        ? [say(`The wind is ${said.speed(now.wind)}, at most ${said.speed(most)}: nothing hangs on a hook.`)]
        : []),
  ]
}

/** Is concrete placed at a step: a footing, a pad of lean concrete, grout? */
const pours = (state: WallState, step: Step) => (step.stage.id === 'pad' && state.layout.building.foundation.cast) || step.stage.id === 'grout'

/** Frost that is expected on fresh concrete: passed only by saying in writing how it is protected. */
function frostAhead(state: WallState, step: Step, at: string | undefined): Barrier | undefined {
  if (!since(state.layout.plan, 3) || !pours(state, step) || statusOf(state, step).override) return undefined
  const { expected } = weatherOf(state)
  const limits = limitsOf(state.layout.plan)
  if (!expected || (at !== undefined && Date.parse(at) - Date.parse(expected.at) > 2 * DAY)) return undefined
  const first = Date.parse(at ?? expected.at)
  const days = expected.days?.filter(
    (d) => Date.parse(`${d.day}T23:59:59Z`) >= first && Date.parse(`${d.day}T00:00:00Z`) <= first + limits.frostWatch.value * 3_600_000,
  )
  const low = Math.min(expected.low, ...(days ?? []).map((d) => d.low))
  if (low > limits.frostAt.value) return undefined
  return {
    force: 'soft',
    step,
    message: `${titleOf(step)}: ${said.temperature(low)} is expected within ${limits.frostWatch.value} hours. ${limits.frostWatch.reason} Pour another day, or write down how it is protected.`,
    missing: [],
  }
}

const pick = (state: WallState, key: string) => {
  const step = state.byKey.get(key)
  return step ? [step] : []
}

/**
 * What stands before a step; empty when work may go on.
 *
 * @param at - when the work is done; weather older than a day is not today's. Left out, the newest weather counts, and clocks run
 * @example barriers(state, step).map((b) => b.message)
 */
export function barriers(state: WallState, step: Step, at?: string): Barrier[] {
  const result: Barrier[] = []
  for (const stop of openStops(state)) {
    // A lift that went wrong stops the lifting, not the shovel.
    if (stop.entry.kind === 'pick') {
      if (step.stage.work.type === 'picks')
        result.push({
          force: 'hard',
          step: undefined,
          kept: true,
          message: `Lifting is stopped: ${state.outs.get(stop.entry.id)?.text ?? ''}. Nothing hangs on a hook before a competent person has said by name that it is safe, and what was changed.`,
          missing: [],
        })
      continue
    }
    const d = stop.entry.data as { from?: number; to?: number }
    const where = d.from === undefined || d.to === undefined ? '' : ` at ${said.station(d.from)} to ${said.station(d.to)}`
    result.push({
      force: 'hard',
      step: undefined,
      message: `Work is stopped: fuel, gas, solvent or sewage was smelled${where}. Nobody goes in before the owner of the line or a competent person has said by name that it is safe.`,
      missing: [],
    })
  }
  for (const req of step.stage.requires) {
    for (const other of neededBefore(state, step, req)) {
      // Missing altogether says it all; that it is not released either is no news.
      if (result.some((b) => b.step === other)) continue
      // Where the course below does not stand yet, what else it lacks is no news either.
      if (req.of === 'below' && result.some((b) => b.step?.course === other.course && b.step?.stage.work.type === 'units')) continue
      const s = statusOf(state, other)
      if (req.force === 'hold' ? cleared(s) : req.force === 'hard' ? complete(s) : settled(s)) {
        const clock = clockOfStep(state, other, req, at)
        if (clock) result.push(clock)
        continue
      }
      const missing = [...s.missing, ...(s.open.length > 0 ? [`${s.open.length} out of tolerance, not closed`] : [])]
      if (req.force === 'hold' && settled(s) && other.stage.hold) {
        const point = pointOf(state.layout.plan, other.stage.hold)
        const who = point?.roles.join(' or ') ?? 'inspector'
        const verb = s.hold === 'rejected' ? 'was rejected' : 'is not released'
        result.push({
          force: 'hold',
          step: other,
          message: `Hold point ${point?.title ?? other.stage.title}${placeOfStep(other)} ${verb}: ${req.why}. It takes the ${who}.`,
          missing: [...missing, ...owedBefore(state, other)],
        })
      } else {
        result.push({ force: req.force, step: other, message: `${titleOf(other)}: ${req.why}.`, missing })
      }
    }
  }
  // What the plan lacks stops digging; since rule table 2 it stops the courses of a wall that grew over the limit as well.
  const stopped =
    tableOf(state.layout.plan) > 1
      ? step.stage.scope !== 'wall'
      : step.stage.requires.some((r) => r.force === 'hold') && step.stage.scope === 'section'
  if (stopped) {
    for (const c of state.layout.cautions) if (c.blocks) result.push({ force: 'hard', step: undefined, message: c.message, missing: [] })
  }
  // What was found in the dig stops whatever is built on it; the digging goes on until it is answered.
  if (step.stage.scope !== 'wall' && !step.stage.needs && !(step.stage.work.type === 'readings' && step.stage.work.target === 'dig'))
    for (const message of soilStops(state)) result.push({ force: 'hard', step: undefined, message, missing: [] })
  result.push(...beforeLifting(state, step, at))
  const frost = frostAhead(state, step, at)
  if (frost) result.push(frost)
  if (step.stage.id === state.layout.system.open.from) result.push(...openCourses(state, step))
  if (step.stage.dry && !statusOf(state, step).override) {
    const newest = weatherOf(state).now
    const stale = tableOf(state.layout.plan) > 1 && at !== undefined && newest !== undefined && Date.parse(at) - Date.parse(newest.at) > 86_400_000
    const now = stale ? undefined : newest
    if (stale) {
      result.push({
        force: 'soft',
        step,
        message: `${titleOf(step)}: ${step.stage.dry} The newest weather recorded is of ${said.day(newest.at)}: record today's.`,
        missing: [],
      })
    }
    const weatherLimits = weatherLimitsOf(state.layout.plan)
    const wet = now && (now.rain > weatherLimits.damp || now.low <= weatherLimits.frost)
    if (wet) {
      result.push({
        force: 'soft',
        step,
        message: `${titleOf(step)}: ${step.stage.dry} The weather recorded is ${said.rain(now.rain)}, down to ${said.temperature(now.low)}.`,
        missing: [],
      })
    }
  }
  return result
}

/** Courses below this one that are started but not closed, when there are as many as the rule allows. */
function openCourses(state: WallState, step: Step): Barrier[] {
  const { open } = state.layout.system
  const allowed = state.layout.plan.rules?.openCourses ?? limitsOf(state.layout.plan).openCourses.value
  const openBelow: Step[][] = []
  for (let course = (step.course ?? 1) - 1; course > 0; course--) {
    const started = state.byKey.get(stepKey({ stage: open.from, section: step.section, course }))
    if (!started) break
    const left = open.until
      .flatMap((stage) => pick(state, stepKey({ stage, section: step.section, course })))
      .filter((s) => !settled(statusOf(state, s)))
    if (left.length > 0 && statusOf(state, started).done > 0) openBelow.push(left)
  }
  if (openBelow.length < allowed) return []
  return openBelow.flat().map((s) => ({
    force: 'soft' as const,
    step: s,
    message: `${titleOf(s)} is not done: ${allowed} open ${allowed === 1 ? 'course is' : 'courses are'} allowed, and this would be one more.`,
    missing: statusOf(state, s).missing,
  }))
}

/**
 * The step a section is at: the first not cleared. `undefined` when everything is.
 *
 * @param section - only steps of this section and of the wall as a whole
 */
export function nextStep(state: WallState, section?: string): Step | undefined {
  return state.steps.find((s) => (section === undefined || s.section === undefined || s.section === section) && !cleared(statusOf(state, s)))
}

/** Findings that send everybody out and that nobody has answered by name yet. */
export const openStops = (state: WallState) =>
  [...state.outs].flatMap(([id, verdict]) => {
    const found = verdict.stop ? state.byId.get(id) : undefined
    if (!found || !live(state, id)) return []
    // That a block was set anew does not say that lifting is safe: somebody says so by name.
    const answered =
      found.entry.kind === 'pick'
        ? (state.rechecks.get(id) ?? []).some((r) => r.entry.kind === 'clearance' && live(state, r.entry.id))
        : isClosed(state, id)
    return answered ? [] : [found]
  })

/** Every open nonconformance of the wall, oldest first. */
export const openFindings = (state: WallState) =>
  [...state.outs.keys()]
    .flatMap((id) => {
      const found = state.byId.get(id)
      return found && live(state, id) && !isClosed(state, id) && state.byKey.has(stepKey(found.entry.where)) ? [found] : []
    })
    .sort((a, b) => a.seq - b.seq)
