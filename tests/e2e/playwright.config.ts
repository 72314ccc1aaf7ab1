import { defineConfig } from '@playwright/test'
import { BROWSER_ARGUMENTS, browserPath } from '../../tools/browser.mjs'

// Debian's Chromium, headless. The test command starts the server and says where it is.
export default defineConfig({
  testDir: '.',
  outputDir: '../../test-results',
  // Each test has a copy of the demo's plan of its own; those that share its roster and proof stand in one
  // file, and so in one worker.
  workers: 2,
  // Wide enough for a machine whose neighbours take its processors for a while: what is right passes at once
  // all the same.
  timeout: 600_000,
  // Where this many failed something is wrong with all: it ends, and says so.
  maxFailures: 12,
  expect: { timeout: 60_000 },
  use: {
    baseURL: process.env['MAST_BASE_URL'] ?? 'http://127.0.0.1:4180',
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: browserPath(), args: BROWSER_ARGUMENTS },
    // Nobody watches what moves, and each test would wait for it.
    contextOptions: { reducedMotion: 'reduce' },
    acceptDownloads: true,
  },
})
