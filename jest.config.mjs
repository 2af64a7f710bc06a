const transform = {
  '/core/src/index\\.ts$|/react-aria-components/dist/exports/index\\.cjs$': '<rootDir>/scripts/jest-bundle.cjs',
  '^.+\\.(t|j|mj)sx?$': [
    '@swc/jest',
    {
      jsc: { parser: { syntax: 'typescript', tsx: true }, transform: { react: { runtime: 'automatic' } }, target: 'es2022' },
      module: { type: 'commonjs' },
    },
  ],
}
const shared = {
  transform,
  modulePathIgnorePatterns: ['/.next/', '<rootDir>/test-results/', '<rootDir>/mutation/'],
  extensionsToTreatAsEsm: [],
  // Packages that ship ES modules alone.
  transformIgnorePatterns: [
    '/node_modules/(?!(better-auth|@better-auth|@scure|@simplewebauthn|@tanstack|better-call|@better-fetch|@noble|d3-[a-z-]+|jose|nanostores|internmap|rou3|defu|delaunator|robust-predicates|signature_pad|uuid|react-aria-components)/)',
  ],
  moduleNameMapper: { '^@stone-tally/core$': '<rootDir>/core/src/index.ts', '^@/(.*)$': '<rootDir>/web/$1' },
}
export default {
  projects: [
    {
      ...shared,
      displayName: 'core',
      rootDir: import.meta.dirname,
      testEnvironment: 'node',
      testMatch: ['<rootDir>/core/test/**/*.test.ts', '<rootDir>/cli/**/*.test.ts'],
    },
    {
      ...shared,
      displayName: 'web',
      rootDir: import.meta.dirname,
      testEnvironment: 'jsdom',
      testMatch: ['<rootDir>/web/test/**/*.test.tsx'],
      setupFiles: ['<rootDir>/web/test/setup.ts'],
      setupFilesAfterEnv: ['<rootDir>/web/test/setup-each.ts'],
    },
    {
      ...shared,
      displayName: 'database',
      rootDir: import.meta.dirname,
      testEnvironment: 'node',
      testMatch: ['<rootDir>/web/test/**/*.test.ts', '<rootDir>/demo/**/*.test.ts'],
    },
  ],
  testTimeout: 180_000,
}
