'use client'

import { useCallback, useState } from 'react'

/**
 * What somebody is typing, kept on the device until it is recorded or taken back: it outlives another step being looked at, another
 * person's entry, and the page being loaded anew because a revision came into force.
 */
const PREFIX = 'typed'
const wallHere = () => (typeof window === 'undefined' ? '' : (window.location.pathname.split('/')[2] ?? ''))
const keyOf = (scope: string, name: string) => `${PREFIX}|${wallHere()}|${scope}|${name}`

const get = (key: string): string | null => {
  try {
    return window.sessionStorage.getItem(key)
  } catch {
    // A browser that keeps nothing still takes what is typed, as long as the page stands.
    return null
  }
}
const put = (key: string, text: string | undefined) => {
  try {
    if (text === undefined) window.sessionStorage.removeItem(key)
    else window.sessionStorage.setItem(key, text)
  } catch {
    // as above
  }
}

/**
 * A text that is being typed.
 *
 * @param scope - what it belongs to: the step, the point, the finding
 * @param initial - shown while nothing was typed
 * @returns the text, how to change it, and how to let it go (recorded, or taken back)
 * @example const [cause, setCause, letGo] = useTyped(finding.id, 'cause')
 */
export function useTyped(scope: string, name: string, initial = ''): [string, (text: string) => void, () => void] {
  const key = keyOf(scope, name)
  const [held, setHeld] = useState<{ key: string; text: string | undefined }>(() => ({
    key,
    text: typeof window === 'undefined' ? undefined : (get(key) ?? undefined),
  }))
  // Another place has its own text.
  const text = held.key === key ? held.text : typeof window === 'undefined' ? undefined : (get(key) ?? undefined)
  const set = useCallback(
    (next: string) => {
      put(key, next)
      setHeld({ key, text: next })
    },
    [key],
  )
  const letGo = useCallback(() => {
    put(key, undefined)
    setHeld({ key, text: undefined })
  }, [key])
  return [text ?? initial, set, letGo]
}

/** Is anything being typed for this step? @example isTyping(step.key) */
export function isTyping(scope: string): boolean {
  if (typeof window === 'undefined') return false
  try {
    const start = `${PREFIX}|${wallHere()}|${scope}|`
    for (let i = 0; i < window.sessionStorage.length; i++) {
      const key = window.sessionStorage.key(i) ?? ''
      if (key.startsWith(start) && (window.sessionStorage.getItem(key) ?? '').trim() !== '') return true
    }
  } catch {
    // nothing is kept
  }
  return false
}
