// Tries one mutant after another in this process: the program is loaded anew for each, so that nothing kept of one is seen by the next.
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join, resolve } from 'node:path'
import { Script } from 'node:vm'

const work = process.argv[2]
const require = createRequire(resolve('package.json'))
const here = resolve('core/test')
const wrap = (file) =>
  new Script(`(function (exports, require, module, __filename, __dirname) {${readFileSync(join(work, file), 'utf8')}\n})`, { filename: file })
const load = (script) => {
  const module = { exports: {} }
  script.runInThisContext()(module.exports, require, module, join(here, 'x.js'), here)
  return module.exports
}
let fast
const ns = {}
globalThis.__stryker__ = ns
const quietly = { log: console.log, warn: console.warn }

async function covered() {
  const script = wrap('cases.cjs')
  const all = load(script)
  const loads = Object.keys(ns.mutantCoverage?.static ?? {})
  const cases = []
  /** How often a mutant is passed in one case at most. */
  const hits = {}
  const run = async (at, body) => {
    ns.currentTestId = JSON.stringify(at)
    const began = performance.now()
    try {
      const value = await body()
      return value
    } catch (e) {
      console.error(`${JSON.stringify(at)}: ${e?.stack ?? e}`)
      process.exit(1)
    } finally {
      const passed = ns.mutantCoverage?.perTest?.[ns.currentTestId] ?? {}
      for (const [id, n] of Object.entries(passed)) hits[id] = Math.max(hits[id] ?? 0, n)
      cases.push({ at, ms: performance.now() - began, passes: Object.keys(passed) })
      if (ns.mutantCoverage) ns.mutantCoverage.perTest = {}
      ns.currentTestId = undefined
    }
  }
  for (const [n, c] of all.pins.entries()) await run(['pin', n], c.run)
  for (const file of all.fileNames) {
    // What a file does as it is read belongs to each of its tests.
    const found = await run([file], () => all.testsOf(file))
    const own = cases.pop()
    for (const [n, t] of found.entries()) {
      await run([file, n], t.run)
      const c = cases.at(-1)
      c.ms += own.ms
      c.passes = [...new Set([...c.passes, ...own.passes])]
      c.name = `${file}: ${t.name}`
    }
  }
  const began = performance.now()
  load(script)
  return { cases, loads, hits, loadTime: performance.now() - began }
}

async function tried({ id, cases, seconds, hits }) {
  if (cases.length === 0) return { all: true }
  fast ??= wrap('fast.cjs')
  ns.activeMutant = id
  ns.hitCount = 0
  // Passed ten times as often as without it, it runs in a circle.
  ns.hitLimit = 10 * hits + 20_000
  const opened = new Map()
  let by = 0
  try {
    const all = load(fast)
    const began = performance.now()
    for (; by < cases.length; by++) {
      if (performance.now() - began > 1000 * seconds) return { all: false }
      const [what, n] = cases[by]
      ns.hitCount = 0
      if (what === 'pin') await all.pins[n].run()
      else {
        if (!opened.has(what)) opened.set(what, all.testsOf(what))
        await opened.get(what)[n].run()
      }
    }
    return { all: true }
  } catch {
    return { by }
  } finally {
    ns.activeMutant = undefined
  }
}

process.on('message', async (m) => {
  if (m.cover) return process.send(await covered())
  console.log = console.warn = () => {}
  const answer = await tried(m)
  Object.assign(console, quietly)
  process.send(answer)
})
