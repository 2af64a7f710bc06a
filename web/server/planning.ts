import {
  canonical,
  choice,
  fail,
  ok,
  optionalText,
  type Plan,
  type Result,
  read,
  readPlan,
  record,
  storedPlan,
  systemOf,
  text,
} from '@stone-tally/core'
import type { Person } from './accounts'
import { database } from './database'
import type { WallRow } from './wall-row'
import { mayPlan } from './walls'

/** What somebody does with a wall that is no work on it: puts it away, brings it back, throws a made-up one away. */
const shelfSchema = record({ stands: choice(['away', 'back', 'thrown'] as const), why: optionalText(200) })

/** The key of a table let somebody else in first. */
const taken = (error: unknown) => (error as { code?: unknown } | null)?.code === '23505'

/**
 * Puts a wall away, or brings it back. Its record stays whole, and what a device still has of it is taken in as ever. A wall that was made up to
 * try is thrown away for good; no other ever is.
 *
 * @returns what is wrong: the role, a wall that stands like this already, a real wall to be thrown away
 */
export async function shelve(person: Person, wall: WallRow, value: unknown): Promise<Result<{ stands: string }>> {
  if (!mayPlan(person)) return fail('role', 'putting a wall away takes the foreman or the office')
  const input = read(shelfSchema, value)
  if (!input.ok) return input
  const { stands, why } = input.value
  if (stands === 'thrown' && !wall.madeUp) return fail('stands', 'only a wall that was made up to try is thrown away; this one is put away, and kept')
  if (stands === 'away' && wall.away) return fail('stands', `it was put away by ${wall.away.by} already`)
  if (stands === 'back' && !wall.away) return fail('stands', 'it stands on the Yard already')
  const { db } = database()
  const last = await db
    .selectFrom('wall_shelf')
    .select((e) => e.fn.max('number').as('number'))
    .where('wall_id', '=', wall.id)
    .executeTakeFirst()
  try {
    await db
      .insertInto('wall_shelf')
      .values({ wall_id: wall.id, number: Number(last?.number ?? 0) + 1, stands, why: why?.trim() ?? '', changed_by: person.name })
      .execute()
  } catch (error) {
    if (taken(error)) return fail('stands', 'somebody else did so at the same moment; look again')
    throw error
  }
  return ok({ stands })
}

/** A template of a company: its usual wall. `why`: it cannot be begun with here. */
export interface Template {
  readonly name: string
  readonly by: string
  readonly at: string
  readonly plan?: Plan | undefined
  readonly why?: string | undefined
}

const MOST_TEMPLATES = 50
const templateSchema = record({ name: text(80) })

/** Templates of a company by name; one of a system that is gone is listed with what became of it. */
export async function templatesOf(companyId: string): Promise<Template[]> {
  const rows = await database()
    .db.selectFrom('template')
    .distinctOn('name')
    .select(['name', 'plan', 'changed_by', 'changed_at'])
    .where('company_id', '=', companyId)
    .orderBy('name')
    .orderBy('number', 'desc')
    .execute()
  return rows.flatMap((r): Template[] => {
    if (r.plan === null) return []
    const own = { name: r.name, by: r.changed_by, at: r.changed_at.toISOString() }
    const plan = storedPlan(JSON.parse(r.plan) as object)
    const { id } = plan.system
    if (!systemOf(id))
      return [{ ...own, why: `its system "${id}" is not one this Stone Tally knows; open it where it is, or make the template anew` }]
    const again = readPlan(JSON.parse(r.plan))
    return [again.ok ? { ...own, plan: again.value } : { ...own, why: `${again.problems[0]?.field} ${again.problems[0]?.message}` }]
  })
}

/**
 * Keeps a plan as a template under a name, or takes the template out (`plan: null`). One of the same name is followed by this one.
 *
 * @returns what is wrong: the role, a plan that is none, too many
 */
export async function keepTemplate(person: Person, value: unknown): Promise<Result<{ name: string }>> {
  if (!mayPlan(person)) return fail('role', 'templates take the foreman or the office')
  const given = value as { name?: unknown; plan?: unknown } | null
  const input = read(templateSchema, { name: typeof given?.name === 'string' ? given.name.trim() : given?.name })
  if (!input.ok) return input
  const { name } = input.value
  const plan = given?.plan === null ? undefined : readPlan(given?.plan)
  if (plan && !plan.ok) return plan
  const known = await templatesOf(person.companyId)
  const there = known.some((t) => t.name === name)
  if (!plan && !there) return fail('name', `there is no template "${name}"`)
  if (plan && !there && known.length >= MOST_TEMPLATES)
    return fail('name', `there are ${MOST_TEMPLATES} templates, which is as many as are kept; take one out first`)
  const { db } = database()
  const last = await db
    .selectFrom('template')
    .select((e) => e.fn.max('number').as('number'))
    .where('company_id', '=', person.companyId)
    .where('name', '=', name)
    .executeTakeFirst()
  try {
    await db
      .insertInto('template')
      .values({
        company_id: person.companyId,
        name,
        number: Number(last?.number ?? 0) + 1,
        plan: plan ? canonical(plan.value) : null,
        changed_by: person.name,
      })
      .execute()
  } catch (error) {
    if (taken(error)) return fail('name', 'somebody else kept a template of this name at the same moment; look again')
    throw error
  }
  return ok({ name })
}

/** Has this person seen something once and for all? @example await hasSeen(person, 'walk') */
export async function hasSeen(person: Person, what: string): Promise<boolean> {
  const row = await database().db.selectFrom('seen').select('what').where('person_id', '=', person.id).where('what', '=', what).executeTakeFirst()
  return row !== undefined
}
const seenSchema = record({ what: choice(['walk'] as const) })

/** A person has seen something and is not shown it again, on any device. */
export async function markSeen(person: Person, value: unknown): Promise<Result<{ what: string }>> {
  const input = read(seenSchema, value)
  if (!input.ok) return input
  await database()
    .db.insertInto('seen')
    .values({ person_id: person.id, what: input.value.what })
    .onConflict((c) => c.doNothing())
    .execute()
  return ok({ what: input.value.what })
}
