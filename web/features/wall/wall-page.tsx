'use client'

import type { ReactNode } from 'react'
import styled from 'styled-components'
import { Bar } from '@/ui/bar'
import { MAIN, Row } from '@/ui/controls'
import { AwayPanel } from './away-panel'
import { NowStrip } from './now-strip'
import { Others } from './others'
import { PlaceTitle } from './place-title'
import type { PlaceId } from './places'
import { Places } from './places-nav'
import { useFeed, useHere } from './provider'
import { RefusedPanel } from './refused'
import { RevisionBanner } from './revision-banner'
import { SectionChoice } from './section-choice'

const Frame = styled.main.attrs(
  MAIN,
)`max-width: 1280px; margin: 0 auto; padding: 14px 20px 60px; display: grid; gap: 16px; grid-template-columns: minmax(0, 1fr); @media (max-width: 640px) { padding: 10px 10px 40px; }`
/** The frame of a place of a wall: where one is, the way to the others, the section, and whether the record has come in. */
export function WallPage({
  here,
  title,
  section,
  onSection,
  children,
}: {
  here: PlaceId | undefined
  title: string
  section?: string
  onSection?(section: string): void
  children: ReactNode
}) {
  const { wall, name, me } = useHere()
  const feed = useFeed()
  const { sections } = feed.state.layout.plan
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong>
      </Bar>
      <Frame>
        <Places here={here} />
        <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
          <PlaceTitle>{title}</PlaceTitle>
          {section !== undefined && onSection && sections.length > 1 ? (
            <SectionChoice sections={sections} value={section} onChange={onSection} />
          ) : null}
        </Row>
        <NowStrip section={section} />
        <Others section={section} step={undefined} />
        <RevisionBanner wall={wall} state={feed.state} />
        <AwayPanel />
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
