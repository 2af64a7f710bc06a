'use client'

import { noteApart } from './apart'
import { device } from './db'
import { giveBack, wasEnded } from './give-back'
import { Sender } from './sender'
import { sessionHere } from './session'

const ROUND = 30_000
/** Younger entries are being sent by the page on which they were recorded, ms. */
const SETTLED = 15_000

/**
 * Sends what waits on this device of walls that are not open just now, of the person who is signed in.
 *
 * @returns ends it
 */
export function sendAround(): () => void {
  const senders = new Map<string, Sender>()
  let over = false
  const round = async () => {
    const known = await sessionHere()
    if (over || known?.is !== 'open') return
    const { id } = known.session.me
    const old = Date.now() - SETTLED
    const waiting = (await device().outbox.toArray()).filter((e) => e.owner === id && Date.parse(e.at) < old)
    for (const wall of new Set(waiting.map((e) => e.wall))) {
      const key = `${id} ${wall}`
      const sender =
        senders.get(key) ??
        new Sender(wall, id, {
          recorded: async (list) => {
            await noteApart(wall, id, list)
          },
        })
      senders.set(key, sender)
      if (over) return
      await sender.now()
    }
  }
  const go = () => round().catch(() => undefined)
  const back = () => endedMeanwhile().catch(() => undefined)
  back()
  const first = setTimeout(go, SETTLED)
  const again = setInterval(go, ROUND)
  window.addEventListener('online', go)
  window.addEventListener('online', back)
  return () => {
    over = true
    clearTimeout(first)
    clearInterval(again)
    window.removeEventListener('online', go)
    window.removeEventListener('online', back)
    for (const sender of senders.values()) sender.end()
  }
}

/** Was this device signed out by the office? On whatever page it first speaks with the house again, it gives back what it keeps. */
async function endedMeanwhile() {
  const known = await sessionHere()
  const wall = known && (await device().walls.toCollection().first())
  if (!known || !wall) return
  const answer = await fetch(`/api/walls/${wall.id}/desk?have=${wall.mark}`)
  if (answer.status === 401 && (await wasEnded(answer))) await giveBack(known.session.me.id)
}
