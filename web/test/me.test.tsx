import { act, fireEvent, render, screen } from '@testing-library/react'
import { MyPage } from '../features/people/me'
import type { Me } from '../features/wall'

const me: Me = { id: 'foreman', name: 'Fay', role: 'foreman' }
const session = (id: string, here: boolean) => ({
  id,
  began: '2026-06-01T06:00:00Z',
  used: '2026-06-02T06:00:00Z',
  device: `Phone ${id}`,
  network: 'n',
  here,
})
/** The house: what it lists, and what becomes of what is sent to it. */
let sessions = [session('a', true), session('b', false)]
let road: 'good' | 'dead' | 'refused' = 'good'
const asked: string[] = []
const answer = (value: unknown, ok = true) => ({ ok, status: ok ? 200 : 403, json: async () => value })
beforeEach(() => {
  sessions = [session('a', true), session('b', false)]
  road = 'good'
  asked.length = 0
  globalThis.fetch = (async (url: string, { method = 'GET' }: { method?: string } = {}) => {
    if (road === 'dead') throw new TypeError('no network')
    if (method === 'GET') return answer({ list: url.includes('sessions') ? sessions : [] })
    asked.push(`${method} ${url}`)
    if (road === 'refused') return answer({ problems: [{ field: 'current', message: 'is not the password you have' }] }, false)
    if (method === 'DELETE') sessions = sessions.filter((s) => !url.endsWith(s.id) && (url.includes('?id=') || s.here))
    return answer({})
  }) as never
})
const show = async () => act(async () => void render(<MyPage me={me} email="fay@tidewrack.example" />))
const press = async (name: string | RegExp) => act(async () => void fireEvent.click(screen.getByRole('button', { name })))

test('a phone that was lost is signed out, and the list says so', async () => {
  await show()
  await press('Sign out Phone b')
  expect(asked).toEqual(['DELETE /api/me/sessions?id=b'])
  expect(screen.queryByText(/Phone b/)).toBeNull()
  expect(screen.getByText(/Phone a · this one/)).toBeTruthy()
})
test('without a signal it says that nobody knows whether it is signed out, and shows it still', async () => {
  await show()
  road = 'dead'
  await press('Sign out Phone b')
  expect(screen.getByText(/it may have arrived or not/)).toBeTruthy()
  expect(screen.getByText(/Phone b/)).toBeTruthy()
  road = 'good'
  await press('Sign out everywhere else')
  expect(screen.queryByText(/it may have arrived or not/)).toBeNull()
  expect(asked).toEqual(['DELETE /api/me/sessions'])
})
test('a password that is refused stays typed, with what is wrong at its field', async () => {
  await show()
  road = 'refused'
  fireEvent.change(screen.getByLabelText('The one you have'), { target: { value: 'wrong wrong' } })
  fireEvent.change(screen.getByLabelText('A new one, at least 12 characters'), { target: { value: 'gravel heron brass nine' } })
  await press('Change it')
  expect(screen.getByText(/is not the password you have/)).toBeTruthy()
  expect((screen.getByLabelText('The one you have') as HTMLInputElement).value).toBe('wrong wrong')
  road = 'good'
  await press('Change it')
  expect(screen.getByText('✓ Changed. Every other device is signed out.')).toBeTruthy()
  expect((screen.getByLabelText('The one you have') as HTMLInputElement).value).toBe('')
})
