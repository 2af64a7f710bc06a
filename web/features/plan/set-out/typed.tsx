'use client'

import { formatLength, parseAmount, type UnitSystem } from '@stone-tally/core'
import { useState } from 'react'
import styled from 'styled-components'
import { Field } from '@/ui/controls'

export const Pair = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: 10px;`

/** A number typed as people write it; taken when it can be read, shown as wrong while it cannot. */
export function Typed({
  label,
  value,
  show,
  read,
  onTake,
  disabled,
}: {
  label: string
  value: number
  show(v: number): string
  read(text: string): { ok: true; value: number } | { ok: false; message?: string }
  onTake(v: number): void
  disabled?: boolean
}) {
  const [typed, setTyped] = useState<{ text: string; of: number }>()
  // What reads again as it was shown at first is the value of the first: it was rounded for reading only.
  const [first] = useState({ text: show(value), value })
  const text = typed && Math.abs(typed.of - value) < 1e-4 ? typed.text : show(value)
  const now = typed !== undefined && text === typed.text ? read(typed.text) : undefined
  return (
    <Field
      label={label}
      value={text}
      onChange={(t) => {
        if (disabled) return
        const v = t === first.text ? { ok: true as const, value: first.value } : read(t)
        setTyped({ text: t, of: v.ok ? v.value : value })
        if (v.ok && Math.abs(v.value - value) > 1e-6) onTake(v.value)
      }}
      error={now && !now.ok ? (now.message ?? 'cannot be read') : undefined}
    />
  )
}

/** How a length is shown in a field and read from it, in the crew's units. */
export const lengthOf = (units: UnitSystem) => ({
  show: (v: number) => (units === 'metric' ? `${Math.round(v * 1000) / 1000}` : formatLength(v, units)),
  read: (t: string) => {
    const r = parseAmount(t, 'length', units)
    return r.ok ? { ok: true as const, value: r.value } : { ok: false as const }
  },
})
