import { storyPole } from '@stone-tally/core'
import { fireEvent, render, screen, within } from '@testing-library/react'
import { built, layoutOf, smallPlan } from '../../core/test/plans'
import { PolePage } from '../features/plan/pole/pole-page'
import { WallProvider } from '../features/wall'
import { PreferencesProvider } from '../ui/preferences'

const plans = [built(smallPlan)]
const show = (units: 'metric' | 'imperial' = 'metric') =>
  render(
    <PreferencesProvider units={units} theme="day">
      <WallProvider me={{ id: 'f', name: 'Fay', role: 'foreman' }} wall={`w-${units}`} name="Bay" plans={plans}>
        <PolePage />
      </WallProvider>
    </PreferencesProvider>,
  )
const type = (label: RegExp, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } })
beforeEach(() => sessionStorage.clear())

test('the marks of a station, by rod and from the string as soon as these are given', () => {
  show()
  type(/^Station/, '8')
  const table = within(screen.getByRole('table', { name: 'Marks of the pole' }))
  expect(table.getByRole('row', { name: /^Course 1 .*0.200 m/ })).toBeTruthy()
  expect(table.queryByText('Rod reads')).toBeNull()
  type(/^Height of instrument/, '11.5')
  type(/^String/, '10.2')
  expect(table.getByRole('row', { name: /^Course 1 0.200 m 10.000 m 1.500 m 200 mm down/ })).toBeTruthy()
  expect(table.getByRole('row', { name: /^Course 3 .*200 mm up/ })).toBeTruthy()
  type(/^Station/, '12')
  expect(screen.getByRole('alert').textContent).toMatch(/Station|station.*not on the wall/)
})
test('a strip is as tall on paper as the wall is, and its check marks are 100 mm and 4 in of the same paper', () => {
  const { container } = show('imperial')
  type(/^Station/, `26'`)
  const strips = screen.getAllByRole('img', { name: /^Strip/ })
  const made = storyPole(layoutOf(), 7.9248)
  expect(strips.length).toBe(made.ok ? Math.ceil((Math.max(...made.value.marks.map((m) => m.up)) + 0.02 - 0.222) / 0.202) + 1 : 0)
  for (const s of strips) {
    const [, , w, h] = (s.getAttribute('viewBox') ?? '').split(' ').map(Number)
    // One unit of the drawing is one millimetre of paper.
    expect([s.getAttribute('width'), s.getAttribute('height')]).toEqual([`${w}mm`, `${h}mm`])
  }
  const length = (of: string) => Number(/v([\d.]+)/.exec(container.querySelector(`[data-check="${of}"]`)?.getAttribute('d') ?? '')?.[1])
  expect([length('100 mm'), length('4 in')]).toEqual([100, 101.6])
  fireEvent.click(screen.getByRole('radio', { name: 'A4' }))
  expect(screen.getAllByRole('img', { name: /^Strip/ }).length).toBeLessThanOrEqual(strips.length)
})
