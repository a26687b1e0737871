import { needWatched, type StandInAction, type WatchedType } from '@rouse/core/aircraft';
import { type Conditions, NormalSource, SimulatedCockpit } from '@rouse/core/simulator';
import { type Corridor, learnCorridor, Watch } from '@rouse/core/watch';
import { types } from '../tests/skerry.ts';
import type { Line } from './measure.ts';

const LEARNED = 40;
const GOOD = 1000;
const HOT = 108;
const SECONDS = 60;
const START_S = 3;

interface Fault {
  above_pct: number;
  fault: string;
  to: number;
}

/** One type, the temperature that the lead counts to, and what its reference reached. */
interface Case {
  id: string;
  until_C: number;
  word: string;
  median_s: number;
  tenth_s: number;
  start: StandInAction[];
  hotBy: (i: number) => { faults: Fault[]; start?: StandInAction[] };
}

const press: StandInAction[] = [
  { control: 'e1.mode', to: 'IDLE' },
  { control: 'e1.start', to: 1, release_s: 2 },
];
const HAND = { fuel_ng: 14.5, grip0: 0.22, target_c: 700, gain: 0.0006, lead_s: 1.5, open_rate: 0.03, close_rate: 0.06, delay_s: 0.4 }; // prettier-ignore
const hand = (plan: Record<string, number>): StandInAction[] => [
  { control: 'e1.starter_sw', to: 1 },
  { control: 'e1.pilot', to: plan },
  { control: 'e1.starter_sw', to: 0, when: { sig: 'e1.ng', op: '>=', val: 53 } },
];

const CASES: readonly Case[] = [
  {
    id: 'C5',
    until_C: 930,
    word: 'never-exceed',
    median_s: 1.12,
    tenth_s: 0.92,
    start: hand(HAND),
    // a grip left too far open, from the light or early, by more and more; every third a rich control
    hotBy: (i) =>
      i % 3 === 2
        ? {
            faults: [{ above_pct: 14, fault: 'fault.e1.fuel_bias', to: 1.6 + 0.012 * i }],
            start: hand({ ...HAND, grip0: 0.28 }),
          }
        : { faults: [], start: hand({ ...HAND, fuel_ng: i % 3 === 0 ? 14.5 : 9, grip0: 0.31 + 0.0009 * i, fixed: 1 }) },
  },
  {
    // its control stops a hot start by itself before 900 °C: the lead counts to the two-second band
    id: 'S7',
    until_C: 835,
    word: 'the two-second band',
    median_s: 1,
    tenth_s: 0.61,
    start: press,
    // a metering valve that sticks open by more and more, after the light, at another speed each
    hotBy: (i) => ({
      faults: [
        { above_pct: [15, 20, 26][i % 3]!, fault: 'fault.e1.wf_stuck_kg_s', to: 0.009 + 0.00016 * Math.floor(i / 3) },
      ],
    }),
  },
];

/** What the watch raises in good starts, and how long before the limit it warns in hot ones. */
export function alarms(): Line[] {
  return CASES.flatMap((one) => {
    const type = needWatched(types.filter((t) => t.id === one.id).toSorted((a, b) => b.version - a.version)[0]!);
    const chance = new NormalSource(2026);
    const corridor = learn(type, one, new NormalSource(7));
    let raised = 0;
    let aborted = 0;
    for (let i = 0; i < GOOD; i++) {
      const { cautions, abort_s } = start(type, one.until_C, ordinary(chance), one.start, [], corridor, 5000 + i);
      if (cautions > 0) raised++;
      if (abort_s !== null) aborted++;
    }
    const leads: number[] = [];
    let missed = 0;
    let crossed = 0;
    for (let i = 0; i < HOT; i++) {
      const hot = one.hotBy(i);
      const { over_s, warned_s } = start(type, one.until_C, ordinary(chance), hot.start ?? one.start, hot.faults, corridor, 9000 + i); // prettier-ignore
      if (over_s === null) continue;
      crossed++;
      if (warned_s === null || warned_s > over_s) missed++;
      else leads.push(over_s - warned_s);
    }
    leads.sort((a, b) => a - b);
    const at = (share: number): number => leads[Math.floor(share * (leads.length - 1))] ?? NaN;
    const remark = `${crossed} of ${HOT} hot starts passed ${one.until_C} °C, ${missed} of them without a warning before`;
    return [
      {
        name: `watch: good ${one.id} starts of ${GOOD} in which anything is raised`,
        value: raised,
        unit: 'starts',
        wanted: 'at most',
        target: 0,
        remark: `${aborted} of them stopped; habit learned from ${LEARNED} others of the same weather`,
      },
      { name: `watch: ${one.id}, warning before ${one.word}, median`, value: at(0.5), unit: 's', wanted: 'at least', target: one.median_s, remark },
      { name: `watch: ${one.id}, warning before ${one.word}, tenth percentile`, value: at(0.1), unit: 's', wanted: 'at least', target: one.tenth_s },
    ] satisfies Line[]; // prettier-ignore
  });
}

