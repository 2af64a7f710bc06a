'use client'

import type { Handle, Put } from '@stone-tally/core'
import { useEffect, useRef } from 'react'
import type { Draft } from './use-draft'

/** How often the plan follows a hand, ms: often enough to be seen, seldom enough for a drag to stay smooth. */
const FOLLOW = 120
/** A long wall follows where the hand rests so long, ms. */
const REST = 250

/** Follows a hand that moves something: shown at once, given to the plan now and then, and the last of it for certain; `large`: only where it rests. */
export function useHeld(draft: Pick<Draft, 'edit' | 'settle'>, show: (held: { id: string; to: Put } | undefined) => void, large = false) {
  const late = useRef<{ timer: ReturnType<typeof setTimeout>; give(): void }>(undefined)
  const edits = useRef(draft)
  edits.current = draft
  useEffect(() => () => clearTimeout(late.current?.timer), [])
  const give = (h: Handle, to: Put) => edits.current.edit((p) => h.move(p, to), `drag ${h.id}`)
  return {
    put(h: Handle, to: Put) {
      show({ id: h.id, to })
      const later = late.current
      if (later && !large) {
        later.give = () => give(h, to)
        return
      }
      clearTimeout(later?.timer)
      const entry = {
        give: () => give(h, to),
        timer: setTimeout(
          () => {
            late.current = undefined
            entry.give()
          },
          large ? REST : FOLLOW,
        ),
      }
      late.current = entry
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
