import { type Entry, stepKey, type WallState } from '@stone-tally/core'
import { act, cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react'
import { entry, layoutOf, SIGNED, stateOf } from '../../core/test/plans'
import { DensityChart } from '../features/build/ground'
import { DensityPanel } from '../features/build/ground/density-panel'
import { DigPanel } from '../features/build/ground/dig-panel'
import { LevelPanel } from '../features/build/ground/level-panel'
import { LiftsPanel } from '../features/build/ground/lifts-panel'
import { MapPanel } from '../features/build/ground/map-panel'
import { SoilPanel } from '../features/build/ground/soil-panel'
import type { GroundProps } from '../features/build/ground/types'
import { numberOf } from '../features/build/ground/types'
import { WeatherPanel } from '../features/build/ground/weather-panel'
import { InstrumentsPage } from '../features/instruments'
import type { Fact } from '../features/wall'
import { PANELS, StepCard } from '../features/wall'

afterEach(cleanup)
const me = { id: 'foreman', name: 'Fay', role: 'foreman' as const }
beforeEach(() => {
  globalThis.fetch = jest.fn(async () => ({ ok: true, json: async () => ({ instruments: [] }) })) as never
})
const items = (stage: string) => {
  const work = layoutOf().system.stages.find((s) => s.id === stage)?.work
  return work?.type === 'check' ? work.items.map((i) => i.id) : []
}
/** The gates before the dig stand open. */
const staked = (): Entry[] => [
  entry('check', { stage: 'services' }, { confirmed: items('services') }),
  entry('check', { stage: 'set-out' }, { confirmed: items('set-out') }),
  entry('release', { stage: 'set-out' }, { decision: 'released', reason: 'seen', signature: SIGNED }),
]
function props(entries: readonly Entry[] = [], more: Partial<GroundProps> = {}): GroundProps & { sent: Fact[] } {
  const sent: Fact[] = []
  const state: WallState = stateOf(entries)
  return {
    wall: 'w',
    state,
    section: 'B',
    station: 7,
    onStation: () => {},
    units: 'metric',
    me,
    finding: undefined,
    sent,
    record: async (facts) => {
      sent.push(...facts)
      return { ok: true, verdict: undefined }
    },
    ...more,
  }
}
const press = async (name: string | RegExp) => {
  await act(async () => {
    fireEvent.click(screen.getByRole('button', { name }))
  })
}
const type = (label: string | RegExp, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } })
const pick = (name: string | RegExp) => fireEvent.click(screen.getByRole('radio', { name }))

