import { defineConfig } from '@playwright/test';
// @ts-expect-error plain scripts that set the machine up
import { ensureChromium } from './scripts/setup.mjs';

export default defineConfig({
  testDir: 'tests/e2e',
  testMatch: '*.spec.ts',
  globalSetup: './tests/e2e/lay-out.ts',
  // Each file has an application of its own; three at a time take longer on two cores than two.
  workers: 2,
  // Generous, since a busy machine is no failure: nothing here measures speed.
  timeout: 300_000,
  expect: { timeout: 30_000 },
  reporter: process.env.E2E_REPORT ? [['list'], ['json', { outputFile: process.env.E2E_REPORT }]] : 'list',
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    // Recording every step costs an eighth of the time; `--trace on` records those of a test that fails.
    trace: 'off',
    launchOptions: {
      executablePath: process.env.CHROMIUM_PATH ?? ensureChromium(),
      args: [
        '--no-sandbox',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // Nobody looks: drawing without a graphics card costs a tenth of the time.
        '--disable-gpu'
      ]
    }
  }
});
