import { describe, expect, test } from 'vitest';
import { coldControls, setInput, Simulator } from '@rouse/core/simulator';
import { measureTurbine, turbineOf } from './plant.ts';

const ON = { battery: 1, 'load.base_bus': 1, 'load.anticollision': 1, boost: 1 };
const RECIPE = { sched_ng: [14, 22, 26, 33, 39, 45], sched_grip: [0.2, 0.2, 0.2, 0.27, 0.34, 0.4] };
const MODULATING = { grip0: 0.22, target_c: 700, gain: 0.0006, lead_s: 1.5, open_rate: 0.03, close_rate: 0.06 };

/** A manual start of the C5 by a pilot who opens fuel at 14.5 % and lets the starter go at 53 %. */
function manual(
  pilot: object,
  rest: { set?: object; env?: object; init?: object; release?: number; duration_s?: number } = {},
  outcomes: object[] = [
    { fn: 'max', sig: 'e1.tot' },
    { fn: 'first', sig: 'e1.ng', op: '>=', val: 58 },
    { fn: 'min', sig: 'volts', t0: 1.1, t1: 8 },
  ],
): [number, number | null, number] {
  return measureTurbine('C5', {
    ...(rest.env ? { env: rest.env } : {}),
    init: { soc: 0.9, ...rest.init },
    duration_s: rest.duration_s ?? 60,
    events: [
      { t: 0, set: { ...ON, ...rest.set } },
      { t: 1, id: 'st', set: { 'e1.starter_sw': 1, 'e1.pilot': { fuel_ng: 14.5, delay_s: 0.4, ...pilot } } },
      {
        after: 'st',
        when: { sig: 'e1.ng', op: '>=', val: rest.release ?? 53 },
        set: { 'e1.starter_sw': 0, ...(rest.release ? { 'e1.pilot': null } : {}) },
      },
    ],
    outcomes,
  }) as [number, number | null, number];
}
const openLoop = (rest: Parameters<typeof manual>[1] = {}): number => manual({ grip0: 0.2, ...RECIPE }, rest)[0];

