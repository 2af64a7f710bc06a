import { fireEvent, render, screen } from '@testing-library/react'
import { KeptChanges } from '../features/plan/plan/kept-changes'
import { RoughSection } from '../features/plan/plan/rough-section'

const line = (station: string, toe: string, top: string) => ({ station, toe, top })

test('what can be read of the grades is drawn, and marked where no wall can stand', () => {
  const { container } = render(
    <RoughSection grades={[line('0', '0', '1'), line('4', '2', '1.5'), line('3', '0', '1'), line('x', '', '')]} units="metric" width={600} />,
  )
  expect(screen.getByRole('img', { name: 'Grades as far as they can be read' })).toBeTruthy()
  const words = [...container.querySelectorAll('text')].map((t) => t.textContent)
  expect(words).toEqual(['▲ 4.00 m: top not above toe', '▲ 3.00 m: out of order'])
})
test('with one station that can be read there is nothing to draw', () => {
  const { container } = render(<RoughSection grades={[line('0', '0', '1'), line('', '2', '')]} units="metric" width={600} />)
  expect(container.querySelector('svg')).toBeNull()
})
test('feet and inches are read as they are typed', () => {
  render(<RoughSection grades={[line('0', '0', `3'-6"`), line("10'", '0', "4'")]} units="imperial" width={600} />)
  expect(screen.getByRole('img')).toBeTruthy()
})

test('what was typed to the revision in force is taken up again; to one that was overtaken it is shown, never put in', () => {
  const kept = { revision: 2, draft: {} as never, changed: [['grades.1.top', '11.5'] as const] }
  let [taken, dropped] = [0, 0]
  const shared = { said: (f: string) => (f === 'grades.1.top' ? 'Grade 2: top' : f), onTake: () => taken++, onDrop: () => dropped++ }
  const { rerender } = render(<KeptChanges kept={kept} revision={2} {...shared} />)
  fireEvent.click(screen.getByRole('button', { name: 'Go on with what you had changed' }))
  expect(taken).toBe(1)
  rerender(<KeptChanges kept={kept} revision={3} {...shared} />)
  expect(screen.queryByRole('button', { name: 'Go on with what you had changed' })).toBeNull()
  expect(screen.getByRole('listitem').textContent).toBe('Grade 2: top: 11.5')
  fireEvent.click(screen.getByRole('button', { name: 'I have what I need of it' }))
  expect(dropped).toBe(1)
})
