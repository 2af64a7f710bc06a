// What the new systems bring to the screen: picks, measures of other kinds, what is built in, the saw day.
import { type Plan, picksOf, type SawnData, type Step, statusOf, stepKey, type WallState } from '@stone-tally/core'
import { act, cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react'
import { built, entry, smallPlan } from '../../core/test/plans'
import { Site } from '../../core/test/site'
import { started } from '../../core/test/started'
import { at, planOn, unitNamed } from '../../core/test/walls'
import { SawPage } from '../features/build/saw/saw-page'
import { builtInRead, builtInTexts, newBuiltIn } from '../features/plan/plan/built-in'
import { draftOf, planOf } from '../features/plan/plan/draft'
import { fieldLabel } from '../features/plan/plan/labels'
import type { Fact, Me } from '../features/wall'
import { WallProvider } from '../features/wall'
import { PANELS } from '../features/wall/work'
import { PreferencesProvider } from '../ui/preferences'
import { Server, serveFrom } from './fake-server'

afterEach(cleanup)
beforeEach(() => sessionStorage.clear())
const foreman: Me = { id: 'foreman', name: 'Fay', role: 'foreman' }
const press = async (name: string | RegExp) => {
  await act(async () => {
    fireEvent.click(screen.getByRole('button', { name }))
  })
}
const type = (label: string | RegExp, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } })
function panel(state: WallState, step: Step, units: 'metric' | 'imperial' = 'metric', recheck?: { id: string }) {
  const Panel = PANELS[step.stage.work.type]
  if (!Panel) throw new Error('no panel')
  const sent: Fact[] = []
  render(
    <PreferencesProvider units={units} theme="day">
      <Panel
        state={state}
        step={step}
        status={statusOf(state, step)}
        me={foreman}
        recheck={recheck}
        station={undefined}
        onStation={() => {}}
        record={async (facts) => {
          sent.push(...facts)
          return { ok: true as const, verdict: undefined }
        }}
      />
    </PreferencesProvider>,
  )
  return sent
}
const stepOf = (state: WallState, stage: string, course?: number) => state.byKey.get(stepKey({ stage, section: 'A', course })) as Step

describe('picks', () => {
  const toUnits = () => {
    const site = new Site(started('big-block'))
      .work('services')
      .work('set-out')
      .release('set-out')
      .work('cleared', 'A')
      .work('dig', 'A')
      .work('subgrade', 'A')
    return site.release('subgrade', 'A').work('pad', 'A').work('pad-level', 'A').release('pad-level', 'A').work('lifting', 'A')
  }
  test('the next block with its mass, reach and share; judged as it is typed; recorded with its number', async () => {
    const { state } = toUnits()
    const sent = panel(state, stepOf(state, 'units', 1))
    expect(screen.getByText('1-01')).toBeTruthy()
    expect(document.body.textContent).toMatch(/1,070 kg with its gear/)
    expect(document.body.textContent).toMatch(/May hang there/)
    type(/Top high/, '4')
    expect(screen.getByText(/comes off again, and its pad is mended/)).toBeTruthy()
    type(/Top high/, '-2')
    expect(screen.queryByText(/comes off again/)).toBeNull()
    await press('Record 1-01 set')
    expect(sent).toMatchObject([{ kind: 'pick', data: { number: 1, level: -0.002 }, where: { stage: 'units', course: 1 } }])
  })
  test('in inches what is typed is inches, and pounds hang', async () => {
    const { state } = toUnits()
    const sent = panel(state, stepOf(state, 'units', 1), 'imperial')
    expect(document.body.textContent).toMatch(/2,359 lb with its gear/)
    type(/Top high/, '1/16')
    await press('Record 1-01 set')
    expect((sent[0]?.data as { level: number }).level).toBeCloseTo(0.0015875, 9)
  })
  test('dead level in one press; the one after it follows; a wrong reach is said', async () => {
    const site = toUnits()
    site.put(
      entry('pick', { stage: 'units', section: 'A', course: 1, station: picksOf(site.state.layout)[0]?.station }, { number: 1, level: 0, wind: 10 }),
    )
    const sent = panel(site.state, stepOf(site.state, 'units', 1))
    expect(screen.getByText('1-02')).toBeTruthy()
    type(/Reach, if another/, 'far')
    await press('Dead level')
    expect(sent).toEqual([])
    expect(screen.getByText(/far/)).toBeTruthy()
    type(/Reach, if another/, '3.8')
    await press('Dead level')
    expect(sent).toMatchObject([{ data: { number: 2, level: 0, reach: 3.8 } }])
  })
})

