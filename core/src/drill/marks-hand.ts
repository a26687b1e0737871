import { DrillFlight } from './drill-flight.ts';
import type { DrillOptions, FlownDrill } from './flown-drill.ts';
import type { Loss } from './loss.ts';

/** What became of a start whose fuel was worked by hand. */
export interface HandStart {
  peak_C: number;
  toIdle_s: number;
  /** when it was done */
  t_s: number;
  watch: string;
}

/** so much hotter than the best hand costs a point */
const POINT_K = 8;
/** so much slower than the best hand costs a point, s */
const POINT_S = 2;
const MOST = 15;

type Starts = Pick<FlownDrill, 'entries' | 'type'>;

/** The first start that was worked by hand since a moment; null where there was none, or it did not come to idle. */
function startByHand({ entries, type }: Starts, from_s: number): HandStart | null {
  for (const entry of entries) {
    if (entry.kind !== 'start-done' || entry.t < from_s) continue;
    const spec = type.startWatches.find((w) => w.id === entry.watch);
    const { peak_C, idleAt_s, starterAt_s } = entry.record;
    if (spec?.kind !== 'turbine' || spec.fuelBy !== 'pilot' || typeof peak_C !== 'number') continue;
    return { peak_C, toIdle_s: (idleAt_s ?? NaN) - (starterAt_s ?? NaN), t_s: entry.t, watch: entry.watch };
  }
  return null;
}

/** How near the hand on the fuel came to the best one on this engine and day; null where no hand worked it. */
export function handOf(flown: FlownDrill, best: HandStart | null): Loss[] | null {
  const own = startByHand(flown, flown.begun_s);
  if (!own || !best) return null;
  const loss = (points: number, words: string): Loss[] =>
    points > 0 ? [{ criterion: 'hand', points: Math.min(MOST, points), words, t_s: own.t_s, of: own.watch }] : [];
  const hotter_K = own.peak_C - best.peak_C;
  const slower_s = own.toIdle_s - best.toIdle_s;
  return [
    ...loss(Math.floor(hotter_K / POINT_K), `Peak ${own.peak_C.toFixed(0)} °C, ${hotter_K.toFixed(0)} above the best hand`), // oxfmt-ignore
    ...loss(Math.floor(slower_s / POINT_S), `At idle ${slower_s.toFixed(1)} s after the best hand`),
  ];
}

/**
 * The start of a lesson by the best hand that is known: the patient one, with the plan of a test pilot on the fuel.
 * Takes as long as a start takes to simulate. @returns null where no hand works the fuel in this lesson
 */
export function bestHandOf(options: DrillOptions): HandStart | null {
  const { type, lesson } = options;
  const byHand = type.startWatches.find((w) => w.kind === 'turbine' && w.fuelBy === 'pilot');
  const start = type.items.findIndex((i) => i.kind === 'watch' && i.watch === byHand?.id);
  const at = (id: string | undefined, otherwise: number): number =>
    id === undefined ? otherwise : type.items.findIndex((i) => i.id === id);
  if (start < 0 || at(lesson.from, 0) > start || at(lesson.until, type.items.length) < start) return null;
  const after = type.items.slice(start + 1).find((i) => !i.byHandOnly)!;
  const flight = new DrillFlight({ ...options, lesson: { ...lesson, from: after.id, until: undefined, faults: [] } });
  return startByHand(flight.flown(), 0);
}
