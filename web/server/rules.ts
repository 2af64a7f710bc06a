import {
  bookOf,
  canonical,
  compareRules,
  emptyRules,
  fail,
  failAll,
  ok,
  type Plan,
  type Problem,
  type Result,
  ROLE_NAMES,
  type Role,
  type RuleChange,
  type Rules,
  readRules,
  resolveRules,
  stampRules,
  storedPlan,
} from '@stone-tally/core'
import type { Person } from './accounts'
import { database } from './database'

/** A company's rules, or those of one of its sites. */
export type RuleLevel = { readonly level: 'company' } | { readonly level: 'site'; readonly site: string }

/** The rules of a level as they stand: `number` 0 where nobody changed anything yet. */
export interface RuleSet {
  readonly number: number
  readonly rules: Rules
}

/** One change of a level, newest first in a list. */
export interface RuleSetChange {
  readonly number: number
  readonly reason: string
  readonly by: string
  readonly at: string
  /** What it changed, against the one before. */
  readonly changes: readonly RuleChange[]
}

const siteOf = (at: RuleLevel) => (at.level === 'site' ? at.site : '')
const rows = (company: string, at: RuleLevel) =>
  database()
    .db.selectFrom('rule_set')
    .select(['number', 'rules', 'reason', 'changed_by', 'changed_at'])
    .where('company_id', '=', company)
    .where('level', '=', at.level)
    .where('site', '=', siteOf(at))

/** The rules of a level in force. @example (await rulesAt(company, { level: 'company' })).number */
export async function rulesAt(company: string, at: RuleLevel): Promise<RuleSet> {
  const row = await rows(company, at).orderBy('number', 'desc').limit(1).executeTakeFirst()
  return row ? { number: row.number, rules: JSON.parse(row.rules) as Rules } : { number: 0, rules: emptyRules() }
}

/** What a wall of a site is issued under today. */
export async function levelsFor(company: string, site: string): Promise<{ company: Rules; site: Rules }> {
  const [own, sites] = await Promise.all([rulesAt(company, { level: 'company' }), rulesAt(company, { level: 'site', site })])
  return { company: own.rules, site: sites.rules }
}

/** Every change of a level with author, reason and what it changed; newest first, at most 200. */
export async function changesAt(company: string, at: RuleLevel): Promise<RuleSetChange[]> {
  const found = await rows(company, at).orderBy('number', 'desc').limit(201).execute()
  const books = found.map((r) => resolveRules({ company: JSON.parse(r.rules) as Rules }))
  return found.slice(0, 200).map((r, i) => {
    const [after, before] = [books[i], books[i + 1]]
    return {
      number: r.number,
      reason: r.reason,
      by: r.changed_by,
      at: r.changed_at.toISOString(),
      changes: after?.ok ? compareRules(after.value, before?.ok ? before.value : undefined) : [],
    }
  })
}

/** Sites of a company: where its walls stand, and where it has rules. */
export async function sitesOf(company: string): Promise<string[]> {
  const { db } = database()
  const walls = await db.selectFrom('wall').select('site').distinct().where('company_id', '=', company).execute()
  const ruled = await db.selectFrom('rule_set').select('site').distinct().where('company_id', '=', company).where('level', '=', 'site').execute()
  return [...new Set([...walls, ...ruled].map((r) => r.site))].sort((a, b) => a.localeCompare(b))
}

/** Rules of a company and of each of its sites, as a plan typed now would be issued under. */
export async function levelsOf(company: string): Promise<{ company: Rules; sites: Record<string, Rules> }> {
  const sites = await sitesOf(company)
  const [own, ...found] = await Promise.all([
    rulesAt(company, { level: 'company' }),
    ...sites.map((site) => rulesAt(company, { level: 'site', site })),
  ])
  return { company: own.rules, sites: Object.fromEntries(sites.map((s, i) => [s, found[i]?.rules ?? emptyRules()])) }
}

/** Who may change the rule book: the roles the company names, the office and the foreman where it names none. */
export const KEEPERS: readonly Role[] = ['office', 'foreman']
export const keepersOf = (company: Rules): readonly Role[] => company.keepers ?? KEEPERS

/** Walls under way whose newest revision was issued under other rules than today's, and what differs. */
export interface OtherRules {
  readonly wall: string
  readonly name: string
  readonly site: string
  readonly revision: number
  readonly changes: readonly RuleChange[]
  /** Why its next revision could not be issued, where its site's rules do not fit. */
  readonly problems: readonly Problem[]
}

/** @example (await wallsUnderOther(company, { level: 'company' })).length */
export async function wallsUnderOther(company: string, at: RuleLevel): Promise<OtherRules[]> {
  const found = await database()
    .db.selectFrom('wall')
    .innerJoin('revision', 'revision.wall_id', 'wall.id')
    .distinctOn('wall.id')
    .select(['wall.id', 'wall.name', 'wall.site', 'revision.number', 'revision.plan'])
    .where('wall.company_id', '=', company)
    .$if(at.level === 'site', (q) => q.where('wall.site', '=', siteOf(at)))
    .orderBy('wall.id')
    .orderBy('revision.number', 'desc')
    .execute()
  const levels = new Map<string, { company: Rules; site: Rules }>()
  const other: OtherRules[] = []
  for (const w of found) {
    const plan = storedPlan(w.plan as object)
    const own = levels.get(w.site) ?? (await levelsFor(company, w.site))
    levels.set(w.site, own)
    const now = resolveRules({ ...own, wall: plan.rules })
    // What the planner starts from changes no wall that is planned.
    const changes = now.ok ? compareRules(now.value, bookOf(plan)).filter((c) => !c.rule.startsWith('start.')) : []
    if (changes.length > 0 || !now.ok)
      other.push({ wall: w.id, name: w.name, site: w.site, revision: w.number, changes, problems: now.ok ? [] : now.problems })
  }
  return other
}

