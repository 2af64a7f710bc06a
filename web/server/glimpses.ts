import { glimpseOf } from '@stone-tally/core'
import { database } from './database'
import { headOf, stateOf } from './record-store'

/**
 * How a wall looks at the end of its record, as JSON ({@link Glimpse}), for a device that does not have the record yet. What is kept is
 * used only where it was made by this state of the sources and stands at the very link with which the record ends.
 */
export async function glimpseFor(wall: string): Promise<string> {
  const madeBy = process.env.BUILT_FROM ?? ''
  const { db } = database()
  const [head, kept] = await Promise.all([headOf(wall), db.selectFrom('glimpse').selectAll().where('wall_id', '=', wall).executeTakeFirst()])
  if (kept && madeBy !== '' && kept.made_by === madeBy && kept.seq === head.seq && kept.hash === head.hash) return kept.body
  const state = await stateOf(wall)
  const link = await db.selectFrom('entry').select('hash').where('wall_id', '=', wall).where('seq', '=', state.seq).executeTakeFirst()
  const at = { seq: state.seq, hash: link?.hash ?? '' }
  const body = JSON.stringify(glimpseOf(state, at))
  const row = { ...at, made_by: madeBy, body }
  await db
    .insertInto('glimpse')
    .values({ wall_id: wall, ...row })
    .onConflict((c) => c.column('wall_id').doUpdateSet(row))
    .execute()
  return body
}
