import {
  bookOf,
  buildingOf,
  checkLimits,
  compareRules,
  emptyRules,
  failAll,
  type Plan,
  type Problem,
  type Result,
  type RuleBook,
  type RuleChange,
  type Rules,
  readRules,
  resolveRules,
  type StagedBy,
  SYSTEMS,
  shippedRules,
  stageChanges,
  staged,
} from '@stone-tally/core'
import { useEffect, useMemo, useState } from 'react'
import { send } from '@/device/send'
import { useTyped } from '@/features/wall'
import type { RuleSet } from '@/server/rules'
import { type Change, merged, named, withChange, withoutChange } from './edit'

/** What is being changed of one level's rules: kept on this device until it is put in force or thrown away. */
export interface RuleDraft {
  readonly rules: Rules
  /** The effective rules with the draft, or those in force where it does not fit. */
  readonly book: RuleBook
  readonly changes: readonly RuleChange[]
  /** What becomes of the stages of the work, system by system. */
  readonly stages: readonly { readonly system: string; readonly texts: readonly string[] }[]
  readonly problems: readonly Problem[]
  readonly busy: boolean
  /** Has anything been changed here? On a wall's page what company and site changed since is shown too. */
  readonly begun: boolean
  /** Number of a change made by somebody else since this draft was begun. */
  readonly overtaken: boolean
  put(change: Change): void
  drop(rule: string): void
  take(rules: Rules): void
  keepers(roles: Rules['keepers']): void
  /** Makes the draft one of the newest rules. */
  rebase(): void
  discard(): void
  inForce(reason: string): Promise<boolean>
}

/** Reads back what was kept; what is no rule file any more is let go. */
function keptDraft(text: string): { base: number; from: Rules; rules: Rules } | undefined {
  if (!text) return undefined
  try {
    const { base, from, rules } = JSON.parse(text) as { base: number; from: unknown; rules: unknown }
    const [begun, read] = [readRules(from), readRules(rules)]
    return read.ok && begun.ok && Number.isInteger(base) ? { base, from: begun.value, rules: read.value } : undefined
  } catch {
    return undefined
  }
}

/** Whose rules are looked at, and what stands above them. A wall's own are part of its plan: changing them is a revision. */
export type RulesOf =
  | { readonly level: 'company' }
  | { readonly level: 'site'; readonly site: string; readonly company: Rules }
  | { readonly level: 'wall'; readonly id: string; readonly name: string; readonly plan: Plan; readonly company: Rules; readonly site: Rules }

/** Under which name something typed for these rules is kept on the device. */
export const scopeOf = (of: RulesOf) => `rules ${of.level === 'site' ? of.site : of.level === 'wall' ? of.id : ''}`

/** A wall's own rules in the shape of a level: the reference of a drawing's limit is its reason. */
export const wallLevel = (plan: Plan): Rules => ({
  ...emptyRules(),
  limits: plan.rules?.limits?.map((l) => ({ limit: l.limit, value: l.value, why: l.source })),
  choices: plan.rules?.choices,
  points: plan.rules?.points,
  added: plan.rules?.added,
})
/** The plan with these as its own rules. @example planWith(plan, rules).rules?.choices */
export function planWith(plan: Plan, own: Rules): Plan {
  const { limits, choices, points, added } = own
  const rules = {
    ...plan.rules,
    limits: limits?.map((l) => ({ limit: l.limit, value: l.value, source: l.why })),
    choices,
    points,
    added,
  }
  const { book: _book, rules: _rules, ...rest } = plan
  const said = Object.fromEntries(Object.entries(rules).filter(([, v]) => v !== undefined))
  return (Object.keys(said).length > 0 ? { ...rest, rules: said } : rest) as Plan
}

const resolved = (of: RulesOf, mine: Rules): Result<RuleBook> => {
  if (of.level === 'company') return resolveRules({ company: mine })
  if (of.level === 'site') return resolveRules({ company: of.company, site: mine })
  const problems = checkLimits(planWith(of.plan, mine))
  return problems.length > 0 ? failAll(problems) : resolveRules({ company: of.company, site: of.site, wall: planWith(of.plan, mine).rules })
}

