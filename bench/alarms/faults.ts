import type { WatchedType } from '@rouse/core/aircraft';
import { type Circumstances, USUAL_HAND } from './populations.ts';
import { type Fault, mainStart } from './start.ts';

/** One case of the fault matrix. `i` runs from 0 to 29 and spreads the severities, the mildest first. */
export interface FaultCase {
  name: string;
  /** reasons and cautions that name it rightly; the first is what is wanted, `none` where nothing need be said */
  right: readonly string[];
  /** its readings are wrong: it must never be called good */
  lies?: boolean;
  /** only for a fuel that is opened by hand, or by a control */
  only?: 'pilot' | 'control';
  arrange: (at: Arranged, i: number) => void;
}

/** What a case may arrange before and during a start. */
export interface Arranged {
  type: WatchedType;
  circumstances: Circumstances;
  faults: Fault[];
  /** each control period after the starter turned: how long it has, s, and a way to move things */
  every: ((since_s: number, ng_pct: number, move: (control: string, to: number) => void) => void) | null;
  /** changes the readings on their way to the watch */
  readings: ((since_s: number, values: Float64Array, at: Indices) => void) | null;
}

export interface Indices {
  ng: number;
  tot: number;
}

const spread = (i: number, from: number, to: number): number => from + ((to - from) * i) / 29;
const set = (at: Arranged, above_pct: number, name: string, to: number): void =>
  void at.faults.push({ above_pct, set: { [`fault.e1.${name}`]: to } });
/** fuel of a stuck valve that just carries a start into the band, kg/s */
export const STUCK_KG_S: Readonly<Record<string, number>> = { S7: 0.009, C5: 0.0062, H9: 0.0135, X14: 0.026 };
const stuck = (at: Arranged, i: number, speed_pct = [15, 20, 26][i % 3]!): void =>
  set(at, speed_pct, 'wf_stuck_kg_s', STUCK_KG_S[at.type.id]! * spread(i, 1, 1.5));

const HEAT = ['going-to-be-hot', 'hot', 'hung'] as const;
const SLOW = ['sluggish', 'hung', 'slow', 'low-volts', 'no-crank'] as const;
const DOUBT = ['reading-implausible', 'reading-stuck', 'sensor-lost'] as const;

