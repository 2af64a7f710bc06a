import { fail, ok, type Result } from '../base/result'
import { type ChainedEntry, type ChainFault, chainFault, type SignedCheckpoint } from '../record'
import { type HeldAgainst, type PhotoOfFile, type RecordCheck, type RecordReport, type RevisionOfFile, recordCheck } from './record-check'

/**
 * The layout of a record file: one JSON object, written so that every revision, checkpoint, entry and photo has a line of its own. Any
 * JSON reader takes it whole; whoever goes by lines needs room for one of them, however long the record is.
 */

/** What stands before the lists. */
export interface RecordFileHead {
  readonly wall: string
  readonly name?: string | undefined
  readonly exportedAt: string
  /** Public key of the installation, where it signs checkpoints. */
  readonly key?: string | undefined
  /** Are the pictures of all photos in it? */
  readonly withPhotos?: 'all' | 'left out' | undefined
}

/** The lists in their order. */
export const RECORD_LISTS = ['revisions', 'checkpoints', 'entries', 'photos'] as const
export type RecordList = (typeof RECORD_LISTS)[number]

/** The first line, which opens the list of revisions. */
export const recordStart = (head: RecordFileHead, format: { format: string; version: number }) =>
  `${JSON.stringify({ ...format, ...head }).slice(0, -1)},"revisions":[\n`

/** Closes the list before and opens the next; the end of the record stands between entries and photos. */
export const recordTurn = (to: Exclude<RecordList, 'revisions'>, head?: { seq: number; hash: string }) =>
  `\n],${to === 'photos' ? `"head":${JSON.stringify(head)},` : ''}"${to}":[\n`

export const RECORD_END = '\n]}\n'

/** Longest line: a photo in base64 and what stands beside it. */
export const LINE_LIMIT = 24 * 1024 * 1024

/** Reads the lines of a record file and checks them as they come. */
export interface RecordLines {
  /** @returns what is wrong, once something is; the rest need not be given */
  take(line: string): ChainFault | undefined
  end(): RecordReport
}

const START = /^\uFEFF?\{"format":"stone-tally",.*,"revisions":\[$/
const isOne = (v: unknown): v is Record<string, unknown> => v !== null && typeof v === 'object' && !Array.isArray(v)

/** Is this the first line of a record in lines? @example isRecordStart(firstLine) */
export const isRecordStart = (line: string) => line.length < 4096 && START.test(line)

const TURN = /^\](?:,"head":(\{.*\}))?,"(checkpoints|entries|photos)":\[$/

/** A list's items, each given to the check. */
function given(check: RecordCheck, list: RecordList, item: Record<string, unknown>): ChainFault | undefined {
  if (list === 'revisions') return check.revision(item as unknown as RevisionOfFile)
  if (list === 'checkpoints') return check.checkpoint(item as unknown as SignedCheckpoint)
  if (list === 'entries') return check.entry(item as unknown as ChainedEntry)
  return check.photo(item as unknown as PhotoOfFile)
}

/**
 * Begins with the first line of a record file.
 *
 * @returns refused where the line is not one of ours
 * @example
 * const lines = recordLines(first, { codes })
 * for (const line of rest) if (lines.value.take(line)) break
 * lines.value.end()
 */
export function recordLines(first: string, against: HeldAgainst = {}): Result<RecordLines> {
  if (!isRecordStart(first)) return fail('file', 'does not begin as a record of a wall does')
  let head: RecordFileHead
  try {
    head = JSON.parse(`${first.replace(/^\uFEFF/, '')}]}`) as RecordFileHead
  } catch {
    return fail('file', 'does not begin as a record of a wall does')
  }
  if (typeof head.wall !== 'string') return fail('wall', 'is missing: this is a plan, not a record')
  const check = recordCheck(head.wall, against)
  let list: RecordList = 'revisions'
  let ends: { seq: number; hash: string } | undefined
  let over = false
  let wrong: ChainFault | undefined
  const broken = (message: string) => {
    wrong ??= chainFault(check.at + 1, 'altered', message)
    return wrong
  }
  const turn = (line: string): ChainFault | undefined => {
    const m = TURN.exec(line)
    const to = m?.[2] as RecordList | undefined
    // A file of before has no checkpoints and no photos; what is there comes in its order.
    if (!m || !to || RECORD_LISTS.indexOf(to) <= RECORD_LISTS.indexOf(list)) return broken(`a line behind entry ${check.at} belongs to nothing`)
    if (m[1]) ends = JSON.parse(m[1]) as { seq: number; hash: string }
    list = to
    return undefined
  }
  return ok({
    take(line) {
      if (wrong) return wrong
      try {
        if (over) return line.trim() === '' ? undefined : broken('something stands behind the end of the record')
        if (line === ']}') {
          over = true
          return undefined
        }
        if (line.startsWith(']')) return turn(line)
        if (line.trim() === '') return undefined
        const item: unknown = JSON.parse(line.endsWith(',') ? line.slice(0, -1) : line)
        if (!isOne(item)) return broken(`a line behind entry ${check.at} is no ${list.slice(0, -1)}`)
        wrong = given(check, list, item)
        return wrong
      } catch (error) {
        if (!(error instanceof SyntaxError)) throw error
        return broken(`a line behind entry ${check.at} cannot be read`)
      }
    },
    end() {
      if (wrong) return wrong
      if (!over) return chainFault(check.at + 1, 'removed', `the file is cut off behind entry ${check.at}; export it again`)
      if (!ends) return chainFault(check.at, 'removed', 'the file does not say where the record ends')
      return check.end(ends, head.withPhotos === 'all')
    },
  })
}
