// What stands in the record as good or as a finding is said the same way while it is typed: nobody learns of a limit by a press.
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { KINDS } from '@stone-tally/core'

const FEATURES = join(__dirname, '../features')
const files = (at: string): string[] =>
  readdirSync(at).flatMap((name) => {
    const path = join(at, name)
    return statSync(path).isDirectory() ? files(path) : /\.tsx?$/.test(name) ? [path] : []
  })
const sources = files(FEATURES).map((path) => ({ path, text: readFileSync(path, 'utf8') }))

/** Judged in another way, each with where it is said. */
const OTHERWISE: Readonly<Record<string, string>> = {
  soil: 'the class, what it means and what is dug out are shown before it is recorded',
  density: 'worked out by densityOf itself beside the fields',
  reading: 'the deviation and its limit stand beside the reading; imported ones are listed with theirs',
  clearance: 'nothing in it can be out: a name, as what, and what was seen',
}

/** Looks without a number: a tick is given or not, and nothing of it can be out. */
const TICKS = 'wall/work/looks.tsx'

test.each(KINDS.filter((k) => k.judge && !(k.kind in OTHERWISE)).map((k) => k.kind))('%s is judged while it is typed', (kind) => {
  const forms = sources.filter(({ text }) => new RegExp(`kind: (job === 'setup' \\? 'setup' : )?'${kind}'`).test(text))
  expect(forms.map((f) => f.path)).not.toEqual([])
  const silent = forms.filter(({ path, text }) => !path.endsWith(TICKS) && !/\b(judge|foreseen)\(/.test(text)).map((f) => f.path)
  expect(silent).toEqual([])
})
