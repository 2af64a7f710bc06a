'use client'

import type { RecordedEntry } from '@stone-tally/core'
import Dexie from 'dexie'
import { device } from './db'

/** Entries that came one by one are written into one piece until it is so long, characters. */
const PIECE = 32_000

export const linesOf = (text: string): RecordedEntry[] => text.split('\n').flatMap((l) => (l ? [JSON.parse(l) as RecordedEntry] : []))

/**
 * What this device has of a record, in order and without a gap. A piece that is gone or cannot be read ends it: what comes after is
 * asked for anew.
 *
 * @param after - number of the last entry one has
 * @param take - gets entries piece by piece
 * @returns number and link of the last entry there is
 */
export async function readLog(
  wall: string,
  after: number,
  take: (entries: readonly RecordedEntry[]) => Promise<void> | void,
): Promise<{ seq: number; hash?: string | undefined }> {
  const db = device()
  const head = await db.heads.get(wall)
  let seq = 0
  // The keys alone first: so many pieces are not held at once.
  const keys = (await db.pages.where('[wall+from]').between([wall, Dexie.minKey], [wall, Dexie.maxKey]).primaryKeys()) as [string, number][]
  for (const [i, key] of keys.entries()) {
    const next = keys[i + 1]
    if (key[1] > seq + 1) break
    // Everything in it is known.
    if (next && next[1] - 1 <= after) {
      seq = next[1] - 1
      continue
    }
    const list = await pieceAt(key)
    if (!list) break
    await take(list.filter((e) => e.seq > after))
    seq = list[list.length - 1]?.seq ?? seq
  }
  if (head && head.seq === seq) return { seq, hash: head.hash }
  if ((head?.seq ?? 0) <= seq) return { seq }
  // Less than was kept: what stands behind the gap is let go, and asked for anew.
  await db.transaction('rw', db.pages, db.heads, async () => {
    await db.pages
      .where('[wall+from]')
      .between([wall, seq + 1], [wall, Dexie.maxKey])
      .delete()
    await db.heads.put({ wall, seq })
  })
  return { seq }
}

/** The entries of one piece; undefined where it is gone or is not what its key says. */
async function pieceAt(key: [string, number]): Promise<RecordedEntry[] | undefined> {
  const page = await device().pages.get(key)
  if (!page) return undefined
  try {
    const list = linesOf(page.text)
    return list[0]?.seq === page.from && list[list.length - 1]?.seq === page.to ? list : undefined
  } catch {
    return undefined
  }
}

/**
 * Keeps entries that follow on what is kept; others are left out, since a gap is worse than asking again.
 *
 * @param text - entries as lines of JSON, in order
 * @param hash - link of the last of them, where it is known
 */
export async function appendLog(wall: string, text: string, hash?: string): Promise<void> {
  const list = linesOf(text)
  const db = device()
  await db.transaction('rw', db.pages, db.heads, async () => {
    const seq = (await db.heads.get(wall))?.seq ?? 0
    const fresh = list.filter((e) => e.seq > seq)
    const [first] = fresh
    const to = fresh[fresh.length - 1]?.seq
    if (!first || to === undefined || first.seq !== seq + 1) return
    const lines = fresh.map(({ seq, receivedAt, entry }) => `${JSON.stringify({ seq, receivedAt, entry })}\n`).join('')
    const [last] = await db.pages.where('[wall+from]').between([wall, Dexie.minKey], [wall, Dexie.maxKey]).reverse().limit(1).toArray()
    if (last && last.to === seq && last.text.length + lines.length <= PIECE) await db.pages.put({ ...last, to, text: last.text + lines })
    else await db.pages.put({ wall, from: first.seq, to, text: lines })
    await db.heads.put({ wall, seq: to, hash })
  })
}

const ASIDE = 'aside'
/** A record this device had of a wall and the house has not: perhaps all that is left of what was recorded. */
export interface AsideLog {
  readonly id: string
  readonly wall: string
  /** When it was put aside, ISO 8601. */
  readonly at: string
  readonly entries: number
}
const piecesOf = (id: string) => device().pages.where('[wall+from]').between([id, Dexie.minKey], [id, Dexie.maxKey])

/**
 * The house says that its record is another one than this device's, or shorter: what is here is put aside, never thrown away, and the
 * house's is asked for anew.
 */
export async function putLogAside(wall: string, now = new Date()): Promise<void> {
  const db = device()
  const id = `${ASIDE} ${wall} ${now.toISOString()}`
  await db.transaction('rw', db.pages, db.heads, async () => {
    const pages = await piecesOf(wall).toArray()
    await db.pages.bulkPut(pages.map((p) => ({ ...p, wall: id })))
    await piecesOf(wall).delete()
    await db.heads.delete(wall)
  })
}
/** Records that were put aside, of walls this person may open here. */
export async function asideLogs(person: string): Promise<AsideLog[]> {
  const db = device()
  const mine = new Set((await db.walls.toArray()).filter((w) => w.people.includes(person)).map((w) => w.id))
  const found = new Map<string, AsideLog>()
  for (const [id, from] of (await db.pages.where('wall').startsWith(`${ASIDE} `).primaryKeys()) as [string, number][]) {
    const [, wall = '', at = ''] = id.split(' ')
    const to = (await db.pages.get([id, from]))?.to ?? 0
    if (mine.has(wall)) found.set(id, { id, wall, at, entries: Math.max(to, found.get(id)?.entries ?? 0) })
  }
  return [...found.values()]
}
/** What was put aside, as lines of JSON. */
export const asideText = async (id: string): Promise<string> => (await piecesOf(id).toArray()).map((p) => p.text).join('')
/** A person has saved it, or knows that it is not needed. */
export const removeAside = async (id: string): Promise<void> => void (await piecesOf(id).delete())
