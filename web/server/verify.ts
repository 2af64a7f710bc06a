import { type ChainFault, chainFault, type RecordReport, type RevisionData, recordCheck } from '@stone-tally/core'
import { sql, type Transaction } from 'kysely'
import pg from 'pg'
import type { Person } from './accounts'
import { type Database, database } from './database'
import { entryOf } from './entry-body'
import { sumOfText } from './sums'
import { thumbFits } from './thumbs'

/** Entries looked at before whoever else waits for this process is let through; a few milliseconds. */
const STRIDE = 250
/** Photos whose sums are asked for at once. */
const PHOTOS = 20
const breathe = () => new Promise<void>((r) => setImmediate(r))

type Look = Transaction<Database>

/** Photos of a wall with the sum of what is kept of them, made where they lie. */
async function* photoSums(tx: Look, wall: string) {
  for (let after = '00000000-0000-0000-0000-000000000000'; ; ) {
    const rows = await tx
      .selectFrom('photo')
      .select(['id', 'name', sql<string>`encode(sha256(content), 'hex')`.as('sum'), sql<string>`encode(sha256(thumb), 'hex')`.as('small')])
      .where('wall_id', '=', wall)
      .where('id', '>', after)
      .orderBy('id')
      .limit(PHOTOS)
      .execute()
    yield* rows
    if (rows.length < PHOTOS) return
    after = rows[rows.length - 1]?.id ?? after
  }
}

/** Table and entry of one revision are written at one moment; so much apart is the same, ms. */
const AT_ONCE = 300_000

/** Who issued a revision and when stands beside its plan as well: it is what the entry of it says, or somebody changed it. */
function otherIssue(
  row: { seq: number; received_at: Date; body: string },
  issues: ReadonlyMap<number, { issued_at: Date; issued_by: string }>,
): ChainFault | undefined {
  if (!row.body.includes('"kind":"revision"')) return undefined
  const entry = entryOf(row.body)
  const number = entry.kind === 'revision' ? (entry.data as RevisionData).number : undefined
  const kept = number === undefined ? undefined : issues.get(number)
  if (!kept) return undefined
  if (kept.issued_by !== entry.by.name)
    return chainFault(row.seq, 'revision', `revision ${number} is kept as issued by ${kept.issued_by}; the record says ${entry.by.name}`)
  return Math.abs(kept.issued_at.getTime() - row.received_at.getTime()) <= AT_ONCE
    ? undefined
    : chainFault(row.seq, 'revision', `revision ${number} is kept as issued on ${iso(kept.issued_at)}; the record says ${iso(row.received_at)}`)
}
const iso = (d: Date) => d.toISOString().slice(0, 16).replace('T', ' ')

/** A wall is called what its first plan calls it, and stands where that says. */
async function misnamed(tx: Look, wall: string, plan: object | undefined): Promise<ChainFault | undefined> {
  const row = await tx.selectFrom('wall').select(['name', 'site']).where('id', '=', wall).executeTakeFirst()
  const first = plan as { name?: string; site?: string } | undefined
  if (!row || !first || (row.name === first.name && row.site === first.site)) return undefined
  return chainFault(1, 'revision', `the wall is kept as “${row.name}”, ${row.site}; its first plan says “${first.name}”, ${first.site}`)
}

/**
 * Looks at the whole record of a wall as it lies in the database at one moment: every link, every plan, every checkpoint, every photo. In
 * steps, so that nobody waits for it. A checkpoint is held to the key it names: one of another key is of a house this was moved from, or
 * forged, and that only a code kept outside tells.
 *
 * @returns what was looked at, or the first fault
 */
