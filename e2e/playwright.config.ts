import { defineConfig } from '@playwright/test';

const URL = process.env.CALQUE_URL ?? 'http://127.0.0.1:4400';
/** A person who has been here before; first-minutes.spec.ts has the others. */
const FIRST_MINUTES_OVER = { name: 'calque-first-minutes', value: '{"off":true,"done":[]}' };

/** Drives the running application (started by ./calque test) in Debian's Chromium. */
export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  timeout: 90000,
  expect: { timeout: 15000 },
  workers: 1,
  reporter: 'list',
  outputDir: '../test-results',
  use: {
    baseURL: URL,
    storageState: { cookies: [], origins: [{ origin: URL, localStorage: [FIRST_MINUTES_OVER] }] },
    viewport: { width: 1280, height: 800 },
    colorScheme: 'light',
    trace: 'off',
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
});
