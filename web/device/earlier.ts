'use client'

import { get as getKept, del as letGo } from 'idb-keyval'
import { type BoxedRefusal, device, type KeptPhoto, type Refused, type Waiting } from './db'

const taken = new Map<string, Promise<void>>()

/** A list an earlier version kept; undefined where there is none, the text where it cannot be read. */
function listAt<T>(text: string | null): T[] | string | undefined {
  if (text === null) return undefined
  try {
    const list = JSON.parse(text) as unknown
    return Array.isArray(list) ? (list as T[]) : text
  } catch {
    return text
  }
}

/**
 * Takes over what an earlier version of the application kept for a wall in its own places: entries, refusals, photos. What cannot be
 * read is put aside under a name of its own. Nothing is removed there before it stands here.
 */
export function takeOver(wall: string): Promise<void> {
  const running = taken.get(wall)
  if (running) return running
  const work = move(wall).catch((error) => {
    taken.delete(wall)
    throw error
  })
  taken.set(wall, work)
  return work
}

async function move(wall: string) {
  if (typeof localStorage === 'undefined') return
  const db = device()
  const before = [`outbox:${wall}`, `refused:${wall}`].map((key) => [key, localStorage.getItem(key)] as const)
  const [box, refused] = [listAt<Waiting>(before[0]?.[1] ?? null), listAt<Refused>(before[1]?.[1] ?? null)]
  for (const [name, list] of [
    [`outbox:${wall}`, box],
    [`refused:${wall}`, refused],
  ] as const)
    if (typeof list === 'string') await db.notes.put({ key: `unreadable ${name} ${Date.now()}`, value: list })
  await db.transaction('rw', db.outbox, db.refused, async () => {
    if (Array.isArray(box)) {
      const there = new Set(await db.outbox.where('wall').equals(wall).primaryKeys())
      const known = new Set((await db.outbox.bulkGet([...there])).map((e) => e?.id))
      await db.outbox.bulkAdd(box.filter((e) => !known.has(e.id)))
    }
    if (Array.isArray(refused)) await db.refused.bulkPut(refused.map((r): BoxedRefusal => ({ ...r, id: r.entry.id, wall, aside: 0 })))
  })
  // A tab of the earlier version may have written meanwhile: that is taken over the next time.
  for (const [key, text] of before) if (text !== null && localStorage.getItem(key) === text) localStorage.removeItem(key)
  const photos = await getKept<Omit<KeptPhoto, 'wall'>[]>(`photos:${wall}`).catch(() => undefined)
  if (!photos || photos.length === 0) return
  await db.photos.bulkPut(photos.map((p) => ({ ...p, wall })))
  await letGo(`photos:${wall}`)
}

/** For tests: as if the application had just been opened. */
export const forgetEarlier = () => taken.clear()
