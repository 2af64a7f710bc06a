import { type CheckpointCode, codeOf, fail, longCodeOf, ok, type RecordReport, type Result, readCode, type SignedCheckpoint } from '@stone-tally/core'
import QRCode from 'qrcode'
import { checkpointNow } from './checkpoints'
import { database } from './database'
import { headOf } from './record-store'
import { type FaultFound, faultsOf, lastVerification, unlooked, verifyAndKeep } from './verify'

/** A checkpoint as it is given out: to be read out, and to be scanned. */
export interface GivenCode {
  readonly seq: number
  readonly day: string
  readonly code: string
  /** Squares of the QR code of the long one: how many along an edge, and their path in squares. */
  readonly qr: { readonly size: number; readonly path: string }
}

/** The squares as a path: one run of dark ones a piece. */
function squares(text: string): GivenCode['qr'] {
  const { size, data } = QRCode.create(text, { errorCorrectionLevel: 'L' }).modules
  let path = ''
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      if (!data[y * size + x]) continue
      const from = x
      while (x + 1 < size && data[y * size + x + 1]) x++
      path += `M${from} ${y}h${x - from + 1}v1H${from}z`
    }
  return { size, path }
}

const givenCode = (c: SignedCheckpoint): GivenCode => ({ seq: c.seq, day: c.day, code: codeOf(c), qr: squares(longCodeOf(c)) })

/**
 * The code of where the record of a wall stands now, to be printed and sent.
 *
 * @returns undefined where none can be given: no key, something that does not verify and nobody has looked at, or no database
 */
export async function codeFor(wall: string): Promise<GivenCode | undefined> {
  if (await unlooked(wall)) return undefined
  const made = await checkpointNow(wall)
  return made && givenCode(made)
}

/** How a record stands to itself, for whoever wants to know. */
export interface Proof {
  /** When every record was looked at last, if ever. */
  readonly lookedAt: string | undefined
  readonly faults: readonly FaultFound[]
  readonly code: GivenCode | undefined
}

export async function proofOf(wall: string): Promise<Proof> {
  const [last, faults, code] = await Promise.all([lastVerification(), faultsOf(wall), codeFor(wall)])
  return { lookedAt: last?.ended_at.toISOString(), faults, code }
}

/**
 * Holds a code that somebody kept against the record as it is here now: every entry, plan and photo is looked at anew, since a link alone says nothing
 * of what stands beside it.
 *
 * @param found - told of what nobody had found before
 * @returns what it says, or why it does not fit
 */
export async function holdAgainst(
  wall: string,
  text: string,
  found: (message: string) => Promise<void> = async () => {},
): Promise<Result<{ message: string }>> {
  const read = readCode(text)
  if (!read.ok) return read
  const c: CheckpointCode = read.value
  if (!wall.replace(/-/g, '').startsWith(c.wall.replace(/-/g, ''))) return fail('code', 'is of another wall')
  const head = await headOf(wall)
  if (c.seq > head.seq)
    return fail('code', `says that on ${c.day} the record went up to entry ${c.seq}; here it ends at ${head.seq}. Entries were taken out`)
  const there = await database().db.selectFrom('entry').select('hash').where('wall_id', '=', wall).where('seq', '=', c.seq).executeTakeFirst()
  if (!there?.hash.startsWith(c.hash))
    return fail('code', `does not fit: entry ${c.seq} is not the one it was made of on ${c.day}. The record was changed up to there`)
  const report = await verifyAndKeep(wall)
  if (!report.intact && report.isNew) await found(report.message)
  if (!report.intact)
    return fail('code', `does not fit: entry ${c.seq} is the one it was made of, and beside it something was changed: ${report.message}`)
  return ok({
    message: `It fits: up to entry ${c.seq}, as of ${c.day}, this is the record the code was made of. ${head.seq - c.seq} entries came since.`,
  })
}

/** A report in a sentence. @example saidOf(report) // 'Whole: 214 entries, 3 plan revisions, 12 photos, 5 checkpoints.' */
export const saidOf = (r: RecordReport): string =>
  r.intact
    ? `Whole: ${r.entries} entries, ${r.revisions} plan revision${r.revisions === 1 ? '' : 's'}, ${r.photos} photo${r.photos === 1 ? '' : 's'}, ${r.checkpoints} checkpoint${r.checkpoints === 1 ? '' : 's'} looked at.`
    : `Does not verify: ${r.message}.`
