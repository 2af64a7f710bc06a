'use client'

import styled from 'styled-components'
import type { Held } from '@/device/kept'
import { Ago } from '@/ui/ago'

export const KeptLine = styled.p`margin: 0; padding: 10px 14px; border-left: 6px solid var(--now); background: var(--panel); max-width: 76ch;`

const many = (n: number, one: string, more: string) => `${n} ${n === 1 ? one : more}`

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
      Revision {held.wall.desk.revisions.length}, {many(held.entries, 'entry', 'entries')} · as of <Ago at={held.wall.contact} /> ·{' '}
      {sizeWords(held.size)}
      {held.waiting > 0 ? <strong> · ◌ {held.waiting} on this device alone</strong> : ''}
    </div>
  )
}