describe('dig', () => {
  test('the cut is recorded with what was measured; what stands as planned is said to, and the rest is not there', async () => {
    const p = props(staked())
    render(<DigPanel {...p} />)
    await press(/Check width/)
    type('Width, m', '0.8')
    type('Sides, across per 1 up', '0,75')
    pick('Stands or runs in')
    await press(/^Record the cut/)
    expect(p.sent).toEqual([
      {
        kind: 'cut',
        where: { stage: 'dig', section: 'B', station: 7 },
        data: { width: 0.8, behind: expect.any(Number), slope: 0.75, water: true, planned: ['behind'] },
      },
    ])
  })
  test('a number that is none is named, and nothing is sent', async () => {
    const p = props(staked())
    render(<DigPanel {...p} />)
    await press(/Check width/)
    type('Width, m', 'wide')
    type('Sides, across per 1 up', 'steep')
    await press(/^Record the cut/)
    expect(screen.getByRole('alert').textContent).toMatch(/width: .*is not a length.*sides: give how far across/)
    expect(p.sent).toEqual([])
  })
  test('a boulder lies about the chosen station; a service is never built over', async () => {
    const p = props(staked())
    render(<DigPanel {...p} />)
    await press(/Something in the way/)
    type(/Length along the wall/, '1.2')
    type(/Above the bottom/, '20')
    expect(screen.getByText(/may be 20 mm thinner here/)).toBeTruthy()
    type(/Above the bottom/, '90')
    expect(screen.getByText(/Break it out, or step up a whole course \(200 mm\)/)).toBeTruthy()
    pick('Service')
    expect(screen.getByText(/stop, keep everyone away, ask its owner/)).toBeTruthy()
    pick('stop and ask')
    await press('Record')
    expect(p.sent[0]).toMatchObject({ kind: 'obstruction', data: { what: 'service', from: 6.4, to: 7.6, above: 0.09, way: 'stop-ask' } })
  })
  test('what was cut too narrow is an open finding with its place for cause and action', async () => {
    const bad = entry('cut', { stage: 'dig', section: 'B', station: 7 }, { width: 0.4 })
    const p = props([...staked(), bad])
    render(<DigPanel {...p} />)
    expect(screen.getAllByText(/0.40 m wide, the pad needs 0.60 m/).length).toBeGreaterThan(0)
    fireEvent.change(screen.getAllByLabelText('Cause')[0] as Element, { target: { value: 'rock at the side' } })
    fireEvent.change(screen.getAllByLabelText('Action')[0] as Element, { target: { value: 'split it off' } })
    await act(async () => {
      fireEvent.click(screen.getAllByRole('button', { name: 'Keep cause and action' })[0] as Element)
    })
    expect(p.sent).toMatchObject([{ kind: 'action', data: { of: bad.id, cause: 'rock at the side', action: 'split it off' } }])
  })
  test('a re-check of a cut names what it re-checks', async () => {
    const bad = entry('cut', { stage: 'dig', section: 'B', station: 6 }, { width: 0.4 })
    const p = props([...staked(), bad, entry('action', {}, { of: bad.id, cause: 'rock', action: 'split' })], { finding: bad.id })
    render(<DigPanel {...p} />)
    type('Width, m', '0.7')
    await press(/^Record the cut/)
    expect(p.sent).toMatchObject([{ kind: 'cut', where: { station: 6 }, recheckOf: bad.id }])
  })
  test('what stood in the way and is looked at again opens as it was found, where it was found', async () => {
    const was = { what: 'roots', from: 5, to: 6.2, above: 0.09, way: 'thicken', note: 'old oak' }
    const bad = entry('obstruction', { stage: 'dig', section: 'B' }, was)
    const p = props([...staked(), bad, entry('action', {}, { of: bad.id, cause: 'roots', action: 'cut' })], { finding: bad.id })
    render(<DigPanel {...p} />)
    pick('break out')
    await press('Record')
    expect(p.sent).toMatchObject([{ kind: 'obstruction', data: { ...was, way: 'break-out' }, recheckOf: bad.id }])
  })
})

