import { type CourseScatter, type Scatter, scatterIn, scatterOf } from '@stone-tally/core'
import { database } from './database'
import { log } from './log'
import { stateOf } from './record-store'

/** Walls of a company that speak for its crews: what was built longest ago speaks for others. */
const WALLS = 12
/** A wall is looked at again once its record has grown by this many entries. */
const AGAIN = 200

/** What each wall said, and at which length of its record. Only a shortcut: it follows from the record. */
const said = new Map<string, { readonly seq: number; readonly seen: Record<'level' | 'lean', CourseScatter> }>()

/**
 * What courses of a company scatter by, from its walls recorded on last. A wall that cannot be read says nothing.
 *
 * @example (await scatterFor(person.companyId)).level // 0.0011
 */
export async function scatterFor(company: string): Promise<Scatter> {
  const walls = await database()
    .db.selectFrom('wall')
    .innerJoin('chain_head', 'chain_head.wall_id', 'wall.id')
    .innerJoin('entry', (j) => j.onRef('entry.wall_id', '=', 'wall.id').onRef('entry.seq', '=', 'chain_head.seq'))
    .select(['wall.id', 'chain_head.seq'])
    .where('wall.company_id', '=', company)
    .orderBy('entry.received_at', 'desc')
    .limit(WALLS)
    .execute()
  const seen: Record<'level' | 'lean', CourseScatter>[] = []
  for (const { id, seq } of walls) {
    const known = said.get(id)
    if (known && seq - known.seq < AGAIN) {
      seen.push(known.seen)
      continue
    }
    try {
      const state = await stateOf(id)
      const now = scatterIn(state)
      said.set(id, { seq: state.seq, seen: now })
      seen.push(now)
    } catch (error) {
      log.error({ err: error })
    }
  }
  const [level, lean] = (['level', 'lean'] as const).map((m) =>
    scatterOf(
      seen.map((s) => s[m]),
      m,
    ),
  )
  return { ...(level === undefined ? {} : { level }), ...(lean === undefined ? {} : { lean }) }
}
