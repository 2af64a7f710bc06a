import { type Checkpoint, chainWalk, publicKeyOf, type SignedCheckpoint, signCheckpoint } from '@stone-tally/core'
import { database } from './database'
import { entryOf } from './entry-body'
import { entriesAfter } from './record-store'
import { sumOfText } from './sums'

/** The private key this installation signs with, 64 hex digits; undefined where it has none and makes no checkpoints. */
export function signingKey(): string | undefined {
  const key = process.env.CHECKPOINT_KEY ?? ''
  return /^[0-9a-f]{64}$/.test(key) ? key : undefined
}

/** Its public key, for whoever checks a checkpoint. */
export const installationKey = (): string | undefined => {
  const key = signingKey()
  return key === undefined ? undefined : publicKeyOf(key)
}

type Row = { wall_id: string; seq: number; day: string; hash: string; key: string; signature: string }
const given = (r: Row): SignedCheckpoint => ({ wall: r.wall_id, day: r.day, seq: r.seq, hash: r.hash, key: r.key, signature: r.signature })

/** Checkpoints of a wall, oldest first. */
export async function checkpointsOf(wall: string): Promise<SignedCheckpoint[]> {
  const rows = await database()
    .db.selectFrom('checkpoint')
    .select(['wall_id', 'seq', 'day', 'hash', 'key', 'signature'])
    .where('wall_id', '=', wall)
    .orderBy('seq')
    .execute()
  return rows.map(given)
}

/** Does the record go on from its last checkpoint to where it is said to end, link by link? A key that signs whatever stands there proves nothing. */
async function goesOn(wall: string, from: { seq: number; hash: string }, head: { seq: number; hash: string }): Promise<boolean> {
  if (from.seq > 0) {
    const there = await database().db.selectFrom('entry').select('hash').where('wall_id', '=', wall).where('seq', '=', from.seq).executeTakeFirst()
    if (there?.hash !== from.hash) return false
  }
  const walk = chainWalk(wall, sumOfText, from)
  for (;;) {
    const rows = await entriesAfter(wall, walk.at.seq, 500)
    for (const r of rows) {
      if (walk.at.seq === head.seq) break
      if (walk.take({ seq: r.seq, receivedAt: r.receivedAt, hash: r.hash, entry: entryOf(r.body) })) return false
    }
    if (walk.at.seq >= head.seq) return walk.at.hash === head.hash
    if (rows.length === 0) return false
    await new Promise((r) => setImmediate(r))
  }
}

/**
 * The checkpoint of a wall where its record ends now; made where there is none yet.
 *
 * @param now - ms since 1970
 * @returns undefined where the installation has no key, or where the record does not go on from its last checkpoint: nothing is signed then
 */
export async function checkpointNow(wall: string, now = Date.now()): Promise<SignedCheckpoint | undefined> {
  const key = signingKey()
  if (key === undefined) return undefined
  const { db } = database()
  const head = await db.selectFrom('chain_head').select(['seq', 'hash']).where('wall_id', '=', wall).executeTakeFirst()
  if (!head) return undefined
  const last = await db.selectFrom('checkpoint').selectAll().where('wall_id', '=', wall).orderBy('seq', 'desc').limit(1).executeTakeFirst()
  if (last && last.seq === head.seq && last.hash === head.hash) return given(last)
  if (head.seq === 0 || !(await goesOn(wall, last ?? { seq: 0, hash: wall }, head))) return undefined
  const mark: Checkpoint = { wall, day: new Date(now).toISOString().slice(0, 10), ...head }
  const signed = signCheckpoint(mark, key)
  const { wall: wall_id, ...row } = signed
  await db
    .insertInto('checkpoint')
    .values({ wall_id, ...row })
    .onConflict((c) => c.doNothing())
    .execute()
  // Of two at once the first stands.
  const kept = await db.selectFrom('checkpoint').selectAll().where('wall_id', '=', wall).where('seq', '=', head.seq).executeTakeFirstOrThrow()
  return given(kept)
}

/** Checkpoints of every wall that went on since its last one. @returns how many were made */
export async function checkpointAll(now = Date.now()): Promise<number> {
  const rows = await database()
    .db.selectFrom('chain_head')
    .select(['wall_id', 'seq'])
    .where(({ not, exists, selectFrom }) =>
      not(
        exists(
          selectFrom('checkpoint')
            .select('checkpoint.seq')
            .whereRef('checkpoint.wall_id', '=', 'chain_head.wall_id')
            .whereRef('checkpoint.seq', '=', 'chain_head.seq'),
        ),
      ),
    )
    .execute()
  let made = 0
  for (const r of rows) if (r.seq > 0 && (await checkpointNow(r.wall_id, now))) made++
  return made
}
