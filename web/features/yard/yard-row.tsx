'use client'

import { capHeight, formatLength, type Layout, say } from '@stone-tally/core'
import type { ReactNode } from 'react'
import styled from 'styled-components'
import type { YardWall } from '@/server/yard'
import { Condensed, Row } from '@/ui/controls'
import { Elevation } from '@/ui/drawing/elevation'
import { useWidth } from '@/ui/drawing/use-width'
import { laidFor } from '@/ui/laid'
import { Link } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'
import { Tally } from '@/ui/tally'

/** A row of the Yard. */
export const Wall = styled.article`
  border-top: 3px solid var(--ink); padding: 12px 0 4px; display: grid; gap: 10px; grid-template-columns: minmax(0, 1fr);
  h2 a { text-decoration: none; display: inline-flex; align-items: center; min-height: 48px; min-width: 48px; } .drawing { overflow: hidden; min-width: 0; } .open { display: grid; align-content: center; min-height: 48px; } ul { margin: 0; padding: 0; list-style: none; display: grid; gap: 4px; }
`

/** Just tall enough for the wall and its pad at this width. */
function heightFor(layout: Layout, width: number): number {
  const tall =
    Math.max(...layout.tops.map((s) => s.elevation)) -
    Math.min(...layout.steps.map((s) => s.elevation)) +
    capHeight(layout.building) +
    layout.building.foundation.thickness
  return Math.round((width / (layout.plan.length + 1)) * (tall + 0.3))
}

const Key = styled.kbd`
  font: 600 15px/1 'Barlow Condensed', sans-serif; color: var(--soft); border: 1.5px solid var(--line); border-radius: 3px; padding: 3px 7px; margin-left: 10px;
  @media (pointer: coarse), (max-width: 640px) { display: none; }
`
/** The key that opens a wall from the Yard, for who has keys; the last worked on is 1. */
export const KeyOf = ({ place }: { place: number }) => (place < 9 ? <Key aria-hidden>{place + 1}</Key> : null)

/** A wall of the Yard: how far it is, drawn and in numbers, and what is next. @param drawn - false leaves the drawing out until it is wanted */
export function YardRow({ wall, drawn = true, place, children }: { wall: YardWall; drawn?: boolean; place?: number; children?: ReactNode }) {
  const { units } = usePreferences()
  const [ref, width] = useWidth<HTMLDivElement>(1140)
  const laid = drawn ? laidFor(wall.plan) : undefined
  const layout = laid?.ok ? laid.value : undefined
  return (
    <Wall>
      <Row style={{ justifyContent: 'space-between', alignItems: 'baseline' }}>
        <h2>
          <Link href={`/walls/${wall.id}`}>{wall.name}</Link>
          {place === undefined ? null : <KeyOf place={place} />}
        </h2>
        <Condensed style={{ color: 'var(--soft)' }}>
          {wall.madeUp ? 'made up to try · ' : ''}
          {wall.site} · {formatLength(wall.plan.length, units, 1)} long
        </Condensed>
      </Row>
      <div ref={ref} className="drawing">
        <Link href={`/walls/${wall.id}`} aria-label={`Open the Board of ${wall.name}`} className="open">
          {layout ? (
            <Elevation
              layout={layout}
              width={width}
              height={heightFor(layout, width)}
              from={-0.5}
              to={wall.plan.length + 0.5}
              units={units}
              look={(s, c) => wall.cells[`${s}/${c}`] ?? { set: 0, filled: false, open: false }}
              plain
              label={`${wall.name}: ${wall.set} of ${wall.total} units set`}
            />
          ) : null}
        </Link>
      </div>
      <Row style={{ alignItems: 'center', gap: 16 }}>
        {wall.total > 0 ? (
          <>
            {' '}
            <Tally done={wall.set} total={wall.total} height={20} max={50} />
            <Condensed style={{ fontSize: 18 }}>
              {wall.set} of {wall.total} set
            </Condensed>
          </>
        ) : null}
        {wall.findings > 0 ? <strong>▲ {wall.findings} out of tolerance</strong> : null}
        {wall.holds.length > 0 ? <strong>⬣ waits for release: {wall.holds.join('; ')}</strong> : null}
      </Row>
      {children}
      <ul>
        {wall.next.map((n) => (
          <li key={n.section}>
            Next: <strong>{n.title}</strong>
            {n.blocked ? <span style={{ color: 'var(--soft)' }}> · {say(n.blocked, units)}</span> : null}
          </li>
        ))}
      </ul>
    </Wall>
  )
}
