import { advance, type Entry, emptyState, type Layout, placesOf, statusOf, stepKey, type WallState } from '@stone-tally/core'
import { act, fireEvent, render, screen, within } from '@testing-library/react'
import { useState } from 'react'
import { entry, layoutOf } from '../../core/test/plans'
import { DiaryList } from '../features/wall/diary'
import { ConflictPanel, FindingsPanel, GatePanel, HoldPanel } from '../features/wall/gate'
import type { Fact, Me, RecordResult } from '../features/wall/use-wall'
import { PANELS } from '../features/wall/work'
import type { WorkProps } from '../features/wall/work/types'
import { PreferencesProvider } from '../ui/preferences'

const ME: Record<string, Me> = {
  foreman: { id: 'foreman', name: 'Fay', role: 'foreman' },
  crew: { id: 'crew', name: 'Cal', role: 'crew' },
  inspector: { id: 'inspector', name: 'Ian', role: 'inspector' },
}
const me = (role: string) => ME[role] as Me

/** A state with the entries folded in as they are; panels are judged by what they show and send. */
function wall(entries: readonly Entry[], layout: Layout = layoutOf()): WallState {
  let state = emptyState([layout])
  entries.forEach((e, i) => {
    state = advance(state, { seq: i + 1, receivedAt: '', entry: e })
  })
  return state
}
const stepOf = (state: WallState, stage: string, section?: string, course?: number) => {
  const step = state.byKey.get(stepKey({ stage, section, course }))
  if (!step) throw new Error(`no ${stage}`)
  return step
}

function panel(
  state: WallState,
  stage: string,
  section?: string,
  course?: number,
  more: { recheck?: { id: string; station?: number }; imperial?: boolean; station?: number } = {},
) {
  const step = stepOf(state, stage, section, course)
  const Panel = PANELS[step.stage.work.type]
  if (!Panel) throw new Error('no panel')
  const sent: Fact[] = []
  const stations: number[] = []
  render(
    <PreferencesProvider units={more.imperial ? 'imperial' : 'metric'} theme="day">
      <Panel
        state={state}
        step={step}
        status={statusOf(state, step)}
        me={me('foreman')}
        recheck={more.recheck}
        station={more.station}
        onStation={(s) => stations.push(s)}
        record={async (facts) => {
          sent.push(...facts)
          return { ok: true, verdict: undefined }
        }}
      />
    </PreferencesProvider>,
  )
  return { sent, stations, step }
}
/** A readings panel whose station follows what it asks for, as on the Board. */
function Live({ state, step, record }: Pick<WorkProps, 'state' | 'step' | 'record'>) {
  const [station, setStation] = useState<number>()
  const Panel = PANELS.readings as NonNullable<(typeof PANELS)['readings']>
  return <Panel {...{ state, step, station, record, recheck: undefined }} status={statusOf(state, step)} me={me('foreman')} onStation={setStation} />
}
const type = (label: string | RegExp, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } })
const press = async (name: string | RegExp) => {
  await act(async () => {
    fireEvent.click(screen.getByRole('button', { name }))
  })
}

