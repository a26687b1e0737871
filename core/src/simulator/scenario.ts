import { z } from 'zod';
import type { SimulatorParameters } from '../aircraft/index.ts';
import { coldControls, type Controls } from './inputs.ts';
import { setInput, signalReader, type SignalValue } from './signals.ts';
import { type Conditions, Simulator, TICK_S } from './simulator.ts';

const scalar = z.union([z.number(), z.string()]);
const pilotSchema = z.strictObject({
  fuel_ng: z.number(),
  grip0: z.number(),
  delay_s: z.number().min(0).max(5),
  fixed: z.number().optional(),
  sched_ng: z.array(z.number()).min(2).optional(),
  sched_grip: z.array(z.number()).min(2).optional(),
  target_c: z.number().optional(),
  gain: z.number().optional(),
  lead_s: z.number().optional(),
  open_rate: z.number().optional(),
  close_rate: z.number().optional(),
});
const testSchema = z.strictObject({ sig: z.string(), op: z.enum(['>=', '<=', '>', '<', '==', '!=']), val: scalar });
const eventSchema = z.strictObject({
  id: z.string().optional(),
  t: z.number().optional(),
  when: z.union([testSchema, z.array(testSchema)]).optional(),
  after: z.string().optional(),
  delay_s: z.number().optional(),
  set: z.record(z.string(), z.union([scalar, pilotSchema, z.null()])),
});
const outcomeSchema = z.looseObject({
  fn: z.enum(['max', 'min', 'end', 'at', 'first', 't_max', 'dur_above', 'final']),
  sig: z.string(),
  op: z.enum(['>=', '<=', '>', '<', '==', '!=']).optional(),
  val: scalar.optional(),
  t: z.number().optional(),
  t0: z.number().optional(),
  t1: z.number().optional(),
  value: z.union([z.number(), z.string(), z.null()]).optional(),
  tol: z.union([z.number(), z.literal(['exact', 'must stay null']), z.null()]).optional(),
});

/** One scenario of a scenario file (docs/formats.md): a type, the air, events by time or condition, figures to measure. */
export const scenarioSchema = z.looseObject({
  id: z.string(),
  type: z.string(),
  env: z.looseObject({}).optional(),
  init: z.looseObject({}).optional(),
  running: z.strictObject({ coll: z.number() }).optional(),
  noise: z.boolean().optional(),
  seed: z.int().optional(),
  events: z.array(eventSchema),
  duration_s: z.number().positive().max(36_000),
  outcomes: z.array(outcomeSchema),
});
export type Scenario = z.infer<typeof scenarioSchema>;
type ScenarioOutcome = z.infer<typeof outcomeSchema>;
export type CheckedOutcome = ScenarioOutcome & { measured: SignalValue | null; ok: boolean | null };

interface Log {
  t: number[];
  columns: Map<string, SignalValue[]>;
}

/** Runs one scenario from start to end. @returns its outcomes, each with what was measured, and the 50 Hz log of the signals asked for */
export function runScenario(
  parameters: SimulatorParameters,
  scenario: Scenario,
  extraSignals: readonly string[] = [],
): { checks: CheckedOutcome[]; log: Log } {
  const { env, init, running } = scenario;
  const conditions: Conditions = {
    ...(init as Conditions),
    env: env as NonNullable<Conditions['env']>,
    noise: scenario.noise ?? false,
  };
  if (running) conditions.running = running;
  const simulator = new Simulator(parameters, conditions, scenario.seed ?? 1);
  const controls = coldControls(parameters);
  if (running) setFlying(controls, running.coll);
  controls.h_ref = simulator.rotor.h_m;
  const signals = [...new Set([...scenario.outcomes.map((o) => o.sig), ...extraSignals])];
  const log: Log = { t: [], columns: new Map(signals.map((s) => [s, []])) };
  const logged = signals.map((s) => {
    const read = signalReader(simulator, logName(s));
    if (!read) throw new RangeError(`there is no signal named ${s}`);
    return { read, column: log.columns.get(s)! };
  });

  const fired = new Map<string, number>();
  const waiting = scenario.events.map((event, i) => ({ event, id: event.id ?? `#${i}`, done: false }));
  const ticks = Math.round(scenario.duration_s / TICK_S);
  for (let k = 0; k < ticks; k++) {
    const now = k * TICK_S;
    for (const w of waiting) {
      if (w.done || !due(w.event, now, simulator, fired)) continue;
      w.done = true;
      fired.set(w.id, now);
      for (const [key, value] of Object.entries(w.event.set)) setInput(simulator, controls, key, value);
    }
    simulator.tick(controls);
    log.t.push((k + 1) / 50);
    for (const { read, column } of logged) column.push(read());
  }
  return { checks: scenario.outcomes.map((outcome) => check(outcome, log)), log };
}

