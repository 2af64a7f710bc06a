import { limitsOf, pointOf } from '../rules'
import { dailyNeeds, fillHeld } from './daily'
import { statusOf } from './fold'
import { barriers, nextStep } from './gate'
import { type Owed, testsOwedAt } from './owed'
import { releaseNeeds } from './release-needs'
import type { WallState } from './state'
import { settled } from './status'
import { placeOfStep, type Step, titleOf } from './step'
import { workOf } from './works'

/** Where a section is: its next step, what is asked of it, what holds it, and what can be done meanwhile. */
export interface Now {
  readonly step: Step
  readonly title: string
  /** Targets, amounts, limits of the step. */
  readonly wants: readonly string[]
  /** Why it does not go on; empty when it does. */
  readonly holds: readonly string[]
  /** What is to be done before it is released, beside its own work; of lifts, the tests they owe by now. */
  readonly owed: readonly Owed[]
  /** Steps that nothing stands before, of this section first; asked only where it does not go on. */
  readonly meanwhile: readonly Step[]
}

/**
 * Where a section is.
 *
 * @param section - the whole wall where left out
 * @param at - when the work is done, as for `barriers`
 * @returns undefined where everything is done and released
 * @example nowOf(state, 'A')?.holds // ['Hold point First course waits for the inspector']
 */
export function nowOf(state: WallState, section?: string, at?: string): Now | undefined {
  const step = nextStep(state, section)
  if (!step) return undefined
  const holds = holdsOf(state, step, at)
  return {
    step,
    title: titleOf(step),
    wants: workOf(step.stage.work.type).wants(state, step as never),
    holds,
    owed: owedAt(state, step),
    meanwhile: holds.length > 0 ? meanwhileOf(state, step, section, at) : [],
  }
}

const owedAt = (state: WallState, step: Step): readonly Owed[] => {
  if (step.stage.hold && settled(statusOf(state, step))) return releaseNeeds(state, step)
  const tests = testsOwedAt(state, step)
  return tests ? [tests] : []
}

function holdsOf(state: WallState, step: Step, at: string | undefined): string[] {
  const status = statusOf(state, step)
  const open = status.open.length > 0 ? [`${status.open.length} out of tolerance, not closed`] : []
  if (settled(status) && step.stage.hold) {
    const point = pointOf(state.layout.plan, step.stage.hold)
    const title = `Hold point ${point?.title ?? step.stage.title}${placeOfStep(step)}`
    const needs = releaseNeeds(state, step)
    if (needs.length > 0 && status.hold !== 'rejected')
      return [`${title} is not to be released yet. Owed: ${needs.map((n) => n.message).join('; ')}`, ...open]
    return [`${title} ${status.hold === 'rejected' ? 'was rejected' : `waits for the ${point?.roles.join(' or ') ?? 'inspector'}`}`, ...open]
  }
  return [...open, ...barriers(state, step, at).map((b) => b.message), ...todayOf(state, step, at)]
}

/** What is asked anew today before anybody works there: it is no gate, and nobody is sent past it all the same. */
function todayOf(state: WallState, step: Step, at: string | undefined): string[] {
  if (at === undefined) return []
  const soaked = fillHeld(state, step, at)
  return [
    ...dailyNeeds(state, step, at).map((n) => n.message),
    ...(soaked === undefined ? [] : [`${titleOf(step)}: since the last lift there was ${soaked}; somebody looks at the fill before the next`]),
  ]
}

/**
 * Work that is not done and that nothing stands before: in this section, then the first of every other. Looked for only as far up as courses
 * may be open at once; what lies above waits for what lies below, and a wall has thousands of steps.
 */
function meanwhileOf(state: WallState, step: Step, section: string | undefined, at: string | undefined): Step[] {
  const bySection = new Map<string, Step[]>(state.layout.plan.sections.map((s) => [s.id, []]))
  for (const s of state.steps) {
    if (s.section !== undefined && !settled(statusOf(state, s))) bySection.get(s.section)?.push(s)
  }
  const ahead = state.layout.plan.rules?.openCourses ?? limitsOf(state.layout.plan).openCourses.value
  const first = (id: string) => {
    const left = bySection.get(id) ?? []
    const from = left.find((s) => s.course !== undefined)?.course ?? 0
    return left.find(
      (s) =>
        s !== step &&
        (s.course === undefined || s.course < from + ahead) &&
        barriers(state, s, at).length === 0 &&
        todayOf(state, s, at).length === 0,
    )
  }
  const sections = [...bySection.keys()]
  const order = section === undefined ? sections : [section, ...sections.filter((s) => s !== section)]
  return order.flatMap((id) => first(id) ?? [])
}
