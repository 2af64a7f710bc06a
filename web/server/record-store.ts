import {
  admit,
  advance,
  branch,
  type ChainedEntry,
  canonical,
  type Entry,
  emptyState,
  type FromDevice,
  keptBack,
  type Layout,
  observedAt,
  type PhotoData,
  type Problem,
  type RecordedEntry,
  type ReleaseData,
  type RequestData,
  type RevisionData,
  readEntry,
  sharing,
  storedPlan,
  type Verdict,
  type WallState,
} from '@stone-tally/core'
import type { Person } from './accounts'
import { database } from './database'
import { laidOut } from './layouts'
import { log } from './log'
import { ownAddress } from './people'
import { missingPhoto } from './photos'
import { type FaultFound, unlooked } from './verify'

/** What became of one entry sent in. */
export type Outcome =
  | {
      readonly id: string
      readonly ok: true
      readonly seq: number
      readonly receivedAt: string
      readonly verdict?: Verdict
      /** It was kept back, so what it says of the device's clock is not in the record. */
      readonly uncompared?: true
    }
  | { readonly id: string; readonly ok: false; readonly problems: readonly Problem[] }

/**
 * Folded walls of this process. Only a shortcut: `append_entries` adds nothing when the record has moved past what is
 * folded here, so another process can never be overwritten or judged against an old state.
 */
const folded = new Map<string, Folded>()

