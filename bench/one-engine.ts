import os from 'node:os';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { needWatched, poweredOf } from '@rouse/core/aircraft';
import { type BoardInput, oneEngineBoard } from '@rouse/core/power';
import type { FailurePoint } from '@rouse/core/simulator';
import { types } from '../tests/skerry.ts';
import { best, type Line, ROOT, many } from './measure.ts';

const haugh = needWatched(types.find((t) => t.id === 'H9')!);
const MOVES = many(200, 10);
const FLIGHTS = many(500, 12);

/** One board at every move of a slider, and a grid of failures flown in as many workers as there are processors. */
export async function oneEngine(): Promise<Line[]> {
  const { mtow_kg, empty_kg } = haugh.loading;
  const aircraft = poweredOf(haugh)!;
  const at = (i: number): BoardInput => ({
    mass_kg: empty_kg + ((mtow_kg - empty_kg) * i) / MOVES,
    pa_ft: 20 * i,
    oat_C: -20 + 0.3 * i,
    skid_height_ft: 3 + 0.4 * i,
    headwind_kt: i % 20,
    hoist_kg: 90,
    fuel_kgph: 300,
    obstacle_clear: i % 2 === 0,
    landing_ok: i % 3 === 0,
  });
  let slowest_s = 0;
  for (let i = 0; i < MOVES; i++) {
    const input = at(i);
    slowest_s = Math.max(
      slowest_s,
      best(3, () => oneEngineBoard(aircraft, input)),
    );
  }

  const points = Array.from({ length: FLIGHTS }, (_, i): FailurePoint => {
    const share = Math.floor(i / 25) / 19;
    return {
      mass_kg: mtow_kg * (0.7 + 0.3 * share),
      oat_C: -20 + 2.4 * (i % 25),
      pa_m: 0,
      height_m: 30,
      rating: '30s',
    };
  });
  const workers = os.cpus().length;
  const since = performance.now();
  const flown = await Promise.all(
    Array.from({ length: workers }, (_, w) => fly(points.filter((_p, i) => i % workers === w))),
  );
  const took_s = (performance.now() - since) / 1000;
  const holds = flown.flat().filter(Boolean).length;
  return [
    {
      name: 'one-engine board of H9, slowest of 200 moves of the sliders',
      value: 1000 * slowest_s,
      unit: 'ms',
      wanted: 'at most',
      target: 16,
    },
    {
      name: `${FLIGHTS} engine failures in the hover, flown in ${workers} workers`,
      value: took_s,
      unit: 's',
      wanted: 'at most',
      target: 10,
      remark: `${holds} hold the height`,
    },
  ];
}

function fly(points: FailurePoint[]): Promise<boolean[]> {
  return new Promise((resolve, reject) => {
    const held: boolean[] = [];
    const worker = new Worker(path.join(ROOT, 'bench/dist/failure-worker.js'), {
      workerData: { parameters: haugh.simulator, points },
    });
    worker.on('message', (holds: boolean) => held.push(holds));
    worker.on('error', reject);
    worker.on('exit', () => resolve(held));
  });
}
