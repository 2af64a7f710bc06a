'use client'

import { nowOf, type Step, say, titleOf } from '@stone-tally/core'
import { useMemo } from 'react'
import styled from 'styled-components'
import { Condensed } from '@/ui/controls'
import { Link } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'
import { hrefOf } from './places'
import { useFeed, useHere } from './provider'
import { useNow } from './today'

const Strip = styled.aside`
  display: grid; gap: 0 14px; grid-template-columns: auto minmax(0, 1fr); align-items: center; border-left: 6px solid var(--now); background: var(--panel); padding: 4px 14px;
  &[data-held] { border-left-color: var(--stop); }
  a { display: inline-flex; align-items: center; min-height: 48px; }
  .tag { background: var(--now); color: var(--on-now); font: 600 15px/1 'Barlow Condensed', sans-serif; letter-spacing: .06em; padding: 5px 9px; }
  .rest { min-width: 0; display: flex; flex-wrap: wrap; gap: 0 16px; align-items: center; } .wants { color: var(--soft); font-size: 15px; }
  .held { font-size: 15px; } .held a { min-height: 48px; margin-right: 14px; }
  @media print { display: none; }
`

/** More is no help to choose from; the Checks list them all. */
const OFFERED = 4

function Steps({ list }: { list: readonly Step[] }) {
  const { wall } = useHere()
  if (list.length === 0)
    return (
      <>
        Nothing else of this wall can be done meanwhile; <Link href="/">other walls are in the Yard</Link>
      </>
    )
  return (
    <>
      Meanwhile:{' '}
      {list.slice(0, OFFERED).map((s) => (
        <Link key={s.key} href={hrefOf(wall, '', s.key)} prefetch={false}>
          {titleOf(s)}
        </Link>
      ))}
    </>
  )
}

const Low = styled.p`font-size: 15px; line-height: 1.5; a { display: inline-flex; align-items: center; min-height: 48px; margin-right: 14px; }`
/** Where a section does not go on: what can be done meanwhile, here, in other sections, on other walls. */
export function Meanwhile({ section }: { section: string }) {
  const { state, loaded } = useFeed()
  const at = useNow(state)
  const now = useMemo(() => (loaded ? nowOf(state, section, at) : undefined), [state, section, at, loaded])
  if (!now || now.holds.length === 0) return null
  return (
    <Low>
      <Steps list={now.meanwhile} />
    </Low>
  )
}

/** What is next here, its target, what holds it, and what can be done meanwhile: on every place but the Board, which is all of it. */
export function NowStrip({ section }: { section?: string | undefined }) {
  const { wall } = useHere()
  const { state, loaded } = useFeed()
  const { units } = usePreferences()
  const at = useNow(state)
  const now = useMemo(() => (loaded ? nowOf(state, section, at) : undefined), [state, section, at, loaded])
  if (!loaded) return null
  if (!now)
    return (
      <Strip aria-label="Now">
        <span className="tag">DONE</span>
        <span className="rest">
          Everything {section === undefined ? 'of this wall' : `of section ${section}`} is done and released.
          <Link href={hrefOf(wall, 'print')}>Print its course record</Link>
        </span>
      </Strip>
    )
  const [held] = now.holds
  return (
    <Strip aria-label="Now" data-held={held === undefined ? undefined : true}>
      <span className="tag">NOW</span>
      <span className="rest">
        <Link href={hrefOf(wall, '', now.step.key)} prefetch={false}>
          {now.title}
        </Link>
        {now.wants[0] ? <Condensed className="wants">{say(now.wants[0], units)}</Condensed> : null}
        {held === undefined ? null : (
          <span className="held">
            ⬣ {say(held, units)}
            {now.holds.length > 1 ? `, and ${now.holds.length - 1} more` : ''}. <Steps list={now.meanwhile} />
          </span>
        )}
      </span>
    </Strip>
  )
}
