'use client'

import styled from 'styled-components'
import { useSay } from './preferences'

const Figure = styled.div`
  display: flex; align-items: baseline; gap: 10px; flex-wrap: wrap;
  b { font-size: 52px; line-height: 1; font-weight: 650; letter-spacing: -.02em; } span { font: 500 19px/1.1 'Barlow Condensed', sans-serif; color: var(--soft); }
`
/** The number that matters, the largest thing on the card. */
export function Hero({ value, unit }: { value: string; unit: string }) {
  const said = useSay()
  return (
    <Figure>
      <b>{said(value)}</b>
      <span>{said(unit)}</span>
    </Figure>
  )
}

const List = styled.dl`
  display: grid; grid-template-columns: auto 1fr auto 1fr; gap: 4px 12px; @media (max-width: 420px) { grid-template-columns: auto 1fr; } margin: 0; font-size: 16px;
  dt { font: 500 16px/1.4 'Barlow Condensed', sans-serif; color: var(--soft); } dd { margin: 0; font-weight: 600; }
`
/** Targets beside what is entered, one line each. */
export function Targets({ list }: { list: readonly (readonly [string, string])[] }) {
  const said = useSay()
  return (
    <List>
      {list.map(([name, value]) => (
        <div key={name} style={{ display: 'contents' }}>
          <dt>{said(name)}</dt>
          <dd>{said(value)}</dd>
        </div>
      ))}
    </List>
  )
}

/** A judgement: shape, words and limit; never colour alone. */
export const Judgement = styled.div<{ $out: boolean }>`
  min-height: 60px; padding: 8px 14px; display: flex; align-items: center; gap: 12px; flex-wrap: wrap;
  border: 2px solid var(--ink); ${(p) => (p.$out ? 'background: var(--stop); color: var(--on-stop); border-color: var(--on-stop);' : 'background: var(--panel);')}
  b { font-size: 26px; line-height: 1.05; } span { font-size: 15px; }
`
