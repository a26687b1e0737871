import { SimulatedCockpit } from '@rouse/core/simulator';
import { type Trace, TraceBuilder } from '@rouse/core/trace';
import { ROOT, skerry } from '../tests/skerry.ts';

export { ROOT, skerry };

/** a short run shows that every bench runs; its figures are too few to be judged */
export const isSmoke = process.argv.includes('--smoke');

/** How much is measured: all of it, or just enough to see that it runs. */
export const many = (full: number, short: number): number => (isSmoke ? short : full);

/** One figure with what was asked of it. */
export interface Line {
  name: string;
  value: number;
  unit: string;
  wanted: 'at least' | 'at most';
  target: number;
  remark?: string;
}

/** A figure in words, and whether it is what was asked. */
export function sayLine({ name, value, unit, wanted, target, remark }: Line): { words: string; met: boolean } {
  const met = wanted === 'at least' ? value >= target : value <= target;
  const shown = value >= 100 || Number.isInteger(value) ? value.toFixed(0) : value.toFixed(1);
  const figure = `${shown}${unit && ` ${unit}`}`;
  return {
    met,
    words: `${met ? 'met   ' : 'MISSED'}  ${name}: ${figure} (${wanted} ${target})${remark ? `; ${remark}` : ''}`,
  };
}

/** The value that a share of a list stays below; NaN of nothing. @param part 0 to 1, 1 the worst */
export function share(list: readonly number[], part: number): number {
  const sorted = list.toSorted((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(part * sorted.length))] ?? NaN;
}

/** Shortest wall time of several runs, s: the least disturbed one. */
export function best(runs: number, work: () => void): number {
  let shortest = Infinity;
  for (let i = 0; i < many(runs, 1); i++) {
    const since = performance.now();
    work();
    shortest = Math.min(shortest, (performance.now() - since) / 1000);
  }
  return shortest;
}

/** Shortest times of several pieces of work, each warmed by a run of its own and done in turn, so that a change of the machine's pace meets all of them. */
export function bestInTurn(rounds: number, works: readonly (() => void)[]): number[] {
  const shortest = works.map(() => Infinity);
  for (let i = 0; i < many(rounds, 1); i++)
    works.forEach((work, k) => {
      work();
      shortest[k] = Math.min(shortest[k]!, best(1, work));
    });
  return shortest;
}

/** The channels that the watch reads or shows: twenty. */
export const TWENTY = skerry.channels.filter(
  (c) => !['switch.battery', 'switch.anticollision', 'switch.avionics', 'rotor.brake', 'captions'].includes(c.id),
);

/** A run of ten minutes as a unit would send it: cold, start, idle, flight. */
export function tenMinutes(): Trace {
  const cockpit = new SimulatedCockpit(skerry, { env: { oat_c: 15 } }, [], 7);
  const builder = new TraceBuilder(
    skerry.channels.map((c) => c.id),
    32_768,
  );
  const moves: [number, string, number | string][] = [
    [5, 'battery', 1],
    [5, 'load.base_bus', 1],
    [9, 'load.anticollision', 1],
    [12, 'boost', 1],
    [40, 'e1.mode', 'IDLE'],
    [40, 'e1.start', 1],
    [42, 'e1.start', 0],
    [80, 'e1.gen', 1],
    [90, 'load.radio', 1],
    [200, 'e1.mode', 'FLY'],
  ];
  for (let k = 1; k <= 600 * 50; k++) {
    const t_s = k / 50;
    for (const [at, control, to] of moves) if (Math.abs(at - t_s) < 0.001) cockpit.move({ control, to });
    const values = cockpit.tick();
    builder.push(
      t_s,
      values.map((v, i) => Math.round(v / skerry.channels[i]!.resolution) * skerry.channels[i]!.resolution),
    );
  }
  return builder.toTrace();
}
