'use client'

import { device, type KeptPhoto, type Waiting } from './db'
import { toSend } from './deliver'
import { photoFact, upload } from './photos'
import { entriesOf } from './recording'
import { emptyDevice } from './session'
import { tell } from './tabs'

const BATCH = 200

/**
 * The office has signed this device out: what waits here of that person goes to the house and is set aside for the foreman; then the
 * walls are taken off. What the house did not take stays, and goes at the next contact.
 *
 * @param person - whose session was ended
 * @returns has everything been given back?
 */
export async function giveBack(person: string): Promise<boolean> {
  const db = device()
  const mine = (await db.outbox.toArray()).filter((e) => e.owner === undefined || e.owner === person)
  const walls = new Set(mine.map((e) => e.wall))
  let whole = true
  for (const wall of walls) {
    const own = mine.filter((e) => e.wall === wall)
    for (let i = 0; i < own.length; i += BATCH) {
      const part = own.slice(i, i + BATCH)
      const kept = await hand(wall, part)
      if (!kept) {
        whole = false
        break
      }
      await db.outbox.where('id').anyOf(kept).delete()
    }
  }
  for (const photo of (await db.photos.toArray()).filter((p) => p.owner === undefined || p.owner === person)) {
    const taken = await handPhoto(photo, person)
    if (taken === 'kept') await db.photos.delete(photo.key)
    else if (taken === 'later') whole = false
  }
  if (!whole) return false
  await emptyDevice()
  tell({ is: 'gone' })
  return true
}

/** @returns the ids the house has set aside; undefined where no whole answer came */
async function hand(wall: string, entries: readonly Waiting[]): Promise<readonly string[] | undefined> {
  const answer = await fetch(`/api/walls/${wall}/set-aside`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ entries: entries.map(toSend) }),
  })
    .then(async (r) => (r.ok ? ((await r.json()) as { kept?: string[] }) : undefined))
    .catch(() => undefined)
  return Array.isArray(answer?.kept) ? answer.kept : undefined
}

/** A photo goes first, then what is said of it. What the house will never take stays here, and does not keep the walls here. */
async function handPhoto(photo: KeptPhoto, person: string): Promise<'kept' | 'later' | 'never'> {
  const data = await upload(photo, 'set-aside/photos')
  if ('ok' in data) return !data.ok && data.later ? 'later' : 'never'
  const kept = await device().walls.get(photo.wall)
  const said = entriesOf([photoFact(photo, data)], {
    wall: photo.wall,
    revision: kept?.desk.revisions.length ?? 1,
    me: { id: person, name: '', role: 'crew' },
    knew: 0,
    now: Date.now(),
  })
  return (await hand(photo.wall, said)) ? 'kept' : 'later'
}

/** What a refused session says of itself. @param response - a 401 of the house */
export async function wasEnded(response: Response): Promise<boolean> {
  const said = (await response
    .clone()
    .json()
    .catch(() => undefined)) as { ended?: unknown } | undefined
  return said?.ended === true
}
