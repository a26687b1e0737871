import { describe, expect, test } from 'vitest';
import { runScenario, scenarioSchema } from '@rouse/core/simulator';
import { skerryPlant } from './plant.ts';

/** The behaviours that must emerge from the equations, with the ranges of docs/physics.md. Nothing here is told to the simulator. */

interface Start {
  env?: Record<string, number>;
  init?: Record<string, number>;
  events?: unknown[];
  duration_s?: number;
}
type Figures = {
  light_s: number | null;
  peak_C: number;
  peakAt_s: number;
  idle_s: number | null;
  volts_V: number;
  amps_A: number;
  oilMax_bar: number;
  nrMax_pct: number;
  mode: string;
  causes: string;
};

const ON = { battery: 1, 'load.base_bus': 1, 'load.anticollision': 1, boost: 1 };
const PRESS = [
  { t: 0, set: ON },
  { t: 1, set: { 'e1.mode': 'IDLE', 'e1.start': 1 } },
  { t: 3, set: { 'e1.start': 0 } },
];

function measure(outcomes: unknown[], start: Start): (number | string | null)[] {
  const scenario = scenarioSchema.parse({
    id: 'behaviour',
    type: 'S7',
    env: start.env ?? {},
    init: { soc: 0.9, ...start.init },
    events: [...PRESS, ...(start.events ?? [])],
    duration_s: start.duration_s ?? 50,
    outcomes,
  });
  return runScenario(skerryPlant, scenario).checks.map((c) => c.measured);
}

/** Times count from the press of the start button. */
function start(options: Start = {}): Figures {
  const [light, peak, peakAt, idle, volts, amps, oil, nr, mode, causes] = measure(
    [
      { fn: 'first', sig: 'e1.lit', op: '>=', val: 1 },
      { fn: 'max', sig: 'e1.tot' },
      { fn: 't_max', sig: 'e1.tot' },
      { fn: 'first', sig: 'e1.ng', op: '>=', val: 66 },
      { fn: 'min', sig: 'volts', t0: 1.1 },
      { fn: 'max', sig: 'e1.start_a' },
      { fn: 'max', sig: 'e1.oil_p' },
      { fn: 'max', sig: 'nr' },
      { fn: 'final', sig: 'e1.mode' },
      { fn: 'final', sig: 'e1.causes' },
    ],
    options,
  );
  const since = (t: unknown): number | null => (typeof t === 'number' ? t - 1 : null);
  return {
    light_s: since(light),
    peak_C: Number(peak),
    peakAt_s: Number(peakAt) - 1,
    idle_s: since(idle),
    volts_V: Number(volts),
    amps_A: Number(amps),
    oilMax_bar: Number(oil),
    nrMax_pct: Number(nr),
    mode: String(mode),
    causes: String(causes),
  };
}

const fault = (name: string, value: number, when?: object): object => ({
  ...(when ? { when } : { t: 0 }),
  set: { [`fault.e1.${name}`]: value },
});
const atNg = (val: number): object => ({ sig: 'e1.ng_true', op: '>=', val });

describe('weather', () => {
  test.each([
    [15, 630, 680, 4.2],
    [-20, 690, 725, 6.0],
    [40, 675, 710, 3.5],
  ])('at %i °C the peak lies between %i and %i °C', (oat_c, low, high, light_s) => {
    const f = start({ env: { oat_c } });
    expect(f.mode).toBe('RUN');
    expect(f.peak_C).toBeGreaterThan(low);
    expect(f.peak_C).toBeLessThan(high);
    expect(f.light_s).toBeCloseTo(light_s, 0);
    expect(f.idle_s).toBeGreaterThan(25);
    expect(f.idle_s).toBeLessThan(31);
  });

  test('a cold battery gives three volts less, and cold oil shows more pressure', () => {
    const mild = start({ env: { oat_c: 15 } });
    const cold = start({ env: { oat_c: -20 } });
    expect(mild.volts_V - cold.volts_V).toBeGreaterThan(2.5);
    expect(cold.oilMax_bar).toBeGreaterThan(mild.oilMax_bar + 1);
  });

  test('a tailwind heats the start, a headwind does nothing', () => {
    const [tail, none, head] = [-20, 0, 20].map((headwind_kt) => start({ env: { oat_c: 15, headwind_kt } }).peak_C);
    expect(tail! - none!).toBeGreaterThan(45);
    expect(tail! - none!).toBeLessThan(90);
    expect(Math.abs(head! - none!)).toBeLessThan(6);
  });

  test('higher up it lights later and burns hotter', () => {
    const figures = [0, 1500, 3000, 4500].map((pa_m) => start({ env: { oat_c: 15, pa_m } }));
    for (let i = 1; i < figures.length; i++) {
      expect(figures[i]!.light_s).toBeGreaterThan(figures[i - 1]!.light_s!);
      expect(figures[i]!.peak_C).toBeGreaterThan(figures[i - 1]!.peak_C);
    }
  });
});

