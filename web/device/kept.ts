'use client'

import { type Plan, storedPlan } from '@stone-tally/core'
import Dexie from 'dexie'
import { compare } from './clock'
import { type Desk, device, type KeptWall } from './db'

/** Walls nobody asked to keep are let go once so many newer ones are here. */
const OPENED = 12

/**
 * Keeps what a wall needs to be opened without a signal, if the house answers; otherwise what is kept stays as it is.
 *
 * @param person - who has opened it: only who did may open it here again
 */
export async function keepWall(wall: string, person: string): Promise<void> {
  const db = device()
  const before = await db.walls.get(wall)
  const asked = Date.now()
  const response = await fetch(`/api/walls/${wall}/desk${before ? `?have=${before.mark}` : ''}`).catch(() => undefined)
  const mark = response?.headers?.get?.('x-desk')
  if (!response?.ok || !mark) return
  compare(response, asked)
  const desk = response.status === 204 ? before?.desk : ((await response.json()) as Desk)
  if (!desk) return
  await db.walls.put({
    id: wall,
    desk,
    mark,
    people: [...new Set([...(before?.people ?? []), person])],
    contact: Date.now(),
    keep: before?.keep ?? false,
  })
  await letOldGo()
}

/** Walls that were only looked at make room for newer ones; never one in which something waits. */
async function letOldGo() {
  const db = device()
  const loose = (await db.walls.toArray()).filter((w) => !w.keep).sort((a, b) => b.contact - a.contact)
  for (const w of loose.slice(OPENED)) if ((await waitingIn(w.id)) === 0) await removeWall(w.id)
}

/** Entries, refusals and photos that are on this device alone. */
export async function waitingIn(wall: string): Promise<number> {
  const db = device()
  const counts = await Promise.all([
    db.outbox.where('wall').equals(wall).count(),
    db.refused.where('wall').equals(wall).count(),
    db.photos.where('wall').equals(wall).count(),
  ])
  return counts.reduce((a, b) => a + b, 0)
}

/** Takes a wall off the device, but nothing that is on this device alone. */
export async function removeWall(wall: string): Promise<void> {
  const db = device()
  await db.transaction('rw', db.walls, db.pages, db.heads, async () => {
    await db.walls.delete(wall)
    await db.pages.where('[wall+from]').between([wall, Dexie.minKey], [wall, Dexie.maxKey]).delete()
    await db.heads.delete(wall)
  })
}

/** Asks for a wall to stay here, or lets it go with the others. */
export const setKeep = (wall: string, keep: boolean): Promise<number> => device().walls.update(wall, { keep })

/** A wall of this device for this person. */
export async function wallHere(wall: string, person: string): Promise<KeptWall | undefined> {
  const found = await device().walls.get(wall)
  return found?.people.includes(person) ? found : undefined
}
/** Its plans as this version of the application works with them. */
export const plansOf = (kept: KeptWall): readonly Plan[] => kept.desk.revisions.map((r) => storedPlan(r.plan as object))

/** What is kept of one wall, for people. */
export interface Held {
  readonly wall: KeptWall
  readonly entries: number
  /** On this device alone. */
  readonly waiting: number
  /** Characters kept, about as many bytes. */
  readonly size: number
}
/** Walls of this device for this person, newest contact first. */
export async function wallsHere(person: string): Promise<Held[]> {
  const db = device()
  const walls = (await db.walls.toArray()).filter((w) => w.people.includes(person)).sort((a, b) => b.contact - a.contact)
  return Promise.all(
    walls.map(async (wall): Promise<Held> => {
      let size = JSON.stringify(wall.desk).length
      await db.pages
        .where('[wall+from]')
        .between([wall.id, Dexie.minKey], [wall.id, Dexie.maxKey])
        .each((p) => {
          size += p.text.length
        })
      const head = await db.heads.get(wall.id)
      return { wall, size, entries: head?.seq ?? 0, waiting: await waitingIn(wall.id) }
    }),
  )
}