describe('a manual start of the C5', () => {
  test('a modulating hand keeps it cool and is at idle in twenty seconds', () => {
    const [peak, idle, volts] = manual(MODULATING);
    expect(peak).toBeGreaterThan(650);
    expect(peak).toBeLessThan(710);
    expect(idle! - 1).toBeGreaterThan(17);
    expect(idle! - 1).toBeLessThan(26);
    expect(volts).toBeGreaterThan(18.5);
    expect(volts).toBeLessThan(20);
  });

  test('the cold is slower and takes more from the battery', () => {
    const [, warm, warmV] = manual(MODULATING);
    const [, cold, coldV] = manual(MODULATING, { env: { oat_c: -20 } });
    expect(cold! - warm!).toBeGreaterThan(6);
    expect(cold! - warm!).toBeLessThan(12);
    expect(warmV - coldV).toBeGreaterThan(3);
    expect(warmV - coldV).toBeLessThan(4);
  });

  test('fuel that is opened further, or earlier, is hotter', () => {
    const left = (grip0: number, fuel_ng = 14.5): number => manual({ grip0, fixed: 1, fuel_ng }, { duration_s: 30 })[0];
    const peaks = [0.26, 0.3, 0.33, 0.36, 0.4].map((g) => left(g));
    expect(peaks).toEqual(peaks.toSorted((a, b) => a - b));
    expect(peaks[2]!).toBeGreaterThan(880);
    for (const grip of [0.26, 0.3, 0.33]) {
      const early = left(grip, 8) - left(grip);
      expect(early).toBeGreaterThan(55);
      expect(early).toBeLessThan(85);
    }
  });

  test('residual heat, a tailwind, height and wear each make it hotter by what is known', () => {
    const standard = openLoop();
    expect(standard).toBeGreaterThan(670);
    expect(standard).toBeLessThan(700);
    const more = (rest: Parameters<typeof manual>[1]): number => openLoop(rest) - standard;
    for (const [rest, low, high] of [
      [{ env: { oat_c: 40 } }, 40, 75],
      [{ init: { residual_c: 320 } }, 45, 75],
      [{ env: { headwind_kt: -20 } }, 50, 85],
      [{ env: { headwind_kt: 20 } }, -8, 8],
      [{ env: { pa_m: 3000, oat_c: -4.5 } }, 50, 90],
      [{ set: { 'fault.e1.comp_eff': 0.93, 'fault.e1.comp_flow': 0.96 } }, 20, 45],
      [{ set: { 'fault.e1.turb_eff': 0.93 } }, 20, 45],
      [{ set: { 'fault.e1.fuel_bias': 1.2 } }, 60, 110],
    ] as const) {
      expect(more(rest), JSON.stringify(rest)).toBeGreaterThan(low);
      expect(more(rest), JSON.stringify(rest)).toBeLessThan(high);
    }
  });

  test('a starter that is let go too early stalls it into the heat, later it recovers', () => {
    const [hot, never] = manual(MODULATING, { release: 30, duration_s: 45 });
    expect(hot).toBeGreaterThan(930);
    expect(never).toBeNull();
    expect(manual(MODULATING, { release: 42 })[1]!).toBeLessThan(26);
  });

  test('a weak battery is slower each time it is weaker', () => {
    const idle = [
      [0.9, 1],
      [0.6, 1.4],
      [0.45, 1.7],
    ].map(([soc, batt_age]) => manual(MODULATING, { init: { soc, batt_age }, duration_s: 75 })[1]!);
    expect(idle).toEqual(idle.toSorted((a, b) => a - b));
    expect(idle[2]! - idle[0]!).toBeGreaterThan(5);
  });

  test('a thermocouple that reads low hides the heat', () => {
    const [shown, gas] = manual({ grip0: 0.2, ...RECIPE }, { set: { 'fault.e1.tc_gain': 0.75 } }, [
      { fn: 'max', sig: 'e1.tot' },
      { fn: 'max', sig: 'e1.ttc' },
    ]);
    expect(gas! - shown).toBeGreaterThan(60);
  });

  test('a grip that stays shut never lights', () => {
    const [lit] = measureTurbine('C5', {
      duration_s: 15,
      events: [{ t: 0, set: { ...ON, 'e1.starter_sw': 1 } }],
      outcomes: [{ fn: 'max', sig: 'e1.lit' }],
    });
    expect(lit).toBe(0);
  });

  test('a braked rotor stands still and shows torque', () => {
    const [nr, np, tq] = manual(MODULATING, { set: { rotor_brake: 1 } }, [
      { fn: 'max', sig: 'nr' },
      { fn: 'max', sig: 'e1.np' },
      { fn: 'end', sig: 'e1.tq' },
    ]);
    expect([nr, np]).toEqual([0, 0]);
    expect(Number(tq)).toBeGreaterThan(25);
  });
});

