import { CALCULATORS, calculate, digReport, UNIT_SYSTEMS, type WallState } from '@stone-tally/core'
import { act, cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react'
import { built, entry, smallPlan, stateOf } from '../../core/test/plans'
import { BenchPage } from '../features/bench'
import { readTyped, typedOf, wordsOf } from '../features/bench/form'
import { DensityPanel } from '../features/build/ground/density-panel'
import { LevelPanel } from '../features/build/ground/level-panel'
import { MapPanel } from '../features/build/ground/map-panel'
import { SoilPanel } from '../features/build/ground/soil-panel'
import { TrenchSection } from '../features/build/ground/trench-section'
import type { GroundProps } from '../features/build/ground/types'
import { TakeReading } from '../features/instruments'
import type { Fact } from '../features/wall'
import { PreferencesProvider } from '../ui/preferences'

afterEach(cleanup)
const me = { id: 'foreman', name: 'Fay', role: 'foreman' as const }
const none = { ok: true, json: async () => ({ instruments: [] }) }
beforeEach(() => {
  globalThis.fetch = jest.fn(async () => none) as never
})

function props(state: WallState = stateOf([])): GroundProps & { sent: Fact[] } {
  const sent: Fact[] = []
  return {
    wall: 'w',
    state,
    section: 'B',
    station: 6,
    onStation: () => {},
    units: 'metric',
    me,
    finding: undefined,
    sent,
    record: async (facts) => {
      sent.push(...facts)
      return { ok: true, verdict: undefined }
    },
  }
}
const press = async (name: string | RegExp) => {
  await act(async () => {
    fireEvent.click(screen.getByRole('button', { name }))
  })
}
const type = (label: string | RegExp, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } })

describe('trench', () => {
  const draw = (state: WallState) =>
    render(
      <TrenchSection
        report={digReport(state)}
        plan={built(smallPlan)}
        from={4.5}
        to={9}
        station={6}
        onStation={() => {}}
        undercuts={[{ from: 5, to: 6, depth: 0.4, fill: 'stone', passes: 3 }]}
        wet={[7.5, 40]}
        obstructions={[{ what: 'roots', from: 7, to: 8, above: 0.1, way: 'break-out' }]}
        units="metric"
        width={900}
        height={270}
      />,
    )
  test('targets, what is in the way, and readings out of limits in words', () => {
    const station = digReport(stateOf([])).steps.at(-1)?.points.at(-1)?.station
    const dig = (value: number) => stateOf([entry('reading', { stage: 'dig', section: 'B', station }, { method: 'deviation', value })])
    draw(dig(-0.05))
    expect(screen.getByText('50 mm deep')).toBeTruthy()
    expect(screen.getByText('undercut 400 mm')).toBeTruthy()
    expect(screen.getByText('roots 100 mm above')).toBeTruthy()
    expect(screen.getAllByText('water')).toHaveLength(1)
    cleanup()
    draw(dig(0.01))
    expect(screen.queryByText(/deep$/)).toBeNull()
  })
})

describe('instruments', () => {
  const laser = { id: 'laser-1', kind: 'level', name: 'Laser', serial: 'L-1', calibratedUntil: '2020-01-01', battery: 9, connected: true }
  test('nothing is shown where none is within reach', async () => {
    const { container } = render(<TakeReading kind="level" scene={{}} onTaken={() => {}} />)
    await act(async () => {})
    expect(container.textContent).toBe('')
  })
  test('a reading comes with whose it is; an old calibration and a low battery are said; a failure is in words', async () => {
    const taken = jest.fn()
    const answers = [
      { ok: true, json: async () => ({ status: laser, reading: { id: 'laser-1', seq: 1, at: '', values: { rod: 1.5 } } }) },
      { ok: false, status: 503, json: async () => ({ problems: [{ field: 'instrument', message: 'what came was garbled' }] }) },
    ]
    globalThis.fetch = jest.fn(async (url: string) =>
      url.endsWith('/read') ? answers.shift() : { ok: true, json: async () => ({ instruments: [laser] }) },
    ) as never
    render(<TakeReading kind="level" scene={{ rod: 1.5 }} onTaken={taken} />)
    await waitFor(() => screen.getByRole('button', { name: 'Take reading: Laser' }))
    expect(screen.getByText(/battery 9 % ▲ low · ▲ calibration ran out on 1 January 2020/)).toBeTruthy()
    await press('Take reading: Laser')
    expect(taken).toHaveBeenCalledWith({ rod: 1.5 }, { name: 'Laser', serial: 'L-1', calibratedUntil: '2020-01-01' })
    await press('Take reading: Laser')
    expect(screen.getByRole('alert').textContent).toContain('garbled')
    expect(taken).toHaveBeenCalledTimes(1)
  })
})

