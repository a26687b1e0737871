import { setTimeout as after } from 'node:timers/promises';
import WebSocket from 'ws';
import { FLEET } from '../server/src/demo/identity.ts';
import { Caller } from '../tests/caller.ts';
import { isSmoke, type Line } from './measure.ts';
import { type Probe, startPrograms } from './programs.ts';

const MINUTES = Number(process.env['SOAK_MIN'] ?? (isSmoke ? 1 : 60));
/** a run keeps the frames of its last three minutes: until then it grows */
const WARM_S = isSmoke ? 30 : 240;

/** Six tails with an open run each, fed at 50 Hz and followed by a page each, for an hour. */
export async function soak(): Promise<Line[]> {
  const probes: Probe[] = [];
  const programs = await startPrograms({
    tails: FLEET.map((a) => a.tail),
    standIn: true,
    probed: (probe) => probes.push(probe),
  });
  try {
    const call = new Caller(programs.base);
    for (const { aircraftId } of FLEET) {
      const run = await call.open(aircraftId);
      const headers = { cookie: await call.cookie() };
      new WebSocket(`${programs.base.replace('http', 'ws')}/live?run=${run}`, { origin: programs.base, headers });
    }
    await after(WARM_S * 1000);
    probes.length = 0;
    await after(MINUTES * 60_000 - WARM_S * 1000);
    const late = probes.map((p) => p.p99_ms).sort((a, b) => a - b);
    // right after a collection; between two of them it only grows
    const least = (list: typeof probes): number => Math.min(...list.map((p) => p.used_MB));
    const tenth = Math.max(1, Math.floor(probes.length / 10));
    const [first, last] = [least(probes.slice(0, tenth)), least(probes.slice(-tenth))];
    const about = `${FLEET.length} tails for ${MINUTES} minutes`;
    return [
      {
        name: 'soak: p99 of the event loop',
        value: probes.at(-1)!.whole_p99_ms,
        unit: 'ms',
        wanted: 'at most',
        target: 20,
        remark: `of ten seconds each: median ${late[late.length >> 1]!.toFixed(1)} ms, worst ${late.at(-1)!.toFixed(0)} ms; ${about}`,
      },
      {
        name: 'soak: memory in the last tenth against the first',
        value: last / first,
        unit: 'times',
        wanted: 'at most',
        target: 1.15,
        remark: `${first.toFixed(0)} MB in use, then ${last.toFixed(0)} MB; given by the system ${probes[0]!.rss_MB.toFixed(0)} and ${probes.at(-1)!.rss_MB.toFixed(0)} MB; ${about}`,
      },
    ];
  } finally {
    await programs.stop();
  }
}
