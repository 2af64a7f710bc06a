import { said } from '../base/said'
import { WEATHER_LIMITS } from '../ground'
import { type LimitName, limitsOf, pointOf, tableOf } from '../rules'
import type { Requirement } from '../systems'
import { statusOf } from './fold'
import { owedBefore } from './owed'
import { live, type WallState } from './state'
import { cleared, complete, isClosed, settled } from './status'
import { placeOfStep, type Step, stepKey, titleOf } from './step'
import { weatherOf } from './weather'

/** Why work may not go on: what is missing, where, and who or what opens the gate. */
export interface Barrier {
  readonly force: Requirement['force']
  /** The step that is in the way; undefined when the plan itself is. */
  readonly step: Step | undefined
  readonly message: string
  /** What exactly is missing. */
  readonly missing: readonly string[]
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
  const done = Math.max(...work.map((e) => Date.parse(e.entry.at)))
  // A reason that was written before it was done speaks of something else.
  const { override } = statusOf(state, other)
  if (override && override.seq > Math.max(...work.map((e) => e.seq))) return undefined
  const until = done + days * DAY
  if (at !== undefined && Date.parse(at) >= until) return undefined
  const say = (ms: number) => `${new Date(ms).toISOString().slice(0, 16).replace('T', ' ')} UTC`
  return {
    force: 'soft',
    step: other,
    message: `${titleOf(other)}: ${req.why}. It was done ${say(done)} and wants ${days} ${days === 1 ? 'day' : 'days'}, until ${say(until)}; longer in the cold. Sooner only on a strength that was tested, in writing.`,
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
  if (step.stage.id === state.layout.system.open.from) result.push(...openCourses(state, step))
  if (step.stage.dry && !statusOf(state, step).override) {
    const newest = weatherOf(state).now
    const stale = tableOf(state.layout.plan) > 1 && at !== undefined && newest !== undefined && Date.parse(at) - Date.parse(newest.at) > 86_400_000
    const now = stale ? undefined : newest
    if (stale) {
      result.push({
        force: 'soft',
        step,
        message: `${titleOf(step)}: ${step.stage.dry} The newest weather recorded is of ${newest.at.slice(0, 10)}: record today's.`,
        missing: [],
      })
    }
    const wet = now && (now.rain > WEATHER_LIMITS.damp || now.low <= WEATHER_LIMITS.frost)
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
    return found && live(state, id) && !isClosed(state, id) ? [found] : []
  })

/** Every open nonconformance of the wall, oldest first. */
export const openFindings = (state: WallState) =>
  [...state.outs.keys()]
    .flatMap((id) => {
      const found = state.byId.get(id)
      return found && live(state, id) && !isClosed(state, id) && state.byKey.has(stepKey(found.entry.where)) ? [found] : []
    })
    .sort((a, b) => a.seq - b.seq)

/** Hold points whose work is done and that wait for a release. */
export const waitingHolds = (state: WallState) =>
  state.holds.filter((s) => {
    // Where nothing was recorded there is nothing to release.
    if (!state.logs.has(s.key)) return false
    const status = statusOf(state, s)
    return status.hold !== 'released' && settled(status) && owedBefore(state, s).length === 0
  })
