'use client'

import { useEffect } from 'react'

/** Ctrl or ⌘ with Z takes a step back, with Y or shift and Z forward again; within a field the browser's own undo stays. */
export function useUndoKeys(undo: () => void, redo: () => void) {
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const on = document.activeElement
      if (on instanceof HTMLInputElement || on instanceof HTMLTextAreaElement) return
      if (!(e.ctrlKey || e.metaKey)) return
      const key = e.key.toLowerCase()
      if (key === 'z' && !e.shiftKey) undo()
      else if (key === 'y' || (key === 'z' && e.shiftKey)) redo()
      else return
      e.preventDefault()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [undo, redo])
}
