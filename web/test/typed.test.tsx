import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { entry, stateOf } from '../../core/test/plans'
import { DensityPanel } from '../features/build/ground/density-panel'
import { DigPanel } from '../features/build/ground/dig-panel'
import { SoilPanel } from '../features/build/ground/soil-panel'
import type { GroundProps } from '../features/build/ground/types'
import { WeatherPanel } from '../features/build/ground/weather-panel'
import { FilterForm } from '../features/build/water/filter-form'
import type { Fact, RecordResult } from '../features/wall'
import { PreferencesProvider } from '../ui/preferences'

afterEach(cleanup)
beforeEach(() => {
  window.sessionStorage.clear()
  globalThis.fetch = jest.fn(async () => ({ ok: true, json: async () => ({ instruments: [] }) })) as never
})

const me = { id: 'foreman', name: 'Fay', role: 'foreman' as const }
const curve = entry(
  'curve',
  {},
  {
    name: 'Pad',
    source: 'lab',
    points: [6, 8, 10, 12].map((moisture, i) => ({ moisture, dryDensity: [1905, 1990, 2015, 1960][i] as number })),
  },
)
const state = stateOf([curve])
const field = (label: string | RegExp) => screen.getByLabelText(label) as HTMLInputElement
const type = (label: string | RegExp, value: string) => fireEvent.change(field(label), { target: { value } })

/** A panel of the ground, opened, and opened again as after a look at another page. */
function ground(Panel: (p: GroundProps) => React.ReactNode, units: 'metric' | 'imperial', answer?: Promise<RecordResult>) {
  cleanup()
  const sent: Fact[] = []
  const props: GroundProps = {
    wall: 'w',
    state,
    section: 'B',
    station: 6,
    onStation: () => {},
    units,
    me,
    finding: undefined,
    record: async (facts) => {
      sent.push(...facts)
      return answer ?? { ok: true, verdict: undefined }
    },
  }
  render(
    <PreferencesProvider units={units} theme="day">
      <Panel {...props} />
    </PreferencesProvider>,
  )
  return sent
}
const press = (name: string | RegExp) => act(async () => void fireEvent.click(screen.getByRole('button', { name })))

describe('what is typed stays until it is recorded', () => {
  test('the cut of a trench: another page and back, then recorded and gone', async () => {
    ground(DigPanel, 'metric')
    await press(/Check width, room/)
    type('Width, m', '0.9')
    fireEvent.click(screen.getByRole('radio', { name: /Stands or runs in/ }))
    const sent = ground(DigPanel, 'metric')
    expect(field('Width, m').value).toBe('0.9')
    await press(/^Record the cut/)
    expect(sent[0]?.data).toMatchObject({ width: 0.9, water: true, planned: ['behind', 'slope'] })
    ground(DigPanel, 'metric')
    expect(screen.queryByLabelText('Width, m')).toBeNull()
  })
  test('0.9 m is never read as 0.9 ft: it waits in metres while feet are shown', async () => {
    ground(DigPanel, 'metric')
    await press(/Check width, room/)
    type('Width, m', '0.9')
    ground(DigPanel, 'imperial')
    expect(screen.queryByLabelText('Width, ft')).toBeNull()
    ground(DigPanel, 'metric')
    expect(field('Width, m').value).toBe('0.9')
  })
  test('the stretch of a soil is never read in other units than it was written in', async () => {
    const judge = async () => {
      for (let i = 0; i < 6; i++) {
        const group = screen.queryAllByRole('group')[0]
        if (!group) return
        await act(async () => void fireEvent.click(group.querySelector('button') as HTMLButtonElement))
      }
    }
    ground(SoilPanel, 'metric')
    await judge()
    type('To, m', '6.5')
    const sent = ground(SoilPanel, 'imperial')
    expect(field('To, ft').value).toBe(`29'-6 5/16"`)
    await press('Record this soil')
    expect((sent[0]?.data as { to: number }).to).toBeCloseTo(9, 2)
    ground(SoilPanel, 'metric')
    await judge()
    expect(field('To, m').value).toBe('6.5')
  })
  test('a density test in pounds: judged and recorded in SI', async () => {
    ground(DensityPanel, 'imperial')
    for (const [label, value] of [
      ['Jar before, lb', '14.33'],
      ['Jar after, lb', '6.39'],
      ['Cone, lb', '3.5715'],
      ['Sand, lb/ft³', '89.271988'],
      ['Soil out, lb', '6.39'],
      ['Moisture, %', '8.4'],
    ] as const)
      type(label, value)
    const sent = ground(DensityPanel, 'imperial')
    expect(field('Soil out, lb').value).toBe('6.39')
    await press('Record the test')
    const { cone } = sent[0]?.data as { cone: Record<string, number> }
    expect(cone.massBefore).toBeCloseTo(6.5, 2)
    expect(cone.sandDensity).toBeCloseTo(1430, 1)
    expect(document.body.textContent).not.toContain('⁅')
  })
  test('weather in Fahrenheit and inches; what is refused stays', async () => {
    const refused: RecordResult = { ok: false, problems: [{ field: '', message: 'not now' }] }
    ground(WeatherPanel as never, 'imperial', Promise.resolve(refused))
    type('Rain in 24 hours, in', '0.5')
    type('Lowest, °F', '28.4')
    type('Wind, mph', '10')
    await press('Record today')
    expect(field('Lowest, °F').value).toBe('28.4')
    const sent = ground(WeatherPanel as never, 'imperial')
    await press('Record today')
    expect(sent[0]?.data).toEqual({ rain: 12.7, low: -2, wind: 16.1 })
    expect(field('Lowest, °F').value).toBe('')
  })
  test('changed while it is on its way: the change stays, the rest is recorded', async () => {
    let answer: (r: RecordResult) => void = () => {}
    render(<FilterForm me={me} record={() => new Promise((r) => (answer = r))} />)
    await press('Enter a sieve curve')
    type(/^From/, 'sheet 4')
    type(/one pair a line/, '0.063 12\n2 80')
    await press('Record this curve')
    type(/one pair a line/, '4 3')
    await act(async () => answer({ ok: true, verdict: undefined }))
    expect(field(/one pair a line/).value).toBe('4 3')
  })
})
