// What the pinned walls, soils and records alone notice of a mutant: ends with 1 at the first difference, with 0 where there is none.

import walls from '../core/test/fixtures/pinned.json'
import around from '../core/test/fixtures/pinned-around.json'
import records from '../core/test/fixtures/pinned-records.json'
import soils from '../core/test/fixtures/pinned-soil.json'
import { marksOf, PINNED, soilMarks } from '../core/test/pinned'
import { AROUND, marksAround } from '../core/test/pinned-around'
import { marksOfDays, RECORDS } from '../core/test/pinned-records'

const same = (a: unknown, b: unknown) => {
  // Parts stand in the order of the code in one and of the file in the other.
  const sorted = (v: unknown) => (v && typeof v === 'object' ? Object.entries(v).sort() : v)
  if (JSON.stringify(sorted(a)) !== JSON.stringify(sorted(b))) process.exit(1)
}
try {
  for (let n = 0; n < AROUND; n++) same(marksAround(n), around[n])
  for (let n = 0; n < PINNED; n++) same(marksOf(n), walls[n])
  for (let n = 0; n < RECORDS; n++) same(marksOfDays(n), records[n])
  same(soilMarks(), soils)
} catch {
  process.exit(1)
}
