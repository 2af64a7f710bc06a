import type { Step, WallState } from '@stone-tally/core'
import { act, cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react'
import { useState } from 'react'
import { built, entry, layoutOf, smallPlan, WALL } from '../../core/test/plans'
import { Site } from '../../core/test/site'
import { LayersPage } from '../features/build/layers'
import { WaterPage } from '../features/build/water'
import { ChecksPage } from '../features/prove/checks'
import { type Me, useUnissued, WallProvider } from '../features/wall'
import { find } from '../features/wall/find'
import { GROUPS, PLACES } from '../features/wall/places'
import { PreferencesProvider } from '../ui/preferences'
import { Server, serveFrom } from './fake-server'

const went: string[] = []
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: (to: string) => went.push(to) }) }))
afterEach(cleanup)
let server: Server
beforeEach(() => {
  server = new Server()
  serveFrom(server)
  localStorage.clear()
  went.length = 0
})

const me: Me = { id: 'foreman', name: 'Fay', role: 'foreman' }
const plan = built(smallPlan)
const plans = [plan]
const PAGES = { checks: ChecksPage, layers: LayersPage, water: WaterPage }

/** The places of one wall, gone to and fro between as the application does: the wall stays, the place changes. */
function House({ first = 'checks', person = me }: { first?: keyof typeof PAGES; person?: Me }) {
  const [at, go] = useState<keyof typeof PAGES>(first)
  const Place = PAGES[at]
  return (
    <PreferencesProvider units="metric" theme="day">
      {(Object.keys(PAGES) as (keyof typeof PAGES)[]).map((p) => (
        <button type="button" key={p} onClick={() => go(p)}>
          go to {p}
        </button>
      ))}
      <WallProvider wall={WALL} name="Bay" plans={plans} me={person}>
        <Place />
      </WallProvider>
    </PreferencesProvider>
  )
}
const loaded = () => waitFor(() => expect(screen.queryByText('Loading the record …')).toBeNull())
const press = (name: string | RegExp) => act(async () => void fireEvent.click(screen.getByRole('button', { name })))

test('to and fro between places nothing is asked for twice: one record, one stream', async () => {
  const site = new Site(plan).toFirstCourse()
  for (const e of site.entries) server.take(e)
  const asked: string[] = []
  const answer = server.fetch
  globalThis.fetch = ((url: string, init?: object) => {
    asked.push(url)
    return answer(url, init)
  }) as never
  render(<House />)
  await loaded()
  const first = asked.filter((u) => u.includes('/entries')).length
  expect([first, server.streams.length]).toEqual([1, 1])
  for (const place of ['layers', 'water', 'checks', 'water']) {
    await press(`go to ${place}`)
    // There at once, without a word of loading.
    expect(screen.queryByText('Loading the record …')).toBeNull()
  }
  expect([asked.filter((u) => u.includes('/entries')).length, server.streams.length]).toEqual([1, 1])
})

test('another’s entry reaches the place one is at, and its strip says what is now', async () => {
  const site = new Site(plan).toFirstCourse()
  for (const e of site.entries) server.take(e)
  render(<House />)
  await loaded()
  await act(async () => void fireEvent.click(screen.getByRole('radio', { name: 'Section B' })))
  const strip = () => within(screen.getByRole('complementary', { name: 'Now' }))
  expect(strip().getByText(/waits for the inspector/)).toBeTruthy()
  const release = entry(
    'release',
    { stage: 'line', section: 'B', course: 1 },
    { decision: 'released', reason: 'seen', signature: { name: 'Ines' } } as never,
    {
      role: 'inspector',
    },
  )
  await act(async () => server.streams[0]?.onmessage?.({ data: JSON.stringify(server.take(release)) }))
  expect(strip().queryByText(/waits for the inspector/)).toBeNull()
})

