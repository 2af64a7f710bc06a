import { overviewOf, type Plan, storedPlan, type WallOverview, type WallState } from '@stone-tally/core'
import type { Person } from './accounts'
import { database } from './database'
import { laidOut } from './layouts'
import { log } from './log'
import { headOf, stateOf } from './record-store'
import type { WallRow } from './wall-row'
import { wallsOf, whyNotShown } from './walls'

/** What the Yard shows of a wall. */
export interface YardWall extends WallOverview {
  readonly id: string
  readonly name: string
  readonly site: string
  readonly plan: Plan
  readonly madeUp: boolean
  /**
   * When it was looked at, where that is a while ago. Nothing was recorded since; only what waits by the clock may stand otherwise. It is looked at
   * anew when it comes on the screen.
   */
  readonly asOf?: string | undefined
}

/** A wall that was not looked at for this page: it is when it comes on the screen. */
export type UnseenWall = Pick<WallRow, 'id' | 'name' | 'site' | 'madeUp'> & { readonly unseen: true }

/** A wall that cannot be shown, and why; it hides no other. */
export interface HiddenWall {
  readonly id: string
  readonly name: string
  readonly site: string
  readonly why: string
}

/** Walls that a page looks at itself before it is sent: about as many as stand on the first screens. */
export const AT_ONCE = 12
/** What was looked at so long ago is looked at anew, ms: as long as what waits by the clock may be shown without a word. */
const FRESH = 5 * 60_000

interface Kept {
  readonly overview: WallOverview
  readonly plan: Plan
  readonly madeAt: Date
}

/** Overviews that were made at the very link with which each record ends now, by this state of the sources, with the plan in force. */
async function keptOverviews(walls: readonly string[]): Promise<ReadonlyMap<string, Kept>> {
  const madeBy = process.env.BUILT_FROM ?? ''
  if (madeBy === '' || walls.length === 0) return new Map()
  const { rows } = await database().pool.query<{ id: string; body: string; made_at: Date; plan: object }>({
    name: 'overviews',
    text: `SELECT o.wall_id AS id, o.body, o.made_at, r.plan FROM overview o
      JOIN chain_head h ON h.wall_id = o.wall_id AND h.seq = o.seq AND h.hash = o.hash
      JOIN LATERAL (SELECT plan FROM revision r WHERE r.wall_id = o.wall_id ORDER BY r.number DESC LIMIT 1) r ON true
      WHERE o.wall_id = ANY ($1::uuid[]) AND o.made_by = $2`,
    values: [walls, madeBy],
  })
  return new Map(rows.map((r) => [r.id, { overview: JSON.parse(r.body) as WallOverview, plan: storedPlan(r.plan), madeAt: r.made_at }]))
}

/** Looks at a wall: folds its record where it is not folded, and keeps what was seen beside it for the next who asks. */
async function look(wall: WallRow): Promise<YardWall | HiddenWall> {
  const { id, name, site, madeUp } = wall
  const why = await whyNotShown(id)
  if (why !== undefined) return { id, name, site, why }
  const head = await headOf(id)
  const madeAt = new Date()
  let state: WallState
  let overview: WallOverview
  try {
    state = await stateOf(id)
    overview = overviewOf(state, madeAt.toISOString())
  } catch (error) {
    // A database that is away is the trouble of all walls; a record that cannot be folded is this one's alone.
    if ((error as { code?: unknown }).code !== undefined) throw error
    log.error({ err: error, wall: id })
    return { id, name, site, why: 'Its record could not be looked at; whoever looks after the installation finds out why in its log.' }
  }
  const madeBy = process.env.BUILT_FROM ?? ''
  // Recorded on between the two questions: kept by the next who looks.
  if (madeBy !== '' && head.seq === state.seq) {
    const row = { seq: head.seq, hash: head.hash, made_by: madeBy, made_at: madeAt, body: JSON.stringify(overview) }
    await database()
      .db.insertInto('overview')
      .values({ wall_id: id, ...row })
      .onConflict((c) => c.column('wall_id').doUpdateSet(row))
      .execute()
      .catch((error) => log.error({ err: error }))
  }
  return { id, name, site, madeUp, plan: state.layout.plan, ...overview }
}

/** One wall, looked at now or a moment ago. */
export async function yardWall(wall: WallRow): Promise<YardWall | HiddenWall> {
  const kept = (await keptOverviews([wall.id])).get(wall.id)
  const { id, name, site, madeUp } = wall
  if (kept && Date.now() - kept.madeAt.getTime() < FRESH) return { id, name, site, madeUp, plan: kept.plan, ...kept.overview }
  return look(wall)
}

/**
 * The Yard of a company. What is kept beside each record is shown at once, however long the records are; a page looks at the first {@link AT_ONCE}
 * itself, and at the others when they come on the screen.
 */
export async function yardOf(person: Person): Promise<{ walls: (YardWall | UnseenWall)[]; hidden: HiddenWall[]; away: WallRow[] }> {
  const all = await wallsOf(person.companyId)
  const away = all.filter((w) => w.away)
  const here = all.filter((w) => !w.away)
  const kept = await keptOverviews(here.map((w) => w.id))
  const walls: (YardWall | UnseenWall)[] = []
  const hidden: HiddenWall[] = []
  for (const [i, wall] of here.entries()) {
    const { id, name, site, madeUp } = wall
    const before = kept.get(id)
    const fresh = before !== undefined && Date.now() - before.madeAt.getTime() < FRESH
    if (i < AT_ONCE && !fresh) {
      const seen = await look(wall)
      if ('why' in seen) hidden.push(seen)
      else walls.push(seen)
      continue
    }
    // Drawn in the page's HTML: laid out beside the request thread, not in it.
    if (before && i < AT_ONCE) await laidOut(before.plan)
    if (before) walls.push({ id, name, site, madeUp, plan: before.plan, ...before.overview, ...(fresh ? {} : { asOf: before.madeAt.toISOString() }) })
    else walls.push({ id, name, site, madeUp, unseen: true })
  }
  return { walls, hidden, away }
}
