'use client'

import { useEffect, useRef, useState } from 'react'
import { Button as AriaButton } from 'react-aria-components'
import styled from 'styled-components'
import { Link } from '@/ui/link'
import { useMatches } from '@/ui/use-matches'
import { Find } from './find-dialog'
import { GROUPS, type Group, hrefOf, PLACES, type PlaceId } from './places'
import { useHere } from './provider'
import { Standing } from './standing'

const Nav = styled.nav`
  display: flex; flex-wrap: wrap; align-items: stretch; gap: 0 14px; border-bottom: 1px solid var(--line);
  a, button { display: inline-flex; align-items: center; justify-content: center; min-height: 48px; min-width: 48px; white-space: nowrap; }
  a[aria-current] { text-decoration: none; font-weight: 700; box-shadow: inset 0 -3px 0 var(--now); }
  button { padding: 0; border: 0; background: none; color: var(--ink); font: 600 16px/1 'Archivo Variable', sans-serif; cursor: pointer; gap: 6px; }
  button[aria-expanded='true'] { color: var(--soft); font-weight: 500; cursor: default; }
  .group { display: flex; gap: 0 14px; align-items: stretch; padding-left: 14px; border-left: 1px solid var(--line); }
  .group[data-open] { background: var(--faint); padding-right: 14px; }
  @media (max-width: 1000px) {
    gap: 0 10px; .group { display: contents; } .list { order: 1; flex: 1 0 100%; }
    button[aria-expanded='true'] { box-shadow: inset 0 -3px 0 var(--line); color: var(--ink); font-weight: 600; }
  }
  .list { display: flex; flex-wrap: wrap; gap: 0 16px; } .list a { flex: none; }
  @media (max-width: 640px) { .list { flex-wrap: nowrap; overflow-x: auto; min-width: 0; } }
  @media (max-width: 1000px) { .list[data-folded] { display: none; } }
  @media print { display: none; }
`

const groupOf = (here: PlaceId | undefined): Group => PLACES.find((p) => p.id === here)?.group ?? 'build'

/** What a tab is called: places are gone to without a page of the house, which names the wall alone. */
function useTitle(wall: string, place: string | undefined) {
  useEffect(() => {
    document.title = [wall, place, 'Stone Tally'].filter(Boolean).join(' · ')
  }, [wall, place])
}

/**
 * The places of a wall, the same on each of them: its Board one tap away, the others by what one is about, one group unfolded at a time.
 */
export function Places({ here }: { here: PlaceId | undefined }) {
  const { wall, name } = useHere()
  useTitle(name, here === '' ? 'Board' : PLACES.find((p) => p.id === here)?.title)
  const [open, setOpen] = useState<Group>(() => groupOf(here))
  // On the Board of a phone the card comes first: the groups stay folded until one is asked for.
  const [asked, setAsked] = useState(here !== '')
  // On a phone the group is one row that scrolls; where one is stands in its middle. Only the row moves, never the page.
  const list = useRef<HTMLDivElement>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: another group is another row
  useEffect(() => {
    const row = list.current
    const on = row?.querySelector<HTMLElement>('[aria-current]')
    if (row && on) row.scrollLeft = on.offsetLeft - row.offsetLeft - (row.clientWidth - on.offsetWidth) / 2
  }, [open])
  const narrow = useMatches('(max-width: 1000px)')
  const unfolded = (id: Group) => id === open && (asked || narrow === false)
  return (
    <>
      <Nav aria-label="Places of this wall">
        <Link href={hrefOf(wall, '')} {...(here === '' ? { 'aria-current': 'page' as const } : {})}>
          Board
        </Link>
        {GROUPS.map(([id, title]) => (
          <div key={id} className="group" data-open={id === open || undefined}>
            <AriaButton
              aria-expanded={unfolded(id)}
              {...(id === open ? { 'aria-controls': `places-${id}` } : {})}
              onPress={() => {
                setOpen(id)
                setAsked(true)
              }}
            >
              {title}
              <span aria-hidden="true">{unfolded(id) ? '' : '▸'}</span>
            </AriaButton>
            {id === open ? (
              <div ref={list} className="list" id={`places-${id}`} data-folded={!asked || undefined}>
                {PLACES.filter((p) => p.group === id).map((p) => (
                  <Link key={p.id} href={hrefOf(wall, p.id)} {...(p.id === here ? { 'aria-current': 'page' as const } : {})}>
                    {p.title}
                  </Link>
                ))}
              </div>
            ) : null}
          </div>
        ))}
        <Find />
      </Nav>
      <Standing />
    </>
  )
}
