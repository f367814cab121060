import { defineConfig } from 'vitest/config';

const resolve = { alias: { '@': new URL('./src', import.meta.url).pathname } };

export default defineConfig({
  test: {
    // Two cores: most of what service and fault tests do is waiting for the database or a process.
    maxWorkers: 2,
    projects: [
      {
        resolve,
        test: {
          name: 'unit',
          include: ['{src,standins,demo}/**/*.test.ts', 'tests/{unit,contract}/**/*.test.ts'],
          // Properties go through thousands of cases; a busy machine takes its time.
          testTimeout: 30_000,
        },
      },
      {
        resolve,
        test: {
          name: 'service',
          include: ['tests/service/**/*.test.ts'],
          hookTimeout: 60_000,
          testTimeout: 120_000,
        },
      },
      {
        resolve,
        test: {
          name: 'fault',
          include: ['tests/fault/**/*.test.ts'],
          hookTimeout: 60_000,
          testTimeout: 120_000,
        },
      },
    ],
  },
});
