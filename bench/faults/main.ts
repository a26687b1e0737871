// npm run faults [KIND…]: what must hold when things are killed, cut or taken away, as a table. --smoke kills each thing once or twice.
import { type Line, sayLine } from '../measure.ts';
import { Ordeal } from './killed.ts';
import { lineFaults } from './line-faults.ts';

const smoke = process.argv.includes('--smoke');
const times = smoke ? 2 : 30;
let missed = 0;
function say(lines: readonly Line[]): void {
  for (const line of lines) {
    const { words, met } = sayLine(line);
    if (!met) missed++;
    console.log(words);
  }
}

say(lineFaults());
const ordeal = new Ordeal();
try {
  await ordeal.begin();
  say([await ordeal.ordinary(smoke ? 10 : 60)]);
  const asked = process.argv.slice(2).filter((a) => !a.startsWith('--'));
  for (const kind of ['server', 'database child', 'postmaster', 'stand-in', 'command'] as const)
    if (asked.length === 0 || asked.includes(kind)) say(await ordeal.killed(kind, times));
  if (asked.length === 0 || asked.includes('clock')) say(await ordeal.clockSteps(smoke ? 1 : 5));
  say(await ordeal.unwritable(smoke ? 12 : 60));
} finally {
  await ordeal.end();
}
process.exit(missed === 0 ? 0 : 1);