/** Ordinary flying weather and an ordinary battery, by chance. */
function ordinary(chance: NormalSource): Conditions {
  return {
    env: { oat_c: 4 + 16 * chance.uniform(), headwind_kt: 10 * chance.uniform() },
    soc: 0.8 + 0.15 * chance.uniform(),
    batt_age: 1 + 0.3 * chance.uniform(),
    oil_temp_c: 40,
    mgb_temp_c: 40,
  };
}

function learn(type: WatchedType, one: Case, chance: NormalSource): Corridor {
  const starts = [];
  for (let i = 0; i < LEARNED; i++) {
    const { profile } = start(type, one.until_C, ordinary(chance), one.start, [], null, 100 + i);
    if (profile) starts.push(profile);
  }
  const corridor = learnCorridor(starts);
  if (!corridor) throw new Error('no habit was learned');
  return corridor;
}

function start(
  type: WatchedType,
  until_C: number,
  conditions: Conditions,
  hands: readonly StandInAction[],
  faults: readonly Fault[],
  corridor: Corridor | null,
  seed: number,
): {
  cautions: number;
  abort_s: number | null;
  over_s: number | null;
  warned_s: number | null;
  profile: Parameters<typeof learnCorridor>[0][number] | null;
} {
  const cockpit = new SimulatedCockpit(type, conditions, [], seed);
  const tot = type.channels.findIndex((c) => c.id === 'tot.1');
  const ng = type.channels.findIndex((c) => c.id === 'ng.1');
  const found = {
    cautions: 0,
    abort_s: null as number | null,
    over_s: null as number | null,
    warned_s: null as number | null,
    profile: null as Parameters<typeof learnCorridor>[0][number] | null,
  };
  const watch = new Watch(type, { [type.startWatches[0].id]: corridor }, (e) => {
    if (e.kind === 'cue' && e.severity !== 'call') {
      found.cautions++;
      // a word about early fuel or a gate is no warning of heat
      if (e.code.startsWith('tot') || e.code === 'outside-corridor') found.warned_s ??= e.t_s;
    }
    if (e.kind === 'abort') {
      found.abort_s ??= e.t_s;
      found.warned_s ??= e.t_s;
    }
    if (e.kind === 'start-done')
      found.profile = {
        profile: e.profile,
        outsideAir_C: e.record.outsideAir_C,
        voltsBefore_V: e.record.voltsBefore_V,
      };
  });
  for (const control of ['battery', 'load.base_bus', 'load.anticollision', 'boost']) cockpit.move({ control, to: 1 });
  const waiting = [...faults];
  for (let k = 1; k <= SECONDS * 50; k++) {
    const t_s = k / 50;
    if (k === START_S * 50) for (const action of hands) cockpit.move(action);
    const values = cockpit.tick();
    for (const f of waiting.splice(0))
      if (values[ng]! >= f.above_pct) cockpit.move({ control: f.fault, to: f.to });
      else waiting.push(f);
    if (values[tot]! > until_C) found.over_s ??= t_s;
    watch.step(t_s, values);
  }
  return found;
}
