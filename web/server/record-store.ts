import {
  admit,
  advance,
  type ChainedEntry,
  canonical,
  type Entry,
  emptyState,
  type Layout,
  type PhotoData,
  type Problem,
  type RevisionData,
  readEntry,
  storedPlan,
  type Verdict,
  type WallState,
} from '@stone-tally/core'
import type { Person } from './accounts'
import { database } from './database'
import { laidOut } from './layouts'
import { missingPhoto } from './photos'

/** What became of one entry sent in. */
export type Outcome =
  | { readonly id: string; readonly ok: true; readonly seq: number; readonly receivedAt: string; readonly verdict?: Verdict }
  | { readonly id: string; readonly ok: false; readonly problems: readonly Problem[] }

/**
 * Folded walls of this process. Only a shortcut: `append_entries` adds nothing when the record has moved past what is
 * folded here, so another process can never be overwritten or judged against an old state.
 */
const folded = new Map<string, WallState>()
const queues = new Map<string, Promise<unknown>>()
const KEEP = 40

/** One at a time per wall within this process. */
function inTurn<T>(wall: string, work: () => Promise<T>): Promise<T> {
  const turn = (queues.get(wall) ?? Promise.resolve()).then(work, work)
  const settled = turn.catch(() => {})
  queues.set(wall, settled)
  settled.then(() => queues.get(wall) === settled && queues.delete(wall))
  return turn
}

const iso = (d: Date) => d.toISOString()

/** Can this be the number of an entry? */
export const isSeq = (n: number) => Number.isInteger(n) && n >= 0 && n < 2 ** 31

/** Plan revisions of a wall, laid out beside the request thread. */
export async function layoutsOf(wall: string): Promise<Layout[]> {
  const rows = await database().db.selectFrom('revision').select(['number', 'plan']).where('wall_id', '=', wall).orderBy('number').execute()
  const made: Layout[] = []
  for (const r of rows) {
    const layout = await laidOut(storedPlan(r.plan as object))
    if (!layout.ok) throw new Error(`revision ${r.number} of wall ${wall} cannot be laid out: ${layout.problems[0]?.message}`)
    made.push(layout.value)
  }
  return made
}

/** Entries after a number, in order; `limit` at a time. */
export async function entriesAfter(
  wall: string,
  seq: number,
  limit = 2000,
): Promise<{ seq: number; receivedAt: string; hash: string; body: string }[]> {
  const rows = await database()
    .db.selectFrom('entry')
    .select(['seq', 'received_at', 'hash', 'body'])
    .where('wall_id', '=', wall)
    .where('seq', '>', seq)
    .orderBy('seq')
    .limit(limit)
    .execute()
  return rows.map((r) => ({ seq: r.seq, receivedAt: iso(r.received_at), hash: r.hash, body: r.body }))
}

async function catchUp(wall: string): Promise<WallState> {
  let state = folded.get(wall)
  for (;;) {
    const rows = await entriesAfter(wall, state?.seq ?? 0)
    // A revision this state does not know changes what everything is judged against: start over with it.
    const known = state?.layouts.length ?? Number.POSITIVE_INFINITY
    const isNew = (e: Entry) => e.kind === 'revision' && (e.data as RevisionData).number > known
    if (rows.some((r) => isNew(JSON.parse(r.body) as Entry))) {
      state = undefined
      continue
    }
    state ??= emptyState(await layoutsOf(wall))
    for (const r of rows) state = advance(state, { seq: r.seq, receivedAt: r.receivedAt, entry: JSON.parse(r.body) as Entry })
    if (rows.length < 2000) break
  }
  folded.delete(wall)
  folded.set(wall, state)
  if (folded.size > KEEP) folded.delete(folded.keys().next().value as string)
  return state
}

/** The wall as it stands, up to date. For reading only. */
export const stateOf = (wall: string): Promise<WallState> => inTurn(wall, () => catchUp(wall))

/** Does this process hold the wall folded, so that it is up to date at once? */
export const isFolded = (wall: string): boolean => folded.has(wall)

const UNJUDGED: Problem = {
  field: '',
  message: 'this entry could not be judged and is not recorded; keep it, and tell whoever looks after the installation',
}

interface Admitted {
  readonly entry: Entry
  readonly body: string
  readonly verdict: Verdict | undefined
}

/**
 * Records a batch: each entry stands or falls by itself, all that stand are committed together before this returns.
 * Sending an entry again is harmless; sending another under the same id is refused.
 *
 * @param person - who is signed in; `by` is set from them whatever the device says
 */
export function recordEntries(wall: string, person: Person, values: readonly unknown[], now: number): Promise<Outcome[]> {
  return inTurn(wall, async () => {
    // Entries that made the judgement itself fail: refused by name, so that they never take the others with them.
    const failing = new Set<number>()
    for (let attempt = 0; attempt < 20 + failing.size; attempt++) {
      const outcome = await tryRecord(wall, person, values, now, attempt > 0, failing)
      if (outcome) return outcome
    }
    throw new Error(`the record of wall ${wall} is too busy`)
  })
}

