'use client'

import { useCallback, useRef, useState } from 'react'
import { Button } from 'react-aria-components'
import styled from 'styled-components'
import { later } from './later'
import { THEMES, UNIT_NAMES } from './look-names'
import { usePreferences } from './preferences'

const Flip = styled(Button)`
  min-width: 48px; min-height: 48px; padding: 0 10px; background: none; border: 0; color: var(--ink); font: 600 15px/1 'Archivo Variable', sans-serif; cursor: pointer; text-decoration: underline dotted; text-underline-offset: 4px; white-space: nowrap;
`
const LookChoices = later(() => import('./look-choices').then((m) => m.LookChoices))

/** How this device shows things: a menu that says what each choice is. */
export function LookMenu() {
  const { units, theme } = usePreferences()
  const [open, setOpen] = useState(false)
  const at = useRef<HTMLButtonElement>(null)
  const close = useCallback(() => setOpen(false), [])
  return (
    <>
      <Flip
        ref={at}
        aria-haspopup="menu"
        aria-expanded={open}
        onPress={() => setOpen((o) => !o)}
        aria-label={`Units of measure and theme: ${UNIT_NAMES[units].long}, ${THEMES[theme].short}`}
      >
        {UNIT_NAMES[units].short} · {THEMES[theme].short}
      </Flip>
      {open ? <LookChoices at={at} onClose={close} /> : null}
    </>
  )
}
