import { said } from '../base/said'
import { pointOf } from '../rules'
import type { Piece } from '../systems'
import { dailyNeeds } from './daily'
import { statusOf } from './fold'
import { barriers } from './gate'
import type { WallState } from './state'
import { cleared } from './status'
import { type Step, titleOf } from './step'
import { weatherAt } from './weather'
import { workOf } from './works'

/** A step ahead as a crew reads it. */
export interface CrewStep {
  readonly step: Step
  readonly title: string
  /** Targets, amounts, limits; what of it is already done. */
  readonly wants: readonly string[]
  /** Pieces to cut for it, by station along the wall, m. */
  readonly cuts: readonly { readonly station: number; readonly length: number; readonly kind: Piece['kind'] }[]
  /** Who releases it, where it holds. */
  readonly releasedBy?: string
  readonly caution?: string
  /** Why it cannot begin yet, other than by the steps before it on this sheet. */
  readonly waitsFor: readonly string[]
}

/** One page for the next working day: section by section what comes, and what everybody must mind. */
export interface CrewSheet {
  readonly sections: readonly { readonly section: string; readonly steps: readonly CrewStep[] }[]
  /** What stops the whole wall, or has to be done anew before anybody goes in. */
  readonly stops: readonly string[]
  readonly cautions: readonly string[]
}

const DAY = 86_400_000
/** So many steps of a section are more than a crew does in a day. */
const AHEAD = 8

/**
 * What comes next on every section, as far as a day reaches, with what it takes.
 *
 * @param by - when it is made, for the weather; and how many steps of a section at most
 * @example crewSheet(state).sections[0]?.steps.map((s) => s.title) // ['Units set, section A course 3', …]
 */
export function crewSheet(state: WallState, by: { readonly at?: string | undefined; readonly ahead?: number } = {}): CrewSheet {
  const { layout } = state
  const next = state.steps.find((s) => !cleared(statusOf(state, s)))
  const sections = layout.plan.sections.map((section) => {
    const open = state.steps.filter((s) => s.section === section.id && !cleared(statusOf(state, s))).slice(0, by.ahead ?? AHEAD)
    const on = new Set(open.map((s) => s.key))
    return { section: section.id, steps: open.map((step) => crewStep(state, step, on, by.at)) }
  })
  // What the wall as a whole wants stands first as long as it comes first, and last when nothing else is left.
  const whole = next && next.section === undefined ? crewStep(state, next, new Set(), by.at) : undefined
  const shown = [...(whole ? [whole] : []), ...sections.flatMap((s) => s.steps)]
  // The sheet is for the next day: what is looked at each day is to be looked at again.
  const day = by.at === undefined ? undefined : new Date(Date.parse(by.at) + DAY).toISOString()
  const stops = shown.flatMap(({ step }) => [
    ...barriers(state, step).flatMap((b) => (b.step === undefined ? [b.message] : [])),
    ...(day === undefined ? [] : dailyNeeds(state, step, day).map((n) => n.message)),
  ])
  const said = new Set(stops)
  return {
    stops: [...said],
    sections: [...(whole ? [{ section: '', steps: [whole] }] : []), ...sections.filter((s) => s.steps.length > 0)],
    cautions: [...layout.cautions.map((c) => c.message), ...weatherSaid(state, by.at)].filter((c) => !said.has(c)),
  }
}

/** What the weather asks for at that time; weather that is old is said to be. */
function weatherSaid(state: WallState, at: string | undefined): string[] {
  if (at === undefined) return []
  const { cautions, old } = weatherAt(state, at)
  return [
    ...cautions.map((c) => c.text),
    ...(old ? [`The newest weather recorded is of ${said.day(old)}: record today’s, and what is expected.`] : []),
  ]
}

function crewStep(state: WallState, step: Step, on: ReadonlySet<string>, at: string | undefined): CrewStep {
  const { stage } = step
  const status = statusOf(state, step)
  const point = stage.hold === undefined ? undefined : pointOf(state.layout.plan, stage.hold)
  const cell = step.course === undefined ? undefined : state.layout.cells.get(`${step.section}/${step.course}`)
  // Cuts belong to the stage that sets the pieces.
  const cuts =
    stage.id === state.layout.system.open.from
      ? (cell?.pieces ?? []).filter((p) => p.kind === 'cut' || p.kind === 'mitre').map((p) => ({ station: p.start, length: p.length, kind: p.kind }))
      : []
  const begun = status.state === 'partial' ? [`${status.done} of ${status.total} done; missing ${status.missing.join(', ')}`] : []
  return {
    step,
    title: titleOf(step),
    wants: [...workOf(stage.work.type).wants(state, step as never), ...begun],
    cuts,
    ...(point?.kind === 'hold' ? { releasedBy: `${point.title}, released by the ${point.roles.join(' or ')}` } : {}),
    ...(stage.caution ? { caution: stage.caution } : {}),
    waitsFor: barriers(state, step, at).flatMap((b) => (b.step && !on.has(b.step.key) ? [b.message] : [])),
  }
}
