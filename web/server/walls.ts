import {
  canonical,
  fail,
  failAll,
  issueUnder,
  misplaced,
  ok,
  type Plan,
  type Problem,
  planHash,
  type Result,
  readPlan,
  storedPlan,
  tooManyPieces,
} from '@stone-tally/core'
import type { Person } from './accounts'
import { database } from './database'
import { isUuid, uuid7 } from './ids'
import { laidOut } from './layouts'
import { log } from './log'
import { forget, revisionEntry } from './record-store'
import { levelsFor, wallRulesKept, wallRulesSigned } from './rules'
import type { WallRow } from './wall-row'

export { uuid7 } from './ids'

/** Where a wall stands: the last that was said of it. */
async function shelvesOf(ids: readonly string[]) {
  if (ids.length === 0) return new Map<string, { stands: string; by: string; at: string; why: string }>()
  const rows = await database()
    .db.selectFrom('wall_shelf')
    .distinctOn('wall_id')
    .select(['wall_id', 'stands', 'why', 'changed_by', 'changed_at'])
    .where('wall_id', 'in', [...ids])
    .orderBy('wall_id')
    .orderBy('number', 'desc')
    .execute()
  return new Map(rows.map((r) => [r.wall_id, { stands: r.stands, by: r.changed_by, at: r.changed_at.toISOString(), why: r.why }]))
}

/** Walls of a company, newest last; those that were thrown away are none. */
export async function wallsOf(companyId: string): Promise<WallRow[]> {
  const rows = await database()
    .db.selectFrom('wall')
    .select(['id', 'name', 'site', 'made_up'])
    .where('company_id', '=', companyId)
    .orderBy('created_at')
    .execute()
  return standing(rows)
}

async function standing(rows: readonly { id: string; name: string; site: string; made_up: boolean }[]): Promise<WallRow[]> {
  const shelves = await shelvesOf(rows.map((r) => r.id))
  return rows.flatMap(({ made_up, ...wall }) => {
    const shelf = shelves.get(wall.id)
    if (shelf?.stands === 'thrown') return []
    return [{ ...wall, madeUp: made_up, ...(shelf?.stands === 'away' ? { away: { by: shelf.by, at: shelf.at, why: shelf.why } } : {}) }]
  })
}

/** A wall, if it is this person's company's; undefined alike for none and for somebody else's. */
export async function wallFor(person: Pick<Person, 'companyId'>, id: string): Promise<WallRow | undefined> {
  if (!isUuid(id)) return undefined
  const row = await database()
    .db.selectFrom('wall')
    .select(['id', 'name', 'site', 'made_up'])
    .where('id', '=', id)
    .where('company_id', '=', person.companyId)
    .executeTakeFirst()
  return row && (await standing([row]))[0]
}

/** Who may plan. */
export const mayPlan = (person: Person) => person.role === 'foreman' || person.role === 'office'

/** Somewhere on earth it is tomorrow already, ms. */
const AHEAD = 14 * 3_600_000
/** Days in a plan that have not come: nobody has signed or answered anything then. */
function daysAhead(plan: Plan, now: number): Problem[] {
  const today = new Date(now + AHEAD).toISOString().slice(0, 10)
  const days: readonly (readonly [string, string | undefined])[] = [
    ['engineerOn', plan.engineerOn],
    ...(plan.asked ?? []).map((a, i) => [`asked[${i}].on`, a.on] as const),
  ]
  return days.flatMap(([field, day]) =>
    day !== undefined && day > today ? [{ field, message: `${day} has not come yet; give the day that stands on the paper` }] : [],
  )
}

/**
 * @param before - plan and site of the wall it is a revision of. A wall stands where it stands: its rules are those of the site it was
 *   made for, whatever a revision calls it
 */
async function checkPlan(person: Person, value: unknown, before?: { plan: Plan; site: string }): Promise<Result<Plan>> {
  const read = readPlan(value)
  if (!read.ok) return read
  // Whatever rules the plan was drawn up under, it is issued under those in force, and takes them along whole.
  const levels = await levelsFor(person.companyId, before?.site ?? read.value.site)
  const rules = wallRulesSigned(person, before?.plan.rules, read.value.rules, new Date())
  const kept = wallRulesKept(person, levels.company, before?.plan.rules, rules)
  if (kept) return failAll([kept])
  const under = issueUnder(rules ? { ...read.value, rules } : read.value, levels)
  if (!under.ok) return under
  const plan = under.value
  const large = tooManyPieces(plan)
  if (large) return failAll([large])
  const ahead = daysAhead(plan, Date.now())
  if (ahead.length > 0) return failAll(ahead)
  const layout = await laidOut(plan)
  if (!layout.ok) return layout
  const nowhere = misplaced(layout.value)
  return nowhere.length > 0 ? failAll(nowhere) : ok(plan)
}

