import { defineConfig } from 'vitest/config';
import { LongestFirst } from './tests/longest-first.ts';
import { bundleCore, TESTED } from './tests/tested-core.ts';

const node = {
  environment: 'node' as const,
  // generous: a busy machine must not fail a test that is right
  testTimeout: 420_000,
  hookTimeout: 900_000,
  alias: await bundleCore(),
  server: { deps: { external: [TESTED] } },
};

// nothing outside of a test is changed by one, so the modules are read once
const shared = { isolate: false };

export default defineConfig({
  test: {
    // by default one core of two stands idle
    maxWorkers: '100%',
    sequence: { sequencer: LongestFirst },
    projects: [
      {
        test: {
          ...node,
          ...shared,
          name: 'core',
          sequence: { groupOrder: 0 },
          include: ['core/tests/**/*.test.ts'],
        },
      },
      { test: { ...node, ...shared, name: 'web', sequence: { groupOrder: 0 }, include: ['web/tests/**/*.test.ts'] } },
      {
        test: {
          ...node,
          name: 'programs',
          sequence: { groupOrder: 1 },
          // they wait for processes that are killed and come back: four at a time keep two cores busy
          maxWorkers: 4,
          include: ['tests/programs/**/*.test.ts'],
        },
      },
      {
        test: {
          ...node,
          ...shared,
          name: 'server',
          sequence: { groupOrder: 1 },
          maxWorkers: 4,
          include: ['tests/server/**/*.test.ts'],
          globalSetup: ['tests/server/postgres.setup.ts'],
        },
      },
      {
        test: {
          ...node,
          ...shared,
          name: 'browser',
          sequence: { groupOrder: 2 },
          include: ['tests/browser/**/*.test.ts'],
          exclude: ['tests/browser/newcomer.test.ts'],
          globalSetup: ['tests/server/postgres.setup.ts'],
          // a start takes its time: two at a time leave a fifth of two cores idle
          maxWorkers: 3,
        },
      },
      {
        test: {
          ...node,
          // flies two aircraft at once, each in a browser of its own
          name: 'newcomer',
          sequence: { groupOrder: 3 },
          include: ['tests/browser/newcomer.test.ts'],
          globalSetup: ['tests/server/postgres.setup.ts'],
        },
      },
    ],
  },
});
