import { randomBytes } from 'node:crypto'
import { canonical, fail, layOut, ok, type Plan, planHash, type Result, readPlan } from '@stone-tally/core'
import type { Person } from './accounts'
import { database } from './database'
import { forget, revisionEntry } from './record-store'

/** UUID v7: time first, so that ids sort as they were made. */
export function uuid7(now = Date.now()): string {
  const bytes = randomBytes(16)
  bytes.writeUIntBE(now, 0, 6)
  bytes[6] = ((bytes[6] as number) & 0x0f) | 0x70
  bytes[8] = ((bytes[8] as number) & 0x3f) | 0x80
  const hex = bytes.toString('hex')
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/

export interface WallRow {
  readonly id: string
  readonly name: string
  readonly site: string
}

/** Walls of a company, newest last. */
export const wallsOf = (companyId: string): Promise<WallRow[]> =>
  database().db.selectFrom('wall').select(['id', 'name', 'site']).where('company_id', '=', companyId).orderBy('created_at').execute()

/** A wall, if it is this person's company's; undefined alike for none and for somebody else's. */
export async function wallFor(person: Person, id: string): Promise<WallRow | undefined> {
  if (!UUID.test(id)) return undefined
  return database()
    .db.selectFrom('wall')
    .select(['id', 'name', 'site'])
    .where('id', '=', id)
    .where('company_id', '=', person.companyId)
    .executeTakeFirst()
}

/** Who may plan. */
export const mayPlan = (person: Person) => person.role === 'foreman' || person.role === 'office'

function checkPlan(value: unknown): Result<Plan> {
  const plan = readPlan(value)
  if (!plan.ok) return plan
  const layout = layOut(plan.value)
  return layout.ok ? plan : layout
}

/** Makes a wall with its first revision, which is the first link of its record. */
export async function createWall(person: Person, value: unknown, now = Date.now()): Promise<Result<{ id: string }>> {
  if (!mayPlan(person)) return fail('role', 'planning takes the foreman or the office')
  const plan = checkPlan(value)
  if (!plan.ok) return plan
  const id = uuid7(now)
  await database()
    .db.transaction()
    .execute(async (tx) => {
      await tx.insertInto('wall').values({ id, company_id: person.companyId, name: plan.value.name, site: plan.value.site }).execute()
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

/** Issues the next revision of a plan. Entries made before stay tied to theirs. */
export async function issueRevision(person: Person, wall: string, value: unknown, now = Date.now()): Promise<Result<{ number: number }>> {
  if (!mayPlan(person)) return fail('role', 'planning takes the foreman or the office')
  const plan = checkPlan(value)
  if (!plan.ok) return plan
  const number = await database()
    .db.transaction()
    .execute(async (tx) => {
      await tx.selectFrom('wall').select('id').where('id', '=', wall).execute()
      const last = await tx.selectFrom('revision').select(tx.fn.max('number').as('number')).where('wall_id', '=', wall).executeTakeFirst()
      const next = Number(last?.number ?? 0) + 1
      await tx
        .insertInto('revision')
        .values({ wall_id: wall, number: next, plan: canonical(plan.value), issued_by: person.name })
        .execute()
      const entry = revisionEntry(wall, person, next, planHash(plan.value), uuid7(now), now)
      await tx
        .insertInto('entry')
        .values({ wall_id: wall, id: entry.id, body: canonical(entry) })
        .execute()
      return next
    })
  forget(wall)
  await database().pool.query("SELECT pg_notify('tally_entry', $1)", [`${wall} 0`])
  return ok({ number })
}

/** Plans of a wall as issued. */
export async function revisionsOf(wall: string) {
  const rows = await database()
    .db.selectFrom('revision')
    .select(['number', 'plan', 'issued_at', 'issued_by'])
    .where('wall_id', '=', wall)
    .orderBy('number')
    .execute()
  return rows.map((r) => ({ number: r.number, issuedAt: r.issued_at.toISOString(), issuedBy: r.issued_by, plan: r.plan as Plan }))
}
