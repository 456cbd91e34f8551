import { defineConfig } from '@playwright/test'
import { chromiumFlags, chromiumPath } from './src/browser'

export default defineConfig({
  testDir: './src',
  outputDir: './results',
  // One server and its stand-ins for each test file; two would share one pair of cores.
  workers: 2,
  globalSetup: './src/globalSetup.ts',
  // A machine that is suddenly slow makes one fail that is in order; what passed only the second time is told at the end.
  retries: 1,
  timeout: 120_000,
  expect: { timeout: 10_000 },
  reporter: [['list'], ['json', { outputFile: '../.cache/results/e2e.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: chromiumPath, args: chromiumFlags },
    screenshot: 'only-on-failure',
  },
})