/** The log calls true speed `ng` and the indicated one `ng_ind`; the condition language calls them `ng_true` and `ng`. */
function logName(signal: string): string {
  if (signal.endsWith('.ng')) return `${signal}_true`;
  if (signal.endsWith('.ng_ind')) return signal.slice(0, -4);
  return signal;
}

function setFlying(controls: Controls, coll: number): void {
  controls.battery = 1;
  controls.boost = 1;
  controls.coll = coll;
  for (const lever of controls.engines) {
    lever.mode = 'FLY';
    lever.gen = 1;
    lever.grip = 1;
  }
}

function due(
  event: z.infer<typeof eventSchema>,
  now: number,
  simulator: Simulator,
  fired: Map<string, number>,
): boolean {
  if (event.after !== undefined) {
    const at = fired.get(event.after);
    if (at === undefined || now < at + (event.delay_s ?? 0) - 1e-9) return false;
  } else if (event.t !== undefined && now < event.t - 1e-9) return false;
  if (event.when === undefined) return event.after !== undefined || event.t !== undefined;
  const tests = Array.isArray(event.when) ? event.when : [event.when];
  return tests.every((test) => compare(signalReader(simulator, test.sig)?.(), test.op, test.val));
}

function compare(a: SignalValue | undefined, op: string, b: SignalValue): boolean {
  if (a === undefined) return false;
  switch (op) {
    case '>=':
      return a >= b;
    case '<=':
      return a <= b;
    case '>':
      return a > b;
    case '<':
      return a < b;
    case '==':
      return a === b;
    default:
      return a !== b;
  }
}

function check(outcome: ScenarioOutcome, log: Log): CheckedOutcome {
  const measured = measure(outcome, log);
  let ok: boolean | null = null;
  if (outcome.value !== undefined) {
    if (typeof outcome.value === 'number' && typeof measured === 'number') {
      ok = Math.abs(measured - outcome.value) <= (typeof outcome.tol === 'number' ? outcome.tol : 0) + 1e-9;
    } else ok = measured === outcome.value;
  }
  return { ...outcome, measured, ok };
}

function measure(outcome: ScenarioOutcome, log: Log): SignalValue | null {
  const column = log.columns.get(outcome.sig)!;
  const t = log.t;
  if (outcome.fn === 'final' || outcome.fn === 'end') return column[column.length - 1] ?? null;
  if (outcome.fn === 'at') {
    const i = Math.min(column.length - 1, Math.max(0, Math.round((outcome.t ?? 0) * 50) - 1));
    return column[i] ?? null;
  }
  const rows = [...column.keys()].filter(
    (i) => t[i]! >= (outcome.t0 ?? 0) - 1e-9 && t[i]! <= (outcome.t1 ?? Infinity) + 1e-9,
  );
  if (outcome.fn === 'first') {
    const first = rows.find((i) => compare(column[i]!, outcome.op ?? '>=', outcome.val ?? 0));
    return first === undefined ? null : t[first]!;
  }
  if (outcome.fn === 'dur_above') return rows.filter((i) => Number(column[i]) > Number(outcome.val)).length / 50;
  let best: number | null = null;
  for (const i of rows) {
    const [x, b] = [Number(column[i]), best === null ? NaN : Number(column[best])];
    if (best === null || (outcome.fn === 'min' ? x < b : x > b)) best = i;
  }
  if (best === null) return null;
  return outcome.fn === 't_max' ? t[best]! : Number(column[best]);
}
