import { type Glimpse, glimpseOf, nextSteps } from '@stone-tally/core'
import { database } from './database'
import { bearsMark, keptMark } from './kept-mark'
import { headOf, isFolded, stateOf } from './record-store'

/** The glimpse that was made at this very link by this state of the sources; not one that somebody changed. */
async function keptGlimpse(wall: string): Promise<string | undefined> {
  const { db } = database()
  const [head, kept] = await Promise.all([headOf(wall), db.selectFrom('glimpse').selectAll().where('wall_id', '=', wall).executeTakeFirst()])
  if (kept?.seq !== head.seq || kept.hash !== head.hash) return undefined
  return bearsMark(kept.made_by, kept.body, wall, `${kept.seq}`, kept.hash) ? kept.body : undefined
}

/**
 * What is next in each section, for the HTML of a page before any script of it runs; empty where only folding the whole record would
 * tell, since a page waits for nothing.
 */
export async function nextSeen(wall: string): Promise<Readonly<Record<string, string>>> {
  try {
    if (isFolded(wall)) return Object.fromEntries(nextSteps(await stateOf(wall)))
    const kept = await keptGlimpse(wall)
    return kept === undefined ? {} : Object.fromEntries((JSON.parse(kept) as Glimpse).next ?? [])
  } catch {
    // The page says it itself where the record cannot be reached.
    return {}
  }
}

/**
 * How a wall looks at the end of its record, as JSON ({@link Glimpse}), for a device that does not have the record yet. What is kept is
 * used only where it was made by this state of the sources and stands at the very link with which the record ends.
 */
export async function glimpseFor(wall: string): Promise<string> {
  const kept = await keptGlimpse(wall)
  if (kept !== undefined) return kept
  const { db } = database()
  const state = await stateOf(wall)
  const link = await db.selectFrom('entry').select('hash').where('wall_id', '=', wall).where('seq', '=', state.seq).executeTakeFirst()
  const at = { seq: state.seq, hash: link?.hash ?? '' }
  const body = JSON.stringify(glimpseOf(state, at))
  const row = { ...at, made_by: keptMark(body, wall, `${at.seq}`, at.hash), body }
  await db
    .insertInto('glimpse')
    .values({ wall_id: wall, ...row })
    .onConflict((c) => c.column('wall_id').doUpdateSet(row))
    .execute()
  return body
}
