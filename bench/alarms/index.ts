import { needWatched, type WatchedType } from '@rouse/core/aircraft';
import { NormalSource } from '@rouse/core/simulator';
import type { Corridor } from '@rouse/core/watch';
import { types } from '../../tests/skerry.ts';
import { type Line, many } from '../measure.ts';
import { faultMatrix } from './fault-matrix.ts';
import { leads } from './leads.ts';
import { drawFrom, POPULATIONS } from './populations.ts';
import { learnFrom, watchStart, type WatchedStart } from './watched.ts';

const IDS = ['S7', 'H9', 'C5', 'X14'] as const;
const LEARNED = 40;
/** seeds that no rule was tuned on */
const SEED = 20_262;
/** an exceedance of oil or volts that really was is no false alarm; it has a figure of its own */
const TRUE_EXCEEDANCE = /^(oil|volts)/;

/**
 * What the watch raises in good starts of every weather, what it names in bad ones, and how long before the limit:
 * judged by what really happened to the engine. One line at a time, as they come.
 */
export function* alarms(): Generator<Line> {
  // the short form has a hot start and a twin
  for (const id of IDS.slice(0, many(IDS.length, 2))) {
    const type = needWatched(types.filter((t) => t.id === id).toSorted((a, b) => b.version - a.version)[0]!);
    const starts = many(type.startWatches.length > 1 ? 200 : 400, 1);
    const learned = many(LEARNED, 8);
    const ordinary = learnFrom(type, 'ordinary', learned, SEED);
    for (const population of Object.keys(POPULATIONS))
      yield raisedIn(type, population, ordinary, 'ordinary starts', starts);
    const year = learnFrom(type, 'a year', learned, SEED + 1);
    for (const population of ['ordinary', 'everything', 'a year'])
      yield raisedIn(type, population, year, 'a year', starts);
    yield* leads(type, ordinary, SEED + 2, many(108, 1));
    yield* faultMatrix(type, ordinary, SEED + 3, many(30, 1));
  }
}

function raisedIn(type: WatchedType, population: string, corridor: Corridor, from: string, starts: number): Line {
  const chance = new NormalSource(SEED + population.length);
  const counted = { good: 0, stopped: 0, raised: 0, exceeded: 0, byLimits: 0 };
  const said: Record<string, number> = {};
  for (let i = 0; i < starts; i++) {
    const seed = SEED * 10 + i;
    const watched = watchStart({ type, circumstances: drawFrom(population, type, chance), seed, corridor });
    if (!watched.truth.good) continue;
    counted.good++;
    const codes = falseAlarms(watched);
    if (watched.abort) counted.stopped++;
    if (codes.length > 0) counted.raised++;
    if (codes.some((c) => c.startsWith('tot'))) counted.byLimits++;
    if (watched.raised.some((r) => TRUE_EXCEEDANCE.test(r.code))) counted.exceeded++;
    for (const code of new Set(codes)) said[code] = (said[code] ?? 0) + 1;
  }
  const share = (n: number): number => (100 * n) / Math.max(1, counted.good);
  const words = Object.entries(said).map(([code, n]) => `${code} ${n}`);
  return {
    name: `alarms: ${type.id}, ${population}, learned from ${from}: raised in good starts`,
    value: share(counted.raised),
    unit: '%',
    wanted: 'at most',
    target: population === 'ordinary' ? 0 : 2,
    remark: `${counted.good} good of ${starts}; stopped ${share(counted.stopped).toFixed(1)} % (at most 0.2), limits alone ${share(counted.byLimits).toFixed(1)} %, oil or volts really exceeded ${share(counted.exceeded).toFixed(1)} %${words.length > 0 ? `; ${words.join(', ')}` : ''}`,
  };
}

function falseAlarms({ raised, abort }: WatchedStart): string[] {
  const codes = raised.map((r) => r.code).filter((code) => !TRUE_EXCEEDANCE.test(code));
  return abort ? [...codes, `stopped as ${abort.reason}`] : codes;
}
