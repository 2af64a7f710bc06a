'use client'

import { type RefCallback, useCallback, useEffect, useState } from 'react'

const LEAST = 160
/** Width inside the padding of an element, px. */
function inner(element: HTMLElement): number {
  const { paddingLeft, paddingRight } = getComputedStyle(element)
  return element.clientWidth - (Number.parseFloat(paddingLeft) || 0) - (Number.parseFloat(paddingRight) || 0)
}

/** Width of an element in px, `initial` until it is known; the element may come later than the page. */
export function useWidth<T extends HTMLElement>(initial: number): [RefCallback<T>, number] {
  const [element, setElement] = useState<T | null>(null)
  const [width, setWidth] = useState(initial)
  const known = useCallback((px: number) => {
    if (px > 0) setWidth(Math.max(LEAST, Math.round(px)))
  }, [])
  // Measured as it comes, before it is painted: what is below it does not move afterwards.
  const ref = useCallback(
    (e: T | null) => {
      setElement(e)
      if (e) known(inner(e))
    },
    [known],
  )
  useEffect(() => {
    if (!element) return
    const observer = new ResizeObserver(([entry]) => entry && known(entry.contentRect.width))
    observer.observe(element)
    return () => observer.disconnect()
  }, [element, known])
  return [ref, width]
}