async function tryRecord(
  wall: string,
  person: Person,
  values: readonly unknown[],
  now: number,
  fresh: boolean,
  failing: Set<number>,
): Promise<Outcome[] | undefined> {
  let state = (fresh ? undefined : folded.get(wall)) ?? (await catchUp(wall))
  const seen = state.seq
  const outcomes = new Map<number, Outcome>()
  const sent: (Admitted & { at: number; recorded: { seq: number; receivedAt: string; entry: Entry } })[] = []
  const by = { id: person.id, name: person.name, role: person.role }
  // Until the commit is known the folded state is ahead of the record; any failure throws it away.
  folded.delete(wall)
  for (const [at, value] of values.entries()) {
    const id = typeof (value as { id?: unknown } | null)?.id === 'string' ? (value as { id: string }).id : ''
    const refuse = (problems: readonly Problem[]) => outcomes.set(at, { id, ok: false, problems })
    if (failing.has(at)) {
      refuse([UNJUDGED])
      continue
    }
    const entry = readEntry(value !== null && typeof value === 'object' ? { ...value, by } : value)
    if (!entry.ok) refuse(entry.problems)
    else if (entry.value.kind === 'revision') refuse([{ field: 'kind', message: 'a revision is issued from the plan' }])
    else if (entry.value.wall !== wall) refuse([{ field: 'wall', message: 'is another wall' }])
    else {
      const body = canonical(entry.value)
      const known = state.byId.get(id)
      if (known) {
        if (canonical(known.entry) !== body) refuse([{ field: 'id', message: 'was used for another entry; make a new one' }])
        else if (known.seq <= seen) outcomes.set(at, { id, ok: true, seq: known.seq, receivedAt: known.receivedAt })
        else sent.push({ ...(sent.find((s) => s.entry.id === id) as (typeof sent)[number]), at })
        continue
      }
      let verdict: ReturnType<typeof admit>
      try {
        verdict = admit(state, entry.value, now)
      } catch (error) {
        console.error(error)
        failing.add(at)
        refuse([UNJUDGED])
        continue
      }
      const unseen = entry.value.kind === 'photo' ? await missingPhoto(wall, entry.value.data as PhotoData) : undefined
      if (!verdict.ok) refuse(verdict.problems)
      else if (unseen) refuse([unseen])
      else {
        const recorded = { seq: state.seq + 1, receivedAt: iso(new Date(now)), entry: entry.value }
        try {
          state = advance(state, recorded)
        } catch (error) {
          // The fold may be half done: everything is looked at again without this one.
          console.error(error)
          failing.add(at)
          return undefined
        }
        sent.push({ at, entry: entry.value, body, verdict: verdict.value, recorded })
      }
    }
  }
  if (sent.length > 0) {
    const rows = await append(wall, seen, sent)
    if (rows.size === 0) return undefined
    for (const s of sent) {
      const row = rows.get(s.entry.id)
      if (!row) throw new Error(`entry ${s.entry.id} was not recorded`)
      s.recorded.seq = row.seq
      s.recorded.receivedAt = row.receivedAt
      outcomes.set(s.at, { id: s.entry.id, ok: true, seq: row.seq, receivedAt: row.receivedAt, ...(s.verdict ? { verdict: s.verdict } : {}) })
    }
  }
  folded.set(wall, state)
  return values.map((_, at) => outcomes.get(at) as Outcome)
}

async function append(wall: string, seen: number, batch: readonly Admitted[]) {
  const unique = [...new Map(batch.map((b) => [b.entry.id, b])).values()]
  const { rows } = await database().pool.query<{ id: string; seq: number; received_at: Date; hash: string }>({
    name: 'append',
    text: 'SELECT id, seq, received_at FROM append_entries($1::uuid, $2, $3::uuid[], $4::text[])',
    values: [wall, seen, unique.map((b) => b.entry.id), unique.map((b) => b.body)],
  })
  return new Map(rows.map((r) => [r.id, { seq: r.seq, receivedAt: iso(r.received_at) }]))
}

/** Number and link of the last entry. */
export const headOf = (wall: string): Promise<{ seq: number; hash: string }> =>
  database().db.selectFrom('chain_head').select(['seq', 'hash']).where('wall_id', '=', wall).executeTakeFirstOrThrow()

/** Is this the link of that entry here? A device asks before it goes on from what it has. */
export async function isLink(wall: string, seq: number, hash: string | undefined): Promise<boolean> {
  const row = await database().db.selectFrom('entry').select('hash').where('wall_id', '=', wall).where('seq', '=', seq).executeTakeFirst()
  return row !== undefined && (hash === undefined || row.hash === hash)
}

/** Every entry with its link, for export, and where the chain ends. */
export async function chainOf(wall: string): Promise<{ entries: ChainedEntry[]; head: { seq: number; hash: string } }> {
  return database()
    .db.transaction()
    .setIsolationLevel('repeatable read')
    .execute(async (tx) => {
      const head = await tx.selectFrom('chain_head').select(['seq', 'hash']).where('wall_id', '=', wall).executeTakeFirstOrThrow()
      const rows = await tx.selectFrom('entry').select(['seq', 'received_at', 'hash', 'body']).where('wall_id', '=', wall).orderBy('seq').execute()
      const entries = rows.map((r) => ({ seq: r.seq, receivedAt: iso(r.received_at), hash: r.hash, entry: JSON.parse(r.body) as Entry }))
      return { entries, head }
    })
}

/** Issues an entry of the house itself (a plan revision) in the caller's transaction. */
export const revisionEntry = (wall: string, person: Person, number: number, plan: string, id: string, now: number): Entry => ({
  id,
  wall,
  revision: number,
  at: iso(new Date(now)),
  by: { id: person.id, name: person.name, role: person.role },
  kind: 'revision',
  where: {},
  data: { number, plan },
})

/** Drops the folded state, so that the next reader folds anew (a revision was issued). */
export const forget = (wall: string) => folded.delete(wall)
