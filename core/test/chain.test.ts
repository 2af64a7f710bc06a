// The chain of a record: whatever is done to one of its entries is named by its number and by what was done.
import { type ChainedEntry, chainWalk, endFault, linkOf, type RecordedEntry, verifyChain } from '@stone-tally/core'
import { entry, WALL } from './plans'

const chain = (count: number): ChainedEntry[] => {
  const list: ChainedEntry[] = []
  for (let seq = 1; seq <= count; seq++) {
    const bare = { seq, receivedAt: `2026-05-20T08:0${seq}:00Z`, entry: entry('note', {}, { text: `line ${seq}` }) } as RecordedEntry
    list.push({ ...bare, hash: linkOf(list.at(-1)?.hash ?? WALL, bare as never) } as ChainedEntry)
  }
  return list
}
const six = chain(6)
const last = six[5] as ChainedEntry
const head = { seq: 6, hash: last.hash as string }
const fault = (entries: readonly ChainedEntry[], to: { seq: number; hash: string } | undefined = head) => verifyChain(WALL, entries, to)
const with1 = (seq: number, change: object) => six.map((e) => (e.seq === seq ? ({ ...e, ...change } as ChainedEntry) : e))

test('as it was written it is whole, with or without its end', () => {
  expect(fault(six)).toEqual({ intact: true, entries: 6, head: head.hash })
  expect(verifyChain(WALL, six)).toEqual({ intact: true, entries: 6, head: head.hash })
  expect(verifyChain(WALL, [])).toEqual({ intact: true, entries: 0, head: WALL })
})
test.each([1, 3, 6])('entry %i: altered, replaced, removed, moved, and no entry at all', (seq) => {
  const of = six[seq - 1] as ChainedEntry
  for (const change of [
    { entry: { ...of.entry, data: { text: 'another' } } },
    { entry: { ...of.entry, by: { ...of.entry.by, name: 'Somebody' } } },
    { receivedAt: '2026-05-20T09:00:00Z' },
    { hash: 'b'.repeat(64) },
  ])
    expect(fault(with1(seq, change))).toMatchObject({
      intact: false,
      seq,
      fault: 'altered',
      message: `entry ${seq} was altered, or another was put in its place`,
    })
  for (const none of [null, 7, 'note', undefined])
    expect(fault(with1(seq, { entry: none }))).toMatchObject({ seq, fault: 'altered', message: `entry ${seq} is not an entry` })
  expect(fault(six.filter((e) => e.seq !== seq))).toMatchObject({ intact: false, seq, fault: 'removed' })
})
test('two that changed places, one that came twice, one from elsewhere', () => {
  const swapped = [six[0], six[2], six[1], ...six.slice(3)] as ChainedEntry[]
  expect(fault(swapped)).toMatchObject({ seq: 3, fault: 'reordered', message: 'entry 3 stands where entry 2 belongs: the order was changed' })
  expect(fault([six[0], six[0], ...six.slice(1)] as ChainedEntry[])).toMatchObject({ seq: 1, fault: 'reordered' })
  expect(verifyChain('01900000-0000-7000-8000-0000000000bb', six)).toMatchObject({ seq: 1, fault: 'altered' })
})
test('a record that goes on where it was known up to', () => {
  const walk = chainWalk(WALL, undefined, { seq: 3, hash: (six[2] as ChainedEntry).hash as string })
  expect(walk.take(six[3] as ChainedEntry)).toBeUndefined()
  expect(walk.at).toEqual({ seq: 4, hash: (six[3] as ChainedEntry).hash })
  expect(walk.take(six[5] as ChainedEntry)).toMatchObject({ seq: 5, fault: 'removed', message: 'entry 5 was removed' })
})
test('an end that is missing, or another one', () => {
  expect(fault(six.slice(0, 4))).toMatchObject({ seq: 5, fault: 'removed', message: 'entry 5 was removed: the record went up to 6' })
  expect(fault(six, { seq: 6, hash: 'c'.repeat(64) })).toMatchObject({
    seq: 6,
    fault: 'altered',
    message: 'entry 6 is not the one the record ended with',
  })
  expect(endFault({ seq: 6, hash: head.hash }, head)).toBeUndefined()
})
