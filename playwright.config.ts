import { defineConfig } from '@playwright/test'

/** Browser tests in Debian's Chromium against the real server; each file starts its own on a data folder of its own. */
export default defineConfig({
  testDir: 'e2e',
  // a test waits for what it asserts; this only ends one that hangs
  timeout: 600_000,
  // on a busy machine what is waited for may take its time
  expect: { timeout: 120_000 },
  workers: 2,
  fullyParallel: false,
  reporter: [['list'], ['json', { outputFile: '.cache/playwright.json' }]],
  outputDir: '.cache/test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    // what it keeps is tested by itself: elsewhere a test may hold back or change what the server answers
    serviceWorkers: 'block',
    screenshot: 'only-on-failure',
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
