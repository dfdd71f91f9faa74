import { defineConfig } from '@playwright/test';
import { browserOptions, PORT } from './fixtures/browser.ts';

export default defineConfig({
  testDir: './journeys',
  globalSetup: './fixtures/laid.ts',
  outputDir: './test-results',
  // No limit that a slow machine would meet.
  timeout: 400_000,
  expect: { timeout: 60_000 },
  workers: 2,
  fullyParallel: true,
  reporter: [['list']],
  use: {
    ...browserOptions,
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // It keeps the whole application for offline, which takes seconds; the journeys about that allow it.
    serviceWorkers: 'block',
    // A click on what is still moving can be lost on a busy machine; the application then moves nothing.
    contextOptions: { reducedMotion: 'reduce' },
  },
  webServer: {
    // The build is there already: the test script builds before it calls Playwright.
    command: `node --import tsx packages/server/src/main.ts`,
    cwd: '..',
    env: { PORT: String(PORT) },
    url: `http://localhost:${PORT}/health`,
    reuseExistingServer: false,
  },
});