describe('panels', () => {
  test('six taps record a soil with its answers and its stretch', async () => {
    const p = props()
    render(<SoilPanel {...p} />)
    for (const answer of [/^Fines/, /^Long/, /^Sticky/, /^One even/, /^None/, /^Moist/]) await press(answer)
    expect(screen.getByRole('heading', { name: '▲ Clay of high plasticity' })).toBeTruthy()
    await press('Record this soil')
    expect(p.sent).toEqual([
      {
        kind: 'soil',
        where: { stage: 'dig', section: 'B' },
        data: { answers: { grain: 'fine', ribbon: 'long', feel: 'sticky', colour: 'even', smell: 'none', water: 'moist' }, from: 4.5, to: 9 },
      },
    ])
  })
  test('a set-up on another datum is asked about once, then taken', async () => {
    const p = props()
    render(<LevelPanel {...p} />)
    type(/Its elevation/, '110')
    type(/Backsight/, '1.5')
    await press('Record the set-up')
    expect(p.sent).toEqual([])
    await press('It is right: record')
    expect(p.sent).toEqual([{ kind: 'setup', where: {}, data: { benchmark: 110, backsight: 1.5 } }])
  })
  test('the book shows what does not close and leaves it unadjusted', () => {
    const list = [
      entry('setup', {}, { benchmark: 10, backsight: 1.5 }),
      entry('sight', {}, { sight: 'foresight', point: 'BM', hi: 11.5, reading: 1.48, known: 10, setups: 1 }),
    ]
    render(<LevelPanel {...props(stateOf(list))} />)
    expect(screen.getByText(/▲ BM to BM: 20 mm high/)).toBeTruthy()
    expect(screen.getByText(/look for the blunder/)).toBeTruthy()
  })
  test('the screed plan tells what to shave and add, to the nearest two millimetres', () => {
    const step = stateOf([]).steps.find((s) => s.stage.id === 'pad-level' && s.section === 'B')
    const [front, back] = step?.lines ?? []
    const at = (offset: number | undefined, value: number) =>
      entry('reading', { stage: 'pad-level', section: 'B', station: 8.9, offset }, { method: 'deviation', value })
    render(<MapPanel {...props(stateOf([at(front, 0.0131), at(back, -0.009)]))} />)
    expect(screen.getByText('▲ shave 14 mm')).toBeTruthy()
    expect(screen.getByText('▼ add 10 mm')).toBeTruthy()
    expect(screen.getByText('2 out')).toBeTruthy()
  })
  test('a sand cone without a curve cannot be recorded; with one it names the curve', async () => {
    render(<DensityPanel {...props()} />)
    expect((screen.getByRole('button', { name: 'Record the test' }) as HTMLButtonElement).disabled).toBe(true)
    cleanup()
    const points = [6, 8, 10, 12].map((moisture, i) => ({ moisture, dryDensity: [1905, 1990, 2015, 1960][i] }))
    const lab = entry('curve', {}, { name: 'rock', points, source: 'sheet' })
    const p = props(stateOf([lab]))
    render(<DensityPanel {...p} />)
    for (const [label, value] of [
      [/Jar before/, '6.5'],
      [/Jar after/, '2,9'],
      // Nobody can guess a cone that was not used here yet.
      [/^Cone, kg/, '1.62'],
      [/^Sand, kg/, '1430'],
      [/Soil out/, '2.9'],
      [/Moisture/, '8.4'],
    ] as const)
      type(label, value)
    await press('Record the test')
    expect(p.sent[0]).toMatchObject({
      kind: 'density',
      where: { stage: 'pad', section: 'B', station: 6 },
      data: { method: 'sand-cone', curve: lab.id, cone: { massAfter: 2.9, soilMass: 2.9, coneMass: 1.62 } },
    })
  })
})

