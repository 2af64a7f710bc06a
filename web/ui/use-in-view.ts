'use client'

import { type RefCallback, useEffect, useState } from 'react'

/** An element that is nearly on the screen counts, px. */
const NEARLY = '400px 0px'

/** Has an element come on the screen, or nearly? Once it has it stays so. @param at - what is taken at first */
export function useInView<T extends HTMLElement>(at: boolean): [RefCallback<T>, boolean] {
  const [element, setElement] = useState<T | null>(null)
  const [seen, setSeen] = useState(at)
  useEffect(() => {
    if (!element || seen) return
    // On paper, and where nobody can tell, everything is on the screen.
    if (typeof IntersectionObserver === 'undefined') return setSeen(true)
    const observer = new IntersectionObserver((entries) => entries.some((e) => e.isIntersecting) && setSeen(true), { rootMargin: NEARLY })
    observer.observe(element)
    return () => observer.disconnect()
  }, [element, seen])
  return [setElement, seen]
}