describe('battery', () => {
  test('external power cranks faster and cooler than a tired battery', () => {
    const tired = start({ init: { soc: 0.45, batt_age: 1.8 } });
    const helped = start({ init: { soc: 0.45, batt_age: 1.8 }, events: [{ t: 0.5, set: { ext: 1 } }] });
    expect(helped.volts_V).toBeGreaterThan(tired.volts_V + 3);
    expect(helped.peak_C).toBeLessThan(tired.peak_C - 20);
    expect(helped.idle_s!).toBeLessThan(tired.idle_s!);
  });

  test('far enough gone, the control loses its power in the start', () => {
    const gone = start({ init: { soc: 0.18, batt_age: 3.4 }, duration_s: 60 });
    expect(gone.causes).toContain('CONTROL POWER LOST');
    expect(gone.mode).not.toBe('RUN');
  });

  test('every consumer left on costs volts and heat', () => {
    const loads = Object.fromEntries(Object.keys(skerryPlant.electrical.loads_a).map((name) => [`load.${name}`, 1]));
    const light = start();
    const heavy = start({ events: [{ t: 0, set: loads }] });
    expect(heavy.volts_V).toBeLessThan(light.volts_V - 0.1);
    expect(heavy.peak_C).toBeGreaterThan(light.peak_C);
  });

  test('a bad contact in the starter circuit lowers its current', () => {
    expect(start({ events: [fault('starter_r_mult', 1.5)] }).amps_A).toBeLessThan(start().amps_A - 100);
  });

  test('a generator that does not come on line leaves the battery discharging', () => {
    const on = { t: 40, set: { 'e1.gen': 1 } };
    const end = [
      { fn: 'end', sig: 'ibat' },
      { fn: 'end', sig: 'soc' },
      { fn: 'end', sig: 'volts' },
    ];
    const good = measure(end, { events: [on], duration_s: 300 });
    const failed = measure(end, { events: [on, fault('gen_fail', 1)], duration_s: 300 });
    expect(Number(good[0])).toBeLessThan(0);
    expect(Number(failed[0])).toBeGreaterThan(5);
    expect(Number(failed[1])).toBeLessThan(Number(good[1]) - 0.05);
    expect(Number(good[2])).toBeGreaterThan(26.4);
    expect(Number(failed[2])).toBeLessThan(25.5);
  });
});

describe('fuel, flame and control', () => {
  test('no ignition: two tries, fuel in the pool, then locked out', () => {
    const dead = start({ events: [fault('igniter_fail', 1)], duration_s: 90 });
    expect(dead).toMatchObject({ causes: 'NO LIGHT,NO LIGHT', mode: 'LOCKOUT', light_s: null });
    expect(dead.peak_C).toBeLessThan(40);
  });

  test('an igniter that comes back is used by the retry, over fuel that lies there', () => {
    const [mode, retries, pool] = measure(
      [
        { fn: 'final', sig: 'e1.mode' },
        { fn: 'final', sig: 'e1.retries' },
        { fn: 'max', sig: 'e1.pool' },
      ],
      { events: [fault('igniter_fail', 1), { t: 30, set: { 'fault.e1.igniter_fail': 0 } }], duration_s: 110 },
    );
    expect(mode).toBe('RUN');
    expect(retries).toBe(1);
    expect(Number(pool)).toBeGreaterThan(10);
  });

  test('the digital control hides a rich or lean error that a hand would feel', () => {
    const rich = start({ events: [fault('fuel_bias', 1.4)] });
    const lean = start({ events: [fault('fuel_bias', 0.6)], duration_s: 60 });
    expect(rich.mode).toBe('RUN');
    expect(rich.peak_C).toBeLessThan(700);
    expect(lean.mode).toBe('RUN');
    expect(lean.idle_s).toBeGreaterThan(31);
  });

  test('the starter that drops out early hangs the start; late, nobody notices', () => {
    const early = start({ events: [fault('starter_drop', 1, atNg(25))], duration_s: 60 });
    const late = start({ events: [fault('starter_drop', 1, atNg(44))] });
    expect(early.causes).toContain('HUNG');
    expect(late.mode).toBe('RUN');
    expect(late.idle_s).toBeLessThan(33);
  });

  test('eroded compressor and worn turbine make it hotter and slower', () => {
    const fresh = start();
    const worn = start({
      events: [fault('comp_eff', 0.93), fault('comp_flow', 0.96), fault('turb_eff', 0.95)],
      duration_s: 60,
    });
    expect(worn.peak_C).toBeGreaterThan(fresh.peak_C + 10);
    expect(worn.idle_s).toBeGreaterThan(fresh.idle_s!);
  });

  test('residual heat makes the control motor first, and the peak no higher than its limit allows', () => {
    const [purging, peak] = measure(
      [
        { fn: 'first', sig: 'e1.lit', op: '>=', val: 1 },
        { fn: 'max', sig: 'e1.tot' },
      ],
      { init: { residual_c: 300 }, duration_s: 70 },
    );
    expect(Number(purging)).toBeGreaterThan(9);
    expect(Number(peak)).toBeLessThan(855);
  });

  test('after shut-down heat soaks back into the indication, and motoring takes it away', () => {
    const off = { t: 60, set: { 'e1.mode': 'OFF' } };
    const motor = [
      { t: 75, set: { 'e1.starter_sw': 1 } },
      { t: 100, set: { 'e1.starter_sw': 0 } },
    ];
    const soaking = [
      { fn: 'max', sig: 'e1.tot', t0: 85, t1: 200 },
      { fn: 'at', sig: 'e1.tm', t: 101 },
    ];
    const left = measure(soaking, { events: [off], duration_s: 200 });
    const motored = measure(soaking, { events: [off, ...motor], duration_s: 200 });
    expect(Number(left[0])).toBeGreaterThan(100);
    expect(Number(motored[1])).toBeLessThan(Number(left[1]) - 60);
  });
});

