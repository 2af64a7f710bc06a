'use client'

import { useSyncExternalStore } from 'react'

/**
 * Does a media query hold? Undefined on the server and until the page is alive: then both ways are rendered and the style sheet hides one,
 * so that nothing jumps; afterwards the hidden one need not be drawn.
 *
 * @example useMatches('(max-width: 1000px)')
 */
export function useMatches(query: string): boolean | undefined {
  return useSyncExternalStore(
    (changed) => {
      const list = window.matchMedia?.(query)
      list?.addEventListener('change', changed)
      return () => list?.removeEventListener('change', changed)
    },
    () => window.matchMedia?.(query).matches,
    () => undefined,
  )
}
