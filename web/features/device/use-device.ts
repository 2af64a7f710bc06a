'use client'

import { useCallback, useEffect, useState } from 'react'
import { type BoxedRefusal, device, type Waiting } from '@/device/db'
import { type Held, removeWall, setKeep, wallsHere } from '@/device/kept'
import { type AsideLog, asideLogs, asideText, removeAside } from '@/device/log'
import { type Space, spaceHere } from '@/device/room'
import { daysHere, hasPin, setPin } from '@/device/session'
import { hear } from '@/device/tabs'

/** What this device keeps, how much room there is, and what is on it alone. */
export interface OnDevice {
  readonly walls: readonly Held[]
  readonly waiting: readonly Waiting[]
  readonly photos: number
  readonly refused: readonly BoxedRefusal[]
  readonly pin: boolean
  /** Records that were here and are not in the house. */
  readonly aside: readonly AsideLog[]
  /** May the browser take it away when it needs room? */
  readonly persisted: boolean | undefined
  readonly space: Space | undefined
  /** How long a person stays known here without a word of the house. */
  readonly days: number
}

/** @param person - who is at the device: only theirs is shown */
export function useDevice(person: string) {
  const [view, setView] = useState<OnDevice>()
  const look = useCallback(async () => {
    const db = device()
    const storage = typeof navigator === 'undefined' ? undefined : navigator.storage
    const [walls, waiting, photos, refused, pin, persisted, space, days, aside] = await Promise.all([
      wallsHere(person),
      db.outbox.toArray(),
      db.photos.count(),
      db.refused.toArray(),
      hasPin(person),
      storage?.persisted?.().catch(() => undefined),
      spaceHere(),
      daysHere(),
      asideLogs(person),
    ])
    const mine = (owner: string | undefined) => owner === undefined || owner === person
    setView({
      walls,
      photos,
      pin,
      persisted,
      waiting: waiting.filter((e) => mine(e.owner)),
      refused: refused.filter((r) => mine(r.owner)),
      space,
      days,
      aside,
    })
  }, [person])
  useEffect(() => {
    look().catch((error) => console.error(error))
    return hear(() => look().catch(() => undefined))
  }, [look])
  return {
    view,
    keep: async (wall: string, keep: boolean) => {
      await setKeep(wall, keep)
      // Asked for: the browser is asked not to take it away.
      if (keep) await navigator.storage?.persist?.().catch(() => false)
      await look()
    },
    remove: async (wall: string) => {
      await removeWall(wall)
      await look()
    },
    save: async (id: string) => {
      const link = document.createElement('a')
      link.href = URL.createObjectURL(new Blob([await asideText(id)], { type: 'application/x-ndjson' }))
      link.download = `${id.replace(/[^\w-]+/g, '-')}.ndjson`
      link.click()
      URL.revokeObjectURL(link.href)
    },
    drop: async (id: string) => {
      await removeAside(id)
      await look()
    },
    pin: async (pin: string | undefined) => {
      await setPin(person, pin)
      await look()
    },
  }
}
