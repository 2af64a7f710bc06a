import { type Entry, issued, type EarlierPlan as Plan } from '@stone-tally/core'
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { good, groundOf, morningLook } from '../../core/test/build'
import { ENGINEERED, entry, layoutOf, smallPlan, stateOf } from '../../core/test/plans'
import { Site } from '../../core/test/site'
import { EarlierRules } from '../features/build/board/earlier-rules'
import { SoilPanel } from '../features/build/ground/soil-panel'
import { type Fact, StepCard } from '../features/wall'

const plan: Plan = issued({ ...smallPlan, ...ENGINEERED })
const me = { id: 'foreman', name: 'Fay', role: 'foreman' as const }
beforeEach(() => {
  globalThis.fetch = jest.fn(async () => ({ ok: true, json: async () => ({ instruments: [] }) })) as never
})
afterEach(() => {
  cleanup()
  sessionStorage.clear()
})
const site = () => new Site(plan).work('services').work('set-out').release('set-out')
function card(of: Site, stage: string, section = 'B', course?: number) {
  const sent: Fact[] = []
  const record = async (facts: readonly Fact[]) => {
    sent.push(...facts)
    return { ok: true as const, verdict: undefined }
  }
  const shared = { tag: 'NOW', station: undefined, onStation() {}, onStep() {}, onNext() {}, wall: 'w' }
  render(<StepCard state={of.state} step={of.step(stage, section, course)} me={me} record={record} {...shared} />)
  return sent
}
const press = (name: string | RegExp) => act(async () => void fireEvent.click(screen.getByRole('button', { name })))
const type = (label: string | RegExp, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } })

describe('before anyone goes in today', () => {
  test('the trench of another day is looked at first: by whom, what was seen, and whether people may go in', async () => {
    const sent = card(site(), 'dig')
    expect(screen.getByText(/was last looked at on Wed 20 May: a competent person looks at it before anyone goes in/)).toBeTruthy()
    expect(screen.queryByLabelText(/Rod reading/)).toBeNull()
    expect((screen.getByLabelText('Looked at by') as HTMLInputElement).value).toBe('Fay')
    type(/what was seen/, 'dry, no cracks')
    expect((screen.getByRole('button', { name: 'Record the look' }) as HTMLButtonElement).disabled).toBe(true)
    fireEvent.click(screen.getByRole('radio', { name: 'Nobody goes in' }))
    await press('Record the look')
    expect(sent).toEqual([{ kind: 'look', where: {}, data: { by: 'Fay', safe: false, seen: 'dry, no cracks' } }])
  })
  test('looked at in this shift nothing is asked; where the fill has come up neither', () => {
    const today = site().put(morningLook({}, new Date(Date.now() - 3_600_000).toISOString()))
    card(today, 'dig')
    expect(screen.queryByText(/a competent person looks at it/)).toBeNull()
    cleanup()
    card(site(), 'units', 'B', 4)
    expect(screen.queryByText(/a competent person looks at it/)).toBeNull()
  })
  test('fill that froze since the last lift asks who looked at it', () => {
    const of = site()
      .work('dig', 'B')
      .put(...groundOf(layoutOf(plan), 'B'))
      .work('subgrade', 'B')
      .release('subgrade', 'B')
    const now = Date.now()
    of.put(
      good(of.step('pad', 'B'))[0] as Entry,
      entry('weather', {}, { rain: 0, low: -3, wind: 5 }, { at: new Date(now - 7_200_000).toISOString() }),
      morningLook({}, new Date(now - 3_600_000).toISOString()),
    )
    card(of, 'pad')
    expect(screen.getByText(/The fill lay open: .*down to .3 °C/)).toBeTruthy()
    expect(screen.getByLabelText('Who looked at it, what was done')).toBeTruthy()
  })
})

