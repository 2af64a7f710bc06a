'use client'

import { useCallback, useEffect, useRef } from 'react'

/**
 * What is typed after the key that opens Find and before its field is there. It is meant for Find, and must not land in a reading on the
 * Board behind it.
 *
 * @returns `early` says what was typed so far, a line's end where Enter was pressed already; `ready` that the field takes over
 */
export function useEarlyKeys(open: boolean, close: () => void) {
  const text = useRef('')
  const there = useRef(false)
  const end = useRef(close)
  end.current = close
  useEffect(() => {
    if (!open) return
    const onKey = (e: KeyboardEvent) => {
      if (there.current || e.ctrlKey || e.metaKey || e.altKey) return
      // Where the field does not come, what stands in its place is pressed as ever.
      if ((e.key === ' ' || e.key === 'Enter') && document.activeElement?.closest('[role="dialog"] button')) return
      if (e.key === 'Escape') end.current()
      else if (e.key === 'Backspace') text.current = text.current.slice(0, -1)
      else if (e.key === 'Enter' && text.current) text.current += '\n'
      else if (e.key.length === 1) text.current += e.key
      else return
      e.preventDefault()
      e.stopImmediatePropagation()
    }
    window.addEventListener('keydown', onKey, true)
    return () => {
      window.removeEventListener('keydown', onKey, true)
      // For the next time; a field that is there at once says so before this is asked again.
      text.current = ''
      there.current = false
    }
  }, [open])
  return {
    early: useCallback(() => text.current, []),
    ready: useCallback(() => {
      there.current = true
    }, []),
  }
}
