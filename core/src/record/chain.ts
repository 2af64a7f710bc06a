import { sha256 } from '@noble/hashes/sha2'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils'
import { canonical } from '../base/canonical'
import type { ChainedEntry, RecordedEntry } from './entry'

/** SHA-256 of a text in UTF-8, as 64 hex digits. */
export type Digest = (text: string) => string

const digest: Digest = (text) => bytesToHex(sha256(utf8ToBytes(text)))

/** Fingerprint of a plan, kept in the record when a revision is issued. SHA-256 of its canonical JSON. */
export const planHash = (plan: unknown, by: Digest = digest) => by(canonical(plan))

/**
 * Link of an entry: SHA-256 of previous link, number, time received and the entry's canonical JSON, a line each.
 * The database makes it in the transaction; this is the same sum for anyone who has only the file.
 *
 * @param previous - link before; the wall's id for the first
 * @param by - another way to the same sum, where the platform has a faster one
 */
export const linkOf = (previous: string, e: RecordedEntry, by: Digest = digest) => by(`${previous}\n${e.seq}\n${e.receivedAt}\n${canonical(e.entry)}`)

/** What a check finds wrong first. */
export interface ChainFault {
  readonly intact: false
  /** Number of the entry it was found at. */
  readonly seq: number
  readonly fault: 'altered' | 'removed' | 'reordered' | 'revision' | 'photo' | 'checkpoint'
  readonly message: string
}
/** What a check of the chain finds. */
export type ChainReport = { readonly intact: true; readonly entries: number; readonly head: string } | ChainFault

/** @example fault(7, 'removed', 'entry 7 was removed') */
export const chainFault = (seq: number, fault: ChainFault['fault'], message: string): ChainFault => ({ intact: false, seq, fault, message })

/** Walks a chain entry by entry, keeping nothing of what it has passed. */
export interface ChainWalk {
  /** The next entry; what is wrong with it, or undefined. */
  take(e: ChainedEntry): ChainFault | undefined
  /** Where it stands now. */
  readonly at: { readonly seq: number; readonly hash: string }
}

/**
 * Begins at the wall itself, or goes on from a link that is known.
 *
 * @example const walk = chainWalk(wall); for (const e of entries) if (walk.take(e)) …
 */
export function chainWalk(wall: string, by: Digest = digest, from: ChainWalk['at'] = { seq: 0, hash: wall }): ChainWalk {
  let at = { seq: from.seq, hash: from.hash }
  return {
    take(e) {
      const expected = at.seq + 1
      if (e.seq > expected) return chainFault(expected, 'removed', `entry ${expected} was removed`)
      if (e.seq !== expected) return chainFault(e.seq, 'reordered', `entry ${e.seq} stands where entry ${expected} belongs: the order was changed`)
      if (e.entry === null || typeof e.entry !== 'object') return chainFault(e.seq, 'altered', `entry ${e.seq} is not an entry`)
      if (linkOf(at.hash, e, by) !== e.hash) return chainFault(e.seq, 'altered', `entry ${e.seq} was altered, or another was put in its place`)
      at = { seq: e.seq, hash: e.hash }
      return undefined
    },
    get at() {
      return at
    },
  }
}

/** Does a chain end where it is said to? @returns what is wrong, or undefined */
export function endFault(at: ChainWalk['at'], head: { seq: number; hash: string }): ChainFault | undefined {
  if (head.seq > at.seq) return chainFault(at.seq + 1, 'removed', `entry ${at.seq + 1} was removed: the record went up to ${head.seq}`)
  if (head.hash !== at.hash) return chainFault(head.seq, 'altered', `entry ${head.seq} is not the one the record ended with`)
  return undefined
}

/**
 * Of a list that is all there it can be told whether a number is missing or only stands elsewhere.
 *
 * @param expected - number that comes next
 */
export const movedFault = (e: ChainedEntry, expected: number, entries: readonly ChainedEntry[]): ChainFault | undefined =>
  e.seq > expected && entries.some((other) => other.seq === expected)
    ? chainFault(e.seq, 'reordered', `entry ${e.seq} stands where entry ${expected} belongs: the order was changed`)
    : undefined

/**
 * Walks the chain and names the first entry that was altered, removed or moved.
 *
 * @param head - number and link of the last entry as exported
 * @example verifyChain(file.wall, file.entries, file.head)
 */
export function verifyChain(wall: string, entries: readonly ChainedEntry[], head?: { seq: number; hash: string }): ChainReport {
  const walk = chainWalk(wall)
  for (const e of entries) {
    const wrong = movedFault(e, walk.at.seq + 1, entries) ?? walk.take(e)
    if (wrong) return wrong
  }
  return (head && endFault(walk.at, head)) ?? { intact: true, entries: entries.length, head: walk.at.hash }
}
