import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** Browser files that last minutes, longest first: one of them begun last would keep one core idle to the end. */
const LONG = ['run-up', 'flight', 'run', 'starts', 'screens', 'before', 'brief', 'more'];

export class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = ({ moduleId }: TestSpecification): number => {
      const at = LONG.findIndex((name) => moduleId.endsWith(`/browser/${name}.test.ts`));
      return at < 0 ? LONG.length : at;
    };
    return (await super.sort(files)).sort((a, b) => rank(a) - rank(b));
  }
}
