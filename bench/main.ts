// npm run bench: every figure that the project claims, each against its target, on the machine it runs on.
import os from 'node:os';
import { alarms } from './alarms.ts';
import { checks } from './checks.ts';
import { codec } from './codec.ts';
import { cue } from './cue.ts';
import { live } from './live.ts';
import { type Line, sayLine, tenMinutes } from './measure.ts';
import { oneEngine } from './one-engine.ts';
import { pages } from './pages.ts';
import { procedure } from './procedure.ts';
import { replay } from './replay.ts';
import { screen } from './screen.ts';
import { session } from './session.ts';
import { simulator } from './simulator.ts';
import { warmUp } from './warm-up.ts';
import { watch } from './watch.ts';
import { watchHour } from './watch-hour.ts';

const only = process.argv[2];
const wanted = (name: string): boolean => only === undefined || only === name;

console.log(`${os.cpus()[0]?.model ?? 'unknown processor'}, ${os.cpus().length} cores, Node ${process.version}`);
const lines: Line[] = [];
if (wanted('simulator')) lines.push(...simulator());
if (wanted('watch') || wanted('codec') || wanted('session')) {
  const trace = tenMinutes();
  if (wanted('watch')) lines.push(watch(trace));
  if (wanted('codec')) lines.push(codec(trace));
  if (wanted('session')) lines.push(session(trace));
}
if (wanted('watch')) lines.push(watchHour());
if (wanted('replay')) lines.push(...replay());
if (wanted('alarms')) lines.push(...alarms());
if (wanted('procedure')) lines.push(...procedure());
if (wanted('checks')) lines.push(...checks());
if (wanted('warm-up')) lines.push(...warmUp());
if (wanted('one-engine')) lines.push(...(await oneEngine()));
if (wanted('pages')) lines.push(...pages());
if (wanted('live')) lines.push(await live());
if (wanted('screen')) lines.push(await screen());
if (wanted('cue')) lines.push(...(await cue()));

let missed = 0;
for (const line of lines) {
  const { words, met } = sayLine(line);
  if (!met) missed++;
  console.log(words);
}
process.exit(missed === 0 ? 0 : 1);
