'use client'

import { useCallback, useEffect, useRef } from 'react'
import type { UseFormReturn } from 'react-hook-form'
import { useSteps } from '@/ui/steps-back'
import type { Draft } from './draft-fields'

/** Typing that pauses this long is a step of its own, ms. */
const PAUSE = 600

/** Undo and redo for a form, and what is typed in it kept over a reload under a name. */
export function useStepsBack(form: UseFormReturn<Draft>, kept: { readonly text: string; set(text: string): void } | undefined) {
  const { watch, reset, getValues } = form
  const { steps, canUndo, canRedo } = useSteps(JSON.stringify(getValues()))
  const keep = useRef(kept)
  keep.current = kept
  const latest = useRef(steps.now())
  const field = useRef<string>(undefined)
  /** What is typed so far is a step of its own. */
  const settle = useCallback((text = JSON.stringify(getValues())) => steps.edit(() => text), [getValues, steps])
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
      // That an answer was typed belongs to the typing.
      if (name !== undefined && name !== 'typed') begin(name)
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
    (way: 'undo' | 'redo') => {
      // What is half typed is a step too.
      settle()
      const before = steps.now()
      steps[way]()
      const next = steps.now()
      if (next === before) return
      latest.current = next
      field.current = undefined
      reset(JSON.parse(next), { keepDefaultValues: true })
      keep.current?.set(next)
    },
    [settle, steps, reset],
  )
  return {
    /** Says that something else is changed from here on: a drag, a unit chosen, a field filled in with others. */
    begin,
    undo: useCallback(() => go('undo'), [go]),
    redo: useCallback(() => go('redo'), [go]),
    canUndo,
    canRedo,
  }
}
