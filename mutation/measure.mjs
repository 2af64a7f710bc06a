// The share of mutants of the core that its tests notice, for whole rooms: all is instrumented once, every test says which mutants it passes, and
// each mutant is tried by those alone, quickest first, in a program loaded anew. A tenth of a second for most, where the library takes seconds.
//
//   ROOMS, SAMPLE, SEED   what is drawn (draw.mjs); all six rooms when left out
//   SECONDS=2             how long one mutant is tried in the first round
//   FROM=earlier.json     goes on from what an earlier run of the same draw kept: what was noticed then is not tried again in the first round
//   REST=0.1              the share, drawn by SEED, of those not noticed by then that every test of theirs is run on; 1 for all
//   REST_SECONDS=1200     and how long at most
import { fork } from 'node:child_process'
import { cpSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { cpus } from 'node:os'
import { join, resolve } from 'node:path'
import { buildSync } from 'esbuild'
import { drawn, EXCLUDED } from './draw.mjs'

const { Instrumenter } = await import(resolve('mutation/node_modules/@stryker-mutator/instrumenter/dist/src/instrumenter.js'))
const { rooms, ranges } = drawn()
const work = resolve('test-results/measure')
rmSync(work, { recursive: true, force: true })
mkdirSync(work, { recursive: true })
cpSync('core', join(work, 'core'), { recursive: true, filter: (f) => !/node_modules|package\.json$/.test(f) })
cpSync('mutation/cases.ts', join(work, 'mutation/cases.ts'))
const tests = readdirSync('core/test', { recursive: true, encoding: 'utf8' })
  // Reads the sources themselves, which are not what is run.
  .filter((f) => f.endsWith('.test.ts') && !f.endsWith('no-numbers.test.ts'))
  .sort()
writeFileSync(
  join(work, 'mutation/test-files.ts'),
  `export const files: Record<string, unknown> = {\n${tests.map((f) => `  '${f}': () => require('../core/test/${f}'),`).join('\n')}\n}\n`,
)

const quiet = () => {}
const logger = { isDebugEnabled: () => false, isTraceEnabled: () => false, debug: quiet, trace: quiet, info: quiet, warn: quiet, error: quiet }
const sources = [...ranges].map(([name, lines]) => ({
  name: resolve(name),
  content: readFileSync(name, 'utf8'),
  mutate: lines ? lines.map((l) => ({ start: { line: l - 1, column: 0 }, end: { line: l - 1, column: 100_000 } })) : true,
}))
const made = await new Instrumenter(logger).instrument(sources, { plugins: null, excludedMutations: EXCLUDED, ignorers: [], noHeader: false })
// What is excluded is made all the same, and marked.
const mutants = made.mutants.filter((m) => m.status !== 'Ignored')
for (const f of made.files) writeFileSync(join(work, f.name.slice(resolve('.').length)), f.content)
const outfile = join(work, 'cases.cjs')
buildSync({
  entryPoints: [join(work, 'mutation/cases.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'cjs',
  target: 'node20',
  logLevel: 'error',
  alias: { '@stone-tally/core': join(work, 'core/src/index.ts') },
  external: ['expect', 'fast-check', 'papaparse'],
})
// What counts which test passes where is needed once; it costs most of the time afterwards.
const counting = readFileSync(outfile, 'utf8')
const cover = /function (stryCov_\w+)\(\) \{/g
if (!cover.test(counting)) throw new Error('the library counts otherwise than it did')
writeFileSync(join(work, 'fast.cjs'), counting.replace(cover, 'function $1() { return; '))

const workers = Number(process.env.CONCURRENCY ?? cpus().length)
const start = () => fork('mutation/worker.mjs', [work], { stdio: ['ignore', 'inherit', 'inherit', 'ipc'], execArgv: ['--stack-size=900'] })

/** Every test without a change: how long it takes and what it passes. */
const coverage = await new Promise((done, fail) => {
  const child = start()
  child.on('message', (m) => {
    done(m)
    child.kill()
  })
  child.on('exit', (code) => code && fail(new Error('the tests do not hold where nothing is changed')))
  child.send({ cover: true })
})
const { cases, loads, hits, loadTime } = coverage
console.log(
  `${mutants.length} mutants of ${rooms.join(', ')}; ${cases.length} cases, ${(cases.reduce((a, c) => a + c.ms, 0) / 1000).toFixed(0)} s, loaded in ${loadTime.toFixed(0)} ms`,
)
/** Cases that pass a mutant, quickest first. What runs as the program is loaded is passed by all. */
const byMutant = new Map()
const asLoaded = new Set(loads)
for (const [n, c] of cases.entries())
  for (const id of c.passes) {
    const list = byMutant.get(id)
    if (list) list.push(n)
    else byMutant.set(id, [n])
  }
const all = cases.map((_, n) => n)
const passing = (id) => (asLoaded.has(id) ? all : (byMutant.get(id) ?? []))
/** How often a case noticed a mutant of a file: what noticed its neighbours is asked first, then what is quick and passes little else. */
const noticedBy = new Map()
const roomOf = (file) => file.split('/')[2]
const casesOf = ({ id, file }) => {
  const [often, here] = [noticedBy.get(file), noticedBy.get(roomOf(file))]
  const worth = (n) => ((often?.get(n) ?? 0) + (here?.get(n) ?? 0) / 20) / (20 + cases[n].ms)
  // What is worked out as the program is loaded is a table or a form for the most part: the first case has all of them.
  const first = (n) => (asLoaded.has(id) && n === 0 ? 0 : 1)
  const cost = (n) => cases[n].ms + cases[n].passes.length / 20
  return passing(id).toSorted((a, b) => first(a) - first(b) || worth(b) - worth(a) || cost(a) - cost(b))
}

/** Tries mutants beside one another; a worker that stands still is ended, and the mutant counts as noticed. */
async function tried(list, seconds, told) {
  let next = 0
  const one = () =>
    new Promise((done) => {
      let child
      let late
      let current
      let order
      let count = 0
      const go = () => {
        clearTimeout(late)
        if (next >= list.length) {
          child?.kill()
          return done()
        }
        if (!child || ++count % 400 === 0) {
          child?.removeAllListeners()
          child?.kill()
          child = start()
          child.on('message', (m) => {
            const of = current
            current = undefined
            if (m.by !== undefined)
              for (const place of [of.file, roomOf(of.file)]) {
                const often = noticedBy.get(place) ?? new Map()
                noticedBy.set(place, often.set(order[m.by], (often.get(order[m.by]) ?? 0) + 1))
              }
            told(of, { noticed: m.by !== undefined, all: m.all })
            go()
          })
          child.on('exit', () => {
            const of = current
            current = undefined
            child = undefined
            if (of) told(of, { noticed: true })
            go()
          })
        }
        current = list[next++]
        order = casesOf(current)
        const longest = order.reduce((most, n) => Math.max(most, cases[n].ms), 0)
        late = setTimeout(() => child.kill('SIGKILL'), 10_000 + 1000 * seconds + 4 * longest)
        child.send({ id: current.id, cases: order.map((n) => cases[n].at), seconds, hits: hits[current.id] ?? 0 })
      }
      go()
    })
  await Promise.all(Array.from({ length: workers }, one))
}

const place = ({ fileName, location: { start: s, end: e } }) =>
  `${fileName.slice(resolve('.').length + 1)}:${s.line + 1}:${s.column}-${e.line + 1}:${e.column}`
const told = mutants.map((m) => ({
  id: m.id,
  file: m.fileName.slice(resolve('.').length + 1),
  place: place(m),
  mutator: m.mutatorName,
  to: m.replacement.replace(/\s+/g, ' ').slice(0, 100),
}))
const results = new Map()
let count = 0
const seconds = Number(process.env.SECONDS ?? 2)
const began = Date.now()
const keep = () =>
  writeFileSync(
    'test-results/measure.json',
    JSON.stringify(
      told.map((t) => ({ ...t, ...results.get(t.id), cases: passing(t.id).length })),
      null,
      0,
    ),
  )
if (process.env.FROM) for (const { id, noticed } of JSON.parse(readFileSync(process.env.FROM, 'utf8'))) results.set(id, { noticed, all: false })
const first = process.env.FROM ? [] : told
await tried(first, seconds, (m, r) => {
  results.set(m.id, r)
  if (++count % 500 === 0) {
    console.log(
      `${count} of ${told.length}: ${[...results.values()].filter((v) => v.noticed).length} noticed, ${((Date.now() - began) / 60000).toFixed(1)} min`,
    )
    keep()
  }
})
keep()
const left = told.filter((m) => !results.get(m.id).noticed)
let seed = Number(process.env.SEED ?? 1)
const rest = left.filter((m) => {
  if (results.get(m.id).all) return false
  seed = (seed * 48271) % 2147483647
  return seed / 2147483647 < Number(process.env.REST ?? 0.1)
})
await tried(rest, Number(process.env.REST_SECONDS ?? 1200), (m, r) => {
  results.set(m.id, { ...r, second: true })
  keep()
})
keep()
for (const room of rooms) {
  const here = told.filter((m) => m.file.startsWith(`core/src/${room}/`))
  const of = (test) => here.filter((m) => test(results.get(m.id))).length
  const first = of((r) => r.noticed && !r.second)
  const second = of((r) => r.second)
  const also = of((r) => r.second && r.noticed)
  const open = of((r) => !r.noticed && !r.all && !r.second)
  const share = second ? also / second : 0
  console.log(
    `${room}: ${here.length} mutants; noticed ${first} at first, ${also} of ${second} looked at again, ${open} not looked at again: ${((100 * (first + also + open * share)) / here.length).toFixed(1)} %`,
  )
}
// For the library to look at under Jest: what was run whole and not noticed.
writeFileSync(
  'test-results/mutation-missed.json',
  JSON.stringify(
    told.filter((m) => results.get(m.id).all && !results.get(m.id).noticed).map((m) => m.place),
    null,
    1,
  ),
)
