'use client'

import { type Layout, layOut, misplaced, type Plan, type Problem, readPlan, tooManyPieces, travelled } from '@stone-tally/core'
import { proxy } from 'comlink'
import { useCallback, useEffect, useReducer, useRef, useState } from 'react'
import { type Beside, beside } from '@/workers/beside'
import type { LayoutWorker } from '@/workers/layout.worker'

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

/** Walls up to this face (m²) are laid out at once; larger ones in a worker. */
const AT_ONCE = 150

/** A plan being changed, with undo and redo, and its layout following. */
export function useDraft(start: Plan, initial: Layout): Draft {
  const [h, dispatch] = useReducer(history, { past: [], now: start, future: [], key: undefined })
  const [made, setMade] = useState<{ layout: Layout; problems: readonly Problem[] }>({ layout: initial, problems: [] })
  const [progress, setProgress] = useState<number>()
  const last = useRef(initial)
  const worker = useRef<Beside<LayoutWorker>>(undefined)
  const turn = useRef(0)

  useEffect(() => {
    const mine = ++turn.current
    const plan = readPlan(h.now)
    if (!plan.ok) {
      setMade((m) => ({ ...m, problems: plan.problems }))
      return
    }
    const large = tooManyPieces(plan.value)
    if (large) {
      setMade((m) => ({ ...m, problems: [large] }))
      return
    }
    const take = (laid: ReturnType<typeof layOut>) => {
      if (mine !== turn.current) return
      setProgress(undefined)
      if (laid.ok) {
        last.current = laid.value
        setMade({ layout: laid.value, problems: misplaced(laid.value) })
      } else setMade((m) => ({ ...m, problems: laid.problems }))
    }
    const face = plan.value.length * Math.max(...plan.value.grades.map((g) => g.top - g.toe))
    if (face <= AT_ONCE) return take(layOut(plan.value, last.current))
    const wait = setTimeout(async () => {
      worker.current ??= beside<LayoutWorker>(() => new Worker(new URL('../../../workers/layout.worker.ts', import.meta.url), { type: 'module' }))
      setProgress(0)
      // Progress travels on a port of its own: its last word may come in after the answer.
      let answered = false
      try {
        const answer = await worker.current.ask(
          async (api, alive) =>
            await api.layOut(
              plan.value,
              proxy((done: number) => {
                alive()
                if (!answered && mine === turn.current) setProgress(done)
              }),
            ),
        )
        answered = true
        const whole = answer.ok ? travelled(answer.value) : undefined
        take(whole ? { ok: true, value: whole } : (answer as ReturnType<typeof layOut>))
      } catch (error) {
        // A page that stands still for a second is better than a wall that never comes.
        answered = true
        console.warn('laid out on the page:', error)
        if (mine === turn.current) take(layOut(plan.value, last.current))
      }
    }, 120)
    return () => clearTimeout(wait)
  }, [h.now])
  useEffect(() => () => worker.current?.end(), [])

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
