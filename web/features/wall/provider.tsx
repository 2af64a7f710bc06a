'use client'

import type { Plan } from '@stone-tally/core'
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useRef, useState } from 'react'
import { keepWall } from '@/device/kept'
import { signedIn } from '@/device/session'
import { Button, Problems, Row, Stop } from '@/ui/controls'
import { laidFor } from '@/ui/laid'
import { setTypist } from './typed'
import { type Me, useWall, type WallFeed } from './use-wall'

/** The wall one is at: the same for all its places. */
export interface Here {
  readonly wall: string
  readonly name: string
  readonly me: Me
  /** Its revisions, in order. */
  readonly plans: readonly Plan[]
}
interface Holding extends Here {
  readonly feed: WallFeed
  start(): void
  /** Says that a plan is being changed here; what it answers ends that. */
  hold(): () => void
}
const Context = createContext<Holding | undefined>(undefined)

/**
 * One wall for all its places: its record is asked for once, by the first place that shows it, folded once, and followed while one goes
 * from place to place.
 */
export function WallProvider(props: Here & { head?: number | undefined; children: ReactNode }) {
  const { plans } = props
  // A revision that cannot be laid out here stops every place: what is judged by it could be shown wrong.
  const bad = useMemo(
    () =>
      plans.flatMap((p) => {
        const laid = laidFor(p)
        return laid.ok ? [] : laid.problems
      }),
    [plans],
  )
  return bad.length > 0 ? <Problems list={bad} /> : <Held {...props} />
}

function Held({ wall, name, me, plans, head, children }: Here & { head?: number | undefined; children: ReactNode }) {
  const [wanted, setWanted] = useState(false)
  if (typeof window !== 'undefined') setTypist(me.id)
  const drafts = useRef(0)
  const late = useRef(false)
  const [behind, setBehind] = useState<number>()
  // A plan somebody is changing here is not taken away by another's revision.
  const revised = useCallback((number: number, byMe: boolean) => {
    late.current = true
    if (drafts.current === 0) window.location.reload()
    // One's own is on its way to the page that shows it.
    else setTimeout(() => setBehind(number), byMe ? 5000 : 0)
  }, [])
  const hold = useCallback(() => {
    drafts.current++
    return () => {
      drafts.current--
      // Left or taken back: there is nothing more to lose, and nobody goes on working by the plan of before.
      if (late.current && drafts.current === 0) window.location.reload()
    }
  }, [])
  const feed = useWall(wall, plans, me, wanted, revised, head)
  const start = useCallback(() => setWanted(true), [])
  // Opened once where the house answers, it opens here without it.
  const answered = feed.live === 'live'
  useEffect(() => {
    if (!answered) return
    keepWall(wall, me.id).catch((error) => console.error(error))
    signedIn(me)
  }, [answered, wall, me])
  const held = useMemo(() => ({ wall, name, me, plans, feed, start, hold }), [wall, name, me, plans, feed, start, hold])
  return (
    <Context value={held}>
      {behind === undefined ? null : (
        <Stop role="status">
          <strong>
            ≠ Revision {behind} of the plan came into force while you were changing revision {plans.length}.
          </strong>
          <div>What you have typed is still here, but it cannot be issued over the other: note what matters, then start from the new revision.</div>
          <Row>
            <Button onPress={() => window.location.reload()}>Start from revision {behind}</Button>
          </Row>
        </Stop>
      )}
      {children}
    </Context>
  )
}

function useHeld(): Holding {
  const held = useContext(Context)
  if (!held) throw new Error('a place of a wall stands within its wall')
  return held
}

/** The wall one is at. @example useHere().name // 'Loading bay wall' */
export const useHere = (): Here => useHeld()

/** Its record, followed from now on. */
export function useFeed(): WallFeed {
  const { feed, start } = useHeld()
  useEffect(start, [start])
  return feed
}

/** How its record stands on this device, without asking for it. */
export const useStanding = (): WallFeed => useHeld().feed

/** A plan is being changed here and not issued yet: another's revision waits until it is. @param changed - is there anything to lose? */
export function useUnissued(changed: boolean) {
  const hold = useContext(Context)?.hold
  useEffect(() => (changed ? hold?.() : undefined), [changed, hold])
}