test('a list that was said in part is gone on from: what was said stands, what is missing is named', async () => {
  const of = site().work('dig', 'B')
  of.put(morningLook({}, new Date(Date.now() - 3_600_000).toISOString()))
  of.put(entry('check', { stage: 'subgrade', section: 'B' }, { confirmed: ['compacted'], none: ['undercut'] }))
  const sent = card(of, 'subgrade')
  expect(screen.getAllByRole('checkbox').map((c) => (c as HTMLInputElement).checked)).toEqual([false, false, true])
  fireEvent.click(screen.getAllByRole('checkbox')[0] as HTMLElement)
  await press('Record 3 of 3')
  expect(sent).toMatchObject([{ data: { confirmed: ['unsuitable', 'compacted'], none: ['undercut'] } }])
})

test('the subgrade says what of the ground is still wanted, and an item that does not apply can be said so', async () => {
  const of = site()
    .work('dig', 'B')
    .put(morningLook({}, new Date(Date.now() - 3_600_000).toISOString()))
  const sent = card(of, 'subgrade')
  expect(screen.getByText(/the soil from 4\.50 to 9\.00/)).toBeTruthy()
  expect(screen.getByRole('link', { name: 'Judge the soil' }).getAttribute('href')).toBe('/walls/w/ground?tab=soil')
  await press('Not here: Undercut replaced and compacted')
  expect(screen.queryByRole('button', { name: /Not here: Compacted/ })).toBeNull()
  // A press for all swears to nothing that may not have been there: that is asked, and named where it is missing.
  await press('All of these')
  expect(screen.getByRole('button', { name: 'Record 2 of 3 · missing: organic, soft or wet soil removed' })).toBeTruthy()
  await press('Not here: Organic, soft or wet soil removed')
  await press('Record 3 of 3')
  expect(sent).toEqual([
    {
      kind: 'check',
      where: { stage: 'subgrade', section: 'B', course: undefined },
      data: { confirmed: ['compacted'], none: ['undercut', 'unsuitable'] },
    },
  ])
})

test('a stop: what to do and nothing else, then answered by name', async () => {
  const [soil] = groundOf(layoutOf(plan), 'B', {
    grain: 'fine',
    ribbon: 'medium',
    feel: 'sticky',
    colour: 'even',
    smell: 'foul',
    water: 'moist',
    origin: 'natural',
    firm: 'firm',
  })
  const of = site().put(soil as Entry, entry('action', { stage: 'dig', section: 'B' }, { of: (soil as Entry).id, cause: 'old tank', action: 'left' }))
  const sent: Fact[] = []
  const record = async (facts: readonly Fact[]) => {
    sent.push(...facts)
    return { ok: true as const, verdict: undefined }
  }
  render(
    <SoilPanel wall="w" state={of.state} section="B" station={7} onStation={() => {}} units="metric" me={me} finding={undefined} record={record} />,
  )
  expect(screen.getByText(/work is stopped/)).toBeTruthy()
  expect(screen.queryByLabelText('Depth, mm')).toBeNull()
  type('Name', 'Ada Finch')
  type('Measured or seen', 'meter at zero')
  fireEvent.click(screen.getByRole('radio', { name: 'Owner of the line' }))
  await press('Record that it is safe')
  expect(sent).toMatchObject([{ kind: 'clearance', data: { who: 'Ada Finch', as: 'owner', seen: 'meter at zero' }, recheckOf: (soil as Entry).id }])
})

test('a wall of earlier rules says what today would stop; one of today says nothing', () => {
  const lift = entry('lift', { stage: 'backfill', section: 'A', course: 3 }, { lift: 1, thickness: 0.19, passes: 2, plant: 'hand-tamper' })
  render(<EarlierRules state={stateOf([lift])} />)
  expect(screen.getByText(/judged by the rules of its day. Today's would stop 1 entry that stood and the plan itself/)).toBeTruthy()
  expect(screen.getByText(/limit 75 mm with a hand tamper/)).toBeTruthy()
  cleanup()
  const { container } = render(<EarlierRules state={stateOf([], plan)} />)
  expect(container.textContent).toBe('')
})