export async function verifyWall(wall: string): Promise<RecordReport> {
  const photos: { id: string; name: string; sum: string; small: string }[] = []
  let end = 1
  const report = await database()
    .db.transaction()
    .setIsolationLevel('repeatable read')
    .execute(async (tx) => {
      const check = recordCheck(wall, { sums: { text: sumOfText, base64: (sum) => sum } })
      const head = await tx.selectFrom('chain_head').select(['seq', 'hash']).where('wall_id', '=', wall).executeTakeFirst()
      if (!head) return chainFault(1, 'removed', 'where the record ends is not kept any more')
      const revisions = await tx
        .selectFrom('revision')
        .select(['number', 'plan', 'issued_at', 'issued_by'])
        .where('wall_id', '=', wall)
        .orderBy('number')
        .execute()
      for (const r of revisions) check.revision({ number: r.number, issuedAt: r.issued_at.toISOString(), plan: r.plan as object })
      const issues = new Map(revisions.map((r) => [r.number, r]))
      const wrongName = await misnamed(tx, wall, revisions[0]?.plan as object | undefined)
      if (wrongName) return wrongName
      const marks = await tx.selectFrom('checkpoint').selectAll().where('wall_id', '=', wall).orderBy('seq').execute()
      for (const { wall_id, ...mark } of marks) check.checkpoint({ wall: wall_id, ...mark })
      for (let from = 0; ; ) {
        const rows = await tx
          .selectFrom('entry')
          .select(['seq', 'received_at', 'hash', 'body'])
          .where('wall_id', '=', wall)
          .where('seq', '>', from)
          .orderBy('seq')
          .limit(STRIDE)
          .execute()
        for (const r of rows) {
          const wrong = check.entry({ seq: r.seq, receivedAt: r.received_at.toISOString(), hash: r.hash, entry: entryOf(r.body) })
          if (wrong) return wrong
          const other = otherIssue(r, issues)
          if (other) return other
        }
        if (rows.length < STRIDE) break
        from = rows[rows.length - 1]?.seq ?? from
        await breathe()
      }
      for await (const p of photoSums(tx, wall)) {
        check.photo({ file: p.id, sha256: p.sum, name: '', type: '', content: p.sum })
        photos.push(p)
      }
      end = head.seq
      return check.end(head, true)
    })
  if (!report.intact) return report
  // Outside the transaction: whoever looks holds one connection at a time.
  for (const p of photos)
    if (!(await thumbFits(p.id, p.sum, p.small)))
      return chainFault(end, 'photo', `the small picture of ${p.name} shows something else than the photo`)
  return report
}

/** What was found on a wall, and who looked at it. */
export interface FaultFound {
  readonly number: number
  readonly seq: number
  readonly fault: string
  readonly message: string
  readonly foundAt: string
  readonly look?: { readonly name: string; readonly role: string; readonly words: string; readonly at: string } | undefined
}

/** Everything that was ever found on a wall, oldest first. */
export async function faultsOf(wall: string): Promise<FaultFound[]> {
  const rows = await database()
    .db.selectFrom('record_fault as f')
    .leftJoin('fault_look as l', (j) => j.onRef('l.wall_id', '=', 'f.wall_id').onRef('l.number', '=', 'f.number'))
    .select(['f.number', 'f.seq', 'f.fault', 'f.message', 'f.found_at', 'l.name', 'l.role', 'l.words', 'l.looked_at'])
    .where('f.wall_id', '=', wall)
    .orderBy('f.number')
    .execute()
  return rows.map((r) => ({
    number: r.number,
    seq: r.seq,
    fault: r.fault,
    message: r.message,
    foundAt: r.found_at.toISOString(),
    ...(r.looked_at ? { look: { name: r.name ?? '', role: r.role ?? '', words: r.words ?? '', at: r.looked_at.toISOString() } } : {}),
  }))
}

/** Kept beside the faults when a record verifies again, so that the same fault found later is another. */
const MENDED = 'mended'
const isOpen = (f: FaultFound) => f.fault !== MENDED && f.look === undefined

/**
 * What is said of a wall's record on every place of it: what nobody has looked at; else what was found last, while the record does not verify
 * again.
 */
export async function saidFault(wall: string): Promise<{ message: string; looked: string | undefined } | undefined> {
  const faults = await faultsOf(wall)
  const last = faults[faults.length - 1]
  const fault = faults.find(isOpen) ?? (last?.fault === MENDED ? undefined : last)
  return fault && { message: fault.message, looked: fault.look?.name }
}

/** Does something stand against this record that nobody has looked at? Then nothing is released on it. */
export async function unlooked(wall: string): Promise<FaultFound | undefined> {
  return (await faultsOf(wall)).find(isOpen)
}

/**
 * Keeps what was found, once: the same fault found every night is one fault, until the record verifies again.
 *
 * @returns whether it was new
 */
