import { readFileSync } from 'node:fs';
import net from 'node:net';
import { setTimeout as after } from 'node:timers/promises';
import type { DeviceMade, LiveMessage } from '@rouse/core/contract';
import { writeDeviceLine } from '@rouse/core/format';
import type { WatchedType } from '@rouse/core/aircraft';
import pg from 'pg';
import WebSocket from 'ws';
import { DEMO, FLEET, PADS } from '../server/src/demo/identity.ts';
import { Caller, goodBrief, waitUntil } from '../tests/caller.ts';
import { newestType } from '../tests/skerry.ts';
import { type Line, many, share } from './measure.ts';
import { type Probe, type Programs, startPrograms } from './programs.ts';

const TAILS = Number(process.env['LOAD_TAILS'] ?? many(200, 8));
const MINUTES = Number(process.env['LOAD_MIN'] ?? many(10, 0.5));
/** a run keeps the frames of its last three minutes: until then it grows */
const WARM_S = many(200, 5);
const FRAME_MS = 20;
/** lines go out in so many lots within a frame's time, as units do not speak at the same moment */
const LOTS = 4;
/** oil pressure falls below its limit every so many frames of a tail, each tail at a moment of its own */
const CROSS_EVERY = 250;
/** a single and a twin in turn: 35 and 49 channels */
const LIKE = ['QV-SKY', 'QV-ERN'];
/** an engine at idle, or each of two */
const IDLE: Readonly<Record<string, number>> = { 'ng': 67, 'tot': 480, 'nr': 68, 'np': 68, 'tq': 20, 'fuel.flow': 60, 'oil.pressure': 3.1, 'oil.temperature': 70, 'bus.volts': 28, 'gearbox.oil.pressure': 3.5, 'gearbox.oil.temperature': 60, 'hydraulic.pressure': 95, 'outside.air': 12, 'engine.selector': 1, 'switch.battery': 1, 'switch.generator': 1, 'generator.amps': 40 }; // oxfmt-ignore

/** One aircraft with its unit and its page. */
interface Tail {
  type: WatchedType;
  aircraft: string;
  unit: net.Socket;
  run: string;
  values: Float64Array;
  oil: number;
  /** when its oil pressure fell the last time, and whether the page has heard of it */
  crossed_ms: number;
  told: boolean;
}

/** Many tails at 50 Hz, each with an open run, a unit and a page, on one server. */
export async function load(): Promise<Line[]> {
  const probes: Probe[] = [];
  const programs = await startPrograms({ standIn: false, filled: fill, probed: (probe) => probes.push(probe) });
  const cues_ms: number[] = [];
  let crossings = 0;
  try {
    const tails = await enlist(programs);
    const feeding = feed(tails, () => crossings++);
    await open(programs, tails, cues_ms);
    await after(WARM_S * 1000);
    cues_ms.length = crossings = 0;
    const [cpu, since] = [cpu_s(programs.serverPid), performance.now()];
    const from = probes.length;
    await after(MINUTES * 60_000);
    const busy = (cpu_s(programs.serverPid) - cpu) / ((performance.now() - since) / 1000);
    const told = cues_ms.length;
    clearInterval(feeding);
    const { frames, missing } = await stored(programs);
    const seen = probes.slice(from);
    const tenth = Math.max(1, Math.floor(seen.length / 10));
    const least = (list: readonly Probe[]): number => Math.min(...list.map((p) => p.used_MB));
    const [first_MB, last_MB] = [least(seen.slice(0, 2 * tenth)), least(seen.slice(-tenth))];
    const about = `${TAILS} tails for ${MINUTES} minutes; the server takes ${busy.toFixed(2)} of a core`;
    return [
      line('load: a cue at its page after its line, p99', share(cues_ms, 0.99), 'ms', 100, `p50 ${share(cues_ms, 0.5).toFixed(1)} ms, worst ${share(cues_ms, 1).toFixed(0)} ms, ${told} of ${crossings} told; ${about}`),
      line('load: frames that were sent and not stored', missing, '', 0, `of ${frames}`),
      line('load: memory in the last tenth against the first fifth', last_MB / first_MB, 'times', 1.15, `${first_MB.toFixed(0)} MB in use, then ${last_MB.toFixed(0)} MB; given by the system ${(seen.at(-1)?.rss_MB ?? NaN).toFixed(0)} MB`),
      line('load: p99 of the event loop', seen.at(-1)?.p99_ms ?? NaN, 'ms', 50, 'in the last ten seconds'),
    ]; // oxfmt-ignore
  } finally {
    await programs.stop();
  }
}

const line = (name: string, value: number, unit: string, target: number, remark: string): Line => ({
  name,
  value,
  unit,
  wanted: 'at most',
  target,
  remark,
});

