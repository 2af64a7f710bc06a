import { layOut } from '../layout'
import { engineered, type Plan } from '../plan'
import { issued, RULE_TABLE, since, tableOf, WALL_FACTS } from '../rules'
import type { RecordedEntry } from './entry'
import { contextOf } from './fold'
import { kindOf } from './kinds'
import { lift } from './kinds/lift'
import { live, type WallState } from './state'

/** What today's rules would say of a wall that is judged by earlier ones; its verdicts stay as they are. */
export interface Stricter {
  /** Work that was good and would be out, with the words of today. */
  readonly entries: readonly { readonly recorded: RecordedEntry; readonly text: string }[]
  /** What in the plan would stop the work. */
  readonly plan: readonly string[]
}

/**
 * A plan of earlier rules whose engineer was named as they asked for it: that licence, day and what the plan covers were not asked then is no
 * danger to anybody.
 */
function asAskedThen(plan: Plan): Plan {
  if (since(plan, 3) || !plan.engineer || (tableOf(plan) > 1 && !engineered(plan))) return plan
  // What nobody looked for then is not taken as covered.
  const facts = WALL_FACTS.filter((f) => f !== 'foundation' && f !== 'opening')
  const all = { height: 15, from: 0, to: plan.length, facts }
  return {
    ...plan,
    engineerLicence: 'not asked then: 0',
    engineerOn: '2000-01-01',
    engineerCovers: all,
  }
}

const known = new WeakMap<WallState['entries'], { upTo: number; found: Stricter }>()

/**
 * Looks at a wall of an earlier rule table with the rules of today, and rewrites nothing.
 *
 * @returns undefined where the wall is judged by today's rules already, or nothing would be stopped
 * @example stricter(state)?.entries.length
 */
export function stricter(state: WallState): Stricter | undefined {
  const { plan } = state.layout
  const earlier = state.layouts.some((l) => tableOf(l.plan) < RULE_TABLE)
  if (!earlier) return undefined
  const before = known.get(state.entries)
  if (before && before.upTo === state.entries.length) return wanted(before.found)
  // The plan in force may be of today already; what was recorded before it is not.
  const today = tableOf(plan) < RULE_TABLE ? layOut(issued(asAskedThen(plan)), state.layout) : undefined
  const entries = state.entries.flatMap((recorded) => {
    const { entry } = recorded
    const judge = kindOf(entry.kind)?.judge
    if (!judge || !live(state, entry.id) || state.outs.has(entry.id)) return []
    const context = contextOf(state, entry)
    if (tableOf(context.layout.plan) >= RULE_TABLE) return []
    // What was not asked of them then is no fault of theirs now: fill was taken for granular, tables and gear were not proved.
    if (entry.kind === 'pick') return []
    const asked = lift.is(entry) && entry.data.fill === undefined ? { ...entry, data: { ...entry.data, fill: 'granular' as const } } : entry
    const now = judge(asked, { ...context, layout: { ...context.layout, plan: issued(context.layout.plan) } })
    return now?.verdict === 'out' ? [{ recorded, text: now.text }] : []
  })
  const found = { entries, plan: today?.ok ? today.value.cautions.filter((c) => c.blocks && c.id !== 'front-unsaid').map((c) => c.message) : [] }
  known.set(state.entries, { upTo: state.entries.length, found })
  return wanted(found)
}

const wanted = (found: Stricter) => (found.entries.length + found.plan.length > 0 ? found : undefined)
