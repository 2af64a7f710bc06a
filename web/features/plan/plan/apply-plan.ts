import type { Plan, UnitSystem } from '@stone-tally/core'
import { draftOf } from './draft'
import type { Draft, Was } from './draft-fields'

/** Lines of a list after a change of the plan: a line that reads as before is the line of before, and stands for what it stood for. */
function lines<L extends Was>(typed: readonly L[], now: readonly L[]): L[] {
  const bare = ({ was: _, ...rest }: L) => JSON.stringify(rest)
  const left = typed.map((line) => ({ line, text: bare(line) }))
  const kept = now.map((line) => {
    const i = left.findIndex((l) => l.text === bare(line))
    return i < 0 ? undefined : left.splice(i, 1)[0]?.line
  })
  return now.map((line, i) => {
    const same = kept[i]
    if (same) return same
    const { was: _, ...rest } = line
    // One line of as many changed: it is still that line of the plan in force.
    const was = now.length === typed.length ? typed[i]?.was : undefined
    return { ...rest, ...(was === undefined ? {} : { was }) } as L
  })
}

/**
 * What is typed, after the plan it makes was changed on its drawing: only what the change touched reads otherwise.
 *
 * @param before - the plan the draft makes as it stands
 * @example applyPlan(draft, plan, setGrade(plan, 1, { top: 12.4 }), 'metric').grades[1].top // '12.4'
 */
export function applyPlan(draft: Draft, before: Plan, after: Plan, units: UnitSystem): Draft {
  const [was, is] = [draftOf(before, units), draftOf(after, units)]
  const next: Record<string, unknown> = { ...draft }
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
  for (const key of Object.keys(is) as (keyof Draft)[]) {
    if (key === 'sketches' || same(was[key], is[key])) continue
    const [typed, now] = [draft[key], is[key]]
    // The line it was made on is no part of the plan: it stays with the draft.
    if (key === 'drawn') next[key] = { ...(now as object), ...(draft.drawn.line ? { line: draft.drawn.line } : {}) }
    else if (Array.isArray(now)) next[key] = lines(typed as Was[], now as Was[])
    else if (key === 'part' || key === 'every' || key === 'lists' || key === 'everyLists') {
      const [old, own] = [was[key] as Record<string, unknown>, now as Record<string, unknown>]
      next[key] = Object.fromEntries([
        ...Object.entries(typed as object),
        ...Object.keys(own)
          .filter((id) => !same(old[id], own[id]))
          .map((id) => {
            const value = own[id]
            return [id, Array.isArray(value) ? lines(((typed as Record<string, unknown>)[id] ?? []) as Was[], value as Was[]) : value] as const
          }),
      ])
    } else next[key] = now
  }
  return next as unknown as Draft
}
