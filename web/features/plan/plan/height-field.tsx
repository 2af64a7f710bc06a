import { formatLength, parseAmount, type UnitSystem } from '@stone-tally/core'
import { useState } from 'react'
import { AmountField } from '@/ui/amount-field'
import type { Draft } from './draft-fields'
import { heightsOf, textOf, withHeight } from './standing'

/** Two heights are one, m: a tenth of what anybody types. */
const SAME = 1e-4

/** How high it shows, as the grades have it; typed here it is the same all along. */
export function HeightField({ draft, units, onPut }: { draft: Draft; units: UnitSystem; onPut(next: Draft): void }) {
  const [typed, setTyped] = useState('')
  const heights = heightsOf(draft, units)
  const level = heights && heights[1] - heights[0] < SAME ? heights[0] : undefined
  const read = parseAmount(typed, 'length', units)
  // What is being typed stays as it is typed while it says what the grades say.
  const own = level === undefined ? !heights && draft.grades.some((g) => g.top === typed) : read.ok && Math.abs(read.value - level) < SAME
  return (
    <AmountField
      label="Height"
      of="length"
      value={own ? typed : level === undefined ? '' : textOf(level, units)}
      onChange={(text) => {
        setTyped(text)
        onPut(withHeight(draft, text, units))
      }}
      hint={
        heights && level === undefined
          ? `${formatLength(heights[0], units, 2)} to ${formatLength(heights[1], units, 2)} along the wall, as the grades have it; one typed here is the same all along`
          : 'above the ground in front, the same all along; the grades take it'
      }
    />
  )
}
