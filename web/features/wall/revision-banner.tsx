'use client'

import { type RevisionData, unmatched, type WallState } from '@stone-tally/core'
import { useEffect, useState } from 'react'
import { LinkButton, Quiet, Row, Stop } from '@/ui/controls'

const keyOf = (wall: string) => `revision:${wall}`

/** Notes that a revision came into force while the page was open, so that the page loaded anew can say so. */
export function noteRevision(wall: string, number: number) {
  try {
    sessionStorage.setItem(keyOf(wall), `${number}`)
  } catch {
    // Then it is not said; the plan in force stands on the page all the same.
  }
}

/** A revision came into force while somebody was at work: which, by whom, and what of the record it no longer matches. */
export function RevisionBanner({ wall, state }: { wall: string; state: WallState }) {
  const [number, setNumber] = useState<number>()
  useEffect(() => {
    const noted = Number(sessionStorage.getItem(keyOf(wall)))
    if (noted > 0) setNumber(noted)
  }, [wall])
  if (number === undefined) return null
  const issued = state.entries.find((e) => e.entry.kind === 'revision' && (e.entry.data as RevisionData).number === number)
  const count = unmatched(state).length
  const close = () => {
    sessionStorage.removeItem(keyOf(wall))
    setNumber(undefined)
  }
  return (
    <Stop role="status">
      <strong>
        ≠ Revision {number} of the plan came into force{issued ? `, issued by ${issued.entry.by.name}` : ''}.
      </strong>
      <div>
        {count === 0
          ? 'Everything recorded so far matches it.'
          : `${count === 1 ? 'One step' : `${count} steps`} recorded before no longer match it; each says so where it stands.`}{' '}
        What you were typing is still there.
      </div>
      <Row>
        <LinkButton href={`/walls/${wall}/set-out`}>See what changed</LinkButton>
        <Quiet onPress={close}>I have seen it</Quiet>
      </Row>
    </Stop>
  )
}