test('every place is in one group, the one that is here unfolded; the Board stands before them all', async () => {
  render(<House />)
  await loaded()
  const nav = within(screen.getByRole('navigation', { name: 'Places of this wall' }))
  expect(nav.getAllByRole('link').map((a) => a.textContent)).toEqual(['Board', 'Checks', 'Record', 'Readings', 'Print'])
  expect(nav.getByRole('link', { name: 'Checks' }).getAttribute('aria-current')).toBe('page')
  const all = new Set<string>()
  for (const [, title] of GROUPS) {
    await press(new RegExp(`^${title}`))
    for (const a of nav.getAllByRole('link')) all.add(a.getAttribute('href') ?? '')
    expect(nav.getByRole('button', { name: new RegExp(`^${title}`) }).getAttribute('aria-expanded')).toBe('true')
  }
  expect([...all].sort()).toEqual([`/walls/${WALL}`, ...PLACES.map((p) => `/walls/${WALL}/${p.id}`)].sort())
})

describe('find', () => {
  const { state } = new Site(plan).toBackfill()
  const titles = (text: string, units: 'metric' | 'imperial' = 'metric') => find(state, 'w', text, units).map((f) => f.title)
  test('nothing typed: the places; a word of what is done there leads to it', () => {
    expect(titles('')).toHaveLength(PLACES.length + 1)
    expect(titles('pipe')[0]).toBe('Water')
    expect(titles('geogr')[0]).toBe('Layers')
    // What is called so stands before what is about it.
    expect(titles('rec')[0]).toBe('Record')
  })
  test('a course by its number, with its section or without, at what is still to do there', () => {
    expect(titles('2 b')[0]).toBe('Course 2, section B')
    expect(titles('course 2').slice(0, 2)).toEqual(['Course 2, section A', 'Course 2, section B'])
    const [to] = find(state, 'w', '1 b', 'metric')
    expect(to?.href).toMatch(/^\/walls\/w\?step=/)
    expect(titles('99').filter((t) => t.startsWith('Course'))).toEqual([])
  })
  test('a length is a station, read in the reader’s units; beyond the wall it is none', () => {
    expect(titles('4.5')).toContain('Station 4.50')
    expect(find(state, 'w', '4.5', 'metric').find((f) => f.id === 'station')?.href).toBe('/walls/w?station=4.5')
    expect(Number(/station=(.+)$/.exec(find(state, 'w', "5'", 'imperial').find((f) => f.id === 'station')?.href ?? '')?.[1])).toBeCloseTo(1.524, 6)
    expect(titles('400')).toEqual([])
    expect(titles('-1')).toEqual([])
  })
  test('an entry by its number, as people write it; one that is not there is nothing', () => {
    for (const text of ['no. 3', '#3', 'entry 3', 'No 3'])
      expect(find(state, 'w', text, 'metric')[0]).toMatchObject({ title: 'Entry 3', href: '/walls/w/record?entry=3' })
    expect(titles('#999999')).toEqual([])
  })
  test('something to do: it is done where one is, or leads there', () => {
    const [feet] = find(state, 'w', 'feet and inches', 'metric')
    expect(feet).toMatchObject({ does: 'imperial', about: 'done here' })
    expect(find(state, 'w', 'offline', 'metric')[0]).toMatchObject({ does: 'keep' })
    expect(find(state, 'w', 'export', 'metric')[0]?.href).toBe('/api/walls/w/export')
    expect(find(state, 'w', 'write note', 'metric')[0]?.href).toBe('/walls/w/record#note')
  })
  test('a step of the work by its words, what is not done first', () => {
    const list = find(state, 'w', 'backfill', 'metric')
    expect(list.length).toBeGreaterThan(1)
    expect(list[0]?.about).not.toBe('course 1, section B')
    expect(titles('no such thing at all')).toEqual([])
  })
  test('many that are done never hide the ones that are not', () => {
    // Eighty courses of a section are recorded before the others begin.
    const tall = { ...state, steps: [...Array.from({ length: 300 }, () => state.byKey.get('units|B|1') as Step), ...state.steps] }
    const list = find(tall as WallState, 'w', 'units set', 'metric')
    expect(list[0]?.about).not.toBe('course 1, section B')
  })
  test('opened by its key and not while somebody writes, chosen by keys, and gone to', async () => {
    for (const e of new Site(plan).toFirstCourse().entries) server.take(e)
    render(<House />)
    await loaded()
    fireEvent.keyDown(window, { key: '/' })
    const field = await screen.findByRole('searchbox')
    fireEvent.change(field, { target: { value: 'print' } })
    await waitFor(() => expect(screen.getAllByRole('menuitem')).toHaveLength(1))
    fireEvent.click(screen.getByRole('menuitem', { name: /Print/ }))
    await waitFor(() => expect(went).toEqual([`/walls/${WALL}/print`]))
    expect(screen.queryByRole('searchbox')).toBeNull()
  })
  test('Enter takes the first of what is found', async () => {
    render(<House />)
    await loaded()
    await press('Find')
    const field = await screen.findByRole('searchbox')
    fireEvent.change(field, { target: { value: 'print' } })
    await waitFor(() => expect(screen.getAllByRole('menuitem')).toHaveLength(1))
    fireEvent.keyDown(field, { key: 'Enter' })
    await waitFor(() => expect(went).toEqual([`/walls/${WALL}/print`]))
  })
  test('what is not there is said, with what can be typed', async () => {
    render(<House />)
    await loaded()
    await press('Find')
    fireEvent.change(await screen.findByRole('searchbox'), { target: { value: 'xyzzy' } })
    expect(await screen.findByText(/Nothing of this wall is called “xyzzy”/)).toBeTruthy()
  })
})

