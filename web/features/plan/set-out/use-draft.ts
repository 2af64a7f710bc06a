'use client'

import type { Layout, Plan, Problem } from '@stone-tally/core'
import { useCallback, useReducer } from 'react'
import { useLaid } from './use-laid'

interface History {
  readonly past: readonly Plan[]
  readonly now: Plan
  readonly future: readonly Plan[]
  /** Edits with the same key in a row are one step back: a drag, or a number typed digit by digit. */
  readonly key: string | undefined
}
type Action = { type: 'edit'; change: (p: Plan) => Plan; key?: string | undefined } | { type: 'undo' } | { type: 'redo' } | { type: 'settle' }

/** Steps that can be taken back. */
const DEPTH = 200

/** The history of a draft; exported for its tests. */
export function history(h: History, a: Action): History {
  switch (a.type) {
    case 'edit': {
      const now = a.change(h.now)
      if (now === h.now) return h
      const goesOn = a.key !== undefined && a.key === h.key
      return { past: goesOn ? h.past : [...h.past, h.now].slice(-DEPTH), now, future: [], key: a.key }
    }
    case 'undo': {
      const before = h.past[h.past.length - 1]
      return before ? { past: h.past.slice(0, -1), now: before, future: [h.now, ...h.future], key: undefined } : h
    }
    case 'redo': {
      const [next, ...rest] = h.future
      return next ? { past: [...h.past, h.now], now: next, future: rest, key: undefined } : h
    }
    case 'settle':
      return { ...h, key: undefined }
  }
}

export interface Draft {
  readonly plan: Plan
  /** The last layout that could be made; `problems` say what is wrong with the plan as it stands now. */
  readonly layout: Layout
  readonly problems: readonly Problem[]
  /** 0 to 1 while a long wall is laid out beside the page. */
  readonly progress: number | undefined
  readonly changed: boolean
  readonly canUndo: boolean
  readonly canRedo: boolean
  edit(change: (p: Plan) => Plan, key?: string): void
  settle(): void
  undo(): void
  redo(): void
}

/** A plan being changed, with undo and redo, and its layout following. */
export function useDraft(start: Plan, initial: Layout): Draft {
  const [h, dispatch] = useReducer(history, { past: [], now: start, future: [], key: undefined })
  const { made, progress } = useLaid(h.now, initial)

  return {
    plan: h.now,
    layout: made.layout,
    problems: made.problems,
    progress,
    changed: h.now !== start,
    canUndo: h.past.length > 0,
    canRedo: h.future.length > 0,
    edit: useCallback((change, key) => dispatch({ type: 'edit', change, key }), []),
    settle: useCallback(() => dispatch({ type: 'settle' }), []),
    undo: useCallback(() => dispatch({ type: 'undo' }), []),
    redo: useCallback(() => dispatch({ type: 'redo' }), []),
  }
}

/** The line of a plan as it is edited; a wall that is only a length runs straight east. */
export const lineOf = (plan: Plan) =>
  plan.alignment ?? {
    vertices: [
      { easting: 0, northing: 0, bulge: 0 },
      { easting: plan.length, northing: 0, bulge: 0 },
    ],
    closed: false,
  }
