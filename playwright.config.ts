import { readdirSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

const asRoot = process.getuid?.() === 0 ? ['--no-sandbox'] : [];

const personsAgent =
  'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0 Safari/537.36';

const testDir = 'tests/browser';
const files = readdirSync(testDir).filter((file) => file.endsWith('.spec.ts'));

export default defineConfig({
  testDir,
  // Each file is a project, for a worker never goes on from one to another: each has a world of its own, as loaded.
  projects: files.map((file) => ({ name: file.replace('.spec.ts', ''), testMatch: file })),
  workers: 2,
  fullyParallel: false,
  // Tests wait for what is to come, however busy the machine is; none judges by time.
  timeout: 120_000,
  expect: { timeout: 40_000 },
  reporter: process.env.TEST_REPORT ? [['list'], ['json', { outputFile: process.env.TEST_REPORT }]] : 'list',
  use: {
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: [
        ...asRoot,
        // A browser without a window names itself as one; a person's does not, and would be taken for a bot.
        `--user-agent=${personsAgent}`,
        '--disable-gpu',
        '--font-render-hinting=none',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
