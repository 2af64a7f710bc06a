'use client'

import { type ReactNode, useDeferredValue } from 'react'

/**
 * What a press or a letter changes only in the second place: drawings, panels below. The press answers first, with this as it was; then this
 * follows, and is given up half-way where the next press comes before it is done.
 *
 * @example <Afterwards><Elevation … /></Afterwards>
 */
export const Afterwards = ({ children }: { children: ReactNode }) => useDeferredValue(children)
