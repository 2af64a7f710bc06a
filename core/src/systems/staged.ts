import { said } from '../base/said'
import type { Plan } from '../plan'
import { type AddedPoint, pointOf, type RuleBook, since } from '../rules'
import type { DrainSchool } from '../water/seat'
import { type BuiltInPlace, withBuiltIn } from './built-in'
import { withConcrete } from './concrete'
import { foundationKindOf } from './foundations'
import { pipeOrder } from './pipe-order'
import { schooled } from './schools'
import type { Requirement, Stage, WallSystem } from './system'

/** The stage at which a point that a company or plan added is looked at. @example pointStage('client-look') // 'point-client-look' */
export const pointStage = (id: string) => `point-${id}`

/** Which inspection point a stage belongs to, and whether it holds the work: as the rules of the plan have it. */
function pointed(stages: readonly Stage[], book: RuleBook): readonly Stage[] {
  return stages.map((s) => {
    const id = s.hold ?? s.witness
    const point = id === undefined ? undefined : pointOf({ book }, id)
    if (!id || !point) return s
    const { hold: _hold, witness: _witness, ...rest } = s
    return { ...rest, ...(point.kind === 'hold' ? { hold: id } : point.kind === 'witness' ? { witness: id } : {}) }
  })
}

/** A point added to a stage is a stage of its own after it; where it holds, what asked for that stage waits for it, and so does the final. */
function withPoint(stages: readonly Stage[], p: AddedPoint): readonly Stage[] {
  const at = stages.find((s) => s.id === p.at.stage)
  if (!at) return stages
  const holds = p.kind === 'hold'
  const made: Stage = {
    id: pointStage(p.id),
    title: p.title,
    scope: at.scope,
    when: at.when,
    ...(holds ? { hold: p.id } : { witness: p.id }),
    ...(p.at.section || p.at.course ? { only: { section: p.at.section, course: p.at.course } } : {}),
    how: `${p.why}${p.at.station === undefined ? '' : ` At ${said.station(p.at.station)}.`}`,
    work: { type: 'check', detail: 'What was seen', items: [{ id: 'seen', text: `${p.title}: looked at` }] },
    requires: [{ stage: at.id, of: 'same', force: 'soft', why: `${at.title.toLowerCase()} is not done` }],
  }
  const wait = (of: Requirement['of']): Requirement => ({ stage: made.id, of, force: 'hold', why: p.why })
  return stages.flatMap((s) => {
    const asks = s.requires.find((r) => r.stage === at.id)
    const own = holds && (asks || s.hold === 'final' || s.id === 'final') ? { ...s, requires: [...s.requires, wait(asks?.of ?? 'same')] } : s
    return s.id === at.id ? [own, made] : [own]
  })
}

/** So many sets of rules are kept worked out; only a shortcut. */
const KEPT = 60
const made = new WeakMap<WallSystem, Map<string, WallSystem>>()

/** Stages that are of the pipe alone: gone where the wall has none. */
const PIPE_ALONE: ReadonlySet<string> = new Set(['invert', 'drain', 'cover', 'pour'])

/** What a system's own stages become on this foundation, and with or without a pipe. */
function standing(stages: readonly Stage[], foundation: string, pipe: boolean): readonly Stage[] {
  const ground = foundationKindOf(foundation)?.stages?.(stages) ?? stages
  if (pipe) return ground
  return ground.filter((s) => !PIPE_ALONE.has(s.id)).map((s) => ({ ...s, requires: s.requires.filter((r) => !PIPE_ALONE.has(r.stage)) }))
}

const seated = (stages: readonly Stage[], school: DrainSchool | undefined) => (school ? pipeOrder(stages, school) : stages)

/** What of a wall its stages follow from besides its rules: its foundation, and where its pipe sits, if it has one. */
export interface StagedBy {
  readonly foundation: string
  readonly pipe: DrainSchool | undefined
  /** What is built in with the wall, where it is to be done. */
  readonly builtIn?: readonly BuiltInPlace[]
}

/**
 * A system with its stages as a plan has them built: its foundation, the schools of its rules, the order in which its pipe is laid, its
 * inspection points. The same object for the same rules.
 *
 * @example staged(system, plan, { foundation: 'dense-graded', pipe: 'raised' }).stages.map((s) => s.id)
 */
export function staged(system: WallSystem, plan: Pick<Plan, 'book'> & Partial<Pick<Plan, 'system' | 'ruleTable'>>, by: StagedBy): WallSystem {
  const { book } = plan
  const own = made.get(system) ?? new Map<string, WallSystem>()
  made.set(system, own)
  const bare = standing((plan.system && system.staged?.(plan.system.data, plan)) ?? system.stages, by.foundation, by.pipe !== undefined)
  const founded = (plan.system && system.onFoundation?.(bare, plan.system.data)) ?? bare
  const stages = since(plan, 3)
    ? withConcrete(
        founded,
        by.foundation,
        founded.some((s) => s.work.type === 'picks'),
      )
    : founded
  // What a part makes of the stages is in their words and measures as well as in which there are.
  const variant = stages === system.stages ? '' : JSON.stringify(stages)
  const key = JSON.stringify([by, variant, ...(book ? [book.choices, book.points, book.added] : [])])
  const known = own.get(key)
  if (known) return known
  const ordered = withBuiltIn(
    seated(
      book
        ? schooled(
            stages,
            book.choices.filter((c) => !system.schools || system.schools.includes(c.choice)),
          )
        : stages,
      by.pipe,
    ),
    by.builtIn ?? [],
  )
  const result = { ...system, stages: book ? book.added.reduce(withPoint, pointed(ordered, book)) : ordered }
  if (own.size >= KEPT) own.clear()
  own.set(key, result)
  return result
}
