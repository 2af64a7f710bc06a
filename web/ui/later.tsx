'use client'

import { type ComponentType, useCallback, useEffect, useState } from 'react'

/**
 * A part of a page that is fetched when it is first asked for, so that a page does not carry what few open. Where it does not come that is
 * said, with a way to try again: a press that does nothing is taken for a broken screen.
 *
 * @param load - fetches it
 * @example const FindBody = later(() => import('./find-body').then((m) => m.FindBody))
 */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> & { ahead(): void } {
  let known: ComponentType<P> | undefined
  const fetched = async () => {
    known ??= await load()
    return known
  }
  // biome-ignore lint/correctness/noComponentHookFactories: called once for a part, at the top of a module
  function Later(props: P) {
    const [Part, setPart] = useState<ComponentType<P> | undefined>(() => known)
    const [failed, setFailed] = useState(false)
    const ask = useCallback(() => {
      setFailed(false)
      fetched().then(
        (part) => setPart(() => part),
        () => setFailed(true),
      )
    }, [])
    useEffect(() => {
      if (!known) ask()
    }, [ask])
    if (Part) return <Part {...props} />
    if (!failed) return null
    return (
      <span role="alert" style={{ display: 'block', padding: 12, background: 'var(--stop)', color: 'var(--on-stop)' }}>
        ▲ This did not come: no signal, and not kept on this device.{' '}
        <button type="button" onClick={ask} style={{ minHeight: 48, minWidth: 48, font: 'inherit' }}>
          Try again
        </button>
      </span>
    )
  } /** Fetches it before it is shown: a finger or a pointer is on its way. */
  Later.ahead = () => {
    fetched().catch(() => {})
  }
  return Later
}
