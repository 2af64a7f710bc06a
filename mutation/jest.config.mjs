import { fileURLToPath } from 'node:url'
import all from '../jest.config.mjs'

/** The core's own tests alone: what a change of the core must not survive. */
const { displayName: _, ...core } = all.projects.find((p) => p.displayName === 'core')
export default {
  ...core,
  testMatch: ['<rootDir>/mutation/all.test.ts'],
  testEnvironment: fileURLToPath(new URL('environment.cjs', import.meta.url)),
  modulePathIgnorePatterns: ['/.next/'],
  testTimeout: all.testTimeout,
}
