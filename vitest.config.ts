import { defineConfig } from 'vitest/config';

// generous: a busy machine must not fail a test that is right
const node = { environment: 'node' as const, testTimeout: 240_000, hookTimeout: 120_000 };

// nothing outside of a test is changed by one, so the modules are read once
const pure = { isolate: false };

export default defineConfig({
  test: {
    // by default one core of two stands idle
    maxWorkers: '100%',
    projects: [
      {
        test: {
          ...node,
          ...pure,
          name: 'core',
          sequence: { groupOrder: 0 },
          include: ['core/tests/**/*.test.ts'],
        },
      },
      { test: { ...node, ...pure, name: 'web', sequence: { groupOrder: 0 }, include: ['web/tests/**/*.test.ts'] } },
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
