import { said } from '../../base/said'
import { pointAt } from '../../geometry'
import type { Layout } from '../../layout'
import { tableOf } from '../../rules'
import type { Entry } from '../entry'
import { kindOf } from '../kinds'
import type { Step } from '../step'

export const mm = (v: number) => `${said.small(v)} ${v > 0 ? 'higher' : 'lower'}`
/** Less than this is reading noise, m. */
export const NOISE = 0.001
/** A face line that moved by more has to be set out anew, m. */
export const LINE = 0.005

const known = new WeakMap<Layout, WeakMap<Layout, number>>()
/** Furthest the face line moved between two revisions, m; worked out once for a pair. */
function moved(before: Layout, after: Layout): number {
  const own = known.get(before) ?? new WeakMap<Layout, number>()
  known.set(before, own)
  const earlier = own.get(after)
  if (earlier !== undefined) return earlier
  let most = 0
  const length = Math.min(before.plan.length, after.plan.length)
  for (let k = 0; k <= 40; k++) {
    const [p, q] = [pointAt(before.alignment, (length * k) / 40), pointAt(after.alignment, (length * k) / 40)]
    most = Math.max(most, Math.hypot(p.easting - q.easting, p.northing - q.northing))
  }
  own.set(after, most)
  return most
}
export const lineMoved = (before: Layout, after: Layout) => {
  const by = moved(before, after)
  return by > LINE ? `the face line moved by up to ${said.small(by)} since` : undefined
}

const sameRules = new WeakMap<Layout, WeakMap<Layout, Layout>>()
/** A layout under the rules of an earlier one. */
function asOf(before: Layout, after: Layout): Layout {
  if (tableOf(after.plan) === tableOf(before.plan) && after.plan.book === before.plan.book) return after
  const own = sameRules.get(after) ?? new WeakMap<Layout, Layout>()
  sameRules.set(after, own)
  const known = own.get(before) ?? { ...after, plan: { ...after.plan, ruleTable: before.plan.ruleTable, book: before.plan.book } }
  own.set(before, known)
  return known
}

/** What the plan in force would find wrong with an entry that was good under its own; undefined where it says nothing new. */
export function nowOut(before: Layout, after: Layout, step: Step, entry: Entry): string | undefined {
  const judge = (layout: Layout) => kindOf(entry.kind)?.judge?.(entry, { layout, stage: step.stage, find: () => undefined, of: () => [] })
  // What a plan changed is looked at, not what rules changed: work is judged by the rules of its own day.
  const now = judge(asOf(before, after))
  return now?.verdict === 'out' && judge(before)?.verdict !== 'out' ? `by the plan in force: ${now.text}` : undefined
}
