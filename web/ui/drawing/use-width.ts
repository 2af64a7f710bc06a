'use client'

import { type RefCallback, useEffect, useState } from 'react'

/** Width of an element in px, `initial` until it is known; the element may come later than the page. */
export function useWidth<T extends HTMLElement>(initial: number): [RefCallback<T>, number] {
  const [element, setElement] = useState<T | null>(null)
  const [width, setWidth] = useState(initial)
  useEffect(() => {
    if (!element) return
    const observer = new ResizeObserver(([entry]) => entry && setWidth(Math.max(160, Math.round(entry.contentRect.width))))
    observer.observe(element)
    return () => observer.disconnect()
  }, [element])
  return [setElement, width]
}
