import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';

/** Files at a time: each has a database, a server and often a browser of its own beside it. */
const maxWorkers = Math.min(4, Math.max(2, availableParallelism() >> 1));

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: ['{model,core,server,web}/**/*.test.ts', 'tests/reference/**/*.test.ts'],
          environment: 'node',
          testTimeout: 60_000,
          maxWorkers,
          // pure functions share their modules; what stubs a global puts it back
          isolate: false,
        },
      },
      {
        test: {
          name: 'server',
          include: ['tests/server/**/*.test.ts'],
          environment: 'node',
          testTimeout: 60_000,
          hookTimeout: 120_000,
          maxWorkers,
        },
      },
      {
        test: {
          name: 'journeys',
          include: ['tests/journeys/**/*.test.ts'],
          environment: 'node',
          testTimeout: 300_000,
          hookTimeout: 180_000,
          // what another tab or device sends comes in its own time
          expect: { poll: { timeout: 30_000 } },
          maxWorkers,
        },
      },
    ],
  },
});
