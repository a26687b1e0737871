import { defineConfig } from 'vitest/config';

const node = { environment: 'node' as const };

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          ...node,
          name: 'core',
          sequence: { groupOrder: 0 },
          include: ['core/tests/**/*.test.ts'],
          testTimeout: 60_000,
        },
      },
      { test: { ...node, name: 'web', sequence: { groupOrder: 0 }, include: ['web/tests/**/*.test.ts'] } },
      {
        test: {
          ...node,
          name: 'programs',
          sequence: { groupOrder: 1 },
          include: ['tests/programs/**/*.test.ts'],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          ...node,
          name: 'server',
          sequence: { groupOrder: 1 },
          include: ['tests/server/**/*.test.ts'],
          globalSetup: ['tests/server/postgres.setup.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      {
        test: {
          ...node,
          name: 'browser',
          sequence: { groupOrder: 2 },
          include: ['tests/browser/**/*.test.ts'],
          globalSetup: ['tests/server/postgres.setup.ts'],
          testTimeout: 240_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
    ],
  },
});