describe('two engines of the H9', () => {
  const second = (when: object): (number | string | null)[] =>
    measureTurbine('H9', {
      duration_s: 150,
      init: { soc: 0.6, batt_age: 1.4 },
      events: [
        { t: 0, set: { ...ON, 'load.displays': 1 } },
        { t: 2, set: { 'e1.mode': 'IDLE', 'e1.start': 1 } },
        { when: { sig: 'e1.mode', op: '==', val: 'RUN' }, id: 'r1', set: { 'e1.gen': 1 } },
        { after: 'r1', ...when, id: 's2', set: { 'e2.mode': 'IDLE', 'e2.start': 1 } },
      ],
      outcomes: [
        { fn: 'final', sig: 'e1.gen_trip' },
        { fn: 'final', sig: 'e2.mode' },
      ],
    });

  test('started at once the second trips the generator of the first; after the load has fallen it does not', () => {
    expect(second({ delay_s: 2 })[0]).toBe(1);
    expect(second({ delay_s: 5, when: { sig: 'e1.gen_a', op: '<=', val: 130 } })).toEqual([0, 'RUN']);
  });

  const lost = (mass_kg: number, extra: object[] = []): (number | string | null)[] =>
    measureTurbine('H9', {
      duration_s: 46,
      init: { mass_kg, height_m: 80 },
      running: { coll: 0.5 },
      events: [
        { t: 0, set: { flight: 1, 'load.base_bus': 1, h_ref: 80, coll_mode: 'hover', rating: 'AUTO', nr_min: 0.96 } },
        { t: 30, set: { 'fault.e2.fuel_cut': 1, coll_mode: 'hold' } },
        ...extra,
      ],
      outcomes: [
        { fn: 'min', sig: 'nr', t0: 30 },
        { fn: 'at', sig: 'h', t: 40 },
        { fn: 'max', sig: 'oei' },
        { fn: 'max', sig: 'e1.tq', t0: 31 },
      ],
    });

  test('an engine lost in the hover is seen, the other takes what its rating allows, and more weight sinks deeper', () => {
    const [light, heavy] = [lost(2400), lost(2900)];
    for (const [nr, , seen, tq] of [light, heavy]) {
      expect(seen).toBe(1);
      expect(Number(nr)).toBeLessThan(99);
      expect(Number(tq)).toBeLessThan(142);
    }
    expect(Number(heavy[1])).toBeLessThan(Number(light[1]));
    expect(Number(heavy[0])).toBeLessThan(Number(light[0]));
  });

  test('a lower rating limits the survivor to less', () => {
    const [, , , cont] = lost(2350, [{ t: 29, set: { rating: 'cont' } }]);
    expect(Number(cont)).toBeLessThan(118);
  });

  test('training limits both, a lost rotor speed ends it', () => {
    const [tq1, tq2] = measureTurbine('H9', {
      duration_s: 60,
      init: { mass_kg: 2600, height_m: 80 },
      running: { coll: 0.55 },
      events: [
        { t: 0, set: { flight: 1, 'load.base_bus': 1, h_ref: 80, coll_mode: 'hover', nr_min: 0.96 } },
        { t: 30, set: { training: 1, rating: '2min' } },
        { t: 35, set: { h_ref: 130, coll_mode: 'hover_nr' } },
      ],
      outcomes: [
        { fn: 'max', sig: 'e1.tq', t0: 45 },
        { fn: 'max', sig: 'e2.tq', t0: 45 },
      ],
    });
    for (const tq of [tq1, tq2]) {
      expect(Number(tq)).toBeGreaterThan(62);
      expect(Number(tq)).toBeLessThan(66);
    }
  });

  test('one hydraulic system is dropped by its test, the other stays', () => {
    const [one, two] = measureTurbine('H9', {
      duration_s: 15,
      running: { coll: 0.1 },
      events: [{ t: 8, set: { hyd_test: 2, 'load.base_bus': 1 } }],
      outcomes: [
        { fn: 'end', sig: 'hyd1' },
        { fn: 'end', sig: 'hyd2' },
      ],
    });
    expect(Number(one)).toBeGreaterThan(95);
    expect(Number(two)).toBeLessThan(2);
  });
});

