import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';
import { bundleCore, TESTED } from '../tests/tested-core.ts';

const folder = process.env['MUTATED'] ?? 'ratings';

/** folders whose tests hold this one too, beside those of its own */
const ALSO: Readonly<Record<string, readonly string[]>> = {
  watch: ['calculator'],
  power: ['calculator'],
  ratings: ['calculator'],
  weather: ['calculator'],
};

/** whole flights: they take seconds each, and what they alone would notice is too little held */
const SLOW = [
  'power/engine-failure',
  'ratings/starts',
  'replay/kept',
  'session/session',
  'procedure/fleet',
  'procedure/flown',
  'watch/blocks',
  'watch/fleet-starts',
  'watch/fuzz',
  'watch/learned',
  'watch/starts',
];

/** Most mutants fall at once: what is quick goes first. */
class ShortestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    return (await super.sort(files)).toReversed();
  }
}

// what mutants are run against
export default defineConfig({
  test: {
    environment: 'node',
    isolate: false,
    sequence: { sequencer: ShortestFirst },
    testTimeout: 60_000,
    alias: await bundleCore(),
    server: { deps: { external: [TESTED] } },
    include: [folder, ...(ALSO[folder] ?? [])].map((name) => `core/tests/${name}/**/*.test.ts`),
    exclude: SLOW.map((name) => `core/tests/${name}.test.ts`),
  },
});
