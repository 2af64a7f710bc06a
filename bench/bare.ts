import { execFileSync, spawn } from 'node:child_process'
import { cpSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from '../scripts/build'
import { freePort } from '../scripts/cluster'

/**
 * A page of the same framework, styles and one button, built and served as the application is.
 *
 * @param databaseUrl - what its one route records into
 * @example const bare = await barePage(); try { … bare.base … } finally { bare.end() }
 */
export async function barePage(databaseUrl = '') {
  // Built beside its sources it would leave files where git sees them.
  const folder = join(ROOT, 'test-results', 'bare')
  rmSync(folder, { recursive: true, force: true })
  cpSync(join(ROOT, 'bench', 'bare'), folder, { recursive: true })
  const next = join(ROOT, 'node_modules', '.bin', 'next')
  const env = { ...process.env, NODE_ENV: 'production' as const, NEXT_TELEMETRY_DISABLED: '1', BARE_ROOT: ROOT, DATABASE_URL: databaseUrl }
  execFileSync(next, ['build'], { cwd: folder, stdio: ['ignore', 'ignore', 'inherit'], env })
  const port = await freePort()
  const child = spawn(process.execPath, [next, 'start', '-p', `${port}`, '-H', '127.0.0.1'], { cwd: folder, stdio: 'ignore', env })
  const base = `http://127.0.0.1:${port}`
  for (let i = 0; i < 200; i++) {
    if (
      await fetch(base).then(
        (r) => r.ok,
        () => false,
      )
    )
      break
    await new Promise((done) => setTimeout(done, 100))
  }
  return { base, end: () => child.kill('SIGTERM') }
}
