'use client'

import Link from 'next/link'
import { type ReactNode, useEffect, useRef } from 'react'
import styled from 'styled-components'
import { Bar } from '@/ui/bar'
import { Condensed, MAIN, Row } from '@/ui/controls'
import { RefusedPanel } from './refused'
import { RevisionBanner } from './revision-banner'
import { SectionChoice } from './section-choice'
import type { Me, WallFeed } from './use-wall'

const Frame = styled.main.attrs(
  MAIN,
)`max-width: 1280px; margin: 0 auto; padding: 14px 20px 60px; display: grid; gap: 16px; grid-template-columns: minmax(0, 1fr); @media (max-width: 640px) { padding: 10px 10px 40px; }`
const Nav = styled.nav`
  display: flex; gap: 4px 16px; flex-wrap: wrap; a { display: inline-flex; align-items: center; justify-content: center; min-height: 48px; min-width: 48px; } a[aria-current] { text-decoration: none; font-weight: 700; box-shadow: inset 0 -3px 0 var(--now); }
  @media (max-width: 640px) { flex-wrap: nowrap; overflow-x: auto; white-space: nowrap; gap: 18px; a { flex: none; } }
`

const PLACES = [
  ['', 'Board'],
  ['ground', 'Dig and pad'],
  ['water', 'Water'],
  ['layers', 'Layers'],
  ['ahead', 'Ahead'],
  ['checks', 'Checks'],
  ['record', 'Record'],
  ['readings', 'Readings'],
  ['set-out', 'Set-out'],
  ['plan', 'Plan'],
  ['rules', 'Rules'],
  ['print', 'Print'],
] as const
export type Place = (typeof PLACES)[number][0]

/** The places of a wall, the same on each of them. */
export function Places({ wall, here }: { wall: string; here: Place | undefined }) {
  const nav = useRef<HTMLElement>(null)
  // On a phone the row scrolls; where one is stands in its middle. Only the row moves, never the page.
  useEffect(() => {
    const row = nav.current
    const on = row?.querySelector<HTMLElement>('[aria-current]')
    if (row && on) row.scrollLeft = on.offsetLeft - row.offsetLeft - (row.clientWidth - on.offsetWidth) / 2
  }, [])
  return (
    <Nav aria-label="Places of this wall" ref={nav}>
      {PLACES.map(([id, name]) => (
        <Link key={id} href={`/walls/${wall}${id ? `/${id}` : ''}`} {...(id === here ? { 'aria-current': 'page' as const } : {})}>
          {name}
        </Link>
      ))}
    </Nav>
  )
}

export const feedWords = (feed: Pick<WallFeed, 'live' | 'waiting' | 'others'>) =>
  [
    feed.live === 'lost' ? '▲ no connection, what you record is kept here' : feed.waiting > 0 ? `${feed.waiting} waiting to be sent` : '',
    feed.others.length > 0
      ? `▲ entries of ${feed.others.join(' and ')} wait here; they go when ${feed.others.length === 1 ? 'that person signs' : 'they sign'} in`
      : '',
  ]
    .filter(Boolean)
    .join(' · ')

/** The frame of a place of a wall: where one is, the way to the others, the section, and whether the record has come in. */
export function WallPage({
  wall,
  name,
  me,
  feed,
  here,
  title,
  section,
  onSection,
  children,
}: {
  wall: string
  name: string
  me: Me
  feed: WallFeed
  here: Place | undefined
  title: string
  section?: string
  onSection?(section: string): void
  children: ReactNode
}) {
  const { sections } = feed.state.layout.plan
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong> <Condensed style={{ color: 'var(--soft)', marginLeft: 8 }}>{feedWords(feed)}</Condensed>
      </Bar>
      <Frame>
        <Places wall={wall} here={here} />
        <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
          <h1>{title}</h1>
          {section !== undefined && onSection && sections.length > 1 ? (
            <SectionChoice sections={sections} value={section} onChange={onSection} />
          ) : null}
        </Row>
        <RevisionBanner wall={wall} state={feed.state} />
        <RefusedPanel feed={feed} me={me} />
        {feed.loaded ? (
          children
        ) : (
          <p role="status">{feed.live === 'lost' ? 'The record cannot be reached; trying again …' : 'Loading the record …'}</p>
        )}
      </Frame>
    </>
  )
}
