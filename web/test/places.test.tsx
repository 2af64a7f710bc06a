import { act, cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react'
import { built, entry, smallPlan, WALL } from '../../core/test/plans'
import { Site } from '../../core/test/site'
import { AheadPage } from '../features/build/ahead'
import { LayersPage } from '../features/build/layers'
import { WaterPage } from '../features/build/water'
import { ChecksPage } from '../features/prove/checks'
import { type Me, WallProvider } from '../features/wall'
import { PreferencesProvider } from '../ui/preferences'
import { Server, serveFrom } from './fake-server'

afterEach(cleanup)
const foreman: Me = { id: 'foreman', name: 'Fay', role: 'foreman' }
let server: Server
beforeEach(() => {
  server = new Server()
  localStorage.clear()
  serveFrom(server)
})

const water = { possible: [{ station: 2, invert: 10.05 }], heel: { above: 0.3, fall: 0.02 }, area: 200, runoff: 0.4, rain: 50 }
const plan = built({ ...smallPlan, water, gridRolls: [{ type: 'uniaxial 30', width: 2, length: 12 }] })

/** The small wall up to its second course in section B, with one course that creeps. */
function begun() {
  const site = new Site(plan).toBackfill().put(entry('roll', {}, { roll: 'R7', lot: 'L2', type: 'uniaxial 30', width: 2, length: 12 }))
  site.work('units', 'B', 2)
  const at = { stage: 'level', section: 'B', course: 2 }
  for (const station of site.step('level', 'B', 2).points)
    site.put(entry('reading', { ...at, station }, { method: 'deviation', value: station > 6 ? 0.009 : 0.001 }))
  for (const e of site.entries) server.take(e)
  return site
}
const plans = [plan]
async function show(Page: typeof AheadPage, me = foreman) {
  render(
    <PreferencesProvider units="metric" theme="day">
      <WallProvider wall={WALL} name="Loading bay wall" plans={plans} me={me}>
        <Page />
      </WallProvider>
    </PreferencesProvider>,
  )
  await waitFor(() => expect(screen.queryByText('Loading the record …')).toBeNull())
}
const sectionB = () => act(async () => void fireEvent.click(screen.getByRole('radio', { name: 'Section B' })))

test('Ahead: station by station what becomes of it, and the one chosen in words', async () => {
  begun()
  await show(AheadPage)
  expect(screen.getByText(/No course of section A is read yet/)).toBeTruthy()
  await sectionB()
  const rows = within(screen.getByRole('region', { name: 'Stations' }))
    .getAllByRole('row')
    .slice(1)
  expect(rows.length).toBeGreaterThan(1)
  expect(rows.map((r) => r.textContent).join(' ')).toMatch(/No correction would better it: the top stays inside in about \d+ cases of 10/)
  expect(screen.getByText(/Two readings: a line goes through any two points/)).toBeTruthy()
  expect(screen.getByRole('img', { name: /Elevation with deviations exaggerated/ })).toBeTruthy()
  await act(async () => void fireEvent.click(screen.getAllByRole('button', { name: /Show station/ })[0] as HTMLElement))
  expect(screen.getByRole('img', { name: /Deviation by course at 4.60: course 1 1 mm low, course 2 1 mm high/ })).toBeTruthy()
  await act(async () => void fireEvent.click(screen.getByRole('radio', { name: 'Line and lean' })))
  expect(screen.getByRole('img', { name: /Plan with deviations exaggerated/ })).toBeTruthy()
})

test('Checks: what is due and by whom, points course by course, findings with their way', async () => {
  begun()
  await show(ChecksPage as typeof AheadPage)
  await sectionB()
  expect(screen.getAllByText(/write cause and action/).length).toBe(2)
  const cell = screen.getByRole('link', { name: /^Course level, section B course 2: open finding/ })
  expect(cell.getAttribute('href')).toBe(`/walls/${WALL}?step=level%7CB%7C2`)
  expect(screen.getByRole('link', { name: /^Drain pipe laid, section B course 1: released.*1 photos/ })).toBeTruthy()
  expect(screen.getByRole('heading', { name: 'Findings: 2 open' })).toBeTruthy()
  expect(within(screen.getByRole('region', { name: 'Released and rejected' })).getAllByRole('row').length).toBeGreaterThan(4)
  await act(async () => void fireEvent.click(screen.getByRole('radio', { name: 'Inspector' })))
  expect(screen.getAllByText(/Foreman or Inspector/).length).toBe(2)
})

test('Layers: the schedule, what is cut from which roll, and what is left', async () => {
  begun()
  await show(LayersPage as typeof AheadPage)
  const rows = within(screen.getByRole('region', { name: 'Layer schedule' }))
    .getAllByRole('row')
    .slice(1)
  expect(rows.map((r) => r.textContent)).toEqual([expect.stringContaining('to place'), expect.stringContaining('to place')])
  expect(screen.getByRole('heading', { name: /uniaxial 30: 1 roll of 12.0 m by 2.00 m/ })).toBeTruthy()
  expect(screen.getByRole('img', { name: /1 roll of uniaxial 30/ })).toBeTruthy()
  await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'A roll came' })))
  for (const [label, value] of [
    ['Roll', 'R8'],
    ['Width, m', '2'],
    ['Length, m', '12'],
  ] as const)
    fireEvent.change(screen.getByLabelText(label), { target: { value } })
  await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Record this roll' })))
  await waitFor(() => expect(within(screen.getByRole('region', { name: 'Rolls on site' })).getAllByRole('row')).toHaveLength(3))
})

