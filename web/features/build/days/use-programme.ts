'use client'

import { type Otherwise, type Programme, programmeOf, type Seen, type WallState } from '@stone-tally/core'
import { useEffect, useMemo, useState } from 'react'
import { note, noted } from '@/device/db'

/** What the company’s other walls saw of their pace: what the device kept of it first, then what the house says. */
function useSeen(wall: string): readonly Seen[] {
  const [seen, setSeen] = useState<readonly Seen[]>([])
  useEffect(() => {
    let over = false
    const key = `pace ${wall}`
    const take = (list: readonly Seen[] | undefined) => {
      // The same again is nothing new: a programme is not reckoned twice for it.
      if (!over && list) setSeen((had) => (JSON.stringify(had) === JSON.stringify(list) ? had : list))
    }
    void (async () => {
      take(await noted<readonly Seen[]>(key))
      try {
        const r = await fetch(`/api/walls/${wall}/pace`)
        if (!r.ok) return
        const { seen: list } = (await r.json()) as { seen: readonly Seen[] }
        take(list)
        await note(key, list)
      } catch {
        // Without the house the wall's own record is what there is.
      }
    })()
    return () => {
      over = true
    }
  }, [wall])
  return seen
}

/** The programme of a wall, with what it was reckoned with: what is tried otherwise is reckoned with the same. @param today - as 2026-05-31 */
export function useProgramme(wall: string, state: WallState, today: string): { programme: Programme; basis: Otherwise } {
  const seen = useSeen(wall)
  const basis = useMemo<Otherwise>(() => (seen.length > 0 ? { seen } : {}), [seen])
  return { programme: useMemo(() => programmeOf(state, today, basis), [state, today, basis]), basis }
}
