import { overviewOf, type Plan, storedPlan, type WallOverview, type WallState } from '@stone-tally/core'
import type { Person } from './accounts'
import { database } from './database'
import { bearsMark, keptMark } from './kept-mark'
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
}

/** A wall further down: it is looked at when it comes on the screen. */
export interface UnseenWall extends Pick<WallRow, 'id' | 'name' | 'site' | 'madeUp'> {
  readonly unseen: true
  /** What is due on it, where somebody looked a moment ago. */
  readonly due?: WallOverview['due'] | undefined
}

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

/** Kept by this state of the sources, a moment ago, at the very link with which the record ends now. */
const STANDS = `overview o JOIN chain_head h ON h.wall_id = o.wall_id AND h.seq = o.seq AND h.hash = o.hash
  AND o.made_at > $2 AND o.wall_id = ANY ($1::uuid[])`
const standing = (walls: readonly string[], since = Date.now() - FRESH) => [walls, new Date(since)]
/** Marks of an overview: of all of it, and of what is due in it, which is read by itself. When it was made is of it: nothing is made younger. */
const marksOf = (id: string, at: { seq: number; hash: string; made_at: Date }, body: string, due: string) =>
  ['all', 'due'].map((of, i) => keptMark(i === 0 ? body : due, of, id, `${at.seq}`, at.hash, at.made_at.toISOString())).join(' ')
const isOwn = (i: 0 | 1, row: KeptRow, text: string) =>
  bearsMark(row.made_by.split(' ')[i] ?? '', text, i === 0 ? 'all' : 'due', row.id, `${row.seq}`, row.hash, row.made_at.toISOString())
const keepsAny = (walls: readonly string[]) => walls.length > 0 && (process.env.BUILT_FROM ?? '') !== ''

interface KeptRow {
  readonly id: string
  readonly seq: number
  readonly hash: string
  readonly made_at: Date
  readonly made_by: string
}

/** Overviews that stand, with the plan in force. */
async function keptOverviews(walls: readonly string[]): Promise<ReadonlyMap<string, WallOverview & { readonly plan: Plan }>> {
  if (!keepsAny(walls)) return new Map()
  const { rows } = await database().pool.query<KeptRow & { body: string; plan: object }>({
    name: 'overviews',
    text: `SELECT o.wall_id AS id, o.seq, o.hash, o.made_at, o.made_by, o.body, r.plan FROM ${STANDS}
      JOIN LATERAL (SELECT plan FROM revision r WHERE r.wall_id = o.wall_id ORDER BY r.number DESC LIMIT 1) r ON true`,
    values: standing(walls),
  })
  return new Map(rows.filter((r) => isOwn(0, r, r.body)).map((r) => [r.id, { ...(JSON.parse(r.body) as WallOverview), plan: storedPlan(r.plan) }]))
}

/** What is due of a day is due all of that day: nothing else of an overview is shown from it. Another day asks for its own looks anew. */
const today = () => new Date().setUTCHours(0, 0, 0, 0)
/** What is due, of overviews at the link with which each record ends; nothing else of them is read. */
async function keptDue(walls: readonly string[]): Promise<ReadonlyMap<string, WallOverview['due']>> {
  if (!keepsAny(walls)) return new Map()
  const { rows } = await database().pool.query<KeptRow & { due: string }>({
    name: 'overviews-due',
    text: `SELECT o.wall_id AS id, o.seq, o.hash, o.made_at, o.made_by, (o.body::json -> 'due')::text AS due FROM ${STANDS}`,
    values: standing(walls, today()),
  })
  return new Map(rows.filter((r) => isOwn(1, r, r.due)).map((r) => [r.id, JSON.parse(r.due) as WallOverview['due']]))
}

/** When something was recorded on each wall last, ms; by the key of the record, whatever its length. */
async function workedOn(walls: readonly string[]): Promise<ReadonlyMap<string, number>> {
  if (walls.length === 0) return new Map()
  const { rows } = await database().pool.query<{ id: string; at: Date }>({
    name: 'worked-on',
    text: `SELECT h.wall_id AS id, e.received_at AS at FROM chain_head h JOIN entry e ON e.wall_id = h.wall_id AND e.seq = h.seq WHERE h.wall_id = ANY ($1::uuid[])`,
    values: [walls],
  })
  return new Map(rows.map((r) => [r.id, r.at.getTime()]))
}

/** Looks at a wall: folds its record where it is not folded, and keeps what was seen beside it for the next who asks. */
async function look(wall: WallRow): Promise<YardWall | HiddenWall> {
  const { id, name, site, madeUp } = wall
  const madeAt = new Date()
  let head: { seq: number; hash: string }
  let state: WallState
  let overview: WallOverview
  try {
    const why = await whyNotShown(id)
    if (why !== undefined) return { id, name, site, why }
    head = await headOf(id)
    state = await stateOf(id)
    overview = overviewOf(state, madeAt.toISOString())
  } catch (error) {
    // A database that is away is the trouble of all walls; a record that cannot be folded is this one's alone.
    if ((error as { code?: unknown }).code !== undefined) throw error
    log.error({ err: error, wall: id })
    return { id, name, site, why: 'Its record could not be looked at; whoever looks after the installation finds out why in its log.' }
  }
  // Recorded on between the two questions: kept by the next who looks.
  if (keepsAny([id]) && head.seq === state.seq) {
    const body = JSON.stringify(overview)
    const at = { seq: head.seq, hash: head.hash, made_at: madeAt }
    const row = { ...at, made_by: marksOf(id, at, body, JSON.stringify(overview.due)), body }
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
  const { id, name, site, madeUp } = wall
  const kept = (await keptOverviews([id])).get(id)
  return kept ? { id, name, site, madeUp, ...kept } : look(wall)
}

/**
 * The Yard of a company: the first {@link AT_ONCE} walls as they stand, the others by name and what is due. They are looked at when they come on the
 * screen, so that a page costs what is shown of it, however many walls there are and however long their records.
 */
export async function yardOf(person: Person): Promise<{ walls: (YardWall | UnseenWall)[]; hidden: HiddenWall[]; away: WallRow[] }> {
  const all = await wallsOf(person.companyId)
  const worked = await workedOn(all.map((w) => w.id))
  // The wall last worked on is the one somebody opens next.
  // One whose record ends nowhere is looked at before any other.
  const at = (w: WallRow) => worked.get(w.id) ?? Number.MAX_SAFE_INTEGER
  const here = all.filter((w) => !w.away).sort((a, b) => at(b) - at(a))
  const [first, later] = [here.slice(0, AT_ONCE), here.slice(AT_ONCE)]
  const ids = (list: readonly WallRow[]) => list.map((w) => w.id)
  const [kept, due] = await Promise.all([keptOverviews(ids(first)), keptDue(ids(later))])
  const walls: (YardWall | UnseenWall)[] = []
  const hidden: HiddenWall[] = []
  for (const wall of first) {
    const { id, name, site, madeUp } = wall
    const before = kept.get(id)
    // Drawn in the page's HTML: laid out beside the request thread, not in it.
    if (before) await laidOut(before.plan)
    const seen = before ? { id, name, site, madeUp, ...before } : await look(wall)
    if ('why' in seen) hidden.push(seen)
    else walls.push(seen)
  }
  for (const { id, name, site, madeUp } of later) walls.push({ id, name, site, madeUp, unseen: true, due: due.get(id) })
  return { walls, hidden, away: all.filter((w) => w.away) }
}
