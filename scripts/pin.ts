import { writeFileSync } from 'node:fs'
import { marksOf, PINNED, soilMarks } from '../core/test/pinned'

/** Pins what is made of the made-up walls and soils of the tests. Run it only when that is meant to change, and say in the commit what did and why. */
writeFileSync(
  'core/test/fixtures/pinned.json',
  `${JSON.stringify(
    Array.from({ length: PINNED }, (_, n) => marksOf(n)),
    null,
    1,
  )}\n`,
)
writeFileSync('core/test/fixtures/pinned-soil.json', `${JSON.stringify(soilMarks(), null, 1)}\n`)