test('a revision that cannot be laid out stops every place and says why', () => {
  const bad = { ...plan, grades: plan.grades.map((g) => ({ ...g, top: g.toe - 1 })) }
  expect(() => layoutOf(bad as never)).toThrow()
  render(
    <WallProvider wall={WALL} name="Bay" plans={[plan, bad]} me={me}>
      <ChecksPage />
    </WallProvider>,
  )
  expect(screen.getByRole('alert').textContent).toMatch(/lower than one course/)
})

function Draft({ changed }: { changed: boolean }) {
  useUnissued(changed)
  return null
}
describe('another’s revision', () => {
  const revision = { ...entry('revision', {}, { number: 2, hash: 'x', reason: 'steeper' } as never), by: { id: 'o', name: 'Odd', role: 'office' } }
  const at = (changed: boolean) =>
    render(
      <WallProvider wall={WALL} name="Bay" plans={plans} me={me}>
        <Draft changed={changed} />
        <ChecksPage />
      </WallProvider>,
    )
  test('takes no plan away that somebody is changing: it says so, and nothing more is judged by the old one', async () => {
    at(true)
    await loaded()
    await act(async () => server.streams[0]?.onmessage?.({ data: JSON.stringify(server.take(revision as never)) }))
    await waitFor(() => expect(screen.getByText(/Revision 2 of the plan came into force while you were changing revision 1/)).toBeTruthy())
    expect(screen.getByRole('button', { name: 'Start from revision 2' })).toBeTruthy()
  })
  test('when the change is taken back or left, the page starts from the other revision: nobody works on by the old one', async () => {
    const page = at(true)
    await loaded()
    await act(async () => server.streams[0]?.onmessage?.({ data: JSON.stringify(server.take(revision as never)) }))
    const errors: unknown[] = []
    const log = jest.spyOn(console, 'error').mockImplementation((e) => void errors.push(e))
    page.rerender(
      <WallProvider wall={WALL} name="Bay" plans={plans} me={me}>
        <Draft changed={false} />
        <ChecksPage />
      </WallProvider>,
    )
    log.mockRestore()
    expect(errors.map(String).join()).toMatch(/navigation/)
  })
  test('where nothing is being changed the page starts from it', async () => {
    at(false)
    await loaded()
    const errors: unknown[] = []
    const log = jest.spyOn(console, 'error').mockImplementation((e) => void errors.push(e))
    await act(async () => server.streams[0]?.onmessage?.({ data: JSON.stringify(server.take(revision as never)) }))
    log.mockRestore()
    // The simulated browser cannot load anew, and says that it was asked to.
    expect(errors.map(String).join()).toMatch(/navigation/)
    expect(screen.queryByText(/while you were changing/)).toBeNull()
  })
})
