import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** Files that last longest of their group, longest first: one of them begun last would keep one core idle to the end. */
const LONG = [
  ...['drill', 'screens', 'starts', 'run', 'brief', 'before', 'flight', 'bench', 'types', 'on-device', 'set-up', 'log', 'more', 'people'].map((name) => `browser/${name}`),
  // those that wait for programs, beside those that reckon
  'programs/start', 'programs/cli', 'server/kill', 'server/log', 'programs/backup', 'server/leases', 'server/rights', 'programs/bench', 'server/away', 'server/drill', 'server/live',
  ...['people', 'openapi', 'type-drafts', 'retention'].map((name) => `server/${name}`),
  ...['watch/starts', 'drill/lessons', 'power/engine-failure', 'watch/fleet-starts', 'watch/blocks', 'shutdown/whole-run', 'watch/fuzz', 'authoring/written', 'audit/audit'].map((name) => `core/tests/${name}`),
]; // oxfmt-ignore

export class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = ({ moduleId }: TestSpecification): number => {
      const at = LONG.findIndex((name) => moduleId.endsWith(`/${name}.test.ts`));
      return at < 0 ? LONG.length : at;
    };
    return (await super.sort(files)).sort((a, b) => rank(a) - rank(b));
  }
}
