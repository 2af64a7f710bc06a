'use client'

import { useEffect, useState } from 'react'
import styled from 'styled-components'
import type { Held } from '@/device/kept'

export const KeptLine = styled.p`margin: 0; padding: 10px 14px; border-left: 6px solid var(--now); background: var(--panel); max-width: 76ch;`

const MINUTE = 60_000
const HOUR = 60 * MINUTE
const DAY = 24 * HOUR
const many = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`

/** How long ago, in the words people use. @example agoWords(Date.now() - 7_200_000) // '2 hours ago' */
export function agoWords(at: number, now = Date.now()): string {
  const ms = now - at
  if (ms < 2 * MINUTE) return 'just now'
  if (ms < 2 * HOUR) return `${many(Math.round(ms / MINUTE), 'minute')} ago`
  if (ms < 2 * DAY) return `${many(Math.round(ms / HOUR), 'hour')} ago`
  return `${many(Math.round(ms / DAY), 'day')} ago`
}
/** Known once the page runs on the device. */
export function Ago({ at }: { at: number }) {
  const [words, setWords] = useState('')
  useEffect(() => {
    const say = () => setWords(agoWords(at))
    say()
    const again = setInterval(say, MINUTE)
    return () => clearInterval(again)
  }, [at])
  return <>{words}</>
}

/** @example sizeWords(1_300_000) // '1.3 MB' */
export const sizeWords = (bytes: number): string =>
  bytes < 1000
    ? `${bytes} B`
    : bytes < 1e6
      ? `${Math.round(bytes / 1000)} kB`
      : bytes < 1e9
        ? `${(bytes / 1e6).toFixed(1)} MB`
        : `${(bytes / 1e9).toFixed(1)} GB`

/** What is kept of a wall, how old it is and what waits. */
export function Kept({ held }: { held: Held }) {
  return (
    <div>
      Revision {held.wall.desk.revisions.length}, {many(held.entries, 'entry').replace('entrys', 'entries')} · as of <Ago at={held.wall.contact} /> ·{' '}
      {sizeWords(held.size)}
      {held.waiting > 0 ? <strong> · ◌ {held.waiting} on this device alone</strong> : ''}
    </div>
  )
}
