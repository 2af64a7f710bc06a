import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  timeout: 180_000,
  expect: { timeout: 30_000 },
  workers: 1,
  // A machine shared with others loses a timer now and then; what needed a second run is named in the report as flaky.
  retries: process.env.CI ? 1 : 0,
  reporter: [['list'], ['json', { outputFile: process.env.E2E_REPORT ?? '../test-results/e2e.json' }]],
  outputDir: '../test-results/e2e',
  globalSetup: './global-setup.ts',
  use: {
    viewport: { width: 1280, height: 800 },
    trace: process.env.E2E_TRACE ? 'retain-on-failure' : 'off',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
