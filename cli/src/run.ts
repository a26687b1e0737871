import { verifyBundle } from '@rouse/core/format';
import { BadInput } from './bad-input.ts';
import { readText } from './files.ts';

/** `run verify F.json`: checks a run bundle from its bytes up. */
export function run(args: readonly string[], print: (line: unknown) => void): void {
  const [verb, file] = args;
  if (verb !== 'verify' || !file) throw new BadInput('USAGE', 'run verify FILE.json', 'run');
  const verdict = verifyBundle(readText(file));
  if (!verdict.ok) throw new BadInput(verdict.code, verdict.message, verdict.path);
  print(verdict);
}
