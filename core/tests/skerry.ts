import { needWatched, type WatchedType } from '@rouse/core/aircraft';
import { flyPractice, type PracticeRun } from '@rouse/core/drill';
import { type Conditions, conditionsOf, NormalSource } from '@rouse/core/simulator';
import { chainEntries, type Entry, type Payload } from '@rouse/core/procedure';
import { type Corridor, type Corridors, dayOf, learnCorridor } from '@rouse/core/watch';
import { typeOf } from './fleet.ts';

export const skerry: WatchedType = needWatched(typeOf('S7'));

/** What a watch takes: one corridor, for the engine start. */
export function habit(corridor: Corridor | null | undefined): Corridors {
  return { 'engine-1-start': corridor ?? null };
}

export function channelIndex(id: string): number {
  return skerry.channels.findIndex((c) => c.id === id);
}

/** Flies one of the shipped stand-in conditions with the practice pilot. */
export function flyPreset(
  id: string,
  corridor: Corridor | null = null,
  seed = 3,
  skips: readonly string[] = [],
): PracticeRun {
  const preset = skerry.standIn.find((p) => p.id === id)!;
  return flyPractice({
    type: skerry,
    conditions: conditionsOf(skerry, preset),
    faults: preset.faults,
    corridors: habit(corridor),
    seed,
    skips,
  });
}

/** Ordinary flying weather and an ordinary battery, by chance. */
export function ordinaryConditions(chance: NormalSource): Conditions {
  return {
    env: { oat_c: 4 + 16 * chance.uniform(), headwind_kt: 10 * chance.uniform() },
    soc: 0.8 + 0.15 * chance.uniform(),
    batt_age: 1 + 0.3 * chance.uniform(),
    oil_temp_c: 40,
    mgb_temp_c: 40,
  };
}

/** by then a patient pilot has started the engine, and it idles */
export const IDLES_BY_S = 160;

/** The habit of this type over `count` ordinary starts. */
export function ordinaryCorridor(count: number): Corridor {
  const chance = new NormalSource(7);
  const starts = Array.from({ length: count }, (_, i) => {
    const run = flyPractice({
      type: skerry,
      conditions: ordinaryConditions(chance),
      faults: [],
      corridors: {},
      seed: 100 + i,
      limit_s: IDLES_BY_S,
    });
    const { record, profile } = run.starts[0]!;
    return { profile, day: dayOf(record) };
  });
  return learnCorridor(starts)!;
}

export function cuesOf(run: PracticeRun): { t_s: number; code: string; severity: string; text: string }[] {
  return run.entries.flatMap((e) => (e.kind === 'cue' ? [{ t_s: e.t, ...e }] : []));
}

export function abortOf(run: PracticeRun): { t_s: number; reason: string; text: string } | null {
  const found = run.entries.find((e) => e.kind === 'abort');
  return found ? { t_s: found.t, ...found } : null;
}

export const RUN_ID = '0193a000-0000-7000-8000-0000000000ff';

/** What was written, chained as the server does it. */
export function journalOf(written: readonly { t_s: number; by: string; payload: Payload }[], after?: Entry): Entry[] {
  return chainEntries(
    RUN_ID,
    after,
    written.map((w, i) => ({
      ...w,
      id: `0193a000-0000-7000-8000-${String((after?.seq ?? 0) + i + 1).padStart(12, '0')}`,
      at_ms: 1e12 + w.t_s * 1000,
    })),
  );
}

/** Made by the test that asks first: a hook that fails would only skip its tests, and a mutant would live. */
export function once<T>(make: () => T): () => T {
  let made: { value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}
