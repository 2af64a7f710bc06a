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
import { partTexts } from './part'

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

/**
 * The answers of a draft once another unit was chosen: what somebody typed stays, what nobody touched is what a wall of that unit starts with.
 * Of a plan in force only what its system was never asked is new.
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
): Pick<Draft, 'part' | 'lists'> {
  const starts = startsOf(base?.book ?? book)
  const was = chosenOf(draft, catalogue, base)
  const is = chosenOf({ part: { unit: id } }, catalogue, base)
  if (!is || !was) return { part: { ...draft.part, unit: id }, lists: draft.lists }
  const before = partTexts(was.system, was.system.start(was.unit, starts), units)
  const next = partTexts(is.system, is.system.start(is.unit, starts), units)
  const typed = (name: string, now: unknown, start: unknown) =>
    now !== undefined && (base ? was.system.questions.some((q) => q.id === name) : JSON.stringify(now) !== JSON.stringify(start))
  const part = { ...next.part }
  for (const [name, text] of Object.entries(draft.part)) if (name in part && typed(name, text, before.part[name])) part[name] = text
  const lists = { ...next.lists }
  for (const [name, lines] of Object.entries(draft.lists)) if (name in lists && typed(name, lines, before.lists[name])) lists[name] = lines
  return { part: { ...part, unit: id }, lists }
}
