import { canonical, type Entry, sharing } from '@stone-tally/core'
import fc from 'fast-check'
import { entry } from './plans'

const LASER = { name: 'Line laser', serial: 'LZ-20417', calibratedUntil: '2026-12-31' }
/** As it comes: nothing of it is the same object as anything else. */
const anew = (e: Entry): Entry => JSON.parse(JSON.stringify(e))

test('what is alike is kept once: the author, the instrument, a place without a station', () => {
  const share = sharing()
  const e = { ...entry('reading', { stage: 'level', section: 'A', course: 2 }, { method: 'rod', value: 1.2 }), instrument: LASER }
  const [a, b] = [share(anew(e)), share(anew({ ...e, id: 'other' }))]
  expect(b.by).toBe(a.by)
  expect(b.instrument).toBe(a.instrument)
  expect(b.where).toBe(a.where)
  expect(b.data).not.toBe(a.data)
})

test('another role, serial or course is another', () => {
  const share = sharing()
  const e = { ...entry('reading', { stage: 'level', section: 'A', course: 2 }, {}), instrument: LASER }
  const a = share(anew(e))
  const b = share(anew({ ...e, by: { ...e.by, role: 'inspector' }, instrument: { ...LASER, serial: 'LZ-2' }, where: { ...e.where, course: 3 } }))
  expect([b.by.role, b.instrument?.serial, b.where.course]).toEqual(['inspector', 'LZ-2', 3])
  expect([a.by.role, a.instrument?.serial, a.where.course]).toEqual([e.by.role, 'LZ-20417', 2])
})

test('what an entry says stays the same, to the last field', () => {
  const text = fc.string({ maxLength: 6 })
  const any: fc.Arbitrary<Entry> = fc.record(
    {
      id: fc.uuid(),
      wall: fc.constantFrom('w1', 'w2'),
      revision: fc.integer({ min: 1, max: 3 }),
      at: fc.constant('2026-03-01T08:00:00.000Z'),
      by: fc.record({ id: text, name: text, role: text }),
      kind: text,
      where: fc.record({ stage: text, section: text, course: fc.nat(9), station: fc.nat(40), offset: fc.nat(3) }, { requiredKeys: [] }),
      data: fc.record({ text, value: fc.nat() }, { requiredKeys: [] }),
      supersedes: fc.uuid(),
      reason: text,
      recheckOf: fc.uuid(),
      instrument: fc.record({ name: text, serial: text, calibratedUntil: text }),
      clock: fc.nat(),
    },
    { requiredKeys: ['id', 'wall', 'revision', 'at', 'by', 'kind', 'where', 'data'] },
  )
  fc.assert(
    fc.property(fc.array(any, { maxLength: 20 }), (list) => {
      const share = sharing()
      for (const e of list) expect(canonical(share(anew(e)))).toBe(canonical(e))
    }),
  )
})
