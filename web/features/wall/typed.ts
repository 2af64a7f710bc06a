'use client'

import { useCallback, useState } from 'react'

/**
 * What somebody is typing, kept on the device until it is recorded or taken back: it outlives another step being looked at, another
 * person's entry, and the page being loaded anew because a revision came into force.
 */
const PREFIX = 'typed'
const wallHere = () => (typeof window === 'undefined' ? '' : (window.location.pathname.split('/')[2] ?? ''))
const keyOf = (scope: string, name: string) => `${PREFIX}|${wallHere()}|${scope}|${name}`

/** Who types here: what one person has half typed is not shown to another of the same device. */
let typist = ''
/** @param person - who is at the device */
export const setTypist = (person: string) => {
  typist = person
}
/** The tab's own stands first; behind it the device keeps the same, so that it is there after the browser was killed. */
const deep = (key: string) => `half ${typist} ${key}`

/** The same as long as the page stands, where the browser keeps nothing. */
const here = new Map<string, string>()
const get = (key: string): string | null => {
  try {
    return window.sessionStorage.getItem(key) ?? window.localStorage.getItem(deep(key))
  } catch {
    return here.get(key) ?? null
  }
}
const put = (key: string, text: string | undefined) => {
  if (text === undefined) here.delete(key)
  else here.set(key, text)
  try {
    if (text === undefined) {
      window.sessionStorage.removeItem(key)
      window.localStorage.removeItem(deep(key))
    } else {
      window.sessionStorage.setItem(key, text)
      window.localStorage.setItem(deep(key), text)
    }
  } catch {
    // as above
  }
}

/**
 * A text that is being typed.
 *
 * @param scope - what it belongs to: the step, the point, the finding
 * @param initial - shown while nothing was typed
 * @returns the text, how to change it, and how to let it go (recorded, or taken back)
 * @example const [cause, setCause, letGo] = useTyped(finding.id, 'cause')
 */
export function useTyped(scope: string, name: string, initial = ''): [string, (text: string) => void, () => void] {
  const key = keyOf(scope, name)
  const [held, setHeld] = useState<{ key: string; text: string | undefined }>(() => ({
    key,
    text: typeof window === 'undefined' ? undefined : (get(key) ?? undefined),
  }))
  // Another place has its own text.
  const text = held.key === key ? held.text : typeof window === 'undefined' ? undefined : (get(key) ?? undefined)
  const set = useCallback(
    (next: string) => {
      put(key, next)
      setHeld({ key, text: next })
    },
    [key],
  )
  const letGo = useCallback(() => {
    // Changed while it was on its way: that is the next thing somebody types, not what was recorded.
    if ((get(key) ?? undefined) !== text) return
    put(key, undefined)
    setHeld((now) => (now.key === key ? { key, text: undefined } : now))
  }, [key, text])
  return [text ?? initial, set, letGo]
}

/**
 * A form that is being typed: its fields by name, kept like {@link useTyped} keeps one text.
 *
 * @param scope - what it belongs to; where fields are measures, the reader's units are part of it: 1.2 m is not 1.2 ft
 * @param initial - what stands in each field while nothing was typed there
 * @returns the fields; how to change some; how to let all go; whether anything was begun
 * @example const { v, set, letGo } = useTypedForm(`cut ${section} ${units}`, { width: '', spoil: '' })
 */
export function useTypedForm<const F extends Readonly<Record<string, string>>>(scope: string, initial: F) {
  type Fields = { [K in keyof F]: string }
  const [kept, keep, letGo] = useTyped(scope, 'form')
  const v: Fields = { ...initial, ...fieldsOf(kept) }
  const set = (change: Partial<Fields>) => keep(JSON.stringify({ ...fieldsOf(typedAt(scope, 'form') ?? ''), ...change }))
  return { v, set, letGo, begun: kept !== '' }
}
const fieldsOf = (kept: string): Record<string, string> => {
  try {
    return kept === '' ? {} : JSON.parse(kept)
  } catch {
    // Written by another version of the application: nothing that can be read.
    return {}
  }
}

/**
 * Keeps what is typed, without anything being drawn anew for it: for a form whose fields stand for themselves.
 *
 * @param text - undefined lets go of it
 * @example keepTyped('planner', 'new', JSON.stringify(draft))
 */
export const keepTyped = (scope: string, name: string, text: string | undefined) => put(keyOf(scope, name), text)

/** What is being typed there; undefined where nothing is. @example typedAt(spot, 'rod') */
export const typedAt = (scope: string, name: string): string | undefined => get(keyOf(scope, name)) ?? undefined

/**
 * What is being typed for this step, as it stands in the first field that has something; undefined where nothing is begun.
 *
 * @example typingAt(step.key) // '1.85'
 */
export function typingAt(scope: string): string | undefined {
  if (typeof window === 'undefined') return undefined
  try {
    const start = `${PREFIX}|${wallHere()}|${scope}|`
    for (const [kept, prefix] of [
      [window.sessionStorage, start],
      [window.localStorage, deep(start)],
    ] as const)
      for (let i = 0; i < kept.length; i++) {
        const key = kept.key(i) ?? ''
        const text = (kept.getItem(key) ?? '').trim()
        if (key.startsWith(prefix) && text !== '') return plain(text)
      }
  } catch {
    // nothing is kept
  }
  return undefined
}
/** Is anything being typed for this step? @example isTyping(step.key) */
export const isTyping = (scope: string): boolean => typingAt(scope) !== undefined
/** A form's fields as one reads them. */
const plain = (text: string) => (text.startsWith('{') ? Object.values(fieldsOf(text)).filter(Boolean).join(', ') : text)