interface Folded {
  /** What entries are judged by; while a batch is looked at it is ahead of the record. */
  state: WallState
  /**
   * The record as it is known to be and nothing more, from the first entry recorded here on: what a request leaves behind that fails half-way is
   * thrown away for it, so that no wall is folded anew for one request's misfortune.
   */
  spare: WallState | undefined
  /** Entries that are kept share what is alike in them. */
  readonly share: (entry: Entry) => Entry
  /** The record may have gone on without this process knowing how: it is asked before anything is judged. */
  behind: boolean
}
const queues = new Map<string, Promise<unknown>>()
/** Entries of all folded walls in sum, and walls, that a process keeps: some three hundred megabytes at most. */
const KEEP = { entries: 250_000, walls: 1_000 }

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
export async function entriesAfter(wall: string, seq: number, limit = 2000): Promise<Row[]> {
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

/** Entries taken in before whoever else waits for this process is let through; a few milliseconds. */
const STRIDE = 250
const breathe = () => new Promise<void>((r) => setImmediate(r))
/** A batch is judged so long before others get their turn, ms. */
const LONG = 8

/** Takes entries of the record in: into what is judged by, and into the state to fall back on where there is one. */
function takeIn(kept: Folded, recorded: RecordedEntry) {
  kept.state = advance(kept.state, recorded)
  if (kept.spare) kept.spare = advance(kept.spare, recorded)
}

/** The walls looked at longest ago make room; never the last one. */
function letOldGo() {
  let entries = 0
  for (const f of folded.values()) entries += f.state.entries.length
  for (const [wall, f] of folded) {
    if (folded.size === 1 || (entries <= KEEP.entries && folded.size <= KEEP.walls)) return
    folded.delete(wall)
    entries -= f.state.entries.length
  }
}

async function catchUp(wall: string): Promise<Folded> {
  let kept = folded.get(wall)
  try {
    for (;;) {
      const rows = await entriesAfter(wall, kept?.state.seq ?? 0)
      // A revision this state does not know changes what everything is judged against: start over with it.
      const known = kept?.state.layouts.length ?? Number.POSITIVE_INFINITY
      const read: RecordedEntry[] = []
      for (const [i, r] of rows.entries()) {
        read.push({ seq: r.seq, receivedAt: r.receivedAt, entry: JSON.parse(r.body) as Entry })
        if (i % STRIDE === STRIDE - 1) await breathe()
      }
      if (read.some(({ entry: e }) => e.kind === 'revision' && (e.data as RevisionData).number > known)) {
        kept = undefined
        continue
      }
      kept ??= { state: emptyState(await layoutsOf(wall)), spare: undefined, share: sharing(), behind: false }
      for (const [i, recorded] of read.entries()) {
        takeIn(kept, { ...recorded, entry: kept.share(recorded.entry) })
        if (i % STRIDE === STRIDE - 1) await breathe()
      }
      if (rows.length < 2000) break
    }
  } catch (error) {
    // A database that is away says nothing of what is folded here; an entry that could not be taken in does.
    if ((error as { code?: unknown }).code === undefined) folded.delete(wall)
    throw error
  }
  kept.behind = false
  folded.delete(wall)
  folded.set(wall, kept)
  letOldGo()
  return kept
}

/** The wall as it stands, up to date. For reading only. */
export const stateOf = (wall: string): Promise<WallState> => inTurn(wall, async () => (await catchUp(wall)).state)

/** Does this process hold the wall folded, so that it is up to date at once? */
export const isFolded = (wall: string): boolean => folded.has(wall)

/** An entry as it is sent on. */
export interface Row {
  readonly seq: number
  readonly receivedAt: string
  readonly hash: string
  readonly body: string
}
type Appended = (wall: string, rows: readonly Row[]) => void
const shared = globalThis as { __tallyAppended?: Set<Appended> }
const appended = () => {
  shared.__tallyAppended ??= new Set()
  return shared.__tallyAppended
}
/** Calls back with what this process recorded, in order, when it is committed. */
export const onAppended = (take: Appended) => void appended().add(take)

const UNJUDGED: Problem = {
  field: '',
  message: 'this entry could not be judged and is not recorded; keep it, and tell whoever looks after the installation',
}

/** A decision that lets work go on. */
const isRelease = (e: Entry) => e.kind === 'release' && (e.data as ReleaseData).decision === 'released'

const doesNotVerify = (f: FaultFound): Problem => ({
  field: 'kind',
  message: `the record of this wall does not verify (${f.message}), so nothing is released on it until the office or the inspector has looked; see Record`,
})

interface Admitted {
  readonly entry: Entry
  readonly body: string
  readonly verdict: Verdict | undefined
  readonly uncompared: { readonly uncompared?: true }
}

/** Who records: somebody signed in, or somebody from outside over a link. */
type Recording = Pick<Person, 'id' | 'name' | 'role'>

/**
 * Records a batch: each entry stands or falls by itself, all that stand are committed together before this returns.
 * Sending an entry again is harmless; sending another under the same id is refused.
 *
 * @param person - who is signed in; `by` is set from them whatever the device says
 */
export function recordEntries(
  wall: string,
  person: Recording,
  values: readonly unknown[],
  now: number,
  given?: Given | undefined,
): Promise<Outcome[]> {
  return inTurn(wall, async () => {
    // Entries that made the judgement itself fail: refused by name, so that they never take the others with them.
    const failing = new Set<number>()
    for (let attempt = 0; attempt < 20 + failing.size; attempt++) {
      const here = attempt === 0 ? folded.get(wall) : undefined
      const kept = here && !here.behind ? here : await catchUp(wall)
      kept.spare ??= branch(kept.state)
      let outcome: Outcome[] | undefined
      try {
        outcome = await tryRecord(wall, person, values, now, kept, failing, given)
      } finally {
        if (outcome === undefined) goBack(kept)
      }
      if (outcome) return outcome
    }
    throw new Error(`the record of wall ${wall} is too busy`)
  })
}

/** Back to the record as it is known to be. What was committed after all comes in with the next look. */
function goBack(kept: Folded) {
  if (kept.spare) kept.state = kept.spare
  kept.spare = undefined
  kept.behind = true
}

/** What is known of the device that sends. */
export interface Given {
  /** How far its clock is ahead as it sends, s. */
  readonly ahead?: number | undefined
  /** Its plans and the latest moment it recorded of; asked only where it matters. */
  more(): Promise<FromDevice>
}
/** What is said to be older than this may have been kept back, ms. */
const LATE = 300_000

/** Is it worth asking what the device is known by? It names an older plan, or says that it is not of just now. */
const mayBeLate = (entry: Entry, state: WallState, now: number, from: FromDevice): boolean => {
  if (entry.revision < state.layouts.length) return true
  try {
    return observedAt(entry, from) < now - LATE
  } catch {
    // What it fails on is found where it is judged.
    return true
  }
}

/**
 * The entry as it is believed: of one that was kept back nobody knows how far the clock was ahead, so it counts as made at any time from then to
 * when it came in, wherever something goes by time.
 */
const believed = (entry: Entry, from: FromDevice): Entry => {
  if (entry.clock === undefined || !keptBack(entry, from)) return entry
  const { clock: _, ...rest } = entry
  return rest
}

async function tryRecord(
  wall: string,
  person: Recording,
  values: readonly unknown[],
  now: number,
  kept: Folded,
  failing: Set<number>,
  given: Given | undefined,
): Promise<Outcome[] | undefined> {
  const seen = kept.state.seq
  let from: FromDevice = { revisions: [], ...(given ? { ahead: given.ahead, seen: true } : {}) }
  let asked = false
  const outcomes = new Map<number, Outcome>()
  const sent: (Admitted & { at: number; hash?: string; recorded: { seq: number; receivedAt: string; entry: Entry } })[] = []
  const by = { id: person.id, name: person.name, role: person.role }
  let since = performance.now()
  for (const [at, value] of values.entries()) {
    if (performance.now() - since > LONG) {
      await breathe()
      since = performance.now()
    }
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
      const before = kept.state.byId.get(id)
      if (before) {
        const { clock: _, ...without } = entry.value
        const same = [entry.value, without as Entry].some((e) => canonical(e) === canonical(before.entry))
        if (!same) refuse([{ field: 'id', message: 'was used for another entry; make a new one' }])
        else if (before.seq <= seen) {
          // The answer may have been lost: that its clock is not in the record is said again.
          const kept = entry.value.clock !== undefined && before.entry.clock === undefined ? { uncompared: true as const } : {}
          outcomes.set(at, { id, ok: true, seq: before.seq, receivedAt: before.receivedAt, ...kept })
        } else sent.push({ ...(sent.find((s) => s.entry.id === id) as (typeof sent)[number]), at })
        continue
      }
      if (given && !asked && mayBeLate(entry.value, kept.state, now, from)) {
        asked = true
        from = { ...(await given.more()), ahead: given.ahead, seen: true }
      }
      let verdict: ReturnType<typeof admit>
      let made: Entry
      try {
        made = believed(entry.value, from)
        verdict = admit(kept.state, made, now, from)
      } catch (error) {
        log.error({ err: error })
        failing.add(at)
        refuse([UNJUDGED])
        continue
      }
      const body = canonical(made)
      const held = isRelease(entry.value) ? await unlooked(wall) : undefined
      const unseen = entry.value.kind === 'photo' ? await missingPhoto(wall, entry.value.data as PhotoData) : undefined
      const own = entry.value.kind === 'request' ? await ownAddress(wall, (entry.value.data as RequestData).address) : undefined
      if (!verdict.ok) refuse(verdict.problems)
      else if (held) refuse([doesNotVerify(held)])
      else if (unseen) refuse([unseen])
      else if (own) refuse([own])
      else {
        const recorded = { seq: kept.state.seq + 1, receivedAt: iso(new Date(now)), entry: kept.share(made) }
        try {
          kept.state = advance(kept.state, recorded)
        } catch (error) {
          // The fold may be half done: everything is looked at again without this one.
          log.error({ err: error })
          failing.add(at)
          return undefined
        }
        sent.push({ at, entry: made, body, verdict: verdict.value, recorded, uncompared: made === entry.value ? {} : { uncompared: true } })
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
      s.hash = row.hash
      outcomes.set(s.at, {
        id: s.entry.id,
        ok: true,
        seq: row.seq,
        receivedAt: row.receivedAt,
        ...(s.verdict ? { verdict: s.verdict } : {}),
        ...s.uncompared,
      })
    }
  }
  // Sent before, by way of another process, and others came between: what is folded here lacks those.
  const next = [...new Set(sent.map((s) => s.recorded.seq))].sort((a, b) => a - b)
  if (next.some((seq, i) => seq !== seen + 1 + i)) goBack(kept)
  else {
    for (const [i, s] of sent.entries()) {
      if (kept.spare) kept.spare = advance(kept.spare, { ...s.recorded })
      if (i % STRIDE === STRIDE - 1) await breathe()
    }
    const rows = next.map((seq) => sent.find((s) => s.recorded.seq === seq) as (typeof sent)[number])
    for (const take of appended())
      take(
        wall,
        rows.map((s) => ({ seq: s.recorded.seq, receivedAt: s.recorded.receivedAt, hash: s.hash ?? '', body: s.body })),
      )
  }
  return values.map((_, at) => outcomes.get(at) as Outcome)
}

async function append(wall: string, seen: number, batch: readonly Admitted[]) {
  const unique = [...new Map(batch.map((b) => [b.entry.id, b])).values()]
  const { rows } = await database().pool.query<{ id: string; seq: number; received_at: Date; hash: string }>({
    name: 'append',
    text: 'SELECT id, seq, received_at, hash FROM append_entries($1::uuid, $2, $3::uuid[], $4::text[])',
    values: [wall, seen, unique.map((b) => b.entry.id), unique.map((b) => b.body)],
  })
  return new Map(rows.map((r) => [r.id, { seq: r.seq, receivedAt: iso(r.received_at), hash: r.hash }]))
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
