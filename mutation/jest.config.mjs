import all from '../jest.config.mjs'

/** The core's own tests alone: what a change of the core must not survive. */
const { displayName: _, ...core } = all.projects.find((p) => p.displayName === 'core')
export default { ...core, testMatch: ['<rootDir>/core/test/**/*.test.ts'], testTimeout: all.testTimeout }
