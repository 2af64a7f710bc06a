import {
  compareRules,
  type Problem,
  type RuleBook,
  type RuleChange,
  type Rules,
  readRules,
  resolveRules,
  SYSTEMS,
  shippedRules,
  stageChanges,
  staged,
} from '@stone-tally/core'
import { useEffect, useMemo, useState } from 'react'
import { useTyped } from '@/features/wall'
import type { RuleSet } from '@/server/rules'
import { send } from '@/ui/send'
import { type Change, named, withChange, withoutChange } from './edit'

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
function keptDraft(text: string): { base: number; rules: Rules } | undefined {
  if (!text) return undefined
  try {
    const { base, rules } = JSON.parse(text) as { base: number; rules: unknown }
    const read = readRules(rules)
    return read.ok && Number.isInteger(base) ? { base, rules: read.value } : undefined
  } catch {
    return undefined
  }
}

/**
 * The draft of one level.
 *
 * @param site - name of the site, or undefined for the company
 */
export function useRuleDraft(site: string | undefined, own: RuleSet, company: RuleSet): RuleDraft {
  const [text, setText, letGo] = useTyped(`rules ${site ?? ''}`, 'draft', '')
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  // The server knows nothing of a draft kept here: the page is first the one it made.
  const [here, setHere] = useState(false)
  useEffect(() => setHere(true), [])
  const kept = useMemo(() => (here ? keptDraft(text) : undefined), [text, here])
  const rules = kept?.rules ?? own.rules
  const seen = useMemo(() => {
    const of = (mine: Rules) => resolveRules(site === undefined ? { company: mine } : { company: company.rules, site: mine })
    const [now, then] = [of(own.rules), of(rules)]
    const before = now.ok ? now.value : shippedRules()
    const after = then.ok ? then.value : before
    const wrong = then.ok ? [] : named(then.problems, rules)
    const changes = compareRules(after, before).concat(signed(rules, own.rules, after, before))
    const stages = SYSTEMS.flatMap((s) => {
      const texts = stageChanges(staged(s, { book: before }, 'on-bed'), staged(s, { book: after }, 'on-bed')).map((c) => c.text)
      return texts.length > 0 ? [{ system: s.name, texts }] : []
    })
    return { book: after, changes, stages, wrong }
  }, [rules, own, company, site])
  const keep = (next: Rules, base = kept?.base ?? own.number) => {
    setProblems([])
    setText(JSON.stringify({ base, rules: next }))
  }
  return {
    rules,
    book: seen.book,
    changes: seen.changes,
    stages: seen.stages,
    problems: problems.length > 0 ? problems : seen.wrong,
    busy,
    overtaken: kept !== undefined && kept.base !== own.number,
    put: (c) => keep(withChange(rules, c)),
    drop: (rule) => keep(withoutChange(rules, rule)),
    take: (next) => keep(next),
    keepers: (roles) => keep({ ...rules, keepers: roles }),
    rebase: () => keep(rules, own.number),
    discard: () => {
      setProblems([])
      letGo()
    },
    async inForce(reason) {
      setBusy(true)
      const answer = await send<{ number: number; misfits: Problem[] }>('PUT', '/api/rules', {
        rules,
        base: kept?.base ?? own.number,
        reason,
        ...(site === undefined ? {} : { site }),
      })
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
