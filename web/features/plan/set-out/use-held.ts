'use client'

import type { Handle, Put } from '@stone-tally/core'
import { useEffect, useRef } from 'react'
import type { Draft } from './use-draft'

/** How often the plan follows a hand, ms: often enough to be seen, seldom enough for a drag to stay smooth. */
const FOLLOW = 120

/** Follows a hand that moves something: shown at once, given to the plan now and then, and the last of it for certain. */
export function useHeld(draft: Pick<Draft, 'edit' | 'settle'>, show: (held: { id: string; to: Put } | undefined) => void) {
  const late = useRef<{ timer: ReturnType<typeof setTimeout>; give(): void }>(undefined)
  const edits = useRef(draft)
  edits.current = draft
  useEffect(() => () => clearTimeout(late.current?.timer), [])
  const give = (h: Handle, to: Put) => edits.current.edit((p) => h.move(p, to), `drag ${h.id}`)
  return {
    put(h: Handle, to: Put) {
      show({ id: h.id, to })
      const waiting = late.current !== undefined
      const next = () => give(h, to)
      if (waiting && late.current) late.current.give = next
      else {
        const entry = {
          give: next,
          timer: setTimeout(() => {
            late.current = undefined
            entry.give()
          }, FOLLOW),
        }
        late.current = entry
      }
    },
    settle() {
      if (late.current) {
        clearTimeout(late.current.timer)
        late.current.give()
        late.current = undefined
      }
      show(undefined)
      edits.current.settle()
    },
  }
}