/** The draft of one level. */
export function useRuleDraft(of: RulesOf, own: RuleSet): RuleDraft {
  const [text, setText, letGo] = useTyped(scopeOf(of), 'draft', '')
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  // The server knows nothing of a draft kept here: the page is first the one it made.
  const [here, setHere] = useState(false)
  useEffect(() => setHere(true), [])
  const kept = useMemo(() => (here ? keptDraft(text) : undefined), [text, here])
  const rules = kept?.rules ?? own.rules
  const seen = useMemo(() => {
    const [now, then] = [resolved(of, own.rules), resolved(of, rules)]
    // A wall is compared with what its newest revision is built by: what company and site changed since comes along.
    const before = of.level === 'wall' ? bookOf(of.plan) : now.ok ? now.value : shippedRules()
    const after = then.ok ? then.value : before
    const wrong = then.ok ? [] : named(then.problems, rules)
    const changes = compareRules(after, before)
      .filter((c) => of.level !== 'wall' || !c.rule.startsWith('start.'))
      .concat(signed(rules, own.rules, after, before))
    const systems = of.level === 'wall' ? SYSTEMS.filter((s) => s.id === of.plan.system.id) : SYSTEMS
    const plan = of.level === 'wall' ? of.plan : {}
    const by: StagedBy = { foundation: of.level === 'wall' ? buildingOf(of.plan).foundation.kind : 'dense-graded', pipe: 'on-bed' }
    const stages = systems.flatMap((s) => {
      const texts = stageChanges(staged(s, { ...plan, book: before }, by), staged(s, { ...plan, book: after }, by)).map((c) => c.text)
      return texts.length > 0 ? [{ system: s.name, texts }] : []
    })
    // Until somebody changes it a wall's page shows what judges the wall, not what its next revision would.
    return { book: of.level === 'wall' && !kept ? before : after, changes, stages, wrong }
  }, [rules, own, of, kept])
  const keep = (next: Rules, begun: { base: number; from: Rules } = kept ?? { base: own.number, from: own.rules }) => {
    setProblems([])
    setText(JSON.stringify({ base: begun.base, from: begun.from, rules: next }))
  }
  return {
    rules,
    book: seen.book,
    changes: seen.changes,
    stages: seen.stages,
    problems: problems.length > 0 ? problems : seen.wrong,
    busy,
    begun: kept !== undefined,
    overtaken: kept !== undefined && kept.base !== own.number,
    put: (c) => keep(withChange(rules, c)),
    drop: (rule) => keep(withoutChange(rules, rule)),
    take: (next) => keep(next),
    keepers: (roles) => keep({ ...rules, keepers: roles }),
    rebase: () => keep(merged(kept?.from ?? own.rules, rules, own.rules), { base: own.number, from: own.rules }),
    discard: () => {
      setProblems([])
      letGo()
    },
    async inForce(reason) {
      setBusy(true)
      const base = kept?.base ?? own.number
      const answer =
        of.level === 'wall'
          ? await send<unknown>('POST', `/api/walls/${of.id}/revisions`, { plan: planWith(of.plan, rules), base })
          : await send<unknown>('PUT', '/api/rules', { rules, base, reason, ...(of.level === 'site' ? { site: of.site } : {}) })
      setBusy(false)
      if (!answer.ok) {
        setProblems(named(answer.problems, rules))
        return false
      }
      letGo()
      return true
    },
  }
}

/** Changes of reason, of who keeps the book, or of how firm a rule is: nothing a wall is built otherwise by. */
function signed(rules: Rules, own: Rules, after: RuleBook, before: RuleBook): RuleChange[] {
  const list: RuleChange[] = []
  for (const s of after.set) {
    const old = before.set.find((o) => o.rule === s.rule)
    if (!old || (old.why === s.why && !!old.firm === !!s.firm && old.level === s.level)) continue
    const words = (x: typeof s) => `${x.why}${x.firm ? ' (firm)' : ''}`
    list.push({ rule: `why ${s.rule}`, title: 'Why', was: words(old), is: words(s), level: s.level, why: s.why })
  }
  const roles = (r: Rules) => (r.keepers ?? ['office', 'foreman']).join(', ')
  if (roles(rules) !== roles(own))
    list.push({ rule: 'keepers', title: 'Who may change the rule book', was: roles(own), is: roles(rules), level: 'company', why: '' })
  return list
}