test('Water: the drain drawn, its outlets judged, inverts in a table; without curves no word on sock and fabric', async () => {
  begun()
  await show(WaterPage as typeof AheadPage)
  expect(screen.getByRole('img', { name: 'Drain profile: 1 outlets, 1 stretches laid' })).toBeTruthy()
  expect(screen.getByText(/The outlets of the plan are the fewest/)).toBeTruthy()
  const rows = within(screen.getByRole('region', { name: 'Inverts' }))
    .getAllByRole('row')
    .slice(1)
  expect(rows[rows.length - 1]?.textContent).toMatch(/○ 9.009.850 m10.150 m10.00 m/)
  expect(screen.getByText(/With a sieve curve of the soil/)).toBeTruthy()
  expect(screen.getByText(/l\/s of/)).toBeTruthy()
})
test('Water: what the plan says is changed as a revision, and wrong figures are named', async () => {
  await show(WaterPage as typeof AheadPage)
  await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Change what the plan says of water' })))
  fireEvent.change(screen.getByLabelText(/Places where water could leave/), { target: { value: '2 10.05\n5 high' } })
  fireEvent.change(screen.getByLabelText('Rain, mm in an hour'), { target: { value: 'much' } })
  await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Issue as a new revision' })))
  expect(screen.getByRole('alert').textContent).toMatch(/Place 2: .*high.*Rain: "much" is not a number/)
  expect(server.posts).toBe(0)
})

test('a wall of many sections has them in a list', async () => {
  const many = { ...plan, sections: Array.from({ length: 12 }, (_, i) => ({ id: `S${i}`, from: i * 0.75, to: (i + 1) * 0.75 })) }
  render(
    <PreferencesProvider units="metric" theme="day">
      <WallProvider wall={WALL} name="Loading bay wall" plans={[many]} me={foreman}>
        <ChecksPage />
      </WallProvider>
    </PreferencesProvider>,
  )
  await waitFor(() => expect(screen.queryByText('Loading the record …')).toBeNull())
  const list = screen.getByRole('combobox', { name: 'Section' })
  await act(async () => void fireEvent.change(list, { target: { value: 'S7' } }))
  expect(screen.getAllByRole('link', { name: /section S7/ }).length).toBeGreaterThan(5)
})
