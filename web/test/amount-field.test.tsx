import { fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { AmountField } from '../ui/amount-field'
import { PreferencesProvider } from '../ui/preferences'

function Asked({ of, error }: { of: 'length' | 'small' | 'pressure'; error?: string }) {
  const [text, setText] = useState('')
  return <AmountField label="Depth" of={of} value={text} onChange={setText} error={error} />
}
const show = (of: 'length' | 'small' | 'pressure', units: 'metric' | 'imperial' | 'decimal-feet', error?: string) =>
  render(
    <PreferencesProvider units={units} theme="day">
      <Asked of={of} {...(error ? { error } : {})} />
    </PreferencesProvider>,
  )
const type = (text: string) => {
  const field = screen.getByRole('textbox')
  fireEvent.focus(field)
  fireEvent.change(field, { target: { value: text } })
  return field
}

test.each([
  ['length', 'metric', 'Depth, m'],
  ['length', 'imperial', 'Depth, ft'],
  ['small', 'metric', 'Depth, mm'],
  ['small', 'imperial', 'Depth, in'],
  ['small', 'decimal-feet', 'Depth, ft'],
  ['pressure', 'metric', 'Depth, kPa'],
  ['pressure', 'imperial', 'Depth, lb/ft²'],
] as const)('%s in %s says the unit a bare number is taken in', (of, units, label) => {
  show(of, units)
  expect(screen.getByLabelText(label)).toBeTruthy()
})

test('what cannot be read is said when the field is left, not while it is typed', () => {
  show('length', 'imperial')
  const field = type(`5'-`)
  expect(field.getAttribute('aria-invalid')).toBeNull()
  fireEvent.blur(field)
  expect(field.getAttribute('aria-invalid')).toBe('true')
  expect(screen.getByText(/5'-/)).toBeTruthy()
  type(`5'-6 1/2"`)
  fireEvent.blur(field)
  expect(field.getAttribute('aria-invalid')).toBeNull()
})

test('nothing typed is nothing wrong; another unit written with the number is taken', () => {
  show('length', 'metric')
  fireEvent.blur(type(''))
  expect(screen.getByRole('textbox').getAttribute('aria-invalid')).toBeNull()
  fireEvent.blur(type('3 ft'))
  expect(screen.getByRole('textbox').getAttribute('aria-invalid')).toBeNull()
})

test('what is wrong where it is used goes before', () => {
  show('small', 'metric', 'must be 300 mm at least')
  fireEvent.blur(type('x'))
  expect(screen.getByText('must be 300 mm at least')).toBeTruthy()
})
