// Somebody from outside decides over a link: on what they were asked about, once, and nobody who is signed in stands for them.
import { answerOf, decidedBy, type Entry, lineOf, outsideId, statusOf } from '@stone-tally/core'
import { entry, SIGNED } from '../plans'
import { Site } from '../site'
import { plan } from './wall'

const ASKED = { name: 'Imre Vale', as: 'engineer', address: 'imre@vale.example' }
const at = { stage: 'subgrade', section: 'B' }
const ask = (data: object = ASKED, where: object = at, who: object = {}) => entry('request', where, data, { role: 'foreman', ...who })
const toSubgrade = () => new Site(plan).work('services').work('set-out').release('set-out').work('dig', 'B').work('subgrade', 'B')

function decide(request: string, o: { name?: string; id?: string; where?: object; licence?: string; kind?: string; decision?: string } = {}): Entry {
  const e = entry(
    o.kind ?? 'release',
    o.where ?? at,
    {
      decision: o.decision ?? 'released',
      reason: 'firm and dry',
      signature: { typed: o.name ?? 'Imre Vale' },
      outside: { request, as: 'engineer', licence: o.licence ?? 'E-2231' },
    },
    { role: 'inspector' },
  )
  return { ...e, by: { id: o.id ?? outsideId(request), name: o.name ?? 'Imre Vale', role: 'inspector' } }
}

test('who was asked decides once, and what is not known of them stands beside it', () => {
  const asked = ask()
  const site = toSubgrade().put(asked)
  const release = decide(asked.id)
  site.put(release)
  const step = site.step('subgrade', 'B')
  expect(statusOf(site.state, step).hold).toBe('released')
  expect(decidedBy(release as never)).toBe('Imre Vale, engineer, E-2231, by a link sent to them; identity not checked')
  expect(lineOf(site.state, release, { units: 'metric' })).toMatch(/identity not checked/)
  expect(answerOf(site.state, step, asked.id)?.entry.id).toBe(release.id)
  expect(site.refusal(decide(asked.id))).toMatch(/was answered already/)
})
test('a rejection over the link counts, and uses it up', () => {
  const asked = ask()
  const site = toSubgrade()
    .put(asked)
    .put(decide(asked.id, { decision: 'rejected' }))
  expect(statusOf(site.state, site.step('subgrade', 'B')).hold).toBe('rejected')
  expect(site.refusal(decide(asked.id))).toMatch(/was answered already/)
})
test('asking is no work: it does not answer a rejection', () => {
  const first = ask()
  const site = toSubgrade()
    .put(first)
    .put(decide(first.id, { decision: 'rejected' }))
    .put(ask())
  expect(statusOf(site.state, site.step('subgrade', 'B')).hold).toBe('rejected')
})

describe('refused', () => {
  const asked = ask()
  const site = toSubgrade().put(asked)
  test.each([
    ['somebody who is signed in', decide(asked.id, { id: 'p-7' }), /nobody who is signed in decides for somebody from outside/],
    ['a request that never was', decide('01900000-0000-7000-8000-0000000000ff'), /is not, or no longer, a request/],
    ['another place', decide(asked.id, { where: { stage: 'set-out' } }), /the link decides on that alone/],
    ['no licence', decide(asked.id, { licence: ' - ' }), /licence or register number/],
    ['the name of who builds it', decide(asked.id, { name: `${site.entries[0]?.by.name}.` }), /somebody who records this wall/],
    [
      'another signature',
      { ...decide(asked.id), data: { ...(decide(asked.id).data as object), signature: { typed: 'J. Other' } } },
      /is that of J. Other/,
    ],
    [
      'anything but a decision',
      { ...entry('note', {}, { text: 'x' }), by: { id: outsideId(asked.id), name: 'Imre Vale', role: 'inspector' } },
      /is no decision/,
    ],
    [
      'without saying for which request',
      { ...decide(asked.id), data: { decision: 'released', reason: 'seen', signature: SIGNED } },
      /decides on the request it was sent for/,
    ],
  ] as const)('%s', (_, e, why) => expect(site.refusal(e as Entry)).toMatch(why))
  test('a request that was taken back', () => {
    const back = toSubgrade().put(asked)
    back.put({ ...entry('strike', {}, { reason: 'the wrong address' }, { role: 'foreman' }), where: asked.where, supersedes: asked.id })
    expect(back.refusal(decide(asked.id))).toMatch(/or no longer, a request/)
  })
  test('work that is not complete', () => {
    const early = new Site(plan).work('services').work('set-out').release('set-out').work('dig', 'B').put(asked)
    expect(early.refusal(decide(asked.id))).toMatch(/is not complete/)
  })
  test('asking where nothing holds, at no address, or by the crew', () => {
    expect(site.refusal(ask(ASKED, { stage: 'dig', section: 'B' }))).toMatch(/has no hold point/)
    expect(site.refusal(ask(ASKED, at, { role: 'crew' }))).toMatch(/may not record this/)
    expect(site.refusal(ask(ASKED, { stage: 'subgrade', section: 'Q' }))).toMatch(/is not a section/)
  })
})
