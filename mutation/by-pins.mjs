// A first draw in a tenth of the time: which mutants do the pinned walls and records notice by themselves? Of the others, a file of places to
// give to `npm run mutation` (ONLY=that file), which runs every test on them.
import { spawn } from 'node:child_process'
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { cpus } from 'node:os'
import { join, resolve } from 'node:path'
import { buildSync } from 'esbuild'
import { drawn, EXCLUDED } from './draw.mjs'

const { Instrumenter } = await import(resolve('mutation/node_modules/@stryker-mutator/instrumenter/dist/src/instrumenter.js'))
const { rooms, ranges } = drawn()
const work = resolve('test-results/by-pins')
rmSync(work, { recursive: true, force: true })
mkdirSync(work, { recursive: true })
cpSync('core', join(work, 'core'), { recursive: true, filter: (f) => !/node_modules|package\.json$/.test(f) })
cpSync('mutation/pins.ts', join(work, 'mutation/pins.ts'))

const quiet = () => {}
const logger = { isDebugEnabled: () => false, isTraceEnabled: () => false, debug: quiet, trace: quiet, info: quiet, warn: quiet, error: quiet }
const files = [...ranges].map(([name, lines]) => ({
  name: resolve(name),
  content: readFileSync(name, 'utf8'),
  mutate: lines ? lines.map((l) => ({ start: { line: l - 1, column: 0 }, end: { line: l - 1, column: 100_000 } })) : true,
}))
const made = await new Instrumenter(logger).instrument(files, { plugins: null, excludedMutations: EXCLUDED, ignorers: [], noHeader: false })
// What is excluded is made all the same, and marked.
const mutants = made.mutants.filter((m) => m.status !== 'Ignored')
for (const f of made.files) writeFileSync(join(work, f.name.slice(resolve('.').length)), f.content)
const outfile = join(work, 'pins.cjs')
buildSync({
  entryPoints: [join(work, 'mutation/pins.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'cjs',
  target: 'node20',
  logLevel: 'error',
  alias: { '@stone-tally/core': join(work, 'core/src/index.ts') },
})

/** Longer than this it runs in a circle, ms; known when it ran once with nothing changed. */
let patience = Number(process.env.PATIENCE ?? 600_000)
const noticed = (id) =>
  new Promise((done) => {
    const child = spawn(process.execPath, [outfile], {
      stdio: 'ignore',
      env: { ...process.env, ...(id === undefined ? {} : { __STRYKER_ACTIVE_MUTANT__: id }) },
    })
    const late = setTimeout(() => child.kill('SIGKILL'), patience)
    child.on('exit', (code) => {
      clearTimeout(late)
      done(code !== 0)
    })
  })
const began = Date.now()
if (await noticed(undefined)) throw new Error('the pins do not hold where nothing is changed')
patience = Number(process.env.PATIENCE ?? 4 * (Date.now() - began))
console.log(`${mutants.length} mutants of ${rooms.join(', ')}; where nothing is changed the pins take ${((Date.now() - began) / 1000).toFixed(0)} s`)

const place = ({ fileName, location: { start, end } }) =>
  `${fileName.slice(resolve('.').length + 1)}:${start.line + 1}:${start.column}-${end.line + 1}:${end.column}`
const missed = []
let next = 0
let count = 0
const of = async () => {
  while (next < mutants.length) {
    const m = mutants[next++]
    if (!(await noticed(m.id))) {
      missed.push(m)
      console.log(`missed ${place(m)} ${m.mutatorName} -> ${m.replacement.replace(/\s+/g, ' ').slice(0, 80)}`)
    }
    if (++count % 20 === 0) console.log(`${count} of ${mutants.length}: ${count - missed.length} noticed`)
  }
}
await Promise.all(Array.from({ length: Number(process.env.CONCURRENCY ?? cpus().length) }, of))
writeFileSync('test-results/mutation-missed.json', JSON.stringify([...new Set(missed.map(place))], null, 1))
console.log(`${mutants.length - missed.length} of ${mutants.length} noticed by the pins alone`)
rmSync(work, { recursive: true, force: true })
