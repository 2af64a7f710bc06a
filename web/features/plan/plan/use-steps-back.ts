'use client'

import { useCallback, useEffect, useRef, useState } from 'react'
import type { UseFormReturn } from 'react-hook-form'
import type { Draft } from './draft-fields'

/** Steps that can be taken back. */
const DEPTH = 200
/** Typing that pauses this long is a step of its own, ms. */
const PAUSE = 600

/** Undo and redo for a form, and what is typed in it kept over a reload under a name. */
export function useStepsBack(form: UseFormReturn<Draft>, kept: { readonly text: string; set(text: string): void } | undefined) {
  const past = useRef<string[]>([])
  const future = useRef<string[]>([])
  const now = useRef(JSON.stringify(form.getValues()))
  const [, turn] = useState(0)
  const { watch, reset, getValues } = form
  const keep = useRef(kept)
  keep.current = kept
  const latest = useRef(now.current)
  const field = useRef<string>(undefined)
  /** What is typed so far is a step of its own. */
  const settle = useCallback(
    (text = JSON.stringify(getValues())) => {
      if (text === now.current) return
      past.current = [...past.current, now.current].slice(-DEPTH)
      future.current = []
      now.current = text
      turn((n) => n + 1)
    },
    [getValues],
  )
  const begin = useCallback(
    (name: string) => {
      if (name !== field.current) settle(latest.current)
      field.current = name
    },
    [settle],
  )
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined
    const sub = watch((_, { name }) => {
      // Another field is another step, however fast somebody types. What is put in all at once says so itself.
      if (name !== undefined) begin(name)
      latest.current = JSON.stringify(getValues())
      keep.current?.set(latest.current)
      clearTimeout(timer)
      timer = setTimeout(() => settle(), PAUSE)
    })
    return () => {
      clearTimeout(timer)
      sub.unsubscribe()
    }
  }, [watch, getValues, settle, begin])
  const go = useCallback(
    (from: { current: string[] }, to: { current: string[] }) => {
      const text = JSON.stringify(getValues())
      // What is half typed is a step too.
      if (text !== now.current) {
        past.current = [...past.current, now.current].slice(-DEPTH)
        now.current = text
      }
      const next = from.current[from.current.length - 1]
      if (next === undefined) return
      from.current = from.current.slice(0, -1)
      to.current = [...to.current, now.current]
      now.current = next
      latest.current = next
      field.current = undefined
      reset(JSON.parse(next), { keepDefaultValues: true })
      keep.current?.set(next)
      turn((n) => n + 1)
    },
    [getValues, reset],
  )
  return {
    /** Says that something else is changed from here on: a drag, a unit chosen, a field filled in with others. */
    begin,
    undo: useCallback(() => go(past, future), [go]),
    redo: useCallback(() => go(future, past), [go]),
    canUndo: past.current.length > 0,
    canRedo: future.current.length > 0,
  }
}
