'use client'

import { usePathname, useSelectedLayoutSegment } from 'next/navigation'
import { type ReactNode, useCallback } from 'react'
import type { PlaceId } from '@/features/wall/places'
import { type Going, GoingProvider } from '@/ui/link'
import { OWN } from './pages'

/** Wall and place of an address; undefined where it is no place of a wall. @example placeAt('/walls/w1/water') // { wall: 'w1', place: 'water' } */
export function placeAt(pathname: string): { wall: string; place: PlaceId } | undefined {
  const [, walls, wall, place = '', more] = pathname.split('/')
  return walls === 'walls' && wall && wall !== 'new' && more === undefined ? { wall, place: place as PlaceId } : undefined
}

/** Shows an address without asking anybody for it. */
export function show(url: URL) {
  window.history.pushState(null, '', `${url.pathname}${url.search}${url.hash}`)
  if (!url.hash) window.scrollTo(0, 0)
}

/**
 * The place of a wall its address says. Places that need nothing but the record are gone to without a question to the house; the first
 * one comes in the server's HTML.
 */
export function Outlet({ wall, children }: { wall: string; children: ReactNode }) {
  const at = placeAt(usePathname())
  const served = useSelectedLayoutSegment() ?? ''
  const going = useCallback<Going>(
    (href) => {
      const url = new URL(href, window.location.href)
      const to = placeAt(url.pathname)
      if (url.origin !== window.location.origin || to?.wall !== wall || !OWN[to.place]) return false
      show(url)
      return true
    },
    [wall],
  )
  const Own = at && at.place !== served ? OWN[at.place] : undefined
  return <GoingProvider value={going}>{Own ? <Own /> : children}</GoingProvider>
}
