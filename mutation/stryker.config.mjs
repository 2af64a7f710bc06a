import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

// ROOMS=rules,water  which folders of core/src; all six of the contract when left out
// SAMPLE=0.1         a share of their lines, drawn by SEED; the whole when left out
const rooms = (process.env.ROOMS ?? 'record,rules,ground,water,bond,layout').split(',')
const share = Number(process.env.SAMPLE ?? 1)
let seed = Number(process.env.SEED ?? 1)
/** Lehmer's generator: the same draw on every machine. */
const draw = () => {
  seed = (seed * 48271) % 2147483647
  return seed / 2147483647
}
const files = rooms.flatMap((room) =>
  readdirSync(join('core/src', room), { recursive: true, encoding: 'utf8' })
    .filter((f) => f.endsWith('.ts') && !f.endsWith('index.ts'))
    .sort()
    .map((f) => join('core/src', room, f)),
)
const mutate =
  share >= 1
    ? files
    : files.flatMap((f) =>
        readFileSync(f, 'utf8')
          .split('\n')
          .flatMap((_, i) => (draw() < share ? [`${f}:${i + 1}-${i + 1}`] : [])),
      )

export default {
  mutate,
  testRunner: 'jest',
  plugins: ['@stryker-mutator/jest-runner'],
  jest: { configFile: 'mutation/jest.config.mjs', enableFindRelatedTests: false },
  coverageAnalysis: 'perTest',
  // Words are the tests' own matter; a changed word breaks no wall. Conditions, signs, limits and blocks do.
  mutator: { excludedMutations: ['StringLiteral', 'Regex'] },
  // What is worked out once, as a file is loaded, needs every test again for every mutant: STATIC=0 leaves it out of a short draw.
  ignoreStatic: process.env.STATIC === '0',
  // Jest compiles by itself; there is no tsconfig to be rewritten for the sandbox.
  tsconfigFile: 'mutation/none.json',
  concurrency: Number(process.env.CONCURRENCY ?? 2),
  timeoutMS: 20_000,
  dryRunTimeoutMinutes: 30,
  reporters: ['clear-text', 'json', 'progress-append-only'],
  jsonReporter: { fileName: `test-results/mutation-${rooms.join('-')}.json` },
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  tempDirName: 'test-results/mutation',
  ignorePatterns: ['.local', 'web/.next', 'e2e', 'bench', 'mutation/node_modules'],
  thresholds: { high: 95, low: 85, break: null },
}