/**
 * Puts a level's rules in place of those before; nothing is lost, the ones before stay in the table.
 *
 * @param base - number of the set these were made from; where another came since, nothing is written
 * @returns the new number, and walls' sites that no longer fit
 */
export async function putRules(
  person: Person,
  at: RuleLevel,
  value: unknown,
  base: unknown,
  reason: unknown,
  now = new Date(),
): Promise<Result<{ number: number; misfits: readonly Problem[] }>> {
  const { company } = await levelsFor(person.companyId, siteOf(at))
  const keepers = keepersOf(company)
  if (!keepers.includes(person.role))
    return fail('role', `the rule book is kept by the ${keepers.map((r) => ROLE_NAMES[r].toLowerCase()).join(' or ')}`)
  if (at.level === 'site' && (at.site.trim().length === 0 || at.site.length > 120)) return fail('site', 'is missing, or longer than 120 characters')
  if (typeof base !== 'number' || !Number.isInteger(base) || base < 0 || base > 1_000_000)
    return fail('base', 'is missing; say the number of the rules these were made from')
  if (typeof reason !== 'string' || reason.trim().length < 3 || reason.length > 300)
    return fail('reason', 'is missing; say why the rules are changed, it is kept with the change (3 to 300 characters)')
  const read = readRules(value)
  if (!read.ok) return read
  if (at.level === 'site' && read.value.keepers) return fail('keepers', 'who may change the rule book is said by the company, for all its sites')
  const before = await rulesAt(person.companyId, at)
  const rules = stampRules(read.value, before.rules, person.name, now.toISOString())
  const own = resolveRules(at.level === 'company' ? { company: rules } : { company, site: rules })
  if (!own.ok) return failAll(own.problems)
  // Nobody locks the whole company out of its own book.
  if (rules.keepers && !rules.keepers.includes(person.role)) {
    const held = await database()
      .db.selectFrom('user')
      .select('id')
      .where('companyId', '=', person.companyId)
      .where('role', 'in', [...rules.keepers])
      .limit(1)
      .executeTakeFirst()
    if (!held)
      return fail(
        'keepers',
        `nobody of the company is ${rules.keepers.map((r) => ROLE_NAMES[r].toLowerCase()).join(' or ')}; the rule book could never be changed again`,
      )
  }
  if (canonical(rules) === canonical(before.rules)) return fail('rules', 'are those in force already; nothing is changed')
  const made = before.number === base ? await insert(person, at, base + 1, rules, reason.trim()) : false
  if (!made) {
    const last = await rows(person.companyId, at).orderBy('number', 'desc').limit(1).executeTakeFirst()
    return fail(
      'base',
      `these were made from change ${base}, which is not the newest${last ? `; change ${last.number} was made by ${last.changed_by} meanwhile (${last.reason})` : ''}. Load it, look at what changed, and change yours again`,
    )
  }
  const misfits: Problem[] = []
  if (at.level === 'company')
    for (const site of await sitesOf(person.companyId)) {
      const fits = resolveRules({ company: rules, site: (await rulesAt(person.companyId, { level: 'site', site })).rules })
      if (!fits.ok) misfits.push(...fits.problems.map((p) => ({ field: site, message: p.message })))
    }
  return ok({ number: base + 1, misfits })
}

/** Of two at once the key of the table lets the first in. */
async function insert(person: Person, at: RuleLevel, number: number, rules: Rules, reason: string): Promise<boolean> {
  const made = await database()
    .db.insertInto('rule_set')
    .values({ company_id: person.companyId, level: at.level, site: siteOf(at), number, rules: canonical(rules), reason, changed_by: person.name })
    .onConflict((c) => c.doNothing())
    .returning('number')
    .executeTakeFirst()
  return made !== undefined
}

/**
 * What of a wall's own rules only those who keep the rule book may change: schools, points, points of its own, releasing one's own work.
 * Limits of its drawing are the planner's, with their reference.
 *
 * @param before - rules of the revision it is made from; undefined for a new wall
 */
export function wallRulesKept(person: Person, company: Rules, before: Plan['rules'], after: Plan['rules']): Problem | undefined {
  const keepers = keepersOf(company)
  if (keepers.includes(person.role)) return undefined
  for (const part of ['choices', 'points', 'added', 'ownRelease'] as const)
    if (canonical(before?.[part] ?? null) !== canonical(after?.[part] ?? null))
      return {
        field: `rules.${part}`,
        message: `is a rule; the rule book is kept by the ${keepers.map((r) => ROLE_NAMES[r].toLowerCase()).join(' or ')}`,
      }
  return undefined
}

/** A wall's own schools and points with who set each and when: what a file says of that is not believed. */
export function wallRulesSigned(person: Person, before: Plan['rules'], after: Plan['rules'], now: Date): Plan['rules'] {
  if (!after?.choices && !after?.points && !after?.added) return after
  const of = (r: Plan['rules']): Rules => ({ ...emptyRules(), choices: r?.choices, points: r?.points, added: r?.added })
  const { choices, points, added } = stampRules(of(after), of(before), person.name, now.toISOString())
  return { ...after, ...(choices ? { choices } : {}), ...(points ? { points } : {}), ...(added ? { added } : {}) }
}
