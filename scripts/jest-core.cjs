// The core as one file for Jest: its modules are bundled once for a state of the sources, where loading hundreds of them one by one for every
// test file took longer than most tests.
const { createHash } = require('node:crypto')
const { readdirSync, readFileSync } = require('node:fs')
const { dirname, join } = require('node:path')
const { buildSync, version } = require('esbuild')

const keys = new Map()
/** What the sources are, as one word. */
function keyOf(entry) {
  const known = keys.get(entry)
  if (known) return known
  const folder = dirname(entry)
  const hash = createHash('sha256').update(version).update(readFileSync(__filename))
  for (const f of readdirSync(folder, { recursive: true, encoding: 'utf8' }).sort())
    if (f.endsWith('.ts'))
      hash
        .update(f)
        .update('\0')
        .update(readFileSync(join(folder, f)))
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
      platform: 'node',
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
