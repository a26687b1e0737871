import { type Item, needWatched, type StandInAction, type WatchedType } from '@rouse/core/aircraft';
import { type CheckHabit, CheckMachine, type CheckResult, NO_HABIT, type Situation } from '@rouse/core/checks';
import { type Conditions, type PistonConditions, SimulatedCockpit } from '@rouse/core/simulator';
import { typeOf } from '../fleet.ts';

/** A warm trainer with its rotor turning at `n`, as the scenario files write it. */
export const warm = (n: number, init: Record<string, number> = {}): Record<string, number> => ({
  Th: 150,
  To: 75,
  Tc: 67,
  Tb: 30,
  Tcb: 5,
  gal: 1,
  pm: 35_000,
  phi: 1.1,
  film: 2,
  SOC: 0.95,
  Tmuff: 60,
  we: n * 272.271,
  wr: (n * 272.271) / 5.25,
  x: 0.97,
  tensOK: 1,
  ...init,
});

export const RUNNING: StandInAction[] = [
  { control: 'master', to: 1 },
  { control: 'alt', to: 1 },
  { control: 'mags', to: 'BOTH' },
  { control: 'mix', to: 1 },
  { control: 'clutch', to: 1 },
  { control: 'grip', to: 0.3 },
  { control: 'hold', to: 1 },
];

export interface Flown {
  result: CheckResult | null;
  machine: CheckMachine;
  cockpit: SimulatedCockpit;
  /** true speed at every frame, for what the measurement is held against */
  truth: { t_s: number; n: number }[];
}

export interface FlyOptions {
  conditions: Conditions | PistonConditions;
  /** as the cockpit stands before the check */
  before?: readonly StandInAction[];
  faults?: Record<string, number | string>;
  /** lets the aircraft settle before the check, s */
  settle_s?: number;
  seed?: number;
  /** how many frames a second reach the check, 50 at most */
  hz?: number;
  limit_s?: number;
  /** no frame reaches the check in this time, s */
  hole?: readonly [number, number];
  /** changes what the check reads: a noisy or a lost sensor */
  spoil?: (values: Float64Array, t_s: number, type: WatchedType) => void;
  habit?: Partial<CheckHabit>;
  situation?: Situation;
}

/** How long a hand takes to do what the next stage says. */
const HAND_S = 1.2;

function checkOf(type: WatchedType, item: string): Extract<Item, { kind: 'measure' }> {
  const found = type.items.find((i) => i.id === item);
  if (found?.kind !== 'measure' || !found.trace) throw new RangeError(`${item} is not measured`);
  return found;
}

/** One check flown on the simulator by a hand that does what its stages say, measured frame by frame. */
// a whole flight in one loop is easier to follow than its parts
// oxlint-disable-next-line eslint/complexity
export function flyCheck(id: string, item: string, options: FlyOptions): Flown {
  const type = needWatched(typeOf(id));
  const found = checkOf(type, item);
  const cockpit = new SimulatedCockpit(type, options.conditions, [], options.seed ?? 7);
  for (const move of options.before ?? []) cockpit.move(move);
  for (const [control, to] of Object.entries(options.faults ?? {})) cockpit.move({ control: `fault.${control}`, to });
  const machine = new CheckMachine(
    type,
    item,
    found.trace!,
    { ...NO_HABIT, ...options.habit },
    false,
    options.situation,
  );
  const truth: Flown['truth'] = [];
  let stage = -1;
  let handAt_s = 0;
  const end_s = (options.settle_s ?? 0) + (options.limit_s ?? 150);
  const hz = options.hz ?? 50;
  while (cockpit.t_s < end_s && !machine.result) {
    const values = cockpit.tick();
    const t_s = Math.round(cockpit.t_s * 1000) / 1000;
    truth.push({ t_s, n: 100 * Number(cockpit.simulation.signal('n') ?? NaN) });
    const arrives = Math.floor(t_s * hz + 1e-6) > Math.floor((t_s - 0.02) * hz + 1e-6);
    const [from_s, to_s] = options.hole ?? [Infinity, Infinity];
    if (t_s < (options.settle_s ?? 0) || !arrives || (t_s >= from_s && t_s < to_s)) continue;
    if (machine.stage !== stage) {
      stage = machine.stage;
      handAt_s = t_s + HAND_S;
    }
    if (t_s >= handAt_s) {
      handAt_s = Infinity;
      for (const move of found.trace!.stages[stage]?.standIn ?? []) cockpit.move(move);
      if (!found.trace!.stages[stage]?.expect) machine.declare();
    }
    options.spoil?.(values, t_s, type);
    machine.step(t_s, values);
  }
  return { result: machine.result, machine, cockpit, truth };
}

/** A figure of a result, null where it was not read. */
export function figure(flown: Flown, id: string): number | null {
  return flown.result?.figures.find((f) => f.id === id)?.value ?? null;
}
