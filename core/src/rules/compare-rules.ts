import { type RuleBook, shippedRules } from './book'
import { choiceDef } from './choices'
import { limitDef } from './definitions'
import { type Rung, rungOf, STEP_NAMES } from './ladder'
import { shippedPoint } from './points'
import { type Level, limitSaid } from './rule-file'
import { startDef } from './starts'

/** One difference between two books. */
export interface RuleChange {
  readonly rule: string
  readonly title: string
  readonly was: string
  readonly is: string
  readonly level: Level
  readonly why: string
}

const pointSaid = (p: { kind: string; roles: readonly string[]; own: boolean } | undefined) =>
  p === undefined ? 'none' : p.kind === 'hold' ? `hold, ${p.roles.join(' or ')}${p.own ? ', own work too' : ''}` : p.kind

/**
 * What differs between two books, in the order of the book; against what ships when the first is left out.
 *
 * @example compareRules(book)[0] // { rule: 'limit.compaction', was: '95 %', is: '97 %', level: 'company', … }
 */
export function compareRules(after: RuleBook, before: RuleBook = shippedRules()): RuleChange[] {
  const changes: RuleChange[] = []
  const say = (rule: string, title: string, was: string, is: string) => {
    if (was === is) return
    const by = after.set.find((s) => s.rule === rule)
    changes.push({ rule, title, was, is, level: by?.level ?? 'shipped', why: by?.why ?? '' })
  }
  const old = new Map(before.limits.map((l) => [l.limit, l.value]))
  for (const l of after.limits) {
    const d = limitDef(l.limit)
    const was = old.get(l.limit)
    say(`limit.${l.limit}`, d?.title ?? l.limit, was === undefined ? 'none' : limitSaid(d, was), limitSaid(d, l.value))
  }
  const from = new Map((before.starts ?? []).map((l) => [l.start, l.value]))
  for (const l of after.starts ?? []) {
    const d = startDef(l.start)
    // A book of before that has none started from what ships.
    const was = from.get(l.start) ?? d?.value
    say(`start.${l.start}`, `Planner: ${d?.title ?? l.start}`, was === undefined ? 'none' : limitSaid(d, was), limitSaid(d, l.value))
  }
  const options = new Map(before.choices.map((c) => [c.choice, c.option]))
  for (const c of after.choices) {
    const d = choiceDef(c.choice)
    const school = (id: string | undefined) => d?.options.find((o) => o.id === id)?.title ?? id ?? 'none'
    say(`choice.${c.choice}`, d?.title ?? c.choice, school(options.get(c.choice)), school(c.option))
  }
  const rungs = new Map((before.ladder ?? []).map((r) => [r.fact, r]))
  // A book of before the ladder has none to compare with.
  if (before.ladder)
    for (const r of after.ladder ?? []) {
      const steps = (x: Pick<Rung, 'low' | 'higher'> | undefined) =>
        x ? `${STEP_NAMES[x.low]}; higher: ${STEP_NAMES[x.higher].toLowerCase()}` : 'none'
      say(`ladder.${r.fact}`, rungOf(r.fact).title, steps(rungs.get(r.fact)), steps(r))
    }
  const points = new Map(before.points.map((p) => [p.point, p]))
  for (const p of after.points) say(`point.${p.point}`, shippedPoint(p.point)?.title ?? p.point, pointSaid(points.get(p.point)), pointSaid(p))
  const was = new Map(before.added.map((p) => [p.id, p]))
  for (const p of after.added) say(`point.${p.id}`, p.title, pointSaid(was.get(p.id)), pointSaid(p))
  for (const p of before.added) if (!after.added.some((x) => x.id === p.id)) say(`point.${p.id}`, p.title, pointSaid(p), 'none')
  return changes
}
