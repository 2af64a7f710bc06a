import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react'
import { smallPlan } from '../../core/test/plans'
import { Yard } from '../features/yard/yard'
import { takeHanded } from '../ui/handed'
import { PreferencesProvider } from '../ui/preferences'

const went: string[] = []
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: (to: string) => went.push(to) }) }))

afterEach(cleanup)
const due = (what: string, roles: readonly string[], urgent = true) => ({ id: what, what, roles, step: `line|B|1`, urgent })
const wall = (name: string, list: readonly ReturnType<typeof due>[]) => ({
  id: name,
  name,
  site: 'Test yard',
  plan: smallPlan,
  cells: {},
  set: 0,
  total: 40,
  next: [],
  holds: [],
  findings: 0,
  due: list,
  last: undefined,
})
const show = (role: 'foreman' | 'inspector' | 'office', walls: readonly ReturnType<typeof wall>[]) =>
  render(
    <PreferencesProvider units="metric" theme="day">
      <Yard me={{ id: role, name: 'Ann', role }} walls={walls as never} hidden={[]} away={[]} />
    </PreferencesProvider>,
  )
const walls = [
  wall('Ramp wall', [
    due('First course: Alignment', ['inspector']),
    due('Pad level at 3.00', ['foreman', 'inspector']),
    due('Next: units', ['foreman'], false),
  ]),
  wall('Dock wall', [due('Setback at 2.00', ['foreman', 'inspector'])]),
]

test('what is due from the one who looks, one line a wall; the next step of a wall is no news', () => {
  show('foreman', walls)
  const list = within(screen.getByRole('region', { name: 'Due today' }))
  expect(list.getAllByRole('listitem').map((l) => l.textContent)).toEqual(['⬣ Ramp wall: Pad level at 3.00', '⬣ Dock wall: Setback at 2.00'])
  expect(list.getByRole('link', { name: 'Pad level at 3.00' }).getAttribute('href')).toBe('/walls/Ramp wall?step=line%7CB%7C1')
})
test('more of one wall stands behind its first, on its Checks', () => {
  show('inspector', walls)
  const more = screen.getByRole('link', { name: '1 more on the Checks of Ramp wall' })
  expect(more.getAttribute('href')).toBe('/walls/Ramp wall/checks')
})
test('the office sees all; where nothing is due nothing is said', () => {
  show('office', walls)
  expect(screen.getByRole('heading', { name: 'Due today' })).toBeTruthy()
  cleanup()
  show('foreman', [wall('Quiet wall', [])])
  expect(screen.queryByRole('region', { name: 'Due today' })).toBeNull()
})

describe('a file at the Yard', () => {
  const take = (name: string, content: string) => {
    show('foreman', [])
    const file = new File([content], name)
    Object.assign(file, { arrayBuffer: async () => new TextEncoder().encode(content).buffer })
    fireEvent.change(screen.getByLabelText('Plan file'), { target: { files: [file] } })
    return file
  }
  test.each(['face.dxf', 'LINE.XML', 'points.csv', 'survey.txt'])('%s starts a wall, handed on once', (name) => {
    went.length = 0
    const file = take(name, '1,2,3')
    expect(went).toEqual(['/walls/new'])
    expect(takeHanded()).toBe(file)
    expect(takeHanded()).toBeUndefined()
  })
  test('a survey under another name is said for what it is', async () => {
    take('survey.dat', 'point,northing,easting\n1,10,20\n2,10,30')
    expect(await screen.findByText(/is a list of survey points with 1 line and 2 points/)).toBeTruthy()
  })
})

test('a wall that cannot be shown is named with why, and its record can be saved', () => {
  const why = 'Revision 2 of its plan cannot be laid out: "mud-brick" is not a system this application knows.'
  render(
    <PreferencesProvider units="metric" theme="day">
      <Yard me={{ id: 'f', name: 'Fay', role: 'foreman' }} walls={[]} hidden={[{ id: 'w9', name: 'Old wall', site: 'Yard', why }]} away={[]} />
    </PreferencesProvider>,
  )
  expect(screen.getByText(/mud-brick.*Its record is kept whole/)).toBeTruthy()
  expect(screen.getByRole('link', { name: 'Save its record' }).getAttribute('href')).toBe('/api/walls/w9/export')
  expect(screen.queryByText('Begin with a wall')).toBeNull()
})

describe('walls that were not looked at for the page', () => {
  const unseen = { id: 'far', name: 'Far wall', site: 'Test yard', madeUp: false, unseen: true as const }
  const asked: string[] = []
  let answers: boolean
  beforeEach(() => {
    asked.length = 0
    answers = true
    global.fetch = jest.fn(async (url: unknown) => {
      asked.push(String(url))
      if (!answers) throw new TypeError('no network')
      return { ok: true, json: async () => wall('Far wall', [due('Pad level at 9.00', ['foreman'])]) } as Response
    }) as unknown as typeof fetch
  })
  const list = (more: readonly unknown[]) => [...Array.from({ length: 12 }, (_, i) => wall(`Wall ${i}`, [])), ...more]

  test('are looked at when they come on the screen, and what is due there joins the list', async () => {
    show('foreman', list([{ ...unseen }]) as never)
    expect(await screen.findByRole('link', { name: 'Pad level at 9.00' })).toBeTruthy()
    expect(asked).toEqual(['/api/walls/far/overview'])
    expect(screen.queryByText(/further down/)).toBeNull()
  })
  test('no answer is said, with a way to ask again', async () => {
    answers = false
    show('foreman', list([{ ...unseen }]) as never)
    const again = await screen.findByRole('button', { name: 'Look again' })
    expect(screen.getByText(/1 wall further down is being looked at/)).toBeTruthy()
    answers = true
    fireEvent.click(again)
    expect(await screen.findByRole('link', { name: 'Pad level at 9.00' })).toBeTruthy()
  })
  test('off the screen they are asked for behind what is on it, at once where somebody wants them all', async () => {
    Object.assign(window, {
      IntersectionObserver: class {
        observe() {}
        disconnect() {}
      },
    })
    show(
      'foreman',
      list([
        { ...unseen },
        { ...unseen, id: 'other', name: 'Other wall' },
        { ...unseen, id: 'known', name: 'Known wall', due: [due('Setback at 4.00', ['foreman'])] },
      ]) as never,
    )
    expect(screen.getByText(/2 walls further down are being looked at/)).toBeTruthy()
    expect(screen.getByText('Far wall')).toBeTruthy()
    expect(screen.getByRole('link', { name: 'Setback at 4.00' })).toBeTruthy()
    expect(asked).toEqual([])
    fireEvent.click(screen.getByRole('button', { name: 'Look at all now' }))
    await waitFor(() => expect(screen.getAllByRole('link', { name: 'Pad level at 9.00' })).toHaveLength(2))
    await waitFor(() => expect(asked).toEqual(['/api/walls/far/overview', '/api/walls/other/overview']))
    Reflect.deleteProperty(window, 'IntersectionObserver')
  })
})
