// Rule table 3: the same word twice is one word. What says something new goes in.
import { type Entry, since } from '@stone-tally/core'
import { good } from '../build'
import { entry, SIGNED } from '../plans'
import { Site } from '../site'
import { plan } from './wall'

const at = (time: string, day = 20) => `2026-05-${day}T${time}:00Z`
const said = (site: Site) => good(site.step('set-out'))[0] as Entry
const again = (e: Entry, more: Partial<Entry> = {}): Entry => ({ ...e, ...more, id: entry('note', {}, {}).id })

describe('a list that is whole', () => {
  const site = new Site(plan).work('services')
  const first = { ...said(site), at: at('08:00') }
  site.put(first)
  test('the same person, the same word, a moment later: refused by name and number', () => {
    expect(since(plan, 3)).toBe(true)
    expect(site.refusal(again(first, { at: at('08:01') }))).toMatch(/says what .* recorded a moment ago \(no\. \d+\); it stands/)
    const turned = { ...(first.data as { confirmed: string[] }), confirmed: [...(first.data as { confirmed: string[] }).confirmed].reverse() }
    expect(site.refusal(again(first, { at: at('08:01'), data: turned }))).toMatch(/is not recorded twice/)
  })
  test('another person, another word, another day: all of them say something', () => {
    const data = first.data as { confirmed: string[] }
    expect(site.refusal(again(first, { at: at('08:01'), by: { id: 'p-2', name: 'Tobin Ash', role: 'foreman' } }))).toBe('')
    expect(site.refusal(again(first, { at: at('08:01'), data: { confirmed: data.confirmed.slice(1) } }))).toBe('')
    expect(site.refusal(again(first, { at: at('08:01'), data: { ...data, detail: 'stakes moved' } }))).toBe('')
    expect(site.refusal(again(first, { at: at('21:00') }))).toBe('')
  })
  test('a rejection is answered by the same list, looked at anew', () => {
    const held = new Site(plan).work('services').put(first)
    const no = { decision: 'rejected', reason: 'stakes moved', signature: SIGNED }
    held.put(entry('release', { stage: 'set-out' }, no, { role: 'foreman', at: at('08:10'), by: { id: 'p-9', name: 'Ines Vale', role: 'foreman' } }))
    expect(held.refusal(again(first, { at: at('09:00') }))).toBe('')
  })
  test('a list that is not whole is gone on with', () => {
    const part = new Site(plan).work('services')
    const { confirmed } = said(part).data as { confirmed: string[] }
    const half = { ...said(part), data: { confirmed: confirmed.slice(1) }, at: at('08:00') }
    part.put(half)
    expect(part.refusal(again(half, { at: at('08:01') }))).toBe('')
  })
})
test('a day that is promised is promised once; another day, odds or person is another promise', () => {
  const promise = (data: object) => entry('promise', {}, { finish: '2026-07-30', odds: 90, to: 'the harbour office', ...data }, { role: 'foreman' })
  const site = new Site(plan).put(promise({}))
  expect(site.refusal(promise({}))).toMatch(/30 July 2026 is promised already to the harbour office/)
  for (const data of [{ finish: '2026-07-31' }, { odds: 80 }, { to: 'the owner' }]) expect(site.refusal(promise(data))).toBe('')
})
