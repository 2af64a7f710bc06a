// Forty-five records of made-up days on walls of every system: every verdict, refusal, barrier, report and sentence as it was when they were pinned.
import {
  crewSheet,
  densityReport,
  dueOf,
  layerReport,
  lineOf,
  nonconformances,
  overviewOf,
  say,
  soilsOf,
  unmatched,
  verdictOf,
  weatherOf,
} from '@stone-tally/core'
import pinned from './fixtures/pinned-records.json'
import { daysOf, marksOfDays, RECORDS } from './pinned-records'

test('people get on with the work, and get it wrong', () => {
  const days = [0, 7, 8, 14].map(daysOf)
  for (const { state, refused } of days) {
    expect(state.entries.length).toBeGreaterThan(100)
    expect(refused.length).toBeGreaterThan(50)
    expect(new Set(state.entries.map((e) => e.entry.kind)).size).toBeGreaterThan(20)
  }
  expect(days.reduce((n, { state }) => n + state.outs.size, 0)).toBeGreaterThan(10)
})
test.each(Array.from({ length: RECORDS }, (_, n) => n))('record %d reads as it did', (n) => expect(marksOfDays(n)).toEqual(pinned[n]))

/** What no sentence may hold, whatever was recorded: a number that is none, a gap where a word was meant, one of many. */
const ODD =
  /undefined|NaN|Infinity|\[object|\S {2,}\S|\ba (?!uni|usu)[aeiou]|\b1 (blocks|courses|crews|days|entries|hours|items|layers|lifts|pallets|passes|photos|pieces|pins|places|points|readings|rolls|rows|shifts|steps|stretches|tests|things|times|units|weeks)\b/
test('no sentence of theirs is left open', () => {
  const odd = new Set<string>()
  const walk = (v: unknown): void => {
    if (typeof v === 'string') for (const units of ['metric', 'imperial'] as const) ODD.test(say(v, units)) && odd.add(say(v, units))
    else if (v && typeof v === 'object' && !('stage' in v && 'key' in v) && !('receivedAt' in v)) Object.values(v).forEach(walk)
  }
  for (let n = 0; n < RECORDS; n += 2) {
    const { state, refused, way } = daysOf(n)
    walk([refused, way])
    walk(
      state.entries.map(({ entry }) => [
        verdictOf(state, entry)?.text,
        ...(['metric', 'imperial'] as const).map((units) => lineOf(state, entry, { units })),
      ]),
    )
    walk([
      nonconformances(state).map((f) => f.state),
      dueOf(state, '2026-05-25T09:00:00Z'),
      crewSheet(state),
      overviewOf(state, '2026-05-25T09:00:00Z'),
    ])
    walk([unmatched(state), soilsOf(state), densityReport(state).tests.map((t) => t.text), layerReport(state), weatherOf(state)])
  }
  expect([...odd]).toEqual([])
})
