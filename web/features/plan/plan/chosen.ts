import {
  type Plan,
  type RuleBook,
  type Starts,
  schoolBy,
  startBy,
  systemOf,
  type Unit,
  type UnitSystem,
  unitOfPlan,
  type WallSystem,
} from '@stone-tally/core'
import type { Draft } from './draft-fields'
import { startTexts } from './part'

/** What a new wall starts from, as the rules of the company have it. */
export const startsOf = (book: RuleBook | undefined): Starts => ({
  value: (name) => startBy({ book }, name),
  school: (choice) => schoolBy({ book }, choice),
})
/** The system and unit that a draft is for: the plan's own unit until another is chosen, whatever became of the catalogue since. */
export function chosenOf(
  draft: Pick<Draft, 'part'>,
  catalogue: readonly { system: string; unit: Unit }[],
  base?: Plan,
): { system: WallSystem; unit: Unit } | undefined {
  const own = base && unitOfPlan(base)
  const chosen =
    own && base && own.id === draft.part.unit ? { system: base.system.id, unit: own } : catalogue.find((u) => u.unit.id === draft.part.unit)
  const system = chosen && systemOf(chosen.system)
  return chosen && system ? { system, unit: chosen.unit } : undefined
}

/** A field by which an answer is remembered as typed: a list is one. @example answerOf('lists.grid.0.cells.length') // 'lists.grid' */
export const answerOf = (field: string): string | undefined => /^(?:part|lists)\.[^.]+/.exec(field)?.[0]

/**
 * The answers of a draft once another unit was chosen: what somebody typed stays, what nobody touched is what a wall of that unit starts with.
 * What the new one is not asked is put by, and there again with a unit that is. Of a plan in force only what its system was never asked is new.
 *
 * @example afterUnit(draft, catalogue, 'big-600', 'metric').part.machine
 */
export function afterUnit(
  draft: Draft,
  catalogue: readonly { system: string; unit: Unit }[],
  id: string,
  units: UnitSystem,
  base?: Plan,
  book?: RuleBook,
): Pick<Draft, 'part' | 'lists' | 'left'> {
  const starts = startsOf(base?.book ?? book)
  const was = chosenOf(draft, catalogue, base)
  const is = chosenOf({ part: { unit: id } }, catalogue, base)
  if (!is || !was) return { part: { ...draft.part, unit: id }, lists: draft.lists, ...(draft.left ? { left: draft.left } : {}) }
  const before = startTexts(was.system, was.unit, starts, units)
  const next = startTexts(is.system, is.unit, starts, units)
  const old = draft.left ?? { part: {}, lists: {} }
  /** Answers of one kind: what the next unit starts with, under what was typed; and what was typed that it is not asked. */
  const over = <T>(root: 'part' | 'lists', now: Record<string, T>, start: Record<string, T>, begin: Record<string, T>, put: Record<string, T>) => {
    const typed = ([name, value]: [string, T]) =>
      draft.typed?.includes(`${root}.${name}`) ||
      (base ? was.system.questions.some((q) => q.id === name) : JSON.stringify(value) !== JSON.stringify(start[name]))
    const kept = { ...put, ...Object.fromEntries(Object.entries(now).filter(([name, value]) => name !== 'unit' && typed([name, value]))) }
    const asked = Object.entries(kept).filter(([name]) => name in begin)
    return { taken: { ...begin, ...Object.fromEntries(asked) }, left: Object.fromEntries(Object.entries(kept).filter(([name]) => !(name in begin))) }
  }
  const part = over('part', draft.part, before.part, next.part, old.part)
  const lists = over('lists', draft.lists, before.lists, next.lists, old.lists)
  return { part: { ...part.taken, unit: id }, lists: lists.taken, left: { part: part.left, lists: lists.left } }
}
