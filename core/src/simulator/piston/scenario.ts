import { z } from 'zod';
import type { PistonParameters } from '../../aircraft/index.ts';
import { coldPistonControls, noPistonFaults, type PistonControls, type PistonFaults } from './controls.ts';
import { PistonPlant } from './plant.ts';

const wordSchema = z.union([
  z.number(),
  z.string(),
  z.null(),
  z.tuple([z.enum(['ramp', 'rampBy']), z.number(), z.number()]),
]);
const checkSchema = z.looseObject({
  kind: z.enum(['at', 'diff', 'max', 'min', 'firstAbove', 'firstBelow', 'join']),
  key: z.string().optional(),
  t: z.number().optional(),
  t0: z.number().optional(),
  t1: z.number().optional(),
  thr: z.number().optional(),
  after: z.number().optional(),
  tol: z.number().optional(),
  value: z.number().nullable().optional(),
});

/** One scenario of a piston trainer: air, state, faults, what the hands do when, and what is measured (docs/formats.md). */
export const pistonScenarioSchema = z.looseObject({
  id: z.string(),
  variant: z.string(),
  env: z.record(z.string(), z.number()).optional(),
  init: z.record(z.string(), z.number()).optional(),
  faults: z.record(z.string(), z.union([z.number(), z.string(), z.array(z.number())])).optional(),
  controls0: z.record(z.string(), wordSchema).optional(),
  timeline: z.array(z.tuple([z.number(), z.record(z.string(), wordSchema)])),
  t_end: z.number().positive().max(36_000),
  checks: z.array(checkSchema),
});
export type PistonScenario = z.infer<typeof pistonScenarioSchema>;
type Check = z.infer<typeof checkSchema>;
export type CheckedPiston = Check & { measured: number | null; ok: boolean | null };

const DT_s = 0.01;
const STEPS_PER_SAMPLE = 5;
/** Needles that stand this near are joined, once the rotor turns this fast. */
const JOINED = 0.01;
const TURNING = 0.15;

interface Ramp {
  key: string;
  from: number;
  to: number;
  t0: number;
  s: number;
}

/** Runs one scenario. @throws RangeError for a name that the plant does not have */
export function runPistonScenario(
  p: PistonParameters,
  scenario: PistonScenario,
): { checks: CheckedPiston[]; log: { t: number[]; columns: Map<string, number[]> } } {
  const plant = new PistonPlant(p, scenario.env);
  const controls = coldPistonControls();
  const faults = noPistonFaults();
  for (const [key, value] of Object.entries(scenario.faults ?? {})) setFault(plant, faults, key, value);
  for (const [key, value] of Object.entries(scenario.init ?? {})) setPistonState(plant, key, value);
  plant.sensors.settle(plant);
  const ramps: Ramp[] = [];
  for (const [key, value] of Object.entries(scenario.controls0 ?? {})) command(plant, controls, ramps, 0, key, value);
  const timeline = scenario.timeline.map((e, i) => ({ t: e[0], set: e[1], i })).sort((a, b) => a.t - b.t || a.i - b.i);
  const keys = [...new Set(['n', 'nr', ...scenario.checks.flatMap((c) => (c.key ? [c.key] : []))])];
  const log = { t: [] as number[], columns: new Map(keys.map((k) => [k, [] as number[]])) };
  const steps = Math.round(scenario.t_end / DT_s);
  let next = 0;
  for (let k = 0; k < steps; k++) {
    const t = k * DT_s;
    for (; next < timeline.length && timeline[next]!.t <= t + 1e-9; next++) {
      const { set } = timeline[next]!;
      for (const [key, value] of Object.entries(set)) command(plant, controls, ramps, t, key, value);
      if (timeline[next]!.t === 0 && (scenario.init?.['we'] ?? 0) > 0 && 'grip' in set) plant.grip = controls.grip;
    }
    for (const r of ramps)
      Object.assign(controls, { [r.key]: r.from + (r.to - r.from) * Math.min(1, (t - r.t0) / r.s) });
    plant.step(controls, faults, DT_s);
    if ((k + 1) % STEPS_PER_SAMPLE !== 0) continue;
    log.t.push((k + 1) * DT_s);
    for (const key of keys) log.columns.get(key)!.push(readPiston(plant, key));
  }
  return { checks: scenario.checks.map((c) => judge(c, log)), log };
}