async function keep(wall: string, report: RecordReport): Promise<boolean> {
  const known = await faultsOf(wall)
  const since = known.slice(known.findLastIndex((k) => k.fault === MENDED) + 1)
  if (report.intact ? since.length === 0 : since.some((k) => k.seq === report.seq && k.fault === report.fault && k.message === report.message))
    return false
  const row = report.intact
    ? { seq: report.entries, fault: MENDED, message: `the record verifies again: ${report.entries} entries` }
    : { seq: report.seq, fault: report.fault, message: report.message }
  const made = await database()
    .db.insertInto('record_fault')
    .values({ wall_id: wall, number: known.length + 1, ...row })
    .onConflict((c) => c.doNothing())
    .returning('number')
    .executeTakeFirst()
  return made !== undefined && !report.intact
}

/** Looks at one wall and keeps what is found. @returns also whether it was new */
export async function verifyAndKeep(wall: string): Promise<RecordReport & { readonly isNew: boolean }> {
  const report = await verifyWall(wall)
  return { ...report, isNew: await keep(wall, report) }
}

/** One at a time in the whole installation, however many processes serve it: the number of its lock. */
const LOCK = 7_423_001

/** What a look at everything came to. */
export interface HouseVerified {
  readonly walls: number
  readonly entries: number
  readonly photos: number
  readonly faults: readonly WallFault[]
}

/** A wall whose record does not verify. */
export interface WallFault {
  readonly wall: string
  readonly name: string
  readonly companyId: string
  readonly fault: ChainFault
  readonly isNew: boolean
}

/**
 * Looks at every record of the installation and keeps what came of it. Where another process is at it, nothing is done.
 *
 * @param keep - false: nothing is kept, for whoever looks from the command line
 */
export async function verifyHouse({ keep: kept = true }: { keep?: boolean } = {}): Promise<HouseVerified | undefined> {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL, keepAlive: true, connectionTimeoutMillis: 5_000 })
  client.on('error', () => {})
  await client.connect()
  try {
    const { rows } = await client.query<{ mine: boolean }>('SELECT pg_try_advisory_lock($1) AS mine', [LOCK])
    if (!rows[0]?.mine) return undefined
    const began = new Date()
    const { db } = database()
    const walls = await db.selectFrom('wall').select(['id', 'name', 'company_id']).orderBy('id').execute()
    const faults: WallFault[] = []
    let entries = 0
    let photos = 0
    for (const w of walls) {
      const report = kept ? await verifyAndKeep(w.id) : { ...(await verifyWall(w.id)), isNew: false }
      if (report.intact) {
        entries += report.entries
        photos += report.photos
      } else faults.push({ wall: w.id, name: w.name, companyId: w.company_id, fault: report, isNew: report.isNew })
    }
    if (kept) await db.insertInto('house_check').values({ began_at: began, walls: walls.length, entries, photos, faults: faults.length }).execute()
    return { walls: walls.length, entries, photos, faults }
  } finally {
    await client.end().catch(() => {})
  }
}

/** The last look at everything, or undefined where there was none. */
export const lastVerification = () => database().db.selectFrom('house_check').selectAll().orderBy('number', 'desc').limit(1).executeTakeFirst()

/** Who looks at what was found: the office and the inspector; the foreman where there is neither. */
export async function mayLook(person: Pick<Person, 'role' | 'companyId'>): Promise<boolean> {
  if (person.role === 'office' || person.role === 'inspector') return true
  if (person.role !== 'foreman') return false
  const other = await database()
    .db.selectFrom('user')
    .select('id')
    .where('companyId', '=', person.companyId)
    .where('role', 'in', ['office', 'inspector'])
    .where('removed_at', 'is', null)
    .limit(1)
    .executeTakeFirst()
  return other === undefined
}

/** Somebody looked at a fault and says what came of it. It stands with the fault for ever. @returns false where somebody had looked already */
export async function lookAtFault(wall: string, number: number, person: Person, words: string): Promise<boolean> {
  const made = await database()
    .db.insertInto('fault_look')
    .values({ wall_id: wall, number, person: person.id, name: person.name, role: person.role, words })
    .onConflict((c) => c.doNothing())
    .returning('number')
    .executeTakeFirst()
  return made !== undefined
}
