import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buildSync } from 'esbuild'

/**
 * The command line in one file, for tests that call it a hundred times: what `bin/tally` runs, without being translated at each call.
 *
 * @returns arguments for node
 * @example spawnSync(process.execPath, [...builtTally(), 'calc', '--list'])
 */
export function builtTally(): readonly string[] {
  const outfile = join(mkdtempSync(join(tmpdir(), 'tally-built-')), 'tally.mjs')
  buildSync({
    entryPoints: [join(__dirname, 'main.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    logLevel: 'error',
    banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
  })
  return [outfile]
}