function command(
  plant: PistonPlant,
  controls: PistonControls,
  ramps: Ramp[],
  t: number,
  key: string,
  value: z.infer<typeof wordSchema>,
): void {
  if (!(key in controls)) throw new RangeError(`there is no control named ${key}`);
  const at = ramps.findIndex((r) => r.key === key);
  if (at >= 0) ramps.splice(at, 1);
  const now = Number((controls as unknown as Record<string, unknown>)[key]);
  if (Array.isArray(value)) {
    const to = value[0] === 'rampBy' ? now + value[1] : value[1];
    ramps.push({ key, from: now, to, t0: t, s: value[2] });
  } else Object.assign(controls, { [key]: value === 'HOLD' ? plant.grip : value });
}

function setFault(plant: PistonPlant, faults: PistonFaults, key: string, value: number | string | number[]): void {
  if (key === 'plugs' && Array.isArray(value)) plant.plugs.set(value);
  else if (key in faults) Object.assign(faults, { [key]: value });
  else throw new RangeError(`there is no fault named ${key}`);
}

const STATES = ['we','wr','Th','To','Tc','Tb','Tcb','Tfl','Tmuff','pm','gal','film','phi','x','SOC','wet','ice','poil','Tblt','Tbat','grip'] as const; // oxfmt-ignore

/** Puts one state of the plant where a scenario or a condition wants it. @throws RangeError for an unknown name */
export function setPistonState(plant: PistonPlant, key: string, value: number): void {
  if (key === 'tensOK') plant.tensOK = value > 0;
  else if ((STATES as readonly string[]).includes(key)) Object.assign(plant, { [key]: value });
  else throw new RangeError(`there is no state named ${key}`);
}

/** One figure of the plant by its name in the scenario language. @throws RangeError for an unknown name */
export function readPiston(x: PistonPlant, key: string): number {
  const n = x.we / x.p.w_e100_rad_s;
  const nr = (x.wr * x.p.g) / x.p.w_e100_rad_s;
  switch (key) {
    case 'n':
      return n;
    case 'nr':
      return nr;
    case 'split':
      return n - nr;
    case 'map':
      return x.pm;
    case 'oilP':
      return x.poil;
    case 'cht':
      return x.Th;
    case 'oilT':
      return x.To;
    case 'carbT':
      return x.sensors.carb_C;
    case 'V':
      return x.V;
    case 'amps':
      return -x.Ib;
    case 'ist':
      return x.Ist;
    case 'lam':
      return x.lam;
    case 'Tblt':
      return x.Tblt;
    case 'Tbrk':
      return x.Tbrk;
    case 'ebelt':
      return x.ebelt;
    case 'light':
      return x.light ? 1 : 0;
    case 'gov':
      return x.govAct ? 1 : 0;
    case 'horn':
      return x.sensors.horn ? 1 : 0;
    case 'rough':
      return x.rough;
    case 'ice':
      return x.ice;
    case 'wet':
      return x.wet;
    case 'film':
      return x.film;
    case 'phi':
      return x.phi;
    case 'grip':
      return x.grip;
    case 'vlock':
      return x.vlock;
    case 'chatter':
      return x.chatter;
    case 'thrust':
      return x.thrust;
    case 'starterLight':
      return x.relay ? 1 : 0;
    default:
      throw new RangeError(`there is no signal named ${key}`);
  }
}

function judge(check: Check, log: { t: number[]; columns: Map<string, number[]> }): CheckedPiston {
  const measured = measure(check, log);
  let ok: boolean | null = null;
  if (check.value !== undefined)
    ok =
      check.value === null || measured === null
        ? measured === check.value
        : Math.abs(measured - check.value) <= (check.tol ?? 0) + 1e-9;
  return { ...check, measured, ok };
}

function measure(check: Check, log: { t: number[]; columns: Map<string, number[]> }): number | null {
  const { t } = log;
  const column = log.columns.get(check.key ?? 'n')!;
  const nearest = (at: number): number => {
    let best = 0;
    for (let i = 1; i < t.length; i++) if (Math.abs(t[i]! - at) < Math.abs(t[best]! - at)) best = i;
    return column[best]!;
  };
  switch (check.kind) {
    case 'at':
      return nearest(check.t!);
    case 'diff':
      return nearest(check.t0!) - nearest(check.t1!);
    case 'max':
    case 'min': {
      const inside = column.filter((_, i) => t[i]! > check.t0! + 1e-9 && t[i]! <= check.t1! + 1e-9);
      return check.kind === 'max' ? Math.max(...inside) : Math.min(...inside);
    }
    default: {
      const nr = log.columns.get('nr')!;
      const after = check.after ?? 0;
      const i = t.findIndex((at, k) => {
        if (at < after) return false;
        if (check.kind === 'join') return nr[k]! > TURNING && Math.abs(column[k]! - nr[k]!) < JOINED;
        return check.kind === 'firstAbove' ? column[k]! > check.thr! : column[k]! < check.thr!;
      });
      return i < 0 ? null : t[i]! - after;
    }
  }
}
