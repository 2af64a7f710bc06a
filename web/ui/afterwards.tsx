'use client'

import { type ReactNode, useDeferredValue } from 'react'

/**
 * What a press or a letter changes only in the second place: drawings, panels below. The press answers first, with this as it was; then this
 * follows, and is given up half-way where the next press comes before it is done.
 *
 * @param at - what it follows at once, such as the width it is drawn at: nothing is painted at two sizes
 * @example <Afterwards at={width}><Elevation width={width} … /></Afterwards>
 */
export function Afterwards({ at, children }: { at?: unknown; children: ReactNode }) {
  const [later, followed] = [useDeferredValue(children), useDeferredValue(at)]
  return Object.is(followed, at) ? later : children
}
