'use client'

import { useEffect } from 'react'
import type { UnseenWall, YardWall } from '@/server/yard'
import { Quiet } from '@/ui/controls'
import { Link } from '@/ui/link'
import { useInView } from '@/ui/use-in-view'
import { KeyOf, Wall, YardRow } from './yard-row'

/** A wall of the list: drawn, and where it was not looked at for this page looked at, when it comes on the screen. */
export function WallLine({
  wall,
  failed,
  look,
  place,
}: {
  wall: YardWall | UnseenWall
  failed: boolean
  look: (id: string) => void
  /** From 0: the first nine are one key away. */
  place: number
}) {
  const unseen = 'unseen' in wall
  // What the page was sent whole is drawn in it.
  const [ref, inView] = useInView<HTMLDivElement>(!unseen)
  useEffect(() => {
    if (inView && unseen) look(wall.id)
  }, [inView, unseen, wall.id, look])
  const again = <Quiet onPress={() => look(wall.id)}>Look again</Quiet>
  return (
    <div ref={ref} style={{ minHeight: 120 }}>
      {unseen ? (
        <Wall aria-label={wall.name}>
          <h2>
            <Link href={`/walls/${wall.id}`}>{wall.name}</Link>
            <KeyOf place={place} />
          </h2>
          <p>
            {wall.site} · {failed ? <>No answer came from the house. {again}</> : 'being looked at …'}
          </p>
        </Wall>
      ) : (
        <YardRow wall={wall} drawn={inView} place={place} />
      )}
    </div>
  )
}
