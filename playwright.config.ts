import { defineConfig } from '@playwright/test';

const asRoot = process.getuid?.() === 0 ? ['--no-sandbox'] : [];

export default defineConfig({
  testDir: 'tests/browser',
  workers: 1,
  fullyParallel: false,
  timeout: 60_000,
  expect: { timeout: 15_000 },
  reporter: process.env.TEST_REPORT ? [['list'], ['json', { outputFile: process.env.TEST_REPORT }]] : 'list',
  use: {
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        ...asRoot,
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
