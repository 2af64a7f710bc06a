import { sha256 } from '@noble/hashes/sha2'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils'
import { canonical } from '../base/canonical'
import type { ChainedEntry, RecordedEntry } from './entry'

const digest = (text: string) => bytesToHex(sha256(utf8ToBytes(text)))

/** Fingerprint of a plan, kept in the record when a revision is issued. SHA-256 of its canonical JSON. */
export const planHash = (plan: unknown) => digest(canonical(plan))

/**
 * Link of an entry: SHA-256 of previous link, number, time received and the entry's canonical JSON, a line each.
 * The database makes it in the transaction; this is the same sum for anyone who has only the file.
 *
 * @param previous - link before; the wall's id for the first
 */
export const linkOf = (previous: string, e: RecordedEntry) => digest(`${previous}\n${e.seq}\n${e.receivedAt}\n${canonical(e.entry)}`)

/** What a check of the chain finds. */
export type ChainReport =
  | { readonly intact: true; readonly entries: number; readonly head: string }
  | { readonly intact: false; readonly seq: number; readonly fault: 'altered' | 'removed' | 'reordered'; readonly message: string }

/**
 * Walks the chain and names the first entry that was altered, removed or moved.
 *
 * @param head - number and link of the last entry as exported
 * @example verifyChain(file.wall, file.entries, file.head)
 */
export function verifyChain(wall: string, entries: readonly ChainedEntry[], head?: { seq: number; hash: string }): ChainReport {
  const broken = (seq: number, fault: 'altered' | 'removed' | 'reordered', message: string): ChainReport => ({ intact: false, seq, fault, message })
  let previous = wall
  for (const [i, e] of entries.entries()) {
    const expected = i + 1
    if (e.seq !== expected) {
      if (entries.some((other) => other.seq === expected))
        return broken(e.seq, 'reordered', `entry ${e.seq} stands where entry ${expected} belongs: the order was changed`)
      return broken(expected, 'removed', `entry ${expected} was removed`)
    }
    const link = linkOf(previous, e)
    if (link !== e.hash) return broken(e.seq, 'altered', `entry ${e.seq} was altered, or another was put in its place`)
    previous = e.hash
  }
  if (head && head.seq > entries.length)
    return broken(entries.length + 1, 'removed', `entry ${entries.length + 1} was removed: the record went up to ${head.seq}`)
  if (head && head.hash !== (entries.length > 0 ? previous : wall))
    return broken(head.seq, 'altered', `entry ${head.seq} is not the one the record ended with`)
  return { intact: true, entries: entries.length, head: previous }
}
