'use client'

import { device } from './db'
import { toSend } from './deliver'
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
      const answer = await fetch(`/api/walls/${wall}/set-aside`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ entries: part.map(toSend) }),
      })
        .then(async (r) => (r.ok ? ((await r.json()) as { kept?: string[] }) : undefined))
        .catch(() => undefined)
      if (!Array.isArray(answer?.kept)) {
        whole = false
        break
      }
      await db.outbox.where('id').anyOf(answer.kept).delete()
    }
  }
  if (!whole) return false
  await emptyDevice()
  tell({ is: 'gone' })
  return true
}

/** What a refused session says of itself. @param response - a 401 of the house */
export async function wasEnded(response: Response): Promise<boolean> {
  const said = (await response
    .clone()
    .json()
    .catch(() => undefined)) as { ended?: unknown } | undefined
  return said?.ended === true
}
