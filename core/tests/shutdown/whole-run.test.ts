import { describe, expect, test } from 'vitest';
import {
  isPiston,
  needWatched,
  type SimulatorParameters,
  type StandInPreset,
  typeFileSchema,
} from '@rouse/core/aircraft';
import { briefOf, NO_WIND } from '@rouse/core/brief';
import { flyPractice, type PracticeRun } from '@rouse/core/drill';
import { type Entry, type MeasuredEntry, procedureOf, reduceRun } from '@rouse/core/procedure';
import { RatingBooks } from '@rouse/core/ratings';
import { bookingOf, forecastResidual } from '@rouse/core/shutdown';
import { coldControls, conditionsOf, Simulator } from '@rouse/core/simulator';
import { contextOf, inputOf } from '../desk.ts';
import { fleet, typeOf } from '../fleet.ts';

const MILD_C = 12;

/** A calm day, with the type's usual load. */
const recordOf = (id: string, oat_C: number): ReturnType<typeof briefOf>['record'] =>
  briefOf(inputOf(id, { wind: { ...NO_WIND, speed_kt: 0 }, oat_C, dew_C: 6, qnh_hPa: 1015 }), contextOf(id)).record;

interface Day {
  faults?: StandInPreset['faults'];
  /** than was briefed */
  heavier_kg?: number;
  oat_C?: number;
  skips?: string[];
}

interface Flown {
  run: PracticeRun;
  entries: readonly Entry[];
  found: Record<string, MeasuredEntry>;
}

/** From cold over the hover to a quiet aircraft. */
function flyThrough(id: string, { faults = [], heavier_kg = 0, oat_C = MILD_C, skips }: Day = {}): Flown {
  const type = needWatched(typeOf(id));
  const brief = recordOf(id, oat_C);
  const mild = conditionsOf(
    type,
    type.standIn.find((p) => p.id === 'mild')!,
  );
  const conditions = isPiston(type.simulator)
    ? mild
    : { ...mild, env: { ...mild.env, oat_c: oat_C }, mass_kg: brief.expected.mass! + heavier_kg };
  const run = flyPractice({
    type,
    conditions,
    faults,
    corridors: {},
    seed: 7,
    brief,
    skips,
    through: 'shut-down',
    limit_s: 2500,
  });
  const entries = run.entries;
  const found: Flown['found'] = {};
  for (const e of entries) if (e.kind === 'measured') found[e.item] = e;
  return { run, entries, found };
}
const figure = (entry: MeasuredEntry | undefined, id: string): number =>
  entry!.figures.find((f) => f.id === id)!.value!;

describe.each(fleet.map((t) => [t.id] as const))('%s from cold to quiet', (id) => {
  const type = typeOf(id);
  const { run, entries, found } = flyThrough(id);
  const state = reduceRun(entries);

  test('it lifts, comes back, and is closed as shut down with nothing wrong', () => {
    expect(run.outcome).toBe('shut-down');
    expect(
      Object.values(found)
        .filter((f) => f.verdict !== 'good')
        .map((f) => `${f.item}: ${f.words}`),
    ).toEqual([]);
    expect(Object.keys(state.begun)).toEqual(['hover', 'shut-down']);
  });

  test('the last moves are in order: cool-down, cut, blades still, battery with the beacon still on, beacon', () => {
    const at = (item: string): number => state.items[item]!.seq;
    const order = ['cool-down', 'cut', 'brake-after', 'battery-off', 'beacon-off'].map(at);
    expect(order).toEqual(order.toSorted((a, b) => a - b));
    expect(at('battery-off')).toBeGreaterThan(at('blades-stopped'));
    const beacon = type.channels.findIndex((c) => c.id === 'switch.anticollision');
    const row = run.trace.t_s.findIndex((t) => t >= state.items['battery-off']!.t_s);
    expect(run.trace.columns[beacon]![row - 5]).toBe(1);
  });

  test('the books have one start and one cycle an engine, its hours, and the flight', () => {
    const booking = bookingOf(type, entries, []);
    expect(booking.engines.map((e) => e.starts)).toEqual(type.engines.map(() => 1));
    for (const e of booking.engines) {
      expect(e.running_s).toBeGreaterThan(100);
      expect(e.running_s).toBeLessThan(entries.at(-1)!.t);
    }
    expect(booking.flight_s).toBeCloseTo(state.begun['shut-down']! - state.begun['hover']!, 3);
    expect(booking.rotorCycles).toBe(1);
  });

  test.runIf(!isPiston(type.simulator!))(
    'the hover is what was predicted within 2 % of torque, and the engines pass their assurance',
    () => {
      expect(Math.abs(figure(found['hover-check'], 'difference'))).toBeLessThan(2);
      for (const f of found['power-assurance']!.figures) expect(f.value!, f.label).toBeGreaterThan(0);
    },
  );
});

