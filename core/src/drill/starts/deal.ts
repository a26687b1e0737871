import { isPiston, type StandInPreset, type WatchedType } from '../../aircraft/index.ts';
import { NormalSource } from '../../simulator/index.ts';

type Fault = StandInPreset['faults'][number];

/** One start to be judged: its day, its battery, its engine, and what is wrong with it. */
export interface Deal {
  type: string;
  seed: number;
  /** what is wrong, in words; null for a healthy one */
  wrong: string | null;
  init: Readonly<Record<string, number>>;
  env: Readonly<Record<string, number>>;
  faults: readonly Fault[];
  /** the same start without what is wrong: a watcher who knows the aircraft compares with it */
  healthy: { init: Readonly<Record<string, number>>; env: Readonly<Record<string, number>> };
}

/** Conditions of a type whose start does not come to idle, or not unharmed. */
export type BadDays = readonly StandInPreset[];

const HEALTHY_SHARE = 0.45;
/** air of a mixed year; a cold-soaked piston engine is heated before anybody tries, °C */
const AIR_C = { turbine: [-8, 32], piston: [4, 30] } as const;

/** What the conditions of a type call the outside air. */
export const airOf = (type: WatchedType): string => (isPiston(type.simulator) ? 'oat' : 'oat_c');

/**
 * Draws one start. Same type, seed and difficulty, same deal.
 * @param bad the conditions that spoil a start of this type
 * @param difficulty 0 to 1: how near to a healthy one the bad ones are
 */
export function dealStart(type: WatchedType, bad: BadDays, seed: number, difficulty: number): Deal {
  const chance = new NormalSource(seed);
  const between = (low: number, high: number): number => low + (high - low) * chance.uniform();
  const [mild] = type.standIn;
  const piston = isPiston(type.simulator);
  const [coldest, warmest] = AIR_C[piston ? 'piston' : 'turbine'];
  const env = {
    ...mild!.env,
    [airOf(type)]: Math.round(between(coldest, warmest)),
    ...(piston ? {} : { headwind_kt: between(-4, 12) }),
  };
  const init = 'soc' in mild!.init ? { ...mild!.init, soc: between(0.8, 0.95) } : mild!.init;
  const healthy = { init, env };
  const isHealthy = bad.length === 0 || chance.uniform() < HEALTHY_SHARE;
  const deal: Deal = { type: type.id, seed, wrong: null, init, env, faults: [], healthy };
  if (isHealthy) return deal;
  // beside what a type knows of, turbines lose their probe, light late, or have the wind in the pipe
  const kinds = bad.length + (piston ? 0 : 3);
  const kind = Math.min(kinds - 1, Math.floor(chance.uniform() * kinds));
  const harm = between(1 - 0.45 * difficulty, 1.25 - 0.2 * difficulty);
  const preset = bad[kind];
  if (preset) return { ...deal, ...spoiled(type, preset, healthy, harm, chance), wrong: preset.label };
  const engine = type.engines[0]!.id;
  if (kind === bad.length)
    return { ...deal, wrong: 'Temperature probe lost', faults: [at(engine, between(16, 40), { [`fault.e${engine}.tc_open`]: 1 })] }; // oxfmt-ignore
  if (kind === bad.length + 1)
    return { ...deal, wrong: 'Lights late', faults: [{ set: { [`fault.e${engine}.igniter_fail`]: 1 } }, at(engine, between(17, 22), { [`fault.e${engine}.igniter_fail`]: 0 })] }; // oxfmt-ignore
  return { ...deal, wrong: 'Tailwind', env: { ...env, headwind_kt: -20 - 15 * harm } };
}

const at = (engine: number, speed_pct: number, set: Fault['set']): Fault => ({ when: { sig: `e${engine}.ng_true`, op: '>=', val: speed_pct }, set }); // oxfmt-ignore

/** The faults of a condition, on the engine that is started first. */
export function onFirst({ engines }: WatchedType, { faults }: StandInPreset): Fault[] {
  const first = (name: string): string => name.replace(/\be\d+\./, `e${engines[0]!.id}.`);
  return faults.map(({ when, set }) => ({
    ...(when && { when: { ...when, sig: first(when.sig) } }),
    set: Object.fromEntries(Object.entries(set).map(([name, to]) => [first(name), to])),
  }));
}

/** A condition of the type, more or less of it, on the day that was drawn. */
function spoiled(
  type: WatchedType,
  preset: StandInPreset,
  { init, env }: Deal['healthy'],
  harm: number,
  chance: NormalSource,
): Pick<Deal, 'init' | 'env' | 'faults'> {
  const worse = Object.entries(preset.init).map(([name, to]) => {
    const from = init[name] ?? to;
    return [name, from + (to - from) * harm] as const;
  });
  return {
    init: { ...init, ...Object.fromEntries(worse) },
    env,
    faults: onFirst(type, preset).map(({ when, set }) => ({
      ...(when && { when: { ...when, val: typeof when.val === 'number' && when.val > 1 ? when.val * (0.8 + 0.6 * chance.uniform()) : when.val } }), // oxfmt-ignore
      set: Object.fromEntries(Object.entries(set).map(([name, to]) => [name, scaled(to, harm)])),
    })),
  };
}

/** What is either so or not stays so; an amount is more or less of it. */
const scaled = (to: number | string, harm: number): number | string =>
  typeof to !== 'number' || to === 0 || to === 1 ? to : to > 1 || to < 0.1 ? to * harm : 1 - (1 - to) * harm;
