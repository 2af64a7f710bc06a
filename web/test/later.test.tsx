import { fireEvent, render, screen } from '@testing-library/react'
import type { ComponentType } from 'react'
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
