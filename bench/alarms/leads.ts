import type { WatchedType } from '@rouse/core/aircraft';
import { NormalSource } from '@rouse/core/simulator';
import type { Corridor } from '@rouse/core/watch';
import type { Line } from '../measure.ts';
import { STUCK_KG_S } from './faults.ts';
import { type Circumstances, drawFrom, USUAL_HAND } from './populations.ts';
import { type Fault, mainStart } from './start.ts';
import { watchStart } from './watched.ts';

/** a hand that obeys at once */
const HAND_S = 0.7;
/** medians that the better of the rules tried in the design had, s (docs/physics.md 20.4) */
const WANTED_S: Readonly<Record<string, number>> = { S7: 0.42, C5: 0.82 };

/** How long before the band of a few seconds a hot start is stopped, and what the hand then saves. */
export function* leads(type: WatchedType, corridor: Corridor, seed: number, many: number): Generator<Line> {
  const found: number[] = [];
  const tally = { crossed: 0, late: 0, never: 0, neverLate: 0, saved: 0 };
  const chance = new NormalSource(seed);
  for (let i = 0; i < many; i++) {
    const circumstances = drawFrom('a year', type, chance);
    const faults = makeHot(type, circumstances, i, many);
    const start = { type, circumstances, seed: seed * 10 + i, corridor, faults };
    const { truth, abort } = watchStart(start);
    if (truth.band_s !== null) {
      tally.crossed++;
      if (abort && abort.t_s < truth.band_s) found.push(truth.band_s - abort.t_s);
      else tally.late++;
    }
    if (truth.never_s === null) continue;
    tally.never++;
    if (!abort || abort.t_s > truth.never_s) tally.neverLate++;
    if (watchStart({ ...start, handAfter_s: HAND_S }).truth.never_s === null) tally.saved++;
  }
  found.sort((a, b) => a - b);
  const at = (share: number): number => found[Math.floor(share * (found.length - 1))] ?? 0;
  yield {
    name: `alarms: ${type.id}, stop before the band of a few seconds, median`,
    value: at(0.5),
    unit: 's',
    wanted: 'at least',
    target: WANTED_S[type.id] ?? 0.4,
    remark: `tenth ${at(0.1).toFixed(2)} s; ${tally.crossed} of ${many} entered it, ${tally.late} of them were stopped later`,
  };
  yield {
    name: `alarms: ${type.id}, hot starts that pass their never-exceed line without a word before`,
    value: tally.neverLate,
    unit: 'starts',
    wanted: 'at most',
    target: 0,
    remark: `${tally.never} pass it when left alone; ${tally.saved} of them do not with the fuel shut ${HAND_S} s after the word`,
  };
}

/** A grip left too far open, from the light or early, or rich, by more and more; under a control a valve that sticks open. */
function makeHot(type: WatchedType, circumstances: Circumstances, i: number, many: number): Fault[] {
  const more = i / many;
  if (mainStart(type).fuelBy === 'control') {
    const kg_s = STUCK_KG_S[type.id]! * (1 + 0.5 * more);
    return [{ above_pct: [15, 20, 26][i % 3]!, set: { 'fault.e1.wf_stuck_kg_s': kg_s } }];
  }
  if (i % 3 === 2) {
    circumstances.hand = { ...USUAL_HAND, grip0: 0.28 };
    return [{ above_pct: 14, set: { 'fault.e1.fuel_bias': 1.5 + 1.3 * more } }];
  }
  circumstances.hand = { ...USUAL_HAND, fuel_ng: i % 3 === 0 ? 14.5 : 9, grip0: 0.3 + 0.1 * more, fixed: 1 };
  return [];
}