describe('what is wrong has its name', () => {
  test('an aircraft heavier than briefed takes more torque, by about what that weight is worth', () => {
    const { found } = flyThrough('S7', { heavier_kg: 260 });
    expect(found['hover-check']).toMatchObject({ verdict: 'fault', cause: 'more-power' });
    expect(figure(found['hover-check'], 'heavier')).toBeGreaterThan(200);
    expect(figure(found['hover-check'], 'heavier')).toBeLessThan(330);
  });

  test('a bearing that drags makes the run-down short', () => {
    const { found } = flyThrough('S7', { faults: [{ set: { 'fault.e1.gg_drag_w': 1100 } }] });
    expect(found['cut']).toMatchObject({ verdict: 'fault', cause: 'short-run-down' });
  });

  test('of two engines the one that drags is named', () => {
    const { found } = flyThrough('H9', { faults: [{ set: { 'fault.e1.gg_drag_w': 1100 } }] });
    expect(found['cut']!.words).toMatch(/^Engine 1 ran down/);
  });

  test('a worn turbine shows in the temperature margin of its engine', () => {
    const { found } = flyThrough('H9', { faults: [{ set: { 'fault.e1.turb_eff': 0.955 } }] });
    expect(found['power-assurance']).toMatchObject({ verdict: 'fault', cause: 'assurance-hot' });
    expect(figure(found['power-assurance'], 'temperature-1')).toBeLessThan(0);
    expect(figure(found['power-assurance'], 'temperature-2')).toBeGreaterThan(0);
  });
});

describe('hot from a hover and cut without its cool-down', () => {
  test.each(['C5', 'S7', 'H9', 'X14'])('%s is motored until it is cold, and looked at again', (id) => {
    const type = typeOf(id);
    const waits = ['cool-down', 'loads-off', 'avionics-off-after', 'generators-off-after'];
    const { run, entries } = flyThrough(id, { oat_C: 38, skips: waits });
    expect(run.outcome).toBe('shut-down');
    const state = reduceRun(entries);
    const engine = type.engines.length > 1 ? '-1' : '';
    const looks = entries.filter((e) => e.kind === 'measured' && e.item === `residual-after${engine}`);
    expect(looks.map((e) => (e as MeasuredEntry).cause)).toEqual(['hangs', null]);
    const [hot, cold] = looks.map((e) => figure(e as MeasuredEntry, 'residual'));
    expect(cold!).toBeLessThan(hot! - 80);
    const moves = ['motor-after', 'cool-after', 'motor-after-off', 'residual-after', 'battery-off'];
    const when = moves.map((m) => state.items[m === 'battery-off' ? m : m + engine]!);
    expect(when.map((i) => i.status)).toEqual(moves.map(() => 'done'));
    expect(when.map((i) => i.seq)).toEqual(when.map((i) => i.seq).toSorted((a, b) => a - b));
    expect(bookingOf(type, entries, []).engines.map((e) => e.starts)).toEqual(type.engines.map(() => 1));
  });

  test('cooled down it is never on the list, and the type file cannot name a finding that no check has', () => {
    const { entries } = flyThrough('S7', { oat_C: 38 });
    expect(procedureOf(typeOf('S7'), reduceRun(entries)).map((i) => i.id)).not.toContain('motor-after');
    const file = structuredClone(typeOf('S7'));
    file.items.find((i) => i.id === 'motor-after')!.when = [{ check: 'residual-after', found: ['smokes'] }];
    expect(typeFileSchema.safeParse(file).error!.issues.map((i) => i.message)).toEqual([
      'smokes is nothing that a check named residual-after finds; name one of its causes',
    ]);
  });
});

