// npm run bench [NAME …] [--smoke] [--json FILE]: every figure that the project claims, each against its target, on the
// machine it runs on. Figures are printed as they come; a bench that fails does not hide the others.
import fs from 'node:fs';
import os from 'node:os';
import { accounts } from './accounts.ts';
import { alarms } from './alarms/index.ts';
import { authoring } from './authoring.ts';
import { checks } from './checks.ts';
import { codec } from './codec.ts';
import { cue } from './cue.ts';
import { drill } from './drill.ts';
import { drillDesk } from './drill-desk.ts';
import { editor } from './editor.ts';
import { growth } from './growth.ts';
import { live } from './live.ts';
import { load } from './load.ts';
import { log } from './log.ts';
import { isSmoke, type Line, sayLine, tenMinutes } from './measure.ts';
import { oneEngine } from './one-engine.ts';
import { pages } from './pages.ts';
import { procedure } from './procedure.ts';
import { ramp } from './ramp.ts';
import { replay } from './replay.ts';
import { screen } from './screen.ts';
import { session } from './session.ts';
import { soak } from './soak.ts';
import { simulator } from './simulator.ts';
import { trends } from './trends.ts';
import { warmUp } from './warm-up.ts';
import { watch } from './watch.ts';
import { watchHour } from './watch-hour.ts';

type Bench = () => Iterable<Line> | Promise<Iterable<Line>>;

const BENCHES: Readonly<Record<string, Bench>> = {
  simulator,
  watch: () => [watch(tenMinutes()), watchHour()],
  codec: () => [codec(tenMinutes())],
  session: () => [session(tenMinutes())],
  replay,
  procedure,
  authoring: () => authoring(tenMinutes()),
  checks,
  'warm-up': warmUp,
  'one-engine': oneEngine,
  pages,
  live: async () => [await live()],
  screen: async () => [await screen()],
  accounts,
  editor: async () => [await editor()],
  drill,
  'drill-desk': drillDesk,
  cue,
  alarms,
  trends,
  log,
  ramp,
  growth,
  load,
  soak,
};
/** Take long, or all of the machine: only when they are named. */
const LONG = ['growth', 'load', 'soak'];

const args = process.argv.slice(2);
const jsonAt = args.indexOf('--json');
const [json] = jsonAt < 0 ? [] : args.splice(jsonAt, 2).slice(1);
const names = args.filter((a) => !a.startsWith('--'));
const unknown = names.filter((name) => !(name in BENCHES));
if (unknown.length > 0) {
  console.error(`There is no bench ${unknown.join(', ')}; there is ${Object.keys(BENCHES).join(', ')}.`);
  process.exit(2);
}

console.log(`${os.cpus()[0]?.model ?? 'unknown processor'}, ${os.cpus().length} cores, Node ${process.version}`);
const lines: Line[] = [];
const failed: string[] = [];
let missed = 0;
for (const [name, bench] of Object.entries(BENCHES)) {
  if (names.length > 0 ? !names.includes(name) : LONG.includes(name)) continue;
  try {
    for (const line of await bench()) {
      lines.push(line);
      const { words, met } = sayLine(line);
      if (!met) missed++;
      console.log(words);
    }
  } catch (error) {
    failed.push(name);
    console.log(`FAILED  ${name}: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`);
  }
}
if (json !== undefined)
  fs.writeFileSync(json, `${JSON.stringify({ node: process.version, smoke: isSmoke, lines, failed }, null, 1)}\n`);
console.log(`${lines.length} figures, ${missed} missed${failed.length > 0 ? `; failed: ${failed.join(', ')}` : ''}`);
process.exit(failed.length > 0 || (!isSmoke && missed > 0) ? 1 : 0);
