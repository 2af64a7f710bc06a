'use client'

import { type Entry, lineOf, placeOf, type WallState } from '@stone-tally/core'
import { useEffect, useState } from 'react'
import { Caution } from '@/ui/controls'
import { dayWords, momentWords } from '@/ui/day-words'
import { usePreferences } from '@/ui/preferences'

interface SetAside {
  readonly entry: Entry
  readonly cameAt: string
}

/** What waited on devices that the office signed out: no part of the record, shown so that a person can decide what of it happened. */
export function SetAsidePanel({ wall, state }: { wall: string; state: WallState }) {
  const { units } = usePreferences()
  const [list, setList] = useState<readonly SetAside[]>([])
  useEffect(() => {
    fetch(`/api/walls/${wall}/set-aside`)
      .then(async (r) => (r.ok ? setList(((await r.json()) as { list: SetAside[] }).list) : undefined))
      .catch(() => undefined)
  }, [wall])
  if (list.length === 0) return null
  return (
    <section aria-label="Set aside">
      <h2>Set aside from devices that were signed out: {list.length}</h2>
      <Caution>None of this is in the record. Look at each with the crew, and record what was done.</Caution>
      <ul>
        {list.map(({ entry, cameAt }) => (
          <li key={entry.id}>
            {placeOf(entry) ? `${placeOf(entry)} · ` : ''}
            {lineOf(state, entry, { units })} · {entry.by.name}, {momentWords(entry.at)} · came {dayWords(cameAt)}
          </li>
        ))}
      </ul>
    </section>
  )
}
