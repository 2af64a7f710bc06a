import { render, screen } from '@testing-library/react'
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
