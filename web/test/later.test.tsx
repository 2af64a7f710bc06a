import { act, fireEvent, render, renderHook, screen } from '@testing-library/react'
import { type ComponentType, useEffect } from 'react'
import { useEarlyKeys } from '../features/wall/use-early-keys'
import { later } from '../ui/later'

const Said = ({ word }: { word: string }) => <p>{word}</p>

describe('a part that is fetched when it is asked for', () => {
  test('comes once for all who show it, and is there at once the second time', async () => {
    let asked = 0
    const Part = later(async () => {
      asked++
      return Said
    })
    const first = render(<Part word="bond beam" />)
    expect(await screen.findByText('bond beam')).toBeTruthy()
    first.unmount()
    render(<Part word="cap" />)
    expect(screen.getByText('cap')).toBeTruthy()
    expect(asked).toBe(1)
  })
  test('where it does not come that is said, and it is asked for again', async () => {
    let signal = false
    const Part = later<{ word: string }>(async () => {
      if (!signal) throw new Error('no signal')
      return Said as ComponentType<{ word: string }>
    })
    render(<Part word="cap" />)
    expect((await screen.findByRole('alert')).textContent).toContain('did not come')
    signal = true
    fireEvent.click(screen.getByRole('button', { name: 'Try again' }))
    expect(await screen.findByText('cap')).toBeTruthy()
    expect(screen.queryByRole('alert')).toBeNull()
  })
})

const Field = ({ ready }: { ready(): void }) => {
  useEffect(ready, [ready])
  return null
}
const Opened = () => {
  const { ready } = useEarlyKeys(true, () => {})
  return <Field ready={ready} />
}

describe('keys that come before the field they are meant for', () => {
  const keys = (list: readonly string[]) => {
    for (const key of list) act(() => void fireEvent.keyDown(window, { key }))
  }
  test('are kept for it and land nowhere else, until it is there', () => {
    const elsewhere = jest.fn()
    window.addEventListener('keydown', elsewhere)
    const close = jest.fn()
    const { result, rerender } = renderHook(({ open }) => useEarlyKeys(open, close), { initialProps: { open: false } })
    keys(['7'])
    expect(elsewhere).toHaveBeenCalledTimes(1)
    rerender({ open: true })
    keys(['2', ' ', 'c', 'x', 'Backspace', 'b'])
    expect(result.current.early()).toBe('2 cb')
    expect(elsewhere).toHaveBeenCalledTimes(1)
    // The dialog itself may have the focus by then; a space in a name is still one.
    const dialog = document.body.appendChild(document.createElement('div'))
    dialog.setAttribute('role', 'dialog')
    dialog.tabIndex = -1
    dialog.focus()
    keys([' '])
    expect(result.current.early()).toBe('2 cb ')
    const again = dialog.appendChild(document.createElement('button'))
    again.focus()
    keys([' '])
    expect(elsewhere).toHaveBeenCalledTimes(2)
    dialog.remove()
    elsewhere.mockClear()
    keys(['x', 'Backspace', 'Backspace', '7'])
    expect(result.current.early()).toBe('2 cb7')
    // What goes on to the next thing still does; an Enter of somebody quick is kept with what was typed, and presses a button that has the focus.
    keys(['Tab'])
    expect(elsewhere).toHaveBeenCalledTimes(1)
    keys(['Enter'])
    expect(elsewhere).toHaveBeenCalledTimes(1)
    expect(result.current.early()).toBe('2 cb7\n')
    keys(['Backspace'])
    const button = document.body.appendChild(document.createElement('div'))
    button.setAttribute('role', 'dialog')
    button.innerHTML = '<button>Try again</button>'
    button.querySelector('button')?.focus()
    keys(['Enter'])
    expect(elsewhere).toHaveBeenCalledTimes(2)
    button.remove()
    keys(['Escape'])
    expect(close).toHaveBeenCalledTimes(1)
    result.current.ready()
    keys(['9'])
    expect(result.current.early()).toBe('2 cb7')
    expect(elsewhere).toHaveBeenCalledTimes(3)
    rerender({ open: false })
    rerender({ open: true })
    expect(result.current.early()).toBe('')
    window.removeEventListener('keydown', elsewhere)
  })
  test('a field that is there at once is typed in from the first key', () => {
    const elsewhere = jest.fn()
    window.addEventListener('keydown', elsewhere)
    render(<Opened />)
    keys(['4'])
    expect(elsewhere).toHaveBeenCalledTimes(1)
    window.removeEventListener('keydown', elsewhere)
  })
})
