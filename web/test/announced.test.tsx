import { act, renderHook } from '@testing-library/react'
import { useRecord } from '../features/wall'

const said = async () => {
  await act(() => new Promise((done) => setTimeout(done, 120)))
  return document.getElementById('announced')?.textContent
}
test('what became of a press is said to who does not see it: saved, released, rejected, refused', async () => {
  let answer: { ok: true; verdict: undefined } | { ok: false; problems: { field: string; message: string }[] } = { ok: true, verdict: undefined }
  const { result } = renderHook(() => useRecord(async () => answer))
  const send = (facts: object[]) => act(() => result.current.go(facts as never))
  const release = (decision: string) => ({ kind: 'release', where: {}, data: { decision } })
  await send([{ kind: 'note', where: {}, data: {} }])
  expect(await said()).toBe('Saved.')
  await send([release('released'), release('released')])
  expect(await said()).toBe('2 released.')
  await send([release('rejected')])
  expect(await said()).toMatch(/^Rejected/)
  answer = { ok: false, problems: [{ field: '', message: 'not now' }] }
  await send([release('released')])
  expect(await said()).toMatch(/^Refused/)
  expect(document.getElementById('announced')?.getAttribute('aria-live')).toBe('polite')
})
