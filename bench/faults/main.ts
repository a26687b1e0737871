// npm run faults [cluster] [KIND…]: what must hold when things are killed, cut or taken away, as a table. --smoke kills each thing once or twice.
import { type Line, sayLine } from '../measure.ts';
import { Cluster } from './cluster.ts';
import { lineFaults } from './line-faults.ts';
import { OneMachine, PARTS } from './one-machine.ts';

const smoke = process.argv.includes('--smoke');
let missed = 0;
function say(lines: readonly Line[]): void {
  for (const line of lines) {
    const { words, met } = sayLine(line);
    if (!met) missed++;
    console.log(words);
  }
}

const asked = process.argv.slice(2).filter((a) => !a.startsWith('--') && a !== 'cluster');
const isAsked = (kind: string): boolean => asked.length === 0 || asked.includes(kind);

async function oneMachine(): Promise<void> {
  say(lineFaults());
  const machine = new OneMachine();
  try {
    await machine.begin();
    say([await machine.ordinary(smoke ? 10 : 60)]);
    for (const part of PARTS) if (isAsked(part)) say(await machine.killedAgain(part, smoke ? 2 : 30));
    if (isAsked('clock')) say(await machine.clockSteps(smoke ? 1 : 5));
    say(await machine.unwritable(smoke ? 12 : 60));
  } finally {
    await machine.end();
  }
}

async function cluster(): Promise<void> {
  const ordeal = new Cluster();
  const times = smoke ? 1 : 10;
  try {
    await ordeal.begin();
    say([await ordeal.ordinary(smoke ? 10 : 60)]);
    if (isAsked('primary')) say(await ordeal.primaryLost(times));
    if (isAsked('owner')) say(await ordeal.ownerLost(times));
    if (isAsked('paused')) say(await ordeal.ownerPaused(times));
  } finally {
    await ordeal.end();
  }
}

await (process.argv.includes('cluster') ? cluster() : oneMachine());
process.exit(missed === 0 ? 0 : 1);
