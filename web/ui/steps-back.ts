'use client'

import { useState } from 'react'
import { temporal } from 'zundo'
import { useStore } from 'zustand'
import { createStore } from 'zustand/vanilla'

/** Steps that can be taken back. */
const DEPTH = 200

interface Held<T> {
  readonly now: T
}

/** Something that is changed in steps, each of which can be taken back and done again. */
export interface Steps<T> {
  now(): T
  /**
   * Changes it. Changes with the same key in a row are one step: a drag, a number typed digit by digit. What changes nothing is none.
   *
   * @param change - what it is made into, from what it is
   */
  edit(change: (now: T) => T, key?: string): void
  /** What comes next is a step of its own. */
  settle(): void
  undo(): void
  redo(): void
}

/** The steps of something, over a store that keeps what was before; for {@link useSteps} and its tests. */
export function stepsFrom<T>(start: T) {
  const store = createStore<Held<T>>()(temporal((): Held<T> => ({ now: start }), { limit: DEPTH, equality: (a, b) => a.now === b.now }))
  const history = store.temporal
  let last: string | undefined
  const steps: Steps<T> = {
    now: () => store.getState().now,
    edit: (change, key) => {
      const before = steps.now()
      const next = change(before)
      if (next === before) return
      const goesOn = key !== undefined && key === last
      if (goesOn) history.getState().pause()
      store.setState({ now: next })
      if (goesOn) history.getState().resume()
      last = key
    },
    settle: () => {
      last = undefined
    },
    undo: () => {
      last = undefined
      history.getState().undo()
    },
    redo: () => {
      last = undefined
      history.getState().redo()
    },
  }
  return { store, history, steps }
}

/**
 * Something that is changed in steps, and whether there is one to take back or to do again.
 *
 * @param start - what it is before the first step
 * @example const { now, steps, canUndo } = useSteps(plan)
 */
export function useSteps<T>(start: T) {
  const [{ store, history, steps }] = useState(() => stepsFrom(start))
  return {
    steps,
    now: useStore(store, (s) => s.now),
    canUndo: useStore(history, (h) => h.pastStates.length > 0),
    canRedo: useStore(history, (h) => h.futureStates.length > 0),
  }
}
