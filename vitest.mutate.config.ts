import { defineConfig } from 'vitest/config';

const folder = process.env['MUTATED'] ?? 'ratings';

// what mutants are run against: the tests of their own folder
export default defineConfig({
  test: { environment: 'node', testTimeout: 60_000, include: [`core/tests/${folder}/**/*.test.ts`] },
});