async function fill(owner: pg.Client): Promise<void> {
  await owner.query(
    `INSERT INTO aircraft (operator_id, aircraft_id, tail, type_id, type_version, pad)
     SELECT a.operator_id, gen_random_uuid(), 'LD-' || lpad(i::text, 3, '0'), a.type_id, a.type_version, $2
     FROM generate_series(0, ${TAILS - 1}) i JOIN aircraft a ON a.operator_id = $1 AND a.tail = ($3::text[])[1 + i % ${LIKE.length}]`,
    [DEMO.operatorId, PADS[4].pad, LIKE],
  );
}

/** A unit with a token for each, connected. */
async function enlist({ base, ownerUrl, linesPort }: Programs): Promise<Tail[]> {
  const owner = new pg.Client({ connectionString: ownerUrl });
  await owner.connect();
  const { rows } = await owner.query<{ id: string; type: string }>(
    "SELECT aircraft_id AS id, type_id AS type FROM aircraft WHERE tail LIKE 'LD-%' ORDER BY tail",
  );
  await owner.end();
  const boss = new Caller(base, 'administrator');
  const tails: Tail[] = [];
  for (const { id, type: typeId } of rows) {
    const made = (await boss.post('/devices', { aircraft: id, label: 'Unit' })).body as unknown as DeviceMade;
    const type = newestType(typeId);
    const values = Float64Array.from(type.channels, (c) => IDLE[c.id.replace(/\.[12](?=\.|$)/, '')] ?? NaN);
    const unit = net.connect({ port: linesPort, host: '127.0.0.1', noDelay: true });
    unit.on('error', () => undefined);
    unit.write(`${made.token}\n`);
    const oil = type.channels.findIndex((c) => c.id === 'oil.1.pressure');
    tails.push({ type, aircraft: id, unit, run: '', values, oil, crossed_ms: NaN, told: true });
  }
  return tails;
}

/** Every unit says a line fifty times a second. */
function feed(tails: readonly Tail[], crossed: () => void): NodeJS.Timeout {
  const epoch = performance.now();
  let turn = 0;
  return setInterval(() => {
    // a bench that was held up catches up: a unit would not have stood still
    for (const until = (performance.now() - epoch) / (FRAME_MS / LOTS); turn < until; turn++) {
      const frame = Math.floor(turn / LOTS);
      for (let i = turn % LOTS; i < tails.length; i += LOTS) {
        const tail = tails[i]!;
        const phase = (frame + i * 7) % CROSS_EVERY;
        tail.values[tail.oil] = phase < CROSS_EVERY / 2 ? 2 : 3.1;
        tail.unit.write(writeDeviceLine((frame * FRAME_MS) / 1000, tail.values, tail.type.channels));
        if (phase !== 0) continue;
        tail.crossed_ms = performance.now();
        tail.told = false;
        crossed();
      }
    }
  }, FRAME_MS / LOTS);
}

/** A run of each, and a page that follows it. */
async function open({ base }: Programs, tails: readonly Tail[], cues_ms: number[]): Promise<void> {
  const call = new Caller(base);
  const headers = { cookie: await call.cookie() };
  for (const tail of tails) {
    const brief = goodBrief(FLEET.find((a) => a.typeId === tail.type.id)!.aircraftId);
    tail.run = await call.open(tail.aircraft, brief);
    const page = new WebSocket(`${base.replace('http', 'ws')}/live?run=${tail.run}`, { origin: base, headers });
    page.on('message', (data: Buffer, binary) => {
      if (binary || tail.told || !data.includes('"entries"')) return;
      const message = JSON.parse(data.toString()) as LiveMessage;
      if (message.kind !== 'entries' || !message.entries.some((e) => e.kind === 'cue' && e.severity !== 'call')) return;
      tail.told = true;
      cues_ms.push(performance.now() - tail.crossed_ms);
    });
  }
}

/** What the database has when all is stored, and how many frames lie between the first and the last of each run and are not there. */
async function stored({ ownerUrl }: Programs): Promise<{ frames: number; missing: number }> {
  const owner = new pg.Client({ connectionString: ownerUrl });
  await owner.connect();
  const count = async (): Promise<{ frames: number; missing: number }> => {
    const { rows } = await owner.query<{ frames: number; missing: number }>(
      `SELECT coalesce(sum(frames), 0)::int AS frames, coalesce(sum(round((last - first) * 50) + 1 - frames), 0)::int AS missing
       FROM (SELECT sum(frames) AS frames, min(first_t) AS first, max(last_t) AS last FROM trace_chunk c JOIN run r USING (operator_id, run_id)
             WHERE r.closed_at IS NULL GROUP BY run_id) c`,
    );
    return rows[0]!;
  };
  let last = await count();
  await waitUntil(async () => {
    const now = await count();
    const still = now.frames === last.frames;
    last = now;
    await after(2000);
    return still ? true : null;
  }, 120_000);
  await owner.end();
  return last;
}

/** Processor time of a process so far, s. */
function cpu_s(pid: number): number {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]!.split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
}
