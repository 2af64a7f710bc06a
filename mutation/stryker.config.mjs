import { readFileSync } from 'node:fs'
import { drawn, EXCLUDED } from './draw.mjs'

// ONLY=test-results/mutation-missed.json   places alone that another draw left over
const { rooms, ranges } = drawn()
const mutate = process.env.ONLY
  ? JSON.parse(readFileSync(process.env.ONLY, 'utf8'))
  : [...ranges].flatMap(([f, lines]) => (lines ? lines.map((l) => `${f}:${l}-${l}`) : [f]))

export default {
  mutate,
  testRunner: 'jest',
  plugins: ['@stryker-mutator/jest-runner'],
  jest: { configFile: 'mutation/jest.config.mjs', enableFindRelatedTests: false },
  coverageAnalysis: 'perTest',
  mutator: { excludedMutations: EXCLUDED },
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