describe('recording panels', () => {
  const setup = entry('setup', {}, { benchmark: 10, backsight: 1.5 })

  test('readings: target, live judgement in words, and the raw reading is what is sent', async () => {
    const { sent, stations, step } = panel(wall([setup]), 'pad-level', 'B')
    const target = 11.5 - (layoutOf().steps.at(-1)?.elevation ?? 0)
    expect(screen.getByText(`${target.toFixed(3)} m`)).toBeTruthy()
    type(/Rod reading/, (target - 0.004).toFixed(3))
    expect(screen.getByText(/4 mm high/)).toBeTruthy()
    expect(screen.getByText('within limits')).toBeTruthy()
    type(/Rod reading/, (target - 0.006).toFixed(3))
    expect(screen.getByText(/over the limit of ±5 mm/)).toBeTruthy()
    await press('Record reading')
    expect(sent).toMatchObject([
      {
        kind: 'reading',
        where: { stage: 'pad-level', section: 'B', ...placesOf(step)[0] },
        data: { method: 'rod', hi: 11.5, value: Number((target - 0.006).toFixed(3)) },
      },
    ])
    expect(stations).toEqual([placesOf(step)[1]?.station])
  })
  test('readings: a value taken from an instrument carries it, until a key of any kind changes the value', async () => {
    const status = { id: 'l', kind: 'level', name: 'Laser', serial: 'L-1', calibratedUntil: '2999-01-01', battery: 90, connected: true }
    const target = 11.5 - (layoutOf().steps.at(-1)?.elevation ?? 0)
    const before = globalThis.fetch
    globalThis.fetch = (async (url: string) => ({
      ok: true,
      json: async () =>
        url.endsWith('/read') ? { status, reading: { id: 'l', seq: 1, at: '', values: { rod: target } } } : { instruments: [status] },
    })) as never
    try {
      const { sent } = panel(wall([setup]), 'pad-level', 'B')
      await screen.findByRole('button', { name: 'Take reading: Laser' })
      await press('Take reading: Laser')
      await press('Record reading')
      for (const change of ['One step more', 'One step less', 'Delete']) {
        await press('Take reading: Laser')
        // The keypad is for touch alone, so it is hidden here.
        await act(async () => fireEvent.click(screen.getByRole('button', { name: change, hidden: true })))
        await press('Record reading')
      }
      expect(sent[0]?.instrument).toEqual({ name: 'Laser', serial: 'L-1', calibratedUntil: '2999-01-01' })
      expect(sent.slice(1).map((f) => f.instrument)).toEqual([undefined, undefined, undefined])
    } finally {
      globalThis.fetch = before
    }
  })
  /** The readings panel with answers that come when the test says, and a station that follows. */
  function slow() {
    const state = wall([setup])
    const step = stepOf(state, 'pad-level', 'B')
    const answers: ((r: RecordResult) => void)[] = []
    const sent: Fact[] = []
    render(
      <PreferencesProvider units="metric" theme="day">
        <Live
          state={state}
          step={step}
          record={(facts) => {
            sent.push(...facts)
            return new Promise((r) => answers.push(r))
          }}
        />
      </PreferencesProvider>,
    )
    const field = () => screen.getByLabelText(/Rod reading/) as HTMLInputElement
    const answer = (r: RecordResult) => act(async () => answers.shift()?.(r))
    return { sent, field, answer }
  }
  const rod = 11.5 - (layoutOf().steps.at(-1)?.elevation ?? 0)
  const [one, two] = [rod.toFixed(3), (rod + 0.001).toFixed(3)]
  const refusal: RecordResult = { ok: false, problems: [{ field: 'where', message: 'not now' }] }

  test('readings: what is typed while a reading is on its way is the next point, and stays', async () => {
    const { sent, field, answer } = slow()
    type(/Rod reading/, one)
    await press('Record reading')
    expect(field().value).toBe('')
    type(/Rod reading/, two)
    await press('Record reading')
    expect(sent).toHaveLength(1)
    await answer({ ok: true, verdict: undefined })
    expect(field().value).toBe(two)
    await press('Record reading')
    expect(sent.map((f) => (f.data as { value: number }).value)).toEqual([Number(one), Number(two)])
    expect(sent[1]?.where).not.toEqual(sent[0]?.where)
  })
  test('readings: a refused one comes back to its point; nothing comes back over a number begun meanwhile', async () => {
    const { sent, field, answer } = slow()
    const label = () => field().labels?.[0]?.textContent
    const first = label()
    type(/Rod reading/, one)
    await press('Record reading')
    expect(label()).not.toBe(first)
    await answer(refusal)
    expect([label(), field().value]).toEqual([first, one])
    expect(screen.getByText(/not now/)).toBeTruthy()
    await press('Record reading')
    const second = label()
    type(/Rod reading/, two)
    await answer(refusal)
    expect([label(), field().value]).toEqual([second, two])
    expect(sent).toHaveLength(2)
  })
  test('readings: one kept on this device does not come back to be recorded twice', async () => {
    const { field, answer } = slow()
    type(/Rod reading/, one)
    await press('Record reading')
    await answer({ ok: true, waiting: true, verdict: undefined })
    expect(field().value).toBe('')
    expect(screen.queryByRole('alert')).toBeNull()
  })

  test('readings: a slipped digit is questioned once, then taken', async () => {
    const { sent } = panel(wall([setup]), 'pad-level', 'B')
    type(/Rod reading/, '0.65')
    expect(screen.getByText(/did a digit slip\?|read wrong\?/)).toBeTruthy()
    await press('Record reading')
    expect(sent).toHaveLength(0)
    await press('It is right: record')
    expect(sent).toHaveLength(1)
  })
  test('readings: without an instrument its height is asked for first', async () => {
    const { sent } = panel(wall([]), 'pad-level', 'B')
    type(/Backsight on BM/, '1,234')
    await press('Set height')
    expect(sent).toEqual([{ kind: 'setup', where: {}, data: { benchmark: 10, backsight: 1.234 } }])
  })
  test('readings: feet and inches as crews write them', async () => {
    const { sent } = panel(wall([setup]), 'pad-level', 'B', undefined, { imperial: true })
    type(/Rod reading/, `5' 3 1/2"`)
    await press('Record reading')
    expect((sent[0]?.data as { value: number }).value).toBeCloseTo(1.6129, 6)
  })
  test('readings: nonsense is named and nothing sent', async () => {
    const { sent } = panel(wall([setup]), 'pad-level', 'B')
    type(/Rod reading/, 'abc')
    expect(screen.getByText(/"abc" is not a length/)).toBeTruthy()
    await press('Record reading')
    expect(sent).toHaveLength(0)
  })
  test('readings: a re-check names its finding and stands at its station', async () => {
    const { sent } = panel(wall([setup]), 'pad-level', 'B', undefined, { recheck: { id: 'finding', station: 8.9 } })
    expect(screen.getByLabelText(/Rod reading at 8.90/)).toBeTruthy()
    type(/Rod reading/, '1.7')
    await press('Record re-check')
    expect(sent).toMatchObject([{ recheckOf: 'finding', where: { station: 8.9 } }])
  })
  test('readings across the wall are deviations in millimetres, out is towards the front', async () => {
    const { sent } = panel(wall([setup]), 'line', 'B', 1)
    type(/Off the line/, '-4')
    expect(screen.getByText(/4 mm in/)).toBeTruthy()
    await press('Record reading')
    expect(sent[0]?.data).toEqual({ method: 'deviation', value: -0.004 })
  })
  test('units: the rest of the course in one tap, or some with those thrown out', async () => {
    const { sent, step } = panel(wall([entry('units', { stage: 'units', section: 'B', course: 1 }, { set: 3 })]), 'units', 'B', 1)
    await press(`All set: record ${step.planned - 3}`)
    type('Some blocks set', '2')
    type('Rejected, damaged', '1')
    await press('Record')
    expect(sent.map((f) => f.data)).toEqual([{ set: step.planned - 3 }, { set: 2, rejected: 1 }])
  })
  test('units: half a block is not a count', async () => {
    const { sent } = panel(wall([]), 'units', 'B', 1)
    type('Some blocks set', '2.5')
    await press('Record')
    expect(sent).toHaveLength(0)
    expect(screen.getByText(/must be a whole number/)).toBeTruthy()
  })
  test('lifts: planned thickness and passes are there, density only when tested', async () => {
    const { sent, step } = panel(wall([]), 'pad', 'B')
    await press('Record lift 1')
    type('Density %, if tested', '97,5')
    await press('Record lift 1')
    expect(sent.map((f) => f.data)).toEqual([
      { lift: 1, thickness: step.lifts?.compacted, passes: 3, plant: 'light-plate' },
      { lift: 1, thickness: step.lifts?.compacted, passes: 3, plant: 'light-plate', compaction: 97.5 },
    ])
  })
  test('geogrid: plan values are there, tightness is a word of the person', async () => {
    const { sent } = panel(wall([]), 'grid', 'B', 2)
    // How far its front edge lies behind the face is measured, not offered.
    expect((screen.getByRole('button', { name: 'Record layer' }) as HTMLButtonElement).disabled).toBe(true)
    type('Front edge, mm', '40')
    // Judged before it is recorded.
    expect(screen.getByText(/slack; pull tight and pin/)).toBeTruthy()
    await press('Record layer')
    type('Front edge, mm', '40')
    fireEvent.click(screen.getByRole('checkbox', { name: /Pulled tight and pinned/ }))
    expect(screen.getByText(/as planned/)).toBeTruthy()
    await press('Record layer')
    expect(sent.map((f) => f.data)).toEqual([
      { type: 'uniaxial 30', length: 1.2, front: 0.04, direction: 'across', tight: false },
      { type: 'uniaxial 30', length: 1.2, front: 0.04, direction: 'across', tight: true },
    ])
  })
  test('checks: what is ticked is sent in the order of the list', async () => {
    const { sent } = panel(wall([]), 'services')
    fireEvent.click(screen.getByRole('checkbox', { name: 'This plan revision is the one in force' }))
    fireEvent.click(screen.getByRole('checkbox', { name: 'All services located by their owners' }))
    type('Locate ticket or permit number', ' T-1 ')
    await press(/^Record 2 of 3 · missing: /)
    expect(sent).toEqual([{ kind: 'check', where: { stage: 'services' }, data: { confirmed: ['located', 'revision'], detail: 'T-1' } }])
  })
})

