import path from 'node:path';
import { defineConfig } from '@playwright/test';

const root = path.resolve(import.meta.dirname, '..');
// Parts may run side by side, each on a server of its own.
const PORT = Number(process.env.E2E_PORT ?? 4791);

export default defineConfig({
  testDir: '.',
  outputDir: `results/${PORT}`,
  // One server and one card: the tests play one after another.
  workers: 1,
  fullyParallel: false,
  // The longest test looks at every screen with axe: a minute here, four on a machine that is busy otherwise.
  timeout: 360_000,
  // As on a machine with other work: starting a second archive took longer than 15 s there. It only bounds what hangs.
  expect: { timeout: 60_000 },
  reporter: [['list']],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/Berlin',
    // What stood on the screen is kept of a failure. A trace of every test costs time in all of them: `--trace on` asks for one.
    screenshot: 'only-on-failure',
    trace: 'off',
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-background-networking',
        '--disable-component-update',
        '--no-first-run',
      ],
    },
  },
  webServer: {
    command: `node e2e/server.mjs ${PORT}`,
    cwd: root,
    url: `http://127.0.0.1:${PORT}/api/health`,
    reuseExistingServer: false,
    // The cards are made first where they are not there yet; it only bounds what hangs.
    timeout: 600_000,
  },
});
