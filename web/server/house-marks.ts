import { createHash } from 'node:crypto'
import { bearsSignature, dayWords, signCheckpoint } from '@stone-tally/core'
import { signingKey } from './checkpoints'
import { database } from './database'

/** A wall as the installation's own checkpoint names it: id, company, name, entries. */
type Named = readonly [id: string, company: string, name: string, entries: number]

/** The installation signs for itself under this name, as it does for a wall under the wall's. */
const HOUSE = '00000000-0000-0000-0000-000000000000'
/** One mark is linked to the one before it. */
const linkOf = (before: string, walls: string) => createHash('sha256').update(`${before}\n${walls}`).digest('hex')

const lastMarks = () => database().db.selectFrom('house_mark').selectAll().orderBy('number', 'desc').limit(2).execute()
async function wallsNow(): Promise<Named[]> {
  const rows = await database()
    .db.selectFrom('wall')
    .leftJoin('chain_head', 'chain_head.wall_id', 'wall.id')
    .select(['wall.id', 'wall.company_id', 'wall.name', 'chain_head.seq'])
    .orderBy('wall.id')
    .execute()
  return rows.map((r) => [r.id, r.company_id, r.name, r.seq ?? 0])
}

/**
 * Signs which walls there are and how long each record is, where that is not what was signed last. Nothing is signed over a wall that is missing.
 *
 * @param now - ms since 1970
 * @returns whether one was made
 */
export async function markHouse(now = Date.now()): Promise<boolean> {
  const key = signingKey()
  if (key === undefined || (await missingWalls()).length > 0) return false
  const [[last], walls] = [await lastMarks(), JSON.stringify(await wallsNow())]
  if (last?.walls === walls || walls === '[]') return false
  const number = (last?.number ?? 0) + 1
  const {
    wall: _,
    seq,
    ...row
  } = signCheckpoint({ wall: HOUSE, day: new Date(now).toISOString().slice(0, 10), seq: number, hash: linkOf(last?.hash ?? '', walls) }, key)
  const made = await database()
    .db.insertInto('house_mark')
    .values({ number: seq, walls, ...row })
    .onConflict((c) => c.doNothing())
    .returning('number')
    .executeTakeFirst()
  return made !== undefined
}

/** A wall that was there, or as long, when the installation signed last. */
export interface MissingWall {
  readonly id: string
  readonly company: string
  readonly name: string
  /** In words, with what to do. */
  readonly says: string
}

/** What the installation's own checkpoint names and is not there; also that checkpoint itself, where it was changed. */
export async function missingWalls(): Promise<readonly MissingWall[]> {
  const [last, before] = await lastMarks()
  if (!last) return []
  const own = { wall: HOUSE, seq: last.number, day: last.day, hash: last.hash, key: last.key, signature: last.signature }
  if (last.hash !== linkOf(before?.hash ?? '', last.walls) || !bearsSignature(own))
    return [
      {
        id: HOUSE,
        company: '',
        name: 'The list of walls',
        says: `as it was signed on ${dayWords(last.day)} was changed since; restore a backup and compare`,
      },
    ]
  const day = dayWords(last.day)
  const now = new Map((await wallsNow()).map((w) => [w[0], w]))
  return (JSON.parse(last.walls) as Named[]).flatMap(([id, company, name, entries]): MissingWall[] => {
    const there = now.get(id)
    const long = `${entries} entr${entries === 1 ? 'y' : 'ies'}`
    if (!there)
      return [{ id, company, name, says: `is gone with its record; on ${day} it had ${long}. Nothing here takes a wall out: restore a backup` }]
    if (there[3] < entries) return [{ id, company, name, says: `ends at entry ${there[3]}; on ${day} it had ${long}. Restore a backup and compare` }]
    return []
  })
}
