import { defineConfig } from '@playwright/test'
import { CHROMIUM } from '../scripts/chromium'

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  timeout: 180_000,
  expect: { timeout: 30_000 },
  // Files run beside each other: no two of them write to one wall. Tests of one file run in their order.
  workers: 2,
  // No test is retried into green.
  retries: 0,
  reporter: [['list'], ['json', { outputFile: process.env.E2E_REPORT ?? '../test-results/e2e.json' }]],
  outputDir: '../test-results/e2e',
  globalSetup: './global-setup.ts',
  use: {
    // What the device keeps for when nobody answers has a file of its own; elsewhere the house alone is tried.
    serviceWorkers: 'block',
    viewport: { width: 1280, height: 800 },
    trace: process.env.E2E_TRACE ? 'retain-on-failure' : 'off',
    launchOptions: {
      executablePath: CHROMIUM,
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
