import { useRef, useState } from 'react'
import type { UseFormReturn } from 'react-hook-form'
import { AmountField } from '@/ui/amount-field'
import type { Draft } from './draft-fields'

/** How high it shall stand, for a wall that is level: it fills in grades, benchmark and outlet until somebody types others. */
export function HeightField({ form, u, onPut }: { form: UseFormReturn<Draft>; u: string; onPut(next: Draft): void }) {
  const [height, setHeight] = useState('')
  const filled = useRef('')
  const put = (text: string) => {
    setHeight(text)
    const values = form.getValues()
    const { grades, lists, benchmark } = values
    const untouched = grades.every((g) => g.toe === '' && g.top === '') || JSON.stringify(grades.map((g) => [g.toe, g.top])) === filled.current
    if (!untouched) return
    const made = grades.map((g) => ({ ...g, toe: '0', top: text }))
    filled.current = JSON.stringify(made.map((g) => [g.toe, g.top]))
    // Water leaves a hand below the ground in front, until somebody says where.
    const outlets = lists.outlets?.map((l) => (l.cells.invert === '' ? { ...l, cells: { ...l.cells, invert: u === 'm' ? '-0.1' : '-0.33' } } : l))
    // All of it is one step, and one step back.
    onPut({
      ...values,
      grades: made,
      benchmark: benchmark.trim() === '' ? '0' : benchmark,
      lists: outlets ? { ...lists, outlets } : lists,
    })
  }
  return (
    <AmountField
      label="Height"
      of="length"
      value={height}
      onChange={put}
      hint="above level ground in front; until others are typed it fills in the grades, the benchmark at that ground, and an outlet a hand below it"
    />
  )
}