describe('bench', () => {
  const everyWay = CALCULATORS.flatMap((c) => UNIT_SYSTEMS.map((units) => [c.name, units, c] as const))
  test.each(everyWay)('%s in %s: the example is typed and read back as it was, to the last digit', (_, units, c) => {
    const reading = { labels: c.labels, units, exact: new Map(), words: wordsOf(c.schema.describe()) }
    expect(readTyped(typedOf(c.example, reading), reading)).toEqual(c.example)
    expect(calculate(c, readTyped(typedOf(c.example, reading), reading)).ok).toBe(true)
  })
  test('in feet and pounds the working is too, and what was not changed keeps its value', async () => {
    render(
      <PreferencesProvider units="imperial" theme="day">
        <BenchPage me={me} calculator="sand-cone" />
      </PreferencesProvider>,
    )
    expect((screen.getByLabelText('Jar and sand before, lb') as HTMLInputElement).value).toBe('14.33')
    expect(document.body.textContent).toContain('94.8') // per cent, as in metres
    expect(document.body.textContent).toMatch(/1\d\d\.\d lb\/ft³/)
    expect(document.body.textContent).not.toMatch(/kg|\d m\b|⁅/)
    type('Maximum dry density, lb/ft³', '130')
    expect(document.body.textContent).toContain('130.0 lb/ft³')
    fireEvent.click(screen.getByRole('button', { name: 'Units of measure and theme: Feet and inches, Day' }))
    fireEvent.click(await screen.findByRole('menuitemradio', { name: 'Metres' }))
    expect((screen.getByLabelText('Jar and sand before, kg') as HTMLInputElement).value).toBe('6.5')
    expect((screen.getByLabelText('Maximum dry density, kg/m³') as HTMLInputElement).value).toMatch(/^2082\.4/)
  })
  test('a number is changed, the working follows; what is wrong is said at its field', async () => {
    render(<BenchPage me={me} calculator="lifts" />)
    expect(screen.getByText('150 mm')).toBeTruthy()
    type('Thickness, m', '0,6')
    expect(screen.getByText('3')).toBeTruthy()
    type('Thickness, m', 'thick')
    expect(screen.getAllByText(/must be a number/).length).toBeGreaterThan(0)
    await press('Put the example back')
    expect(screen.getByText('150 mm')).toBeTruthy()
  })
  test.each(CALCULATORS)('$name: every label belongs to a field of its schema, and no field of its example is without one', (c) => {
    const fields = (of: unknown, path = ''): string[] =>
      Array.isArray(of)
        ? of.flatMap((v) => fields(v, path))
        : of !== null && typeof of === 'object'
          ? Object.entries(of).flatMap(([k, v]) => [path ? `${path}.${k}` : k, ...fields(v, path ? `${path}.${k}` : k)])
          : []
    const shown = [...new Set(fields(c.example))]
    expect(shown.filter((f) => c.labels[f] === undefined && c.labels[f.split('.').at(-1) ?? ''] === undefined)).toEqual([])
  })
  test('rows of the critical path are called what they are, each told from the others; a task may be called 12', () => {
    render(<BenchPage me={me} calculator="critical-path" />)
    expect(screen.getAllByLabelText('Takes, days')).toHaveLength(4)
    expect(screen.getByRole('region', { name: 'Waits for of row 2' })).toBeTruthy()
    expect(screen.getByRole('region', { name: 'Waits for of row 4' })).toBeTruthy()
    fireEvent.change(screen.getAllByLabelText('Name')[0] as HTMLElement, { target: { value: '12' } })
    fireEvent.change(screen.getAllByLabelText('Name')[2] as HTMLElement, { target: { value: '12' } })
    expect(document.body.textContent).not.toMatch(/must be text/)
  })
  test('a task that waits for nothing yet can be made to wait', async () => {
    render(<BenchPage me={me} calculator="critical-path" />)
    const dig = screen.getByRole('region', { name: 'Waits for of row 1' })
    expect(within(dig).queryAllByLabelText('Name')).toHaveLength(0)
    await act(async () => void fireEvent.click(within(dig.parentElement as HTMLElement).getByRole('button', { name: 'One more' })))
    fireEvent.change(within(dig).getByLabelText('Name'), { target: { value: 'stone' } })
    expect(document.body.textContent).toContain('8 days')
  })
  test('what a truck carries is typed in the reader’s pounds', () => {
    render(
      <PreferencesProvider units="imperial" theme="day">
        <BenchPage me={me} calculator="truck-loads" />
      </PreferencesProvider>,
    )
    expect((screen.getByLabelText('A truck carries, lb') as HTMLInputElement).value).toMatch(/^4409/)
    expect(screen.getAllByLabelText('Mass, lb')).toHaveLength(5)
  })
  test('rows are added and taken out', async () => {
    render(<BenchPage me={me} calculator="rod" />)
    await press('One more')
    expect(screen.getAllByText(/^Point \d: rod should show/)).toHaveLength(2)
    await press('Take out Points 1')
    expect(screen.getAllByText(/^Point \d: rod should show/)).toHaveLength(1)
  })
})
