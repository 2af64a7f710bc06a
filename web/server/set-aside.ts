import { canonical, type Entry, fail, ok, type Result, readEntry } from '@stone-tally/core'
import { database } from './database'
import { isUuid } from './ids'
import { within } from './quotas'

/** What was taken off a device that the office signed out; it is no part of the record. */
export interface SetAside {
  readonly entry: Entry
  readonly cameAt: string
}

/** Is it a wall of this company? */
export const isWallOf = async (wall: string, companyId: string): Promise<boolean> =>
  isUuid(wall) &&
  (await database().db.selectFrom('wall').select('id').where('id', '=', wall).where('company_id', '=', companyId).executeTakeFirst()) !== undefined

/** As many at once as a device may send of ordinary entries. */
const BATCH = 1000

/**
 * Takes in what waited on a device whose person was signed out, for the foreman to look at. It is read like any entry and judged by
 * nobody; sent twice it is there once.
 *
 * @param who - whose session it was
 * @returns the ids that are here now; the device lets go of those alone
 */
export async function setAside(
  wall: string,
  who: { person: string; companyId: string; device: string },
  values: readonly unknown[],
): Promise<Result<string[]>> {
  if (!isUuid(wall)) return fail('wall', 'is not a wall of yours')
  if (values.length > BATCH) return fail('entries', `takes at most ${BATCH} at once, not ${values.length}`)
  const { db } = database()
  const own = await isWallOf(wall, who.companyId)
  const person = await db.selectFrom('user').select(['id', 'name', 'role']).where('id', '=', who.person).executeTakeFirst()
  if (!own || !person) return fail('wall', 'is not a wall of yours')
  const by = { id: person.id, name: person.name, role: person.role }
  const entries = values.flatMap((v) => {
    const read = readEntry(v !== null && typeof v === 'object' ? { ...v, by } : v)
    return read.ok && read.value.wall === wall ? [read.value] : []
  })
  if (entries.length === 0) return ok([])
  // Sent again it takes nothing: what is here already is answered as kept.
  const here = await db
    .selectFrom('set_aside')
    .select('id')
    .where('wall_id', '=', wall)
    .where(
      'id',
      'in',
      entries.map((e) => e.id),
    )
    .execute()
  const known = new Set(here.map((h) => h.id))
  const more = entries.filter((e) => !known.has(e.id))
  if (more.length > 0) {
    const share = await within('set-aside', { device: who.device, person: who.person, wall, company: who.companyId }, more.length)
    if (!share.ok) return share
    await db
      .insertInto('set_aside')
      .values(more.map((e) => ({ wall_id: wall, id: e.id, person: person.id, body: canonical(e) })))
      .onConflict((c) => c.doNothing())
      .execute()
  }
  return ok(entries.map((e) => e.id))
}

/** What was set aside for a wall, oldest first. */
export async function setAsideOf(wall: string): Promise<SetAside[]> {
  const rows = await database()
    .db.selectFrom('set_aside')
    .select(['body', 'came_at'])
    .where('wall_id', '=', wall)
    .orderBy('came_at')
    .orderBy('id')
    .execute()
  return rows.map((r) => ({ entry: JSON.parse(r.body) as Entry, cameAt: r.came_at.toISOString() }))
}
