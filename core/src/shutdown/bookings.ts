import type { TypeFile } from '../aircraft/index.ts';
import { type Entry, reduceRun } from '../procedure/index.ts';
import type { RatingNow } from '../ratings/index.ts';

/** What one run adds to the books of an aircraft. */
export interface Booking {
  engines: { engine: number; starts: number; running_s: number }[];
  /** between lift and shut-down, s; 0 when it never lifted */
  flight_s: number;
  /** rotor turned and stopped again */
  rotorCycles: number;
  ratings: {
    engine: number;
    rating: string;
    label: string;
    uses: number;
    booked_s: number;
    inspection: string | null;
  }[];
}

/**
 * Starts, hours, cycles and uses of ratings of one run, from its journal and its rating ledgers.
 * @param ratings as they stood at the end; a rating that was not used is left out
 */
export function bookingOf(type: TypeFile, entries: readonly Entry[], ratings: readonly RatingNow[]): Booking {
  const state = reduceRun(entries);
  const end_s = entries.findLast((e) => e.kind !== 'note' && e.kind !== 'closed')?.t ?? 0;
  const stopped = (from_s: number): number =>
    state.phases.find((p) => p.phase === 'off' && p.t_s > from_s)?.t_s ?? end_s;
  const engines = type.engines.map(({ id: engine }) => {
    const watches = type.startWatches.filter((w) => w.engine === engine).map((w) => w.id);
    const starts = entries.filter((e) => e.kind === 'start-done' && watches.includes(e.watch));
    return {
      engine,
      starts: starts.length,
      running_s: starts.reduce((sum, e, i) => sum + Math.min(stopped(e.t), starts[i + 1]?.t ?? Infinity) - e.t, 0),
    };
  });
  const after = type.legs.filter((l) => l.begins);
  const lifted = after.length > 1 ? state.begun[after[0]!.id] : undefined;
  const landed = state.begun[after[after.length - 1]?.id ?? ''];
  return {
    engines,
    flight_s: lifted === undefined ? 0 : (landed ?? end_s) - lifted,
    rotorCycles: cyclesOf(type, entries),
    ratings: ratings
      .filter((r) => r.booked_s > 0)
      .map(({ engine, rating, label, booked_s, uses, maintenance, inspection }) => ({
        engine,
        rating,
        label,
        uses,
        booked_s,
        inspection: maintenance ? inspection : null,
      })),
  };
}

/** How often everything stood still again after an engine had run. */
function cyclesOf(type: TypeFile, entries: readonly Entry[]): number {
  const engines = new Set(type.startWatches.filter((w) => w.engine > 0).map((w) => w.id));
  let [cycles, ran] = [0, false];
  for (const e of entries) {
    if (e.kind === 'start-done' && engines.has(e.watch)) ran = true;
    if (e.kind !== 'phase' || e.phase !== 'off' || !ran) continue;
    cycles++;
    ran = false;
  }
  return cycles;
}
