'use client'

import type { Plan } from '@stone-tally/core'
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react'
import type { Fact, Me } from '@/device/recording'
import { storeOf } from '@/device/stores'
import { WallStore } from '@/device/wall-store'
import type { RecordResult, WallView } from '@/device/wall-view'
import { laidFor } from '@/ui/laid'
import { noteRevision } from './revision-banner'

export type { Refused } from '@/device/db'
export type { Fact, Me } from '@/device/recording'
export type { RecordResult } from '@/device/wall-view'

export interface WallFeed extends WallView {
  /** Sends a refused entry once more, or puts it aside. */
  again(id: string): void
  aside(id: string): void
  /** What was recorded on both sides is looked at, and stands. */
  decide(id: string): void
  /** It was read that the record was asked for anew. */
  seenAnew(): void
  record(facts: readonly Fact[]): Promise<RecordResult>
}

const reload = () => window.location.reload()

/**
 * A wall on this device, for what shows it.
 *
 * @param wanted - nothing is asked for until it is
 * @param revised - a revision came into force: everything is judged anew, so start from the server's page
 * @param head - number of the last entry when the house made the page; nought where nobody said
 */
export function useWall(
  wall: string,
  plans: readonly Plan[],
  me: Me,
  wanted = true,
  revised: (number: number, byMe: boolean) => void = reload,
  head = 0,
): WallFeed {
  const [store] = useState(() =>
    storeOf(`${wall} ${plans.length} ${me.id}`, () => {
      const layouts = plans.map((p) => {
        const laid = laidFor(p)
        if (!laid.ok) throw new Error(laid.problems[0]?.message)
        return laid.value
      })
      return new WallStore(wall, layouts, me, { revised: () => undefined, signedOut: () => undefined })
    }),
  )
  // Of the page as it came: what is recorded since is followed.
  const told = useRef(head)
  useEffect(() => {
    store.events = {
      revised: (number, byMe) => {
        noteRevision(wall, number)
        revised(number, byMe)
      },
      signedOut: () => window.location.assign('/sign-in'),
    }
    if (!wanted) return
    store.start(told.current)
    return () => store.end()
  }, [store, wanted, wall, revised])
  const view = useSyncExternalStore(store.subscribe, store.get, store.get)
  return useMemo(
    () => ({ ...view, again: store.again, aside: store.aside, decide: store.decide, seenAnew: store.seenAnew, record: store.record }),
    [view, store],
  )
}
