import type { WatchedType } from '@rouse/core/aircraft';
import { FT_m } from '@rouse/core/atmosphere';
import { NormalSource } from '@rouse/core/simulator';
import { type Corridor, dayOf, type LearnedStart, learnCorridor, Watch, type WatchEvent } from '@rouse/core/watch';
import { type Circumstances, drawFrom } from './populations.ts';
import { type Fault, flyStart, mainStart, type StartOptions, type Truth } from './start.ts';

/** One start as it was, and as the watch saw it. */
export interface WatchedStart {
  truth: Truth;
  /** cautions and warnings, the gates before the starter left out */
  raised: { t_s: number; code: string; text: string }[];
  abort: { t_s: number; reason: string; text: string } | null;
  verdict: 'good' | 'unknown' | null;
  learned: LearnedStart | null;
}

interface Watching {
  type: WatchedType;
  circumstances: Circumstances;
  seed: number;
  corridor: Corridor | null;
  faults?: readonly Fault[];
  every?: NonNullable<StartOptions['every']>;
  readings?: NonNullable<StartOptions['readings']>;
  /** the fuel is shut by hand so long after the watch has said stop; null leaves it */
  handAfter_s?: number | null;
}

/** Flies one start of engine 1 and watches it. */
export function watchStart(watching: Watching): WatchedStart {
  const { type, circumstances, corridor, handAfter_s } = watching;
  const spec = mainStart(type);
  const found: Omit<WatchedStart, 'truth'> = { raised: [], abort: null, verdict: null, learned: null };
  const onEvent = (e: WatchEvent): void => {
    if (e.kind === 'cue' && e.severity !== 'call' && !e.code.startsWith('gate-'))
      found.raised.push({ t_s: e.t_s, code: e.code, text: e.text });
    if (e.kind === 'abort' && e.watch === spec.id) found.abort ??= { t_s: e.t_s, reason: e.reason, text: e.text };
    if (e.kind === 'start-done' && e.watch === spec.id) {
      found.verdict = e.verdict;
      found.learned = { profile: e.profile, day: dayOf(e.record) };
    }
  };
  const watch = new Watch(type, { [spec.id]: corridor }, onEvent);
  const env = circumstances.conditions.env ?? {};
  watch.airIs({ pressureAltitude_ft: (env.pa_m ?? 0) / FT_m, tailwind_kt: -(env.headwind_kt ?? 0) });
  let cut = false;
  const truth = flyStart({
    ...watching,
    onFrame: (t_s, values) => watch.step(t_s, values),
    cut: (t_s) => {
      if (cut || handAfter_s == null || !found.abort || t_s < found.abort.t_s + handAfter_s) return false;
      cut = true;
      return true;
    },
  });
  return { truth, ...found };
}

/** The habit of a tail over so many good starts of a population. */
export function learnFrom(type: WatchedType, population: string, count: number, seed: number): Corridor {
  const chance = new NormalSource(seed);
  const starts: LearnedStart[] = [];
  for (let i = 0; starts.length < count && i < 3 * count; i++) {
    const circumstances = drawFrom(population, type, chance);
    const { learned, verdict } = watchStart({ type, circumstances, seed: seed * 1000 + i, corridor: null });
    if (learned && verdict === 'good') starts.push(learned);
  }
  const corridor = learnCorridor(starts);
  if (!corridor) throw new RangeError(`${type.id}: no habit was learned from ${count} starts`);
  return corridor;
}
