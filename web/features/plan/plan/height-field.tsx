import { formatLength, parseAmount } from '@stone-tally/core'
import { useState } from 'react'
import { AmountField } from '@/ui/amount-field'
import type { Draft } from './draft-fields'
import { heightsOf, textOf, withHeight } from './standing'
import type { PlanForm } from './use-plan-form'

/** Two heights are one, m: a tenth of what anybody types. */
const SAME = 1e-4

/** How high it shows, as the grades have it; typed here it is the same all along. */
export function HeightField({ of }: { of: Pick<PlanForm, 'draft' | 'units' | 'form' | 'type'> }) {
  const { draft, units } = of
  const [{ typed, over }, setTyped] = useState<{ typed: string; over: Draft | undefined }>({ typed: '', over: undefined })
  const heights = heightsOf(draft, units)
  const level = heights && heights[1] - heights[0] < SAME ? heights[0] : undefined
  const read = parseAmount(typed, 'length', units)
  // What is being typed stays as it is typed while it says what the grades say.
  const own = level === undefined ? !heights && draft.grades.some((g) => g.top === typed) : read.ok && Math.abs(read.value - level) < SAME
  return (
    <AmountField
      label="Height"
      of="length"
      value={own || over === draft ? typed : level === undefined ? '' : textOf(level, units)}
      onChange={(text) => {
        // Until the grades are drawn as typed, what is typed stands.
        setTyped({ typed: text, over: draft })
        of.type('grades', withHeight(of.form.getValues(), text, units).grades)
      }}
      hint={
        heights && level === undefined
          ? `${formatLength(heights[0], units, 2)} to ${formatLength(heights[1], units, 2)} along the wall, as the grades have it; one typed here is the same all along`
          : 'above the ground in front, the same all along; the grades take it'
      }
    />
  )
}
