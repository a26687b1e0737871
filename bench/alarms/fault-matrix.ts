import type { WatchedType } from '@rouse/core/aircraft';
import { NormalSource } from '@rouse/core/simulator';
import type { Corridor } from '@rouse/core/watch';
import type { Line } from '../measure.ts';
import { type Arranged, type FaultCase, FAULTS } from './faults.ts';
import { drawFrom } from './populations.ts';
import { mainStart } from './start.ts';
import { watchStart, type WatchedStart } from './watched.ts';

const SEVERITIES = 30;
const OF_HEAT = /tot|hot|reading|oscillation|sluggish/;

/** Every fault at many severities: whether it is found, and called by its name. */
export function* faultMatrix(type: WatchedType, corridor: Corridor, seed: number, many: number): Generator<Line> {
  const all = { starts: 0, right: 0, good: 0, never: 0, unwarned: 0 };
  for (const fault of FAULTS) {
    if (fault.only && fault.only !== mainStart(type).fuelBy) continue;
    const chance = new NormalSource(seed);
    const named: Record<string, number> = {};
    let right = 0;
    for (let k = 0; k < many; k++) {
      const severity = many === 1 ? 0 : Math.round((k * (SEVERITIES - 1)) / (many - 1));
      const watched = flyFault(type, corridor, fault, severity, chance, seed);
      const name = nameOf(watched);
      named[name] = (named[name] ?? 0) + 1;
      if (isRight(fault, watched)) right++;
      if (fault.lies && watched.verdict === 'good') all.good++;
      const { never_s } = watched.truth;
      if (never_s === null) continue;
      all.never++;
      if (!(firstWordOfHeat_s(watched) < never_s)) all.unwarned++;
    }
    all.starts += many;
    all.right += right;
    yield {
      name: `alarms: ${type.id}, ${fault.name}: rightly named`,
      value: (100 * right) / many,
      unit: '%',
      wanted: 'at least',
      target: 90,
      remark: Object.entries(named)
        .map(([name, n]) => `${name} ${n}`)
        .join(', '),
    };
  }
  yield { name: `alarms: ${type.id}, all faults: rightly named`, value: (100 * all.right) / all.starts, unit: '%', wanted: 'at least', target: 95 }; // oxfmt-ignore
  yield { name: `alarms: ${type.id}, starts with wrong readings called good`, value: all.good, unit: 'starts', wanted: 'at most', target: 0 }; // oxfmt-ignore
  yield { name: `alarms: ${type.id}, faults that pass the never-exceed line without a word before`, value: all.unwarned, unit: 'starts', wanted: 'at most', target: 0, remark: `${all.never} pass it` }; // oxfmt-ignore
}

function flyFault(
  type: WatchedType,
  corridor: Corridor,
  fault: FaultCase,
  severity: number,
  chance: NormalSource,
  seed: number,
): WatchedStart {
  const { channels } = mainStart(type);
  const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
  const indices = { ng: index(channels.speed), tot: index(channels.temperature) };
  const at: Arranged = {
    type,
    circumstances: drawFrom('ordinary', type, chance),
    faults: [],
    every: null,
    readings: null,
  };
  fault.arrange(at, severity);
  const { every, readings, circumstances, faults } = at;
  return watchStart({
    type,
    circumstances,
    corridor,
    seed: seed * 10 + severity,
    faults,
    ...(every ? { every } : {}),
    ...(readings ? { readings: (since_s, values) => readings(since_s, values, indices) } : {}),
  });
}

const nameOf = ({ abort, raised }: WatchedStart): string =>
  abort?.reason ?? ([...new Set(raised.map((r) => r.code))].join(' and ') || 'nothing');

/** Right is the name of the stop, what was said of its readings before it, or a caution; and silence where the start was good. */
function isRight({ right, lies }: FaultCase, { abort, raised, truth }: WatchedStart): boolean {
  const told = raised.some(
    (r) => /^(reading|oscillation)/.test(r.code) && right.includes(r.code) && !(abort && r.t_s > abort.t_s),
  );
  if (told) return true;
  // fuel that never burned is no light, whatever kept it from burning
  if (abort) return right.includes(abort.reason) || (abort.reason === 'no-light' && !truth.lit);
  if (raised.length === 0) return right.includes('none') || (truth.good && !lies);
  return raised.some((r) => right.includes(r.code));
}

function firstWordOfHeat_s({ abort, raised }: WatchedStart): number {
  const said = raised.filter((r) => OF_HEAT.test(r.code)).map((r) => r.t_s);
  return Math.min(abort?.t_s ?? Infinity, ...said);
}