describe('measures that are no lengths', () => {
  const toBars = () =>
    new Site(started('masonry')).work('services').work('set-out').release('set-out').work('dig', 'A').work('subgrade', 'A').release('subgrade', 'A')
  test('starters are counted, cover is measured: each typed in its own way and judged by the plan', async () => {
    const { state } = toBars()
    const sent = panel(state, stepOf(state, 'bars'))
    type('Starters tied in', '16')
    expect(screen.getByText(/starters tied in 16, at least 17/)).toBeTruthy()
    type('Starters tied in', 'some')
    await press('All of these')
    await press(/^Record \d of 7/)
    expect(sent).toEqual([])
    type('Starters tied in', '17')
    type(/^Cover/, '80')
    type(/^Lap/, '600')
    await press(/^Record 7 of 7/)
    expect(sent[0]?.data).toMatchObject({
      measured: [
        { id: 'cover', value: 0.08 },
        { id: 'lap', value: 0.6 },
        { id: 'starters', value: 17 },
      ],
    })
  })
  test('a temperature typed in °F is kept in °C', async () => {
    const { state } = toBars().work('bars', 'A').release('bars', 'A')
    const sent = panel(state, stepOf(state, 'pad'), 'imperial')
    expect(document.body.textContent).toMatch(/50 °F to 90 °F/)
    type(/^Temperature.*°F/, '60')
    await press('All of these')
    await press(/^Record \d of/)
    const measured = (sent[0]?.data as { measured: { id: string; value: number }[] }).measured
    expect(measured.find((m) => m.id === 'warm')?.value).toBeCloseTo(15.5556, 3)
  })
})

describe('what is built in, on the form', () => {
  const cable = { kind: 'conduit', name: 'Light cable', from: 2.0004, to: 8, elevation: 10.3, behind: 0.9, diameter: 0.05 }
  const posts = { kind: 'sleeves', name: 'Rail posts', from: 1, to: 8.5, spacing: 2, behind: 1, diameter: 0.15, deep: 0.6 }
  const plan = { ...started('hollow-core'), builtIn: [cable, posts] } as Plan
  test.each(['metric', 'imperial'] as const)('opened in %s and left alone it is the very list', (units) => {
    const made = planOf(draftOf(plan, units), units, undefined, plan)
    expect(made.ok && made.value.builtIn).toEqual(plan.builtIn)
  })
  test('one field changed changes that alone; an optional word taken out is gone; a line of another kind has its own fields', () => {
    const lines = builtInTexts(plan.builtIn, 'metric')
    const read = (typed: typeof lines) => builtInRead(typed, lines, plan.builtIn, 'metric', [])
    const changed = lines.map((l, i) => (i === 0 ? { ...l, cells: { ...l.cells, to: '7' } } : l))
    expect(read(changed)).toEqual([{ ...cable, to: 7 }, posts])
    const worded = builtInTexts([{ ...posts, word: 'note 4' } as never], 'metric')
    const [line] = worded
    expect(
      builtInRead([{ ...line, cells: { ...line?.cells, word: '' } } as never], worded, [{ ...posts, word: 'note 4' } as never], 'metric', []),
    ).toEqual([posts])
    expect(newBuiltIn('erosion')).toEqual({ kind: 'erosion', cells: { name: '', from: '', to: '', measure: 'silt-fence' } })
    expect(read([])).toBeUndefined()
  })
  test('what is wrong is said in the words of the form', () => {
    const draft = draftOf(plan, 'metric')
    const bad = planOf(
      { ...draft, builtIn: draft.builtIn.map((l, i) => (i === 1 ? { ...l, cells: { ...l.cells, to: '99', spacing: 'two' } } : l)) },
      'metric',
      undefined,
      plan,
    )
    expect(bad.ok ? [] : bad.problems.map((p) => fieldLabel(p.field))).toEqual(['Built in, 2: apart'])
    const far = planOf(
      { ...draft, builtIn: draft.builtIn.map((l, i) => (i === 1 ? { ...l, cells: { ...l.cells, to: '99' } } : l)) },
      'metric',
      undefined,
      plan,
    )
    expect(far.ok ? [] : far.problems.map((p) => p.field)).toContain('builtIn.1.cells.to')
  })
})

