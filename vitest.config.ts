import { defineConfig } from 'vitest/config';

// generous: a busy machine must not fail a test that is right
const node = { environment: 'node' as const, testTimeout: 240_000, hookTimeout: 120_000 };

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          ...node,
          name: 'core',
          sequence: { groupOrder: 0 },
          include: ['core/tests/**/*.test.ts'],
        },
      },
      { test: { ...node, name: 'web', sequence: { groupOrder: 0 }, include: ['web/tests/**/*.test.ts'] } },
      {
        test: {
          ...node,
          name: 'programs',
          sequence: { groupOrder: 1 },
          include: ['tests/programs/**/*.test.ts'],
        },
      },
      {
        test: {
          ...node,
          name: 'server',
          sequence: { groupOrder: 1 },
          include: ['tests/server/**/*.test.ts'],
          globalSetup: ['tests/server/postgres.setup.ts'],
        },
      },
      {
        test: {
          ...node,
          name: 'browser',
          sequence: { groupOrder: 2 },
          include: ['tests/browser/**/*.test.ts'],
          globalSetup: ['tests/server/postgres.setup.ts'],
          fileParallelism: false,
        },
      },
    ],
  },
});