export const FAULTS: readonly FaultCase[] = [
  { name: 'valve stuck open', right: [...HEAT, 'control-abort', 'slow', 'none'], arrange: stuck },
  {
    name: 'rich fuel bias',
    right: [...HEAT, 'none'],
    arrange: (at, i) => set(at, 0, 'fuel_bias', spread(i, 1.1, 1.8)),
  },
  {
    name: 'hand too open',
    right: [...HEAT, 'none'],
    only: 'pilot',
    arrange: (at, i) => {
      at.circumstances.hand = { ...USUAL_HAND, grip0: spread(i, 0.27, 0.36), fixed: 1 };
    },
  },
  {
    name: 'starter drops out',
    right: ['hung', 'sluggish', ...HEAT, 'slow'],
    arrange: (at, i) => set(at, spread(i, 40, 16), 'starter_drop', 1),
  },
  {
    name: 'drag, medium',
    right: [...SLOW, 'none'],
    arrange: (at, i) => set(at, 0, 'gg_drag_w', dragOf(at) * spread(i, 0.3, 1)),
  },
  {
    name: 'drag, heavy',
    right: [...SLOW, ...HEAT],
    arrange: (at, i) => set(at, 0, 'gg_drag_w', dragOf(at) * spread(i, 1.2, 2.5)),
  },
  {
    name: 'starter resistance',
    right: [...SLOW, 'starter-duty', 'none'],
    arrange: (at, i) => set(at, 0, 'starter_r_mult', spread(i, 1.5, 4)),
  },
  { name: 'no light', right: ['no-light'], arrange: (at) => set(at, 0, 'igniter_fail', 1) },
  {
    name: 'late light',
    right: ['no-light', 'late-light', 'hotter-than-usual', ...HEAT, 'none'],
    arrange: (at, i) => {
      set(at, 0, 'igniter_fail', 1);
      const light_s = spread(i, 8, 16);
      at.every = (since_s, _, move) =>
        since_s >= light_s && since_s < light_s + 0.03 && move('fault.e1.igniter_fail', 0);
    },
  },
  {
    name: 'weak battery',
    right: ['low-volts', 'volts-start/min', ...SLOW, ...HEAT, 'none'],
    arrange: (at, i) => {
      at.circumstances.conditions.soc = spread(i, 0.6, 0.3);
      at.circumstances.conditions.batt_age = spread(i, 1.5, 2.4);
    },
  },
  { name: 'no crank', right: ['no-crank', 'low-volts'], arrange: (at) => set(at, 0, 'starter_r_mult', 14) },
  {
    name: 'bleed stuck',
    right: ['sluggish', 'hotter-than-usual', ...HEAT, 'slow', 'none'],
    arrange: (at, i) => set(at, 0, 'bleed_stuck', spread(i, 0.1, 0.25)),
  },
  {
    name: 'turbine worn',
    right: ['sluggish', 'hotter-than-usual', ...HEAT, 'slow', 'none'],
    arrange: (at, i) => set(at, 0, 'turb_eff', spread(i, 0.9, 0.8)),
  },
  {
    name: 'fuel oscillates',
    right: ['oscillation', 'none', ...HEAT],
    arrange: (at, i) => {
      const swing = spread(i, 0.15, 0.5);
      at.every = (since_s, _, move) => move('fault.e1.fuel_bias', 1 + swing * Math.sin(2 * Math.PI * since_s));
    },
  },
  {
    name: 'stall-like pulses',
    right: ['oscillation', 'sluggish', 'none', ...HEAT, 'hung'],
    arrange: (at, i) => {
      const deep = spread(i, 0.9, 0.6);
      at.every = (since_s, ng, move) =>
        move('fault.e1.comp_flow', ng > 25 && ng < 50 && since_s % 0.7 < 0.15 ? deep : 1);
    },
  },
  {
    name: 'stall, locked',
    right: ['hung', ...HEAT, 'sluggish', 'slow', 'hotter-than-fuel', 'hotter-than-usual'],
    arrange: (at, i) => set(at, 28, 'comp_flow', spread(i, 0.8, 0.5)),
  },
  {
    name: 'flame out',
    right: ['died', 'control-abort', 'no-light'],
    arrange: (at, i) => set(at, spread(i, 25, 45), 'fuel_cut', 1),
  },
  {
    name: 'oil none',
    right: ['no-oil-pressure'],
    arrange: (at) => set(at, 0, 'oil_pump_fail', 1),
  },
  {
    name: 'temperature open',
    right: ['sensor-lost', ...DOUBT],
    lies: true,
    arrange: (at, i) => set(at, spread(i, 15, 45), 'tc_open', 1),
  },
  {
    name: 'temperature x 0.5 to 0.75',
    right: DOUBT,
    lies: true,
    arrange: (at, i) => set(at, 0, 'tc_gain', spread(i, 0.75, 0.5)),
  },
  {
    name: 'temperature x 1.2',
    right: [...DOUBT, ...HEAT, 'hotter-than-usual', 'hotter-than-fuel', 'none'],
    arrange: (at) => set(at, 0, 'tc_gain', 1.2),
  },
  {
    name: 'temperature drifts down',
    right: DOUBT,
    lies: true,
    arrange: (at, i) => {
      const from_s = spread(i, 7, 14);
      at.readings = (since_s, values, { tot }) =>
        void (since_s > from_s && (values[tot] = Math.max(-40, values[tot]! - 40 * (since_s - from_s))));
    },
  },
  {
    name: 'temperature jumps',
    right: DOUBT,
    arrange: (at, i) => {
      const from_s = spread(i, 6, 16);
      at.readings = (since_s, values, { tot }) => void (since_s > from_s && (values[tot] = 1200));
    },
  },
  {
    name: 'temperature frozen',
    right: [...DOUBT, 'no-light'],
    lies: true,
    arrange: (at, i) => freeze(at, spread(i, 16, 45), 0),
  },
  {
    name: 'temperature frozen, dither',
    right: [...DOUBT, 'no-light'],
    lies: true,
    arrange: (at, i) => freeze(at, spread(i, 16, 45), 0.1),
  },
  {
    name: 'temperature frozen, valve stuck',
    right: [...DOUBT, 'hot', 'going-to-be-hot', 'control-abort', 'no-light'],
    lies: true,
    arrange: (at, i) => {
      stuck(at, i, 20);
      freeze(at, 20, i % 2 === 0 ? 0 : 0.1);
    },
  },
  {
    name: 'speed zero',
    right: ['sensor-lost', 'reading-implausible'],
    lies: true,
    arrange: (at, i) => {
      const from_s = spread(i, 7, 16);
      at.readings = (since_s, values, { ng }) => void (since_s > from_s && (values[ng] = 0));
    },
  },
  {
    name: 'speed x 0.8',
    right: [...DOUBT, 'slow', 'hung', 'sluggish'],
    lies: true,
    arrange: (at) => {
      at.readings = (_, values, { ng }) => void (values[ng]! *= 0.8);
    },
  },
  {
    name: 'speed frozen',
    right: [...DOUBT, 'hung'],
    lies: true,
    arrange: (at, i) => {
      const from_pct = spread(i, 18, 45);
      let held = NaN;
      at.readings = (_, values, { ng }) => {
        if (values[ng]! > from_pct && Number.isNaN(held)) held = values[ng]!;
        if (!Number.isNaN(held)) values[ng] = held;
      };
    },
  },
  {
    name: 'tailwind 20 to 35 kt',
    right: ['hotter-than-usual', ...HEAT, 'none'],
    arrange: (at, i) => {
      at.circumstances.conditions.env = { ...at.circumstances.conditions.env, headwind_kt: -spread(i, 20, 35) };
    },
  },
];

/** drag that makes a start plainly sluggish, W */
function dragOf({ type }: Arranged): number {
  return { S7: 3000, C5: 2200, H9: 3500, X14: 9000 }[type.id] ?? 3000;
}

function freeze(at: Arranged, from_pct: number, dither_K: number): void {
  let held = NaN;
  let k = 0;
  const starts_pct = mainStart(at.type).crankTo_pct;
  at.readings = (_, values, { ng, tot }) => {
    if (values[ng]! > Math.max(from_pct, starts_pct) && Number.isNaN(held)) held = values[tot]!;
    if (!Number.isNaN(held)) values[tot] = held + (dither_K * (((k++ * 7919) % 21) - 10)) / 10;
  };
}
