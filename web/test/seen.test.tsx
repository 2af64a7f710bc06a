import { act, fireEvent, render, screen, waitFor } from '@testing-library/react'
import { device } from '../device/db'
import { Walk } from '../features/build/board/walk'

const told: unknown[] = []
let signal = true
beforeEach(async () => {
  told.length = 0
  signal = true
  await device().notes.clear()
  global.fetch = jest.fn(async (_url: unknown, init?: { body?: unknown }) => {
    if (!signal) throw new TypeError('no network')
    told.push(JSON.parse(String(init?.body)))
    return { ok: true, json: async () => ({ what: 'walk' }) } as Response
  }) as unknown as typeof fetch
})
const region = () => screen.queryByRole('region', { name: 'First time here' })

test('what was skipped without a signal does not come back, and the house is told when it can be', async () => {
  signal = false
  const first = render(<Walk person="nell" walked={false} />)
  fireEvent.click(await screen.findByRole('button', { name: 'Skip this' }))
  await waitFor(() => expect(region()).toBeNull())
  // A page loaded anew the moment it is gone from the screen: the house has not heard.
  expect(await device().notes.get('seen:nell:walk')).toBeDefined()
  first.unmount()

  signal = true
  const again = render(<Walk person="nell" walked={false} />)
  await waitFor(() => expect(told).toEqual([{ what: 'walk' }]))
  expect(region()).toBeNull()
  again.unmount()

  // Somebody else of the same device has not been walked through it.
  render(<Walk person="omar" walked={false} />)
  await screen.findByRole('region', { name: 'First time here' })
})

test('whom the house has walked through it is not asked again', async () => {
  render(<Walk person="nell" walked={true} />)
  await act(async () => undefined)
  expect(region()).toBeNull()
  expect(told).toEqual([])
})
