'use client'

import { type Measure, parseAmount, unitOf } from '@stone-tally/core'
import { useState } from 'react'
import { Field } from './controls'
import { usePreferences } from './preferences'

interface Props {
  /** What is asked for; the unit a bare number is taken in is added. */
  readonly label: string
  readonly of: Measure
  readonly value: string
  onChange(text: string): void
  readonly hint?: string | undefined
  /** What is wrong with it where it is used; otherwise that it cannot be read is said when the field is left. */
  readonly error?: string | undefined
  readonly name?: string
  readonly inputMode?: 'decimal' | 'text' | 'numeric'
  readonly autoFocus?: boolean
}

/**
 * The one field for lengths and other amounts: it says its unit, takes any other that is written with the number, and says at once what it cannot
 * read. The text is read by `parseAmount` with the same measure.
 *
 * @example <AmountField label="Width" of="length" value={width} onChange={setWidth} />
 */
export function AmountField({ label, of, value, onChange, error, inputMode = 'decimal', ...rest }: Props) {
  const { units } = usePreferences()
  const [left, setLeft] = useState(false)
  const read = left && value.trim() !== '' ? parseAmount(value, of, units) : undefined
  const unreadable = read && !read.ok ? read.problems[0]?.message : undefined
  return (
    <Field
      label={`${label}, ${unitOf(of, units)}`}
      value={value}
      onChange={onChange}
      error={error ?? unreadable}
      inputMode={inputMode}
      onFocusChange={(focused) => setLeft(!focused)}
      {...rest}
    />
  )
}
