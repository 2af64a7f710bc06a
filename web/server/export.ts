import { RECORD_END, recordFileStart, recordTurn } from '@stone-tally/core'
import { checkpointsOf, installationKey } from './checkpoints'
import { database } from './database'
import { entriesAfter } from './record-store'

/** Entries read at once. */
const STRIDE = 500

/** A wall's record as a file, piece by piece: of any length, in the room of a few hundred entries or one photo. */
export async function* recordFile(
  wall: { readonly id: string; readonly name: string },
  photos: 'all' | 'left out',
  exportedAt: string,
): AsyncGenerator<string> {
  const { db } = database()
  // Where it ends, and every plan that was issued by then, are of one moment; what is in the record does not change.
  const { head, revisions } = await db
    .transaction()
    .setIsolationLevel('repeatable read')
    .execute(async (tx) => ({
      head: await tx.selectFrom('chain_head').select(['seq', 'hash']).where('wall_id', '=', wall.id).executeTakeFirstOrThrow(),
      revisions: await tx.selectFrom('revision').select(['number', 'plan', 'issued_at']).where('wall_id', '=', wall.id).orderBy('number').execute(),
    }))
  yield recordFileStart({ wall: wall.id, name: wall.name, exportedAt, key: installationKey(), withPhotos: photos })
  for (const [i, r] of revisions.entries())
    yield `${i > 0 ? ',\n' : ''}${JSON.stringify({ number: r.number, issuedAt: r.issued_at.toISOString(), plan: r.plan })}`
  yield recordTurn('checkpoints')
  const marks = (await checkpointsOf(wall.id)).filter((c) => c.seq <= head.seq)
  yield marks.map((c) => JSON.stringify(c)).join(',\n')
  yield recordTurn('entries')
  let last = 0
  while (last < head.seq) {
    const rows = (await entriesAfter(wall.id, last, STRIDE)).filter((r) => r.seq <= head.seq)
    if (rows.length === 0) break
    yield (last > 0 ? ',\n' : '') +
      rows.map((r) => `{"seq":${r.seq},"receivedAt":"${r.receivedAt}","hash":"${r.hash}","entry":${r.body}}`).join(',\n')
    last = rows[rows.length - 1]?.seq ?? head.seq
  }
  yield recordTurn('photos', head)
  if (photos === 'all') {
    const ids = await db.selectFrom('photo').select('id').where('wall_id', '=', wall.id).orderBy('added_at').execute()
    for (const [i, { id }] of ids.entries()) {
      const p = await db.selectFrom('photo').select(['sha256', 'name', 'type', 'content']).where('id', '=', id).executeTakeFirstOrThrow()
      const { content, ...rest } = p
      yield `${i > 0 ? ',\n' : ''}${JSON.stringify({ file: id, ...rest, content: content.toString('base64') })}`
    }
  }
  yield RECORD_END
}
