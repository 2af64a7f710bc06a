import { writeFileSync } from 'node:fs'
import { marksOf, PINNED, soilMarks } from '../core/test/pinned'
import { AROUND, marksAround } from '../core/test/pinned-around'
import { FUNCTIONS, functionMarks } from '../core/test/pinned-functions'
import { marksOfDays, RECORDS } from '../core/test/pinned-records'
import { valuesKept } from '../core/test/pinned-values'

/** Pins what is made of the made-up walls, soils and records of the tests. Run it only when that is meant to change, and say in the commit what did and why. */
const keep = (name: string, value: unknown) => writeFileSync(`core/test/fixtures/${name}.json`, `${JSON.stringify(value, null, 1)}\n`)
const each = <T>(count: number, of: (n: number) => T) => Array.from({ length: count }, (_, n) => of(n))
keep('pinned', each(PINNED, marksOf))
keep('pinned-around', each(AROUND, marksAround))
keep('pinned-soil', soilMarks())
keep('pinned-records', each(RECORDS, marksOfDays))
keep('pinned-values', valuesKept())
keep('pinned-functions', Object.fromEntries(Object.keys(FUNCTIONS).map((name) => [name, functionMarks(name)])))
