import { createHash } from 'node:crypto'
import { createReadStream, existsSync, readFileSync, statSync } from 'node:fs'
import {
  type CheckpointCode,
  chainFault,
  type HeldAgainst,
  isRecordStart,
  LINE_LIMIT,
  type RecordFile,
  type RecordReport,
  readCode,
  recordLines,
  type Sums,
  verifyRecordFile,
} from '@stone-tally/core'

/** Something a person can put right: said in a line, with the exit code. */
export class RecordTrouble extends Error {
  constructor(
    readonly code: 1 | 2,
    message: string,
  ) {
    super(message)
  }
}

const SUMS: Sums = {
  text: (text) => createHash('sha256').update(text, 'utf8').digest('hex'),
  base64: (text) => createHash('sha256').update(Buffer.from(text, 'base64')).digest('hex'),
}

/** A file of another layout than ours is read whole, up to this size, bytes. */
const WHOLE = 400 * 1024 * 1024

/** Lines of a file as they are read; never more than one of them is kept. */
async function* linesOf(path: string): AsyncGenerator<string> {
  let rest: string[] = []
  let length = 0
  for await (const chunk of createReadStream(path, { encoding: 'utf8', highWaterMark: 1 << 20 })) {
    const parts = (chunk as string).split('\n')
    for (const part of parts.slice(0, -1)) {
      yield rest.join('') + part
      rest = []
      length = 0
    }
    const last = parts[parts.length - 1] as string
    rest.push(last)
    length += last.length
    if (length > LINE_LIMIT) throw new RecordTrouble(2, `tally: ${path} has a line of more than ${LINE_LIMIT / 1048576} MB; it is no export of ours`)
  }
  if (length > 0) yield rest.join('')
}

/** The first line, without reading more of the file than it may be long. */
async function firstLine(path: string): Promise<string> {
  for await (const chunk of createReadStream(path, { encoding: 'utf8', end: 8191 })) return (chunk as string).split('\n')[0] ?? ''
  return ''
}

function whole(path: string, against: HeldAgainst): RecordReport {
  const { size } = statSync(path)
  if (size > WHOLE)
    throw new RecordTrouble(
      2,
      `tally: ${path} is ${(size / 1048576).toFixed(0)} MB and was not written a line an entry; export it again, then its length does not matter`,
    )
  let file: Partial<RecordFile> & { format?: unknown }
  try {
    file = JSON.parse(readFileSync(path, 'utf8').replace(/^\uFEFF/, ''))
  } catch {
    throw new RecordTrouble(2, `tally: ${path}: file: is not complete JSON; export it again`)
  }
  if (file?.format !== 'stone-tally') throw new RecordTrouble(2, `tally: ${path}: format: must be "stone-tally"`)
  const { wall, revisions, entries, head } = file
  if (typeof wall !== 'string' || !Array.isArray(revisions) || !Array.isArray(entries) || typeof head !== 'object' || head === null)
    throw new RecordTrouble(2, `tally: ${path}: entries: is missing: this is a plan, not a record`)
  return verifyRecordFile(file as RecordFile, against)
}

/**
 * Checks an exported record of any length.
 *
 * @param against - codes that were kept, each as text or as a file that holds it; `key` of the installation, 64 hex digits
 * @example await verifyFile('wall.tally.json', { codes: ['stone1 …'], key: undefined })
 */
export async function verifyFile(path: string, { codes, key }: { codes: readonly string[]; key: string | undefined }): Promise<RecordReport> {
  if (!existsSync(path)) throw new RecordTrouble(2, `tally: cannot read ${path}: there is no such file`)
  if (key !== undefined && !/^[0-9a-f]{64}$/.test(key))
    throw new RecordTrouble(2, 'tally: --key takes the public key of an installation, 64 hex digits')
  const held = codes.map((c): CheckpointCode => {
    const read = readCode(existsSync(c) ? readFileSync(c, 'utf8') : c)
    if (!read.ok) throw new RecordTrouble(2, `tally: --against: code: ${read.problems[0]?.message}`)
    return read.value
  })
  const against: HeldAgainst = { codes: held, key, sums: SUMS }
  const first = await firstLine(path)
  if (!isRecordStart(first)) return whole(path, against)
  const lines = recordLines(first, against)
  if (!lines.ok) throw new RecordTrouble(2, `tally: ${path}: ${lines.problems[0]?.field}: ${lines.problems[0]?.message}`)
  let begun = false
  for await (const line of linesOf(path)) {
    if (begun && lines.value.take(line)) break
    begun = true
  }
  return begun ? lines.value.end() : chainFault(1, 'removed', 'the file is empty')
}

/** What was looked at, as sentences. */
export function saidOf(r: RecordReport): string {
  if (!r.intact) return `not intact: ${r.message}`
  const more = [
    `${r.revisions} plan revisions`,
    `${r.photos} photos${r.photosLeftOut > 0 ? ` (${r.photosLeftOut} are not in the file and were not looked at)` : ''}`,
    `${r.checkpoints} checkpoints${r.keys.length > 0 ? ` signed by ${r.keys.join(', ')}` : ''}`,
    `${r.codes} codes from outside`,
  ]
  return `intact: ${r.entries} entries, ends with ${r.head}\n  ${more.join('\n  ')}`
}
