import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { ensureBuilt, ROOT } from './build'

/** Runs every check and counts them; the last line is the whole truth. */
interface Count {
  passed: number
  failed: number
}
const total: Count = { passed: 0, failed: 0 }
const reports = join(ROOT, 'test-results')
rmSync(reports, { recursive: true, force: true })
mkdirSync(reports, { recursive: true })

function say(name: string, c: Count, started: number) {
  total.passed += c.passed
  total.failed += c.failed
  console.log(`\n== ${name}: ${c.passed} passed, ${c.failed} failed (${((Date.now() - started) / 1000).toFixed(0)} s)\n`)
}
const run = (program: string, args: readonly string[], env: Record<string, string> = {}) =>
  spawnSync(join(ROOT, 'node_modules', '.bin', program), args, { cwd: ROOT, stdio: 'inherit', env: { ...process.env, ...env } }).status

function check(name: string, test: () => boolean) {
  const started = Date.now()
  let good = false
  try {
    good = test()
  } catch (error) {
    console.error(error instanceof Error ? error.message : error)
  }
  say(name, { passed: good ? 1 : 0, failed: good ? 0 : 1 }, started)
  return good
}

/** A suite that ended without a report failed, however it ended. */
function suite(name: string, report: string, start: () => number | null, count: (json: never) => Count) {
  const started = Date.now()
  const code = start()
  const c = existsSync(report) ? count(JSON.parse(readFileSync(report, 'utf8')) as never) : { passed: 0, failed: 1 }
  if (code !== 0 && c.failed === 0) c.failed = 1
  if (c.passed === 0) c.failed = Math.max(1, c.failed)
  say(name, c, started)
}

/** What is only read is looked at side by side: one after the other each leaves a core idle. */
async function checks(list: readonly (readonly [name: string, program: string, args: readonly string[]])[]) {
  await Promise.all(
    list.map(async ([name, program, args]) => {
      const started = Date.now()
      const child = spawn(join(ROOT, 'node_modules', '.bin', program), args, { cwd: ROOT })
      const said: Buffer[] = []
      child.stdout.on('data', (d: Buffer) => said.push(d))
      child.stderr.on('data', (d: Buffer) => said.push(d))
      const code = await new Promise<number | null>((done) => {
        child.on('close', done)
        child.on('error', (error) => {
          said.push(Buffer.from(error.message))
          done(1)
        })
      })
      process.stdout.write(Buffer.concat(said))
      say(name, { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1 }, started)
    }),
  )
}

await checks([
  ['types of core, scripts and tests', 'tsc', ['-p', 'tsconfig.json']],
  ['types of the application', 'tsc', ['-p', 'web/tsconfig.json']],
  ['lint and format', 'biome', ['check', '.']],
  [
    'layers',
    'depcruise',
    [
      '--config',
      '.dependency-cruiser.cjs',
      'core/src',
      'web/app',
      'web/features',
      'web/device',
      'web/worker',
      'web/ui',
      'web/server',
      'web/workers',
      'cli',
      'scripts',
      'demo',
      'bench',
      'instruments',
    ],
  ],
])
const built = check('build', () => {
  ensureBuilt(console.log)
  return true
})
const unit = join(reports, 'unit.json')
suite(
  'unit and database tests',
  unit,
  () => run('jest', ['--maxWorkers=100%', '--json', `--outputFile=${unit}`]),
  (json: { numPassedTests: number; numFailedTests: number; numFailedTestSuites: number; numRuntimeErrorTestSuites: number }) => ({
    passed: json.numPassedTests,
    failed: json.numFailedTests + json.numRuntimeErrorTestSuites,
  }),
)
if (built) {
  const e2e = join(reports, 'e2e.json')
  suite(
    'end-to-end tests',
    e2e,
    () => run('playwright', ['test', '-c', 'e2e/playwright.config.ts'], { E2E_REPORT: e2e }),
    // A test that needed a second run failed the first time.
    (json: { stats: { expected: number; unexpected: number; flaky: number } }) => ({
      passed: json.stats.expected,
      failed: json.stats.unexpected + json.stats.flaky,
    }),
  )
}
// What git sees is what it saw before: neither installing, building nor testing may change or leave a file.
check('git status as it was before', () => {
  const now = spawnSync('git', ['status', '--porcelain'], { cwd: ROOT, encoding: 'utf8' })
  const before = (process.argv[2] ?? '').trim()
  if (now.status !== 0 || now.stdout.trim() === before) return true
  console.error(`git status was:\n${before}\nand is:\n${now.stdout.trim()}`)
  return false
})
console.log(`${total.passed} passed, ${total.failed} failed`)
process.exitCode = total.failed === 0 ? 0 : 1