describe('the residual temperature', () => {
  test.each(['C5', 'S7', 'H9', 'X14'])('of %s is foretold within 10 K a quarter of an hour ahead', (id) => {
    const type = typeOf(id);
    const simulator = new Simulator(type.simulator as SimulatorParameters, { running: { coll: 0 } }, 1);
    const controls = coldControls(simulator.parameters);
    Object.assign(controls, { battery: 1, boost: 1 });
    const live = (seconds: number): void => {
      for (let i = 0; i < seconds * 50; i++) simulator.tick(controls);
    };
    for (const lever of controls.engines) Object.assign(lever, { mode: 'IDLE', grip: 0.4 });
    live(90);
    for (const lever of controls.engines) Object.assign(lever, { mode: 'OFF', grip: 0 });
    live(100);
    const tot_C = simulator.sensors[0]!.tot_C;
    const oil_C = simulator.engines[0]!.Toil - 273.15;
    const { curve, startIn_min } = forecastResidual(type, 175, { tot_C, oat_C: 15, oil_C })!;
    expect(startIn_min).toBeGreaterThan(0);
    live(startIn_min! * 60);
    expect(simulator.sensors[0]!.tot_C).toBeLessThan(175 + 5);
    live((15 - startIn_min!) * 60);
    expect(Math.abs(simulator.sensors[0]!.tot_C - curve.find((p) => p.min === 15)!.tot_C)).toBeLessThan(10);
  });

  test('a trainer has none, and a lost reading gives none', () => {
    expect(forecastResidual(typeOf('T2'), 175, { tot_C: 200, oat_C: 12, oil_C: 60 })).toBeNull();
    expect(forecastResidual(typeOf('S7'), 175, { tot_C: NaN, oat_C: 12, oil_C: 60 })).toBeNull();
  });
});

describe('ratings of a flight', () => {
  test('a hover below continuous power uses none; the ledger of a piston takes its edges from the chart of the day', () => {
    const { run } = flyThrough('S7');
    const books = new RatingBooks(typeOf('S7'), null);
    const frame = new Float64Array(run.trace.columns.length);
    for (let i = 0; i < run.trace.t_s.length; i++) {
      for (let k = 0; k < frame.length; k++) frame[k] = run.trace.columns[k]![i]!;
      books.step(run.trace.t_s[i]!, frame);
    }
    expect(books.now().map((r) => [r.rating, r.uses])).toEqual([['take-off', 0]]);

    const trainer = typeOf('T2');
    const map = trainer.channels.findIndex((c) => c.id === 'manifold.pressure');
    const ledger = new RatingBooks(trainer, [24, 26]);
    const rpm = trainer.channels.findIndex((c) => c.id === 'engine.rpm');
    const values = new Float64Array(trainer.channels.length);
    // an engine at rest shows the pressure of the air: that is no use of power
    values[map] = 29;
    ledger.step(-1, values);
    expect(ledger.now()[0]).toMatchObject({ inUse: false, uses: 0 });
    values[rpm] = 100;
    for (let t = 0; t <= 310; t++) {
      values[map] = t < 5 ? 20 : 25;
      ledger.step(t, values);
    }
    expect(ledger.now()[0]).toMatchObject({ rating: 'take-off', inUse: true, uses: 2, remaining_s: 0 });
    expect(new RatingBooks(trainer, null).now()).toEqual([]);
  });

  test('power of one engine is booked to that engine, and a hole in use is booked as used', () => {
    const type = typeOf('H9');
    const tq = [1, 2].map((e) => type.channels.findIndex((c) => c.id === `tq.${e}`));
    const seen: string[] = [];
    const books = new RatingBooks(type, null, (e) => seen.push(`${e.event} ${e.engine} ${e.rating}`));
    const values = new Float64Array(type.channels.length).fill(NaN);
    const fly = (from: number, to: number, one: number, two: number): void => {
      for (let t = from; t <= to; t += 0.5) {
        [values[tq[0]!], values[tq[1]!]] = [one, two];
        books.step(t, values);
      }
    };
    fly(0, 20, 60, 60);
    fly(20.5, 40, 0, 135);
    // the program was not there for twelve seconds
    fly(52, 60, 0, 135);
    fly(60.5, 90, 0, 100);
    const thirty = books.now().find((r) => r.engine === 2 && r.rating === '30s')!;
    expect(thirty.booked_s).toBeGreaterThan(38);
    expect(thirty).toMatchObject({ uses: 2, periods_remaining: 1, maintenance: true });
    expect(seen).toContain('GAP_ESTIMATED 2 null');
    expect(seen.some((s) => s.includes(' 1 30s') || s.includes(' 1 2min'))).toBe(false);
    const takeOff = books.now().filter((r) => r.ledger === 'take-off');
    expect(takeOff.every((r) => r.booked_s < 1)).toBe(true);
  });
});