/** Makes a wall with its first revision, which is the first link of its record. */
export async function createWall(person: Person, value: unknown, now = Date.now(), madeUp = false): Promise<Result<{ id: string }>> {
  if (!mayPlan(person)) return fail('role', 'planning takes the foreman or the office')
  const plan = await checkPlan(person, value)
  if (!plan.ok) return plan
  const id = uuid7(now)
  await database()
    .db.transaction()
    .execute(async (tx) => {
      await tx
        .insertInto('wall')
        .values({ id, company_id: person.companyId, name: plan.value.name, site: plan.value.site, made_up: madeUp })
        .execute()
      await tx
        .insertInto('revision')
        .values({ wall_id: id, number: 1, plan: canonical(plan.value), issued_by: person.name })
        .execute()
      const entry = revisionEntry(id, person, 1, planHash(plan.value), uuid7(now), now)
      await tx
        .insertInto('entry')
        .values({ wall_id: id, id: entry.id, body: canonical(entry) })
        .execute()
    })
  return ok({ id })
}

/**
 * Issues the next revision of a plan. Entries made before stay tied to theirs.
 *
 * @param base - number of the revision the new one was made from; where another was issued since, nothing is written
 */
export async function issueRevision(
  person: Person,
  wall: string,
  value: unknown,
  base: unknown,
  now = Date.now(),
): Promise<Result<{ number: number }>> {
  if (!mayPlan(person)) return fail('role', 'planning takes the foreman or the office')
  if (typeof base !== 'number' || !Number.isInteger(base) || base < 1 || base > 10_000)
    return fail('base', 'is missing; say the number of the revision this one was made from')
  const from = await database()
    .db.selectFrom('revision')
    .innerJoin('wall', 'wall.id', 'revision.wall_id')
    .select(['revision.plan', 'wall.site'])
    .where('wall_id', '=', wall)
    .where('number', '=', base)
    .executeTakeFirst()
  const plan = await checkPlan(person, value, from && { plan: storedPlan(from.plan as object), site: from.site })
  if (!plan.ok) return plan
  const { db } = database()
  const overtaken = async () => {
    const last = await db
      .selectFrom('revision')
      .select(['number', 'issued_by'])
      .where('wall_id', '=', wall)
      .orderBy('number', 'desc')
      .executeTakeFirst()
    const by = last && last.number > base ? `; revision ${last.number} was issued by ${last.issued_by} meanwhile` : ''
    return fail(
      'base',
      `this was made from revision ${base}, which is not the one in force${by}. Load it, look at what changed, and issue yours again`,
    )
  }
  const number = base + 1
  try {
    await db.transaction().execute(async (tx) => {
      const last = await tx.selectFrom('revision').select(tx.fn.max('number').as('number')).where('wall_id', '=', wall).executeTakeFirst()
      if (Number(last?.number ?? 0) !== base) throw new Overtaken()
      // Of two at once the key of the table lets the first in; the second learns of it.
      const made = await tx
        .insertInto('revision')
        .values({ wall_id: wall, number, plan: canonical(plan.value), issued_by: person.name })
        .onConflict((c) => c.doNothing())
        .returning('number')
        .executeTakeFirst()
      if (!made) throw new Overtaken()
      const entry = revisionEntry(wall, person, number, planHash(plan.value), uuid7(now), now)
      await tx
        .insertInto('entry')
        .values({ wall_id: wall, id: entry.id, body: canonical(entry) })
        .execute()
    })
  } catch (error) {
    if (error instanceof Overtaken) return overtaken()
    throw error
  }
  forget(wall)
  await database().pool.query("SELECT pg_notify('tally_entry', $1)", [`${wall} 0`])
  return ok({ number })
}

class Overtaken extends Error {}

/**
 * Why a wall cannot be shown here; undefined for one that can. Its record stays whole whatever the reason, and is given out.
 *
 * @returns the first revision that cannot be laid out, and why: a system that is gone, a plan that a later check refuses
 */
export async function whyNotShown(wall: string): Promise<string | undefined> {
  const rows = await database().db.selectFrom('revision').select(['number', 'plan']).where('wall_id', '=', wall).orderBy('number').execute()
  for (const r of rows) {
    const layout = await laidOut(storedPlan(r.plan as object))
    if (!layout.ok) return `Revision ${r.number} of its plan cannot be laid out: ${layout.problems[0]?.message}.`
  }
  return undefined
}

/** Plans of a wall as issued: `stored` as it was written then, with the fingerprint of its entry; `plan` as it is worked with today. */
export async function revisionsOf(wall: string) {
  const rows = await database()
    .db.selectFrom('revision')
    .select(['number', 'plan', 'issued_at', 'issued_by'])
    .where('wall_id', '=', wall)
    .orderBy('number')
    .execute()
  // Whoever asks for the plans shows or folds the wall: laid out beside the request thread, not in it.
  const plans = rows.map((r) => storedPlan(r.plan as object))
  for (const plan of plans) await laidOut(plan).catch((error) => log.error({ err: error }))
  return rows.map((r, i) => ({
    number: r.number,
    issuedAt: r.issued_at.toISOString(),
    issuedBy: r.issued_by,
    plan: plans[i] as Plan,
    stored: r.plan as object,
  }))
}