describe('air and alignment of the X14', () => {
  const start = (rest: object[], init: object = { soc: 0.9 }): (number | string | null)[] =>
    measureTurbine('X14', {
      duration_s: 110,
      init,
      events: [
        { t: 0, set: { ...ON, 'load.inertial': 1 } },
        { t: 2, set: { 'apu.mode': 'FLY', 'apu.start': 1 } },
        { when: { sig: 'apu.mode', op: '==', val: 'RUN' }, id: 'apu', set: { 'apu.gen': 1 } },
        ...rest,
      ],
      outcomes: [
        { fn: 'final', sig: 'e1.mode' },
        { fn: 'final', sig: 'align_resets' },
        { fn: 'max', sig: 'e1.tot' },
        { fn: 'first', sig: 'e1.ng', op: '>=', val: 20 },
      ],
    });
  const engine = (set: object) => ({ after: 'apu', delay_s: 4, set: { 'e1.mode': 'IDLE', 'e1.start': 1, ...set } });

  test('an engine starts on air, and without it does not turn', () => {
    expect(start([engine({ apu_bleed: 1 })])[0]).toBe('RUN');
    const [mode, , , turned] = start([engine({ apu_bleed: 0 })]);
    expect(mode).not.toBe('RUN');
    expect(turned).toBeNull();
  });

  test('alignment that is begun before the auxiliary unit on a weak battery begins again', () => {
    const early = { t: 1, set: { ins: 1 } };
    expect(start([early], { soc: 0.9 })[1]).toBe(0);
    expect(Number(start([early], { soc: 0.3, batt_age: 2.4 })[1])).toBeGreaterThanOrEqual(1);
  });
});

describe('every gas turbine', () => {
  const ids = ['C5', 'S7', 'H9', 'X14'];

  /** A cockpit that is switched on and started, whatever it has. */
  function fly(id: string, seconds: number, seed: number, stepsPerTick = 4): { bytes: number[]; peak: number } {
    const parameters = turbineOf(id);
    const simulator = new Simulator(parameters, { noise: true }, seed, stepsPerTick);
    const controls = coldControls(parameters);
    const set = (inputs: Record<string, number | string | object>): void => {
      for (const [key, value] of Object.entries(inputs)) setInput(simulator, controls, key, value as never);
    };
    set(ON);
    if (parameters.apu) set({ 'apu.mode': 'FLY', 'apu.start': 1 });
    const bytes: number[] = [];
    let peak = 0;
    for (let k = 0; k < seconds * 50; k++) {
      if (k === (parameters.apu ? 1400 : 50)) {
        if (parameters.apu) set({ apu_bleed: 1 });
        if (parameters.engine.kind === 'hmu')
          set({ 'e1.starter_sw': 1, 'e1.pilot': { fuel_ng: 14.5, delay_s: 0.4, ...MODULATING } });
        else set({ 'e1.mode': 'IDLE', 'e1.start': 1 });
      }
      simulator.tick(controls);
      const [s] = simulator.sensors;
      bytes.push(s!.ngA_pct, s!.tot_C, simulator.volts);
      peak = Math.max(peak, simulator.engines[0]!.Ttc);
    }
    return { bytes, peak };
  }

  test.each(ids)('%s: the same seed gives the same numbers, another only other noise', (id) => {
    const [a, b, c] = [fly(id, 20, 5), fly(id, 20, 5), fly(id, 20, 6)];
    expect(a.bytes).toEqual(b.bytes);
    expect(a.bytes).not.toEqual(c.bytes);
  });

  test.each(ids)('%s: half the step moves the peak by less than half a percent', (id) => {
    const seconds = id === 'X14' ? 60 : 35;
    const [coarse, fine] = [fly(id, seconds, 1).peak, fly(id, seconds, 1, 8).peak];
    expect(coarse).toBeGreaterThan(800);
    expect(Math.abs(fine - coarse) / coarse).toBeLessThan(0.005);
  });

  test('an auxiliary unit that is not there cannot be set', () => {
    const parameters = turbineOf('C5');
    const simulator = new Simulator(parameters, {}, 1);
    expect(() => setInput(simulator, coldControls(parameters), 'apu.mode', 'FLY')).toThrow(/apu\.mode/);
    expect(() => setInput(simulator, coldControls(parameters), 'fault.e2.fuel_cut', 1)).toThrow(/fault\.e2/);
  });
});
