import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  globalSetup: './prepare.mjs',
  testMatch: '**/*.spec.ts',
  timeout: 180_000,
  expect: { timeout: 15_000 },
  // Two cores: a third browser makes every press late.
  workers: 2,
  // A machine that stands still for seconds is no fault of the product; what fails twice is. Said with the sum.
  retries: 1,
  forbidOnly: !!process.env['CI'],
  reporter: process.env['FN_REPORT']
    ? [['line'], ['json', { outputFile: process.env['FN_REPORT'] }]]
    : 'line',
  outputDir: '../test-results',
  use: {
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
    viewport: { width: 1280, height: 800 },
    // Each test is a new device, which would fetch all of the app for later once more: only those that go without a line let it.
    serviceWorkers: 'block',
    screenshot: 'only-on-failure',
  },
});