describe('sensors', () => {
  test('a thermocouple that reads low hides the heat', () => {
    const [shown, real] = measure(
      [
        { fn: 'max', sig: 'e1.tot' },
        { fn: 'max', sig: 'e1.ttc' },
      ],
      { events: [fault('tc_gain', 0.8)] },
    );
    expect(Number(real) - Number(shown)).toBeGreaterThan(60);
  });

  test('an open thermocouple stops the start in the flame', () => {
    expect(start({ events: [fault('tc_open', 1, { sig: 'e1.lit', op: '>=', val: 1 })] }).causes).toContain(
      'SENSOR TOT',
    );
  });

  test('one control channel is enough, none is too few', () => {
    expect(start({ events: [fault('fadec_ch_a', 1)] }).mode).toBe('RUN');
    const none = start({ events: [fault('fadec_ch_a', 1, atNg(20)), fault('fadec_ch_b', 1, atNg(20))] });
    expect(none.mode).not.toBe('RUN');
    expect(none.causes).toContain('CONTROL POWER LOST');
  });
});

describe('rotor, oil and hydraulics', () => {
  test('a brake left on holds the rotor and shows torque', () => {
    const [nr, tq] = measure(
      [
        { fn: 'max', sig: 'nr' },
        { fn: 'max', sig: 'e1.tq' },
      ],
      { events: [{ t: 0, set: { rotor_brake: 1 } }] },
    );
    expect(nr).toBe(0);
    expect(Number(tq)).toBeGreaterThan(15);
  });

  test('a dead oil pump shows no pressure at all', () => {
    expect(start({ events: [fault('oil_pump_fail', 1)] }).oilMax_bar).toBe(0);
  });

  test('the freewheel lets a stopped engine go while the rotor runs on', () => {
    const [np, nr] = measure(
      [
        { fn: 'at', sig: 'e1.np', t: 68 },
        { fn: 'at', sig: 'nr', t: 68 },
      ],
      {
        events: [
          { t: 45, set: { 'e1.mode': 'FLY' } },
          { t: 60, set: { 'e1.mode': 'OFF' } },
        ],
        duration_s: 70,
      },
    );
    expect(Number(nr)).toBeGreaterThan(Number(np) + 5);
  });

  test('each test switch drops its own hydraulic system only', () => {
    const both = [
      { fn: 'end', sig: 'hyd1' },
      { fn: 'end', sig: 'hyd2' },
    ];
    const p = skerryPlant.rotor.hyd_p_bar;
    const at = (hyd_test: number): number[] => measure(both, { events: [{ t: 45, set: { hyd_test } }] }).map(Number);
    expect(at(1)[0]).toBeLessThan(1);
    expect(at(1)[1]).toBeCloseTo(p, 0);
    expect(at(2)[0]).toBeCloseTo(p, 0);
    expect(at(2)[1]).toBeLessThan(1);
  });

  test('a failed gearbox pump and a failed hydraulic system are each their own', () => {
    const [mgb, hyd1, hyd2] = measure(
      [
        { fn: 'end', sig: 'mgb_p' },
        { fn: 'end', sig: 'hyd1' },
        { fn: 'end', sig: 'hyd2' },
      ],
      { events: [{ t: 0, set: { 'fault.ac.mgb_pump_fail': 1, 'fault.ac.hyd1_fail': 1 } }] },
    );
    expect(mgb).toBe(0);
    expect(hyd1).toBe(0);
    expect(Number(hyd2)).toBeGreaterThan(85);
  });

  test('anti-ice takes air from the engine: hotter for the same idle', () => {
    const at = (anti_ice: number): number =>
      Number(measure([{ fn: 'end', sig: 'e1.tot' }], { events: [{ t: 40, set: { anti_ice } }], duration_s: 60 })[0]);
    expect(at(1)).toBeGreaterThan(at(0) + 5);
  });
});
