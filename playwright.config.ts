import { defineConfig } from '@playwright/test';

/** The built app in headless Chromium; every worker has a server and a data folder of its own. */
export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results/journeys',
  workers: 2,
  fullyParallel: true,
  timeout: 120_000,
  // Many are played in real time, and a machine that is shared may stall: what fails is tried twice more.
  retries: 2,
  expect: { timeout: 8_000 },
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM_BARE ?? process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
});
