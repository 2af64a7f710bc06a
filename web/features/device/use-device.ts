'use client'

import { useCallback, useEffect, useState } from 'react'
import { type BoxedRefusal, device, type Waiting } from '@/device/db'
import { type Held, removeWall, setKeep, wallsHere } from '@/device/kept'
import { hasPin, setPin } from '@/device/session'
import { hear } from '@/device/tabs'

/** What this device keeps, how much room there is, and what is on it alone. */
export interface OnDevice {
  readonly walls: readonly Held[]
  readonly waiting: readonly Waiting[]
  readonly photos: number
  readonly refused: readonly BoxedRefusal[]
  readonly pin: boolean
  /** May the browser take it away when it needs room? */
  readonly persisted: boolean | undefined
  readonly used: number | undefined
  readonly quota: number | undefined
}

/** @param person - who is at the device: only theirs is shown */
export function useDevice(person: string) {
  const [view, setView] = useState<OnDevice>()
  const look = useCallback(async () => {
    const db = device()
    const storage = typeof navigator === 'undefined' ? undefined : navigator.storage
    const [walls, waiting, photos, refused, pin, persisted, estimate] = await Promise.all([
      wallsHere(person),
      db.outbox.toArray(),
      db.photos.count(),
      db.refused.toArray(),
      hasPin(person),
      storage?.persisted?.().catch(() => undefined),
      storage?.estimate?.().catch(() => undefined),
    ])
    const mine = (owner: string | undefined) => owner === undefined || owner === person
    setView({
      walls,
      photos,
      pin,
      persisted,
      waiting: waiting.filter((e) => mine(e.owner)),
      refused: refused.filter((r) => mine(r.owner)),
      used: estimate?.usage,
      quota: estimate?.quota,
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
    pin: async (pin: string | undefined) => {
      await setPin(person, pin)
      await look()
    },
  }
}