describe('gates on the card', () => {
  const show = (
    state: WallState,
    stage: string,
    role: string,
    section?: string,
    course?: number,
    units: 'metric' | 'imperial' | 'decimal-feet' = 'metric',
  ) => {
    const sent: Fact[] = []
    const steps: string[] = []
    const record = async (facts: readonly Fact[]) => {
      sent.push(...facts)
      return { ok: true as const, verdict: undefined }
    }
    const step = stepOf(state, stage, section, course)
    const common = { state, me: me(role), record }
    const { unmount } = render(
      <PreferencesProvider units={units} theme="day">
        <GatePanel {...common} step={step} onStep={(k) => steps.push(k)} />
        <HoldPanel wall="w" {...common} step={step} status={statusOf(state, step)} />
        <FindingsPanel {...common} status={statusOf(state, step)} recheck={undefined} onRecheck={(e) => steps.push(e.entry.id)} />
        <ConflictPanel state={state} status={statusOf(state, step)} />
        <DiaryList state={state} step={step} me={me(role)} record={record} />
      </PreferencesProvider>,
    )
    return { sent, steps, unmount }
  }
  const level = { stage: 'level', section: 'B', course: 1 }
  const bad = entry('reading', { ...level, station: 8.9 }, { method: 'deviation', value: 0.02 })

  test('names what is missing and leads there', async () => {
    const { steps } = show(wall([]), 'set-out', 'foreman')
    expect(screen.getByText(/services are not located and marked yet/)).toBeTruthy()
    await press(/Go there: services located/)
    expect(steps).toEqual(['services||'])
    expect(screen.queryByText('Go on with a reason')).toBeNull()
  })
  test('a soft gate asks the foreman for words, and nobody else', async () => {
    const { sent } = show(wall([]), 'level', 'foreman', 'B', 1)
    await press('Go on with a reason')
    expect(screen.getByRole('button', { name: 'Pass' }).hasAttribute('disabled')).toBe(true)
    type(/Reason; it stays/, 'string was used')
    await press('Pass')
    expect(sent).toEqual([{ kind: 'override', where: { stage: 'units', section: 'B', course: 1 }, data: { reason: 'string was used' } }])
  })
  test('crew is not offered to pass', () => {
    show(wall([]), 'level', 'crew', 'B', 1)
    expect(screen.queryByText('Go on with a reason')).toBeNull()
  })
  const checked = entry('check', { stage: 'subgrade', section: 'B' }, { confirmed: ['unsuitable', 'undercut', 'compacted'] })
  test('the foreman waits for the inspector, who releases or rejects with words', async () => {
    show(wall([checked]), 'subgrade', 'foreman', 'B')
    expect(screen.getByText(/It waits for the inspector/)).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'Release' })).toBeNull()
  })
  test('the inspector decides', async () => {
    const { sent } = show(wall([checked]), 'subgrade', 'inspector', 'B')
    // Signed by who is signed in; without words it is no decision.
    expect((screen.getByRole('button', { name: 'Reject' }) as HTMLButtonElement).disabled).toBe(true)
    type(/What was seen/, 'soft at the end')
    await press('Reject')
    const data = { decision: 'rejected', reason: 'soft at the end', signature: { typed: 'Ian' } }
    expect(sent).toEqual([{ kind: 'release', where: { stage: 'subgrade', section: 'B' }, data }])
  })
  test('a finding asks for cause and action, then for a re-check', async () => {
    const { sent } = show(wall([bad]), 'level', 'foreman', 'B', 1)
    expect(screen.getByText(/limit ±3 mm/)).toBeTruthy()
    type('Cause', 'grit under it')
    type('Action', 'lifted, swept, reset')
    await press('Keep cause and action')
    expect(sent).toMatchObject([{ kind: 'action', data: { of: bad.id, cause: 'grit under it', action: 'lifted, swept, reset' } }])
  })
  test('with cause and action kept it leads to the re-check', async () => {
    const { steps } = show(wall([bad, entry('action', bad.where, { of: bad.id, cause: 'grit', action: 'swept' })]), 'level', 'crew', 'B', 1)
    expect(screen.getByText(/Nonconformance: grit. Action: swept./)).toBeTruthy()
    await press('Re-check now')
    expect(steps).toEqual([bad.id])
  })
  test('one’s own cause and action, still in the fields until the answer is there, are not called another’s', async () => {
    const { unmount } = show(wall([bad]), 'level', 'foreman', 'B', 1)
    type('Cause', 'grit')
    type('Action', 'swept')
    unmount()
    const action = (data: object) => entry('action', bad.where, { of: bad.id, ...data })
    const own = show(wall([bad, action({ cause: 'grit', action: 'swept' })]), 'level', 'foreman', 'B', 1)
    expect(screen.queryByText(/wrote cause and action meanwhile/)).toBeNull()
    own.unmount()
    show(wall([bad, action({ cause: 'frost', action: 'waited' })]), 'level', 'foreman', 'B', 1)
    expect(screen.getByText(/wrote cause and action meanwhile. You had typed: grit · swept/)).toBeTruthy()
  })
  test('a conflict shows both people and both values', () => {
    const at = { ...level, station: 8.9 }
    show(
      wall([
        entry('reading', at, { method: 'deviation', value: -0.003 }, { role: 'crew' }),
        entry('reading', at, { method: 'deviation', value: 0.003 }, { role: 'inspector' }),
      ]),
      'level',
      'foreman',
      'B',
      1,
    )
    const alert = screen.getByText('◆ Recorded twice with different values').parentElement as HTMLElement
    expect(within(alert).getByText(/Cal: .*3 mm low.*Ian: .*3 mm high/)).toBeTruthy()
  })
  test('an entry is corrected by a new one that names it', async () => {
    const { sent } = show(wall([bad]), 'level', 'foreman', 'B', 1)
    await press('Correct')
    const dialog = within(screen.getByRole('dialog'))
    fireEvent.change(dialog.getByLabelText(/Right value/), { target: { value: '2 mm' } })
    expect((dialog.getByRole('button', { name: 'Correct' }) as HTMLButtonElement).disabled).toBe(true)
    fireEvent.change(dialog.getByLabelText(/Why is it wrong/), { target: { value: 'read off the wrong side' } })
    expect(dialog.getByText(/2 mm high, limit ±3 mm/)).toBeTruthy()
    await act(async () => {
      fireEvent.click(dialog.getByRole('button', { name: 'Correct' }))
    })
    expect(sent).toEqual([
      { kind: 'reading', where: bad.where, data: { method: 'deviation', value: 0.002 }, supersedes: bad.id, reason: 'read off the wrong side' },
    ])
  })
  test.each([
    ['metric', 'Right value, mm', '20', '-2'],
    ['imperial', 'Right value, in', '13/16', '-1/16'],
    ['decimal-feet', 'Right value, ft', '0.07', '-0.01'],
  ] as const)('in %s a correction is asked for as the reading was: %s', async (units, label, shown, typed) => {
    const { sent } = show(wall([bad]), 'level', 'foreman', 'B', 1, units)
    await press('Correct')
    const dialog = within(screen.getByRole('dialog'))
    const field = dialog.getByLabelText(label) as HTMLInputElement
    expect(field.value).toBe(shown)
    fireEvent.change(dialog.getByLabelText(/Why is it wrong/), { target: { value: 'read off the wrong side' } })
    // As it stands it is no correction.
    expect((dialog.getByRole('button', { name: 'Correct' }) as HTMLButtonElement).disabled).toBe(true)
    fireEvent.change(field, { target: { value: typed } })
    await act(async () => {
      fireEvent.click(dialog.getByRole('button', { name: 'Correct' }))
    })
    const { value } = sent[0]?.data as { value: number }
    expect(value).toBeLessThan(-0.0015)
    expect(value).toBeGreaterThan(-0.0035)
  })
  test('a rod reading is put right in feet as it was read in feet', async () => {
    const rod = entry('reading', { ...level, station: 8.9 }, { method: 'rod', value: 1.8, hi: 11.5 })
    const { sent } = show(wall([rod]), 'level', 'foreman', 'B', 1, 'decimal-feet')
    await press('Correct')
    const dialog = within(screen.getByRole('dialog'))
    fireEvent.change(dialog.getByLabelText(/Why is it wrong/), { target: { value: 'misread by a tenth' } })
    fireEvent.change(dialog.getByLabelText('Right value, ft'), { target: { value: '5.81' } })
    await act(async () => {
      fireEvent.click(dialog.getByRole('button', { name: 'Correct' }))
    })
    expect((sent[0]?.data as { value: number }).value).toBeCloseTo(1.7709, 4)
  })
  test('or struck out, with the reason', async () => {
    const { sent } = show(wall([bad]), 'level', 'foreman', 'B', 1)
    await press('Correct')
    type(/Why is it wrong/, 'wrong station')
    await press('Strike it out instead')
    expect(sent).toEqual([{ kind: 'strike', where: {}, data: { reason: 'wrong station' }, supersedes: bad.id }])
  })
  test('crew is not offered to correct what the foreman recorded', () => {
    show(wall([bad]), 'level', 'crew', 'B', 1)
    expect(screen.queryByRole('button', { name: 'Correct' })).toBeNull()
  })
  test('a corrected entry stays to be read, struck through, and is not offered again', () => {
    const fix = entry('reading', bad.where, { method: 'deviation', value: 0.001 }, { supersedes: bad.id })
    show(wall([bad, fix]), 'level', 'foreman', 'B', 1)
    expect(screen.getByText('(corrected)')).toBeTruthy()
    expect(screen.getAllByRole('button', { name: 'Correct' })).toHaveLength(1)
  })
})
