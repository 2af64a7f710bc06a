import { send } from '@/device/send'

const answers = (fetched: () => Promise<unknown>) => {
  globalThis.fetch = fetched as typeof fetch
}
const known = globalThis.fetch
afterEach(() => {
  globalThis.fetch = known
})
const cut = () => Promise.reject(new SyntaxError('Unexpected end of JSON input'))

test('an answer cut off half-way is no success, and does not say that nothing was lost', async () => {
  answers(async () => ({ ok: true, status: 200, json: cut }))
  const answer = await send('POST', '/api/walls', {})
  expect(answer).toMatchObject({ ok: false, status: 0 })
  if (answer.ok) return
  expect(answer.problems[0]?.message).toContain('may have arrived or not')
})

test('no network says the same; a refusal that is cut off keeps its status', async () => {
  answers(() => Promise.reject(new TypeError('Failed to fetch')))
  expect(await send('POST', '/api/walls', {})).toMatchObject({ ok: false, status: 0 })
  answers(async () => ({ ok: false, status: 503, json: cut }))
  expect(await send('POST', '/api/walls', {})).toMatchObject({ ok: false, status: 503, problems: [{ message: 'the server answered 503' }] })
})

test('a whole answer is handed on', async () => {
  answers(async () => ({ ok: true, status: 201, json: async () => ({ id: 'w' }) }))
  expect(await send('POST', '/api/walls', {})).toEqual({ ok: true, value: { id: 'w' } })
})
