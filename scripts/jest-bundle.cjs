// Two programs as one file each for Jest, the core and the library of controls: loading their hundreds of modules one by one for every test file
// took longer than most tests. Bundled once for a state of their sources.
const { createHash } = require('node:crypto')
const { readdirSync, readFileSync } = require('node:fs')
const { dirname, join, resolve } = require('node:path')
const { buildSync, version } = require('esbuild')

const keys = new Map()
/** What the sources are, as one word: the folder of our own; of a package what the lock says. */
function keyOf(entry) {
  const known = keys.get(entry)
  if (known) return known
  const hash = createHash('sha256').update(version).update(readFileSync(__filename)).update(entry)
  if (entry.includes('node_modules')) hash.update(readFileSync(resolve(__dirname, '../package-lock.json')))
  else
    for (const f of readdirSync(dirname(entry), { recursive: true, encoding: 'utf8' }).sort())
      if (f.endsWith('.ts'))
        hash
          .update(f)
          .update('\0')
          .update(readFileSync(join(dirname(entry), f)))
  const key = hash.digest('hex')
  keys.set(entry, key)
  return key
}

module.exports = {
  getCacheKey: (_source, entry) => keyOf(entry),
  process(_source, entry) {
    const made = buildSync({
      entryPoints: [entry],
      bundle: true,
      // One React for all: hooks of a second one would be of nobody's page.
      external: ['react', 'react-dom'],
      platform: entry.includes('node_modules') ? 'browser' : 'node',
      format: 'cjs',
      target: 'node20',
      sourcemap: 'external',
      sourcesContent: true,
      write: false,
      outdir: dirname(entry),
      logLevel: 'error',
    })
    const text = (end) => made.outputFiles.find((f) => f.path.endsWith(end)).text
    return { code: text('.js'), map: text('.js.map') }
  },
}