describe('survey points', () => {
  const load = async (p: GroundProps, text: string) => {
    render(<LevelPanel {...p} />)
    pick('Survey points')
    const file = { text: async () => text }
    await act(async () => {
      fireEvent.change(screen.getByLabelText('Survey points file'), { target: { files: [file] } })
    })
  }
  const bottom = (layoutOf().steps.at(-1)?.elevation ?? 0) - 0.15
  test('good points are recorded as they were surveyed, the others are left and named', async () => {
    const p = props(staked())
    await load(p, `station,elevation\n7,${(bottom + 0.003).toFixed(3)}\n2,${bottom}\nx,1\n`)
    expect(screen.getByText(/3 mm high: within limits/)).toBeTruthy()
    expect(screen.getByText(/is beyond this stretch/)).toBeTruthy()
    await press('Record 1 points, leave 2')
    expect(p.sent).toEqual([
      { kind: 'reading', where: { stage: 'dig', section: 'B', station: 7 }, data: { method: 'survey', value: Number((bottom + 0.003).toFixed(3)) } },
    ])
  })
  test('a file that is chosen while the one before is recorded stays', async () => {
    let answer = (_: { ok: true; verdict: undefined }) => {}
    const slow = () => new Promise<{ ok: true; verdict: undefined }>((done) => (answer = done))
    await load(props(staked(), { record: slow }), `station,elevation\n7,${bottom}\n`)
    await press('Record 1 points')
    const next = { text: async () => `station,elevation\n8,${bottom}\n9,${bottom}\n` }
    await act(async () => {
      fireEvent.change(screen.getByLabelText('Survey points file'), { target: { files: [next] } })
    })
    await act(async () => answer({ ok: true, verdict: undefined }))
    expect(screen.getByRole('button', { name: 'Record 2 points' })).toBeTruthy()
  })
  test('a file on another datum is asked about as a whole', async () => {
    const rows = [6, 7, 8].map((s) => `${s},${bottom + 100}`).join('\n')
    await load(props(staked()), `station,elevation\n${rows}\n`)
    expect(screen.getByText(/100\.000 m above the plan's benchmark: another datum/)).toBeTruthy()
  })
  test('before the set-out is released nothing may be recorded', async () => {
    await load(props(), `station,elevation\n7,${bottom}\n`)
    expect((screen.getByRole('button', { name: 'Record 0 points, leave 1' }) as HTMLButtonElement).disabled).toBe(true)
  })
})

describe('pad', () => {
  test('the recommendation comes first with its reasons, and the choice is kept with one', async () => {
    const p = props(staked())
    render(<LiftsPanel {...p} />)
    expect(screen.getByText(/not judged yet; taken as clay/)).toBeTruthy()
    expect(screen.getByText(/^▶ .*: recommended/)).toBeTruthy()
    expect((screen.getByRole('button', { name: 'Keep the choice' }) as HTMLButtonElement).disabled).toBe(true)
    pick('Open graded')
    type('Reason', 'stone at hand')
    await press('Keep the choice')
    expect(p.sent).toMatchObject([
      { kind: 'pad-choice', where: { stage: 'pad', section: 'B' }, data: { material: 'open-graded', reason: 'stone at hand' } },
    ])
  })
  test('a choice beside the plan asks for a revision', () => {
    const choice = entry(
      'pad-choice',
      { stage: 'pad', section: 'B' },
      { material: 'lean-concrete', recommended: 'dense-graded', reason: 'soft ground' },
    )
    render(<LiftsPanel {...props([choice])} />)
    expect(screen.getByText(/Fay chose lean concrete: soft ground The plan says dense graded: issue a revision/)).toBeTruthy()
  })
  test('crew see the choice and cannot make it', () => {
    render(<LiftsPanel {...props([], { me: { id: 'c', name: 'Cal', role: 'crew' } })} />)
    expect(screen.queryByLabelText('Reason')).toBeNull()
  })
  test('with a thickness out of design the map says where and why it matters', () => {
    const step = stateOf([]).steps.find((s) => s.stage.id === 'pad-level' && s.section === 'B')
    const station = step?.points.at(-1)
    const list = [
      entry('reading', { stage: 'dig', section: 'B', station }, { method: 'deviation', value: -0.06 }),
      ...(step?.lines ?? []).map((offset) =>
        entry('reading', { stage: 'pad-level', section: 'B', station, offset }, { method: 'deviation', value: 0 }),
      ),
    ]
    render(<MapPanel {...props(list)} />)
    expect(screen.getByText(/pad 210 mm, 60 mm thicker than design/)).toBeTruthy()
    expect(screen.getByText(/the map comes with the third reading/)).toBeTruthy()
  })
})

describe('lifts', () => {
  const panel = () => {
    const state = stateOf([])
    const step = state.byKey.get(stepKey({ stage: 'pad', section: 'B' }))
    const sent: Fact[] = []
    const Lifts = PANELS.lifts
    if (!step || !Lifts) throw new Error('no lifts')
    const status = {
      state: 'todo' as const,
      done: 0,
      total: 2,
      missing: [],
      open: [],
      conflicts: [],
      unmatched: [],
      decision: undefined,
      hold: 'none' as const,
      override: undefined,
      passed: false,
      read: [],
      deviations: new Float64Array(0),
      along: undefined,
    }
    render(
      <Lifts
        state={state}
        step={step}
        status={status}
        me={me}
        recheck={undefined}
        station={undefined}
        onStation={() => {}}
        record={async (f) => {
          sent.push(...f)
          return { ok: true, verdict: undefined }
        }}
      />,
    )
    return sent
  }
  test('fill that wets the hand is advised against while it is chosen; what is recorded says how it was judged', async () => {
    const sent = panel()
    pick('Holds, wets the hand')
    expect(screen.getByText(/spread it and let it dry/)).toBeTruthy()
    pick('Holds, breaks in two')
    await press('Moisture by meter, stretch, fabric')
    type('Moisture by meter, %', '0.09')
    await press('Record lift 1')
    expect(screen.getByRole('alert').textContent).toContain('so write 9')
    type('Moisture by meter, %', '9')
    type(/^From, m/, '5')
    type('To', '8')
    type(/Fabric lap/, '400')
    await press('Record lift 1')
    expect(sent).toEqual([
      {
        kind: 'lift',
        where: { stage: 'pad', section: 'B' },
        data: { lift: 1, thickness: 0.075, passes: 3, plant: 'light-plate', squeeze: 'ball', moisture: 9, from: 5, to: 8, fabricLap: 0.4 },
      },
    ])
  })
  test('a lift thicker than the tool reaches through is said at once', () => {
    panel()
    expect(screen.queryByText(/more than a/)).toBeNull()
    pick('hand tamper')
    expect(screen.getByText(/94 mm loose is more than a hand tamper reaches through \(75 mm\)/)).toBeTruthy()
  })
})

describe('soil and weather', () => {
  test('bad soil with its action asks for the undercut, which re-checks it', async () => {
    const peat = { grain: 'fine', ribbon: 'short', feel: 'spongy', colour: 'dark', smell: 'earthy', water: 'wet' }
    const bad = entry('soil', { stage: 'dig', section: 'B' }, { answers: peat, from: 5, to: 6.5 })
    const p = props([bad, entry('action', {}, { of: bad.id, cause: 'pond', action: 'dig' })])
    render(<SoilPanel {...p} />)
    expect(screen.getByText(/▲ 5.00 to 6.50: Organic soil/)).toBeTruthy()
    type('Depth, mm', '350')
    await press('Record the undercut')
    expect(p.sent).toMatchObject([{ kind: 'undercut', data: { from: 5, to: 6.5, depth: 0.35, passes: 3 }, recheckOf: bad.id }])
  })
  test('a report needs all its numbers and where they come from; crew do not enter one', async () => {
    const p = props()
    render(<SoilPanel {...p} />)
    await press('Enter values of a soil report')
    type('Friction angle, °', '30')
    await press('Record the values')
    expect(screen.getByRole('alert').textContent).toContain('needs the three numbers')
    expect(p.sent).toEqual([])
    cleanup()
    render(<SoilPanel {...props([], { me: { id: 'c', name: 'Cal', role: 'crew' } })} />)
    expect(screen.queryByRole('button', { name: /soil report/ })).toBeNull()
  })
  test('weather is judged while it is typed and recorded for today or as expected', async () => {
    const p = props()
    render(<WeatherPanel {...p} />)
    type(/^Rain/, '25')
    type(/^Lowest/, '-3')
    type(/^Wind/, '12')
    expect(screen.getByText(/fill and subgrade are soaked/)).toBeTruthy()
    expect(screen.getByText(/nothing is built on or with frozen soil/)).toBeTruthy()
    await press('Record as expected')
    expect(p.sent).toEqual([{ kind: 'weather', where: {}, data: { rain: 25, low: -3, wind: 12, expected: true } }])
  })
  test.each([
    ['9.5', 9.5],
    ['9,5', 9.5],
    ['-3', -3],
    ['.5', 0.5],
    ['', Number.NaN],
    ['9.5 %', Number.NaN],
    ['1e3', Number.NaN],
  ])('%j typed is %d', (text, value) => expect(numberOf(text)).toBe(value))
})

test('a density is judged while it is typed; one above zero air voids is asked about once', async () => {
  const points = [6, 8, 10, 12].map((moisture, i) => ({ moisture, dryDensity: [1905, 1990, 2015, 1960][i] }))
  const p = props([entry('curve', {}, { name: 'rock', points, source: 'sheet' })])
  render(<DensityPanel {...p} />)
  pick('Gauge')
  for (const [label, value] of [
    ['Wet density, kg/m³', '2050'],
    ['Moisture, %', '9'],
    ['Standard today, density', '2300'],
    ['Standard today, moisture', '680'],
    ['Reference, density', '2300'],
    ['Reference, moisture', '680'],
  ])
    type(label as string, value as string)
  expect(screen.getByText('▲ 93.4 %')).toBeTruthy()
  type('Wet density, kg/m³', '2150')
  expect(screen.getByText('✓ 97.9 %')).toBeTruthy()
  type('Wet density, kg/m³', '2650')
  expect(screen.getByText(/no soil can be that dense/)).toBeTruthy()
  await press('Record the test')
  expect(p.sent).toEqual([])
  await press('It was read so: record')
  expect(p.sent).toMatchObject([{ kind: 'density', data: { method: 'gauge', gauge: { wetDensity: 2650 } } }])
})

test('weather is said where fill is placed, until it is placed', () => {
  const wet = entry('weather', {}, { rain: 25, low: 6, wind: 10 }, { at: new Date().toISOString() })
  const card = (entries: Entry[], stage: string) => {
    const p = props(entries)
    const step = p.state.steps.find((s) => s.section === 'B' && s.stage.id === stage)
    if (step)
      render(
        <StepCard
          state={p.state}
          step={step}
          me={me}
          record={p.record}
          tag="NOW"
          station={undefined}
          onStation={() => {}}
          onStep={() => {}}
          onNext={() => {}}
          wall="w"
        />,
      )
  }
  card([wet], 'pad')
  expect(screen.getByText(/fill and subgrade are soaked/)).toBeTruthy()
  cleanup()
  card([wet], 'subgrade')
  expect(screen.queryByText(/soaked/)).toBeNull()
  cleanup()
  card([], 'pad')
  expect(screen.queryByText(/soaked/)).toBeNull()
  // Weather of another day says nothing of today, and is named as such.
  cleanup()
  const old = entry('weather', {}, { rain: 25, low: 6, wind: 10 }, { at: '2026-05-18T06:00:00Z' })
  card([...staked(), old], 'pad')
  expect(screen.queryByText(/fill and subgrade are soaked/)).toBeNull()
  expect(screen.getByText(/The newest weather recorded is of Mon 18 May/)).toBeTruthy()
})

test('the density chart says its maximum and marks a failed test that was reworked', () => {
  const data = {
    name: 'rock',
    source: 'sheet',
    points: [6, 8, 10, 12].map((moisture, i) => ({ moisture, dryDensity: [1905, 1990, 2015, 1960][i] as number })),
  }
  const result = { dryDensity: 1890, moisture: 7, relative: 93.9, out: true, text: '', curve: { optimumMoisture: 9.5, maximumDryDensity: 2014 } }
  const one = { entry: { seq: 1, receivedAt: '', entry: entry('density', {}, {}) }, data: {} as never, result, text: '', out: true, closed: true }
  render(<DensityChart accepted={95} data={data} curve={result.curve} window={{ below: 3, above: 2 }} tests={[one]} width={500} height={300} />)
  expect(screen.getByRole('img', { name: /maximum 2014 kg\/m³ at 9.5 %, 1 field tests/ })).toBeTruthy()
  expect(screen.getByText('failed, reworked')).toBeTruthy()
  expect(screen.getByText('zero air voids')).toBeTruthy()
})

test('the instruments page says when none is within reach, and which calibration ran out', async () => {
  render(<InstrumentsPage me={me} />)
  expect(screen.getByRole('status').textContent).toContain('None within reach')
  cleanup()
  const list = [
    { id: 'a', kind: 'level', name: 'Laser', serial: 'L-1', calibratedUntil: '2020-01-01', battery: 40, connected: true },
    { id: 'b', kind: 'weather-station', name: 'Mast', serial: 'W-1', calibratedUntil: '2999-01-01', battery: 4, connected: false },
  ]
  globalThis.fetch = jest.fn(async () => ({ ok: true, json: async () => ({ instruments: list }) })) as never
  render(<InstrumentsPage me={me} />)
  await waitFor(() => screen.getByText('▲ 1 January 2020 ran out'))
  expect(screen.getByText('▲ off')).toBeTruthy()
  expect(screen.getByText('✓ 1 January 2999')).toBeTruthy()
})
