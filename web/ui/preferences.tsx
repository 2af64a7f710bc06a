'use client'

import { say, UNIT_SYSTEMS, type UnitSystem } from '@stone-tally/core'
import { Children, createContext, type ReactNode, useContext, useEffect, useState } from 'react'

export type Theme = 'day' | 'night'
interface Preferences {
  units: UnitSystem
  theme: Theme
  setUnits(u: UnitSystem): void
  setTheme(t: Theme): void
}
const Context = createContext<Preferences>({ units: 'metric', theme: 'day', setUnits: () => {}, setTheme: () => {} })
/** Units and theme of this device; kept in cookies so that the server's HTML is right at once. */
export const usePreferences = () => useContext(Context)

/** A sentence of the core in the reader's units. @example useSay()(limit.reason) */
export const useSay = () => {
  const { units } = usePreferences()
  return (text: string) => say(text, units)
}

/** Sentences of the core among other children, each in the reader's units. @example <Said>{limit.reason}</Said> */
export function Said({ children }: { children: ReactNode }) {
  const spoken = useSay()
  return Children.map(children, (c) => (typeof c === 'string' ? spoken(c) : c))
}

const keep = (name: string, value: string) => {
  // biome-ignore lint/suspicious/noDocumentCookie: the Cookie Store API is missing in browsers crews still carry
  document.cookie = `${name}=${value}; path=/; max-age=31536000; samesite=lax`
}

export function PreferencesProvider({ units: u, theme: t, children }: { units: UnitSystem; theme: Theme; children: ReactNode }) {
  const [units, putUnits] = useState(u)
  const [theme, putTheme] = useState(t)
  // A page that was kept on the device was made when something else was chosen.
  useEffect(() => {
    const chosen = (name: string) => new RegExp(`(?:^|; )${name}=([^;]*)`).exec(document.cookie)?.[1]
    const system = UNIT_SYSTEMS.find((x) => x === chosen('units'))
    if (system) putUnits(system)
    const look = chosen('theme')
    if (look === 'day' || look === 'night') {
      putTheme(look)
      document.documentElement.dataset.theme = look
    }
  }, [])
  // Says that the page answers to touch now; before that a tap would be lost.
  useEffect(() => {
    document.documentElement.dataset.ready = 'true'
  }, [])
  const setUnits = (v: UnitSystem) => {
    putUnits(v)
    keep('units', v)
  }
  const setTheme = (v: Theme) => {
    putTheme(v)
    keep('theme', v)
    document.documentElement.dataset.theme = v
  }
  return <Context value={{ units, theme, setUnits, setTheme }}>{children}</Context>
}
