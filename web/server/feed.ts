import { watch } from './live'
import { entriesAfter, onAppended, type Row } from './record-store'

/** Entries kept for those who follow a wall, so that a notification is answered from memory. */
const KEEP = 2000
/** Who comes back from further behind is read for by itself; so many at a time. */
const CATCH_UPS = 3
/** After a failed question the next, ms. */
const AGAIN = 500

interface Follower {
  seq: number
  behind: boolean
  readonly take: (events: string) => void
}

interface Feed {
  readonly followers: Set<Follower>
  /** The newest entries, as they are sent. */
  recent: { seq: number; event: string }[]
  /** Everything up to this number was read. */
  upTo: number
  reading: boolean
  again: boolean
  leave: () => void
}

const shared = globalThis as { __tallyFeeds?: Map<string, Feed> }
const feeds = () => {
  shared.__tallyFeeds ??= new Map()
  return shared.__tallyFeeds
}

let running = 0
const queue: (() => void)[] = []
async function inTurn(work: () => Promise<void>): Promise<void> {
  if (running >= CATCH_UPS) await new Promise<void>((r) => queue.push(r))
  running++
  try {
    await work()
  } finally {
    running--
    queue.shift()?.()
  }
}

const eventOf = (r: Row) => `id: ${r.seq}\ndata: {"seq":${r.seq},"receivedAt":"${r.receivedAt}","hash":"${r.hash}","entry":${r.body}}\n\n`

/** Gives a follower what it does not have of the newest entries. */
function hand(feed: Feed, f: Follower) {
  const first = feed.recent[0]?.seq
  if (first === undefined || f.seq >= feed.upTo) return
  const events = feed.recent.slice(Math.max(0, f.seq + 1 - first))
  f.seq = feed.upTo
  if (events.length > 0) f.take(events.map((e) => e.event).join(''))
}

/** Is everything this follower lacks among the newest entries? */
const inReach = (feed: Feed, f: Follower) => f.seq >= feed.upTo || (feed.recent[0]?.seq ?? Number.POSITIVE_INFINITY) <= f.seq + 1

/** Reads what came since the last time: one question for all who follow, however many notifications came meanwhile. */
async function read(wall: string, feed: Feed) {
  feed.again = true
  if (feed.reading) return
  feed.reading = true
  try {
    while (feed.again && feed.followers.size > 0) {
      feed.again = false
      const rows = await entriesAfter(wall, feed.upTo, KEEP)
      if (rows.length === 0) continue
      feed.recent = [...feed.recent, ...rows.map((r) => ({ seq: r.seq, event: eventOf(r) }))].slice(-KEEP)
      feed.upTo = rows[rows.length - 1]?.seq ?? feed.upTo
      if (rows.length === KEEP) feed.again = true
      for (const f of feed.followers) {
        if (f.behind) continue
        if (inReach(feed, f)) hand(feed, f)
        else catchUp(wall, feed, f)
      }
    }
  } catch {
    // The database is away; what was recorded meanwhile is read when it answers again.
    setTimeout(() => feed.followers.size > 0 && read(wall, feed), AGAIN).unref()
  } finally {
    feed.reading = false
  }
}

async function catchUp(wall: string, feed: Feed, f: Follower) {
  f.behind = true
  try {
    await inTurn(async () => {
      while (feed.followers.has(f) && !inReach(feed, f)) {
        const rows = await entriesAfter(wall, f.seq)
        if (rows.length === 0) break
        f.seq = rows[rows.length - 1]?.seq ?? f.seq
        f.take(rows.map(eventOf).join(''))
      }
    })
    f.behind = false
    hand(feed, f)
  } catch {
    setTimeout(() => feed.followers.has(f) && catchUp(wall, feed, f), AGAIN).unref()
  }
}

/**
 * Hands on what was recorded just now by this process, without asking the database for it, where nothing is missing before it. What goes on there
 * meanwhile is read as ever.
 */
function offer(wall: string, rows: readonly Row[]) {
  const feed = feeds().get(wall)
  if (!feed || feed.reading || rows.length === 0 || rows.some((r, i) => r.seq !== feed.upTo + 1 + i)) return
  feed.recent = [...feed.recent, ...rows.map((r) => ({ seq: r.seq, event: eventOf(r) }))].slice(-KEEP)
  feed.upTo = rows[rows.length - 1]?.seq ?? feed.upTo
  for (const f of feed.followers) {
    if (f.behind) continue
    if (inReach(feed, f)) hand(feed, f)
    else catchUp(wall, feed, f)
  }
}

const once = globalThis as { __tallyOffered?: boolean }
if (!once.__tallyOffered) {
  once.__tallyOffered = true
  onAppended(offer)
}

/**
 * Follows the record of a wall: everything after a number, then whatever is recorded, by any process, each entry once and in order.
 * The record is read once for all who follow it in this process.
 *
 * @param after - number of the last entry the follower has
 * @param take - gets server-sent events as text
 * @returns ends it
 * @example const leave = follow(wall, 0, (events) => line.say(events))
 */
export function follow(wall: string, after: number, take: (events: string) => void): () => void {
  let feed = feeds().get(wall)
  const f: Follower = { seq: after, behind: false, take }
  if (!feed) {
    const made: Feed = { followers: new Set(), recent: [], upTo: after, reading: false, again: false, leave: () => {} }
    feeds().set(wall, made)
    feed = made
  }
  const mine = feed
  mine.followers.add(f)
  if (mine.followers.size === 1) {
    // What this process recorded itself was handed on already.
    mine.leave = watch(wall, (seq) => (seq !== undefined && seq <= mine.upTo ? undefined : read(wall, mine)))
    read(wall, mine)
  } else if (inReach(mine, f)) hand(mine, f)
  else catchUp(wall, mine, f)
  return () => {
    mine.followers.delete(f)
    if (mine.followers.size > 0) return
    mine.leave()
    if (feeds().get(wall) === mine) feeds().delete(wall)
  }
}
