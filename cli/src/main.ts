// npm run -s rouse -- COMMAND: JSON in, JSON out. Exit 0 fine, 2 bad input with { error }, 1 our fault.
import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { BadInput } from './bad-input.ts';
import { calc, calcBatch } from './calc.ts';
import { run } from './run.ts';
import { sim } from './sim.ts';
import { type, TYPE_USAGE } from './type.ts';
import { watch } from './watch.ts';

function print(line: unknown): void {
  process.stdout.write(`${JSON.stringify(line)}\n`);
}

/** What can be asked for, a line each; docs/formats.md says what each prints. */
const HELP = [
  "calc NAME '{…}' | calc --batch < LINES",
  'sim --scenario F.json [--id S7-01] [--csv OUT.csv]',
  'watch --type S7 --csv F.csv [--phase start] [--mapping M.json]',
  ...TYPE_USAGE.split(' | ').map((usage) => (usage.startsWith('type ') ? usage : `type ${usage}`)),
  'run verify F.json',
];

async function main(argv: readonly string[]): Promise<void> {
  const [command, ...rest] = argv;
  if (command === '--help') return HELP.forEach((usage) => print({ usage }));
  const options = {
    scenario: { type: 'string' },
    id: { type: 'string' },
    csv: { type: 'string' },
    type: { type: 'string' },
    phase: { type: 'string' },
    mapping: { type: 'string' },
    batch: { type: 'boolean' },
    out: { type: 'string' },
    like: { type: 'string' },
    quick: { type: 'boolean' },
    help: { type: 'boolean' },
  } as const;
  let parsed;
  try {
    parsed = parseArgs({ args: rest, options, allowPositionals: true });
  } catch (error) {
    throw new BadInput('USAGE', error instanceof Error ? error.message : String(error));
  }
  if (parsed.values.help)
    return HELP.filter((usage) => usage.startsWith(`${command} `)).forEach((usage) => print({ usage }));
  switch (command) {
    case 'calc':
      return parsed.values.batch ? calcBatch(readFileSync(0, 'utf8'), print) : calc(parsed.positionals, print);
    case 'sim':
      return sim(parsed.values, print);
    case 'watch':
      return await watch(parsed.values, print);
    case 'type':
      return type(parsed.positionals, parsed.values, print);
    case 'run':
      return run(parsed.positionals, print);
    default:
      throw new BadInput('USAGE', 'calc, sim, watch, type or run; docs/formats.md has the options of each', 'command');
  }
}

try {
  await main(process.argv.slice(2));
} catch (error) {
  if (error instanceof BadInput) {
    print({ error: { code: error.code, message: error.message, path: error.path } });
    process.exitCode = 2;
  } else {
    print({ error: { code: 'INTERNAL', message: error instanceof Error ? error.message : String(error), path: '' } });
    process.exitCode = 1;
  }
}