describe('saw day', () => {
  const odd = built(
    planOn([at(0, 0), at(7.13, 0)], false, {
      system: 'glued',
      unit: unitNamed('flat-75'),
      grades: [
        { station: 0, toe: 10, top: 10.3 },
        { station: 7.13, toe: 10, top: 10.3 },
      ],
      drain: { ...smallPlan.drain, outlets: [{ station: 0, invert: 9.8 }] },
    }),
  )
  let server: Server
  beforeEach(() => {
    server = new Server()
    localStorage.clear()
    serveFrom(server)
  })
  const show = async (role: Me['role'], units: 'metric' | 'imperial' = 'metric') => {
    render(
      <PreferencesProvider units={units} theme="day">
        <WallProvider wall="01900000-0000-7000-8000-0000000000aa" name="Lamp" plans={[odd]} me={{ id: role, name: 'Fay', role }}>
          <SawPage />
        </WallProvider>
      </PreferencesProvider>,
    )
    await waitFor(() => expect(screen.queryByText('Loading the record …')).toBeNull())
  }
  test('lists every cut by the unit it comes from, ticks it off, and counts what is done', async () => {
    await show('foreman')
    const before = /(\d+) to cut out of \d+ whole stones; (\d+) done/.exec(document.body.textContent ?? '')
    expect(Number(before?.[2])).toBe(0)
    const [first] = screen.getAllByRole('button', { name: /^Cut / })
    await act(async () => {
      fireEvent.click(first as HTMLElement)
    })
    await waitFor(() => expect(document.body.textContent).toMatch(/; 1 done/))
    await waitFor(() => expect(server.kept.map((e) => e.entry.kind)).toContain('sawn'))
    expect((server.kept.find((e) => e.entry.kind === 'sawn')?.entry.data as SawnData).kind).toBe('cut')
  })
  test('the courses chosen alone; in the order of the wall it is grouped by course', async () => {
    await show('foreman')
    type('From course', '2')
    type('To course', '2')
    fireEvent.click(screen.getByText('Their place in the wall'))
    const rows = within(screen.getByRole('table', { name: 'Cuts' }))
    expect(
      rows
        .getAllByRole('columnheader')
        .filter((h) => h.textContent?.startsWith('Course '))
        .map((h) => h.textContent),
    ).toEqual(['Course 2'])
    expect(rows.getAllByRole('row').length).toBeGreaterThan(2)
  })
  test('mats: only wires along the wall are cut, each drawn with where', async () => {
    const plan = started('wire', { length: 9.1 })
    render(
      <PreferencesProvider units="metric" theme="day">
        <WallProvider wall="01900000-0000-7000-8000-0000000000aa" name="Bank" plans={[plan]} me={{ id: 'f', name: 'Fay', role: 'foreman' }}>
          <SawPage />
        </WallProvider>
      </PreferencesProvider>,
    )
    await waitFor(() => expect(screen.queryByText('Loading the record …')).toBeNull())
    expect(document.body.textContent).toMatch(/Only wires along the wall are cut/)
    expect(screen.getAllByText('narrowed').length).toBeGreaterThan(0)
  })
  test('the office reads it and ticks nothing; in feet it is in inches', async () => {
    await show('office', 'imperial')
    expect(screen.queryAllByRole('button', { name: /^Cut / })).toEqual([])
    expect(document.body.textContent).toMatch(/\d"/)
  })
})
