import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { coldControls, NormalSource, setInput, signalReader, SimulatedCockpit, Simulator } from '@rouse/core/simulator';
import { channelIndex, skerry } from '../skerry.ts';
import { skerryPlant } from './plant.ts';

const p = skerryPlant;

describe('the bus', () => {
  /** One tick with these inputs, then what the bus says. */
  function settle(inputs: Record<string, number>, soc = 0.8): Simulator {
    const simulator = new Simulator(p, { soc }, 1);
    const controls = coldControls(p);
    for (const [key, value] of Object.entries(inputs)) setInput(simulator, controls, key, value);
    simulator.tick(controls);
    simulator.tick(controls);
    return simulator;
  }

  test('nothing connected gives no volts', () => {
    const { bus } = settle({});
    expect(bus.volts).toBe(0);
    expect(bus.battery_a).toBe(0);
  });

  test('the battery alone carries what is switched on', () => {
    const { bus } = settle({ battery: 1, 'load.base_bus': 1 });
    expect(bus.volts).toBeGreaterThan(24.5);
    expect(bus.battery_a).toBeCloseTo((p.electrical.loads_a['base_bus']! / 28) * bus.volts, 3);
  });

  test('external power charges the battery', () => {
    const { bus } = settle({ battery: 1, ext: 1 }, 0.4);
    expect(bus.volts).toBeGreaterThan(26);
    expect(bus.battery_a).toBeLessThan(-20);
  });

  test('any set of consumers lowers the volts, never raises them', () => {
    const names = Object.keys(p.electrical.loads_a);
    fc.assert(
      fc.property(fc.subarray(names), fc.constantFrom(...names), (on, more) => {
        const loads = (list: string[]): Record<string, number> => ({
          battery: 1,
          ...Object.fromEntries(list.map((n) => [`load.${n}`, 1])),
        });
        expect(settle(loads([...on, more])).bus.volts).toBeLessThanOrEqual(settle(loads(on)).bus.volts + 1e-9);
      }),
      { numRuns: 25 },
    );
  });

  test('a generator gives no more than its limit, and holds its volts below it', () => {
    const fly = (soc: number, seconds: number): { amps: number; volts: number } => {
      const simulator = new Simulator(p, { soc, running: { coll: 0.1 } }, 1);
      const controls = coldControls(p);
      for (const key of ['battery', 'boost', 'load.base_bus', 'e1.gen']) setInput(simulator, controls, key, 1);
      setInput(simulator, controls, 'e1.mode', 'FLY');
      for (let k = 0; k < seconds * 50; k++) simulator.tick(controls);
      return { amps: simulator.sensors[0]!.gen_a, volts: simulator.volts };
    };
    expect(fly(0.2, 5).amps).toBeCloseTo(p.engine.gen_i_lim_a, 3);
    const full = fly(0.99, 300);
    expect(full.amps).toBeLessThan(80);
    expect(full.volts).toBeGreaterThan(27);
  });
});

describe('names', () => {
  const simulator = new Simulator(p, {}, 1);
  const controls = coldControls(p);

  test.each([
    ['env.oat_c', 30, () => simulator.env.oat_c],
    ['mass_kg', 2000, () => simulator.rotor.mass_kg],
    ['load.radio', 1, () => controls.loads['radio']],
    ['fault.e1.comp_eff', 0.9, () => simulator.engines[0]!.faults.comp_eff],
    ['fault.ac.bat_r_mult', 2, () => simulator.faults.bat_r_mult],
    ['e1.gen', 1, () => controls.engines[0]!.gen],
    ['coll', 0.4, () => controls.coll],
    ['nr_min', 0.9, () => controls.nr_min],
  ] as const)('%s can be set', (key, value, read) => {
    setInput(simulator, controls, key, value);
    expect(read()).toBe(value);
  });

  test.each([
    'e2.mode',
    'load.toaster',
    'fault.e1.gremlin',
    'fault.apu.igniter_fail',
    'env.moon',
    'throttle',
    'e1',
    '',
    'loads',
  ])('%j is refused by name', (key) => {
    expect(() => setInput(simulator, controls, key, 1)).toThrow(RangeError);
  });

  test('every signal of the language answers, and what is not one is undefined', () => {
    const signals = [
      't',
      'nr',
      'volts',
      'ibat',
      'h',
      'coll',
      'vz',
      'soc',
      'mgb_t',
      'mgb_p',
      'hyd1',
      'hyd2',
      'aligned',
      'align_resets',
    ];
    const engine = [
      'ng',
      'ng_true',
      'tot',
      'ttc',
      't45',
      'tm',
      'np',
      'tq',
      'oil_p',
      'oil_t',
      'wf',
      'pool',
      'torch',
      'start_a',
      'gen_a',
      'gen_trip',
      'lit',
      'q_self',
      'retries',
    ];
    for (const s of [...signals, ...engine.map((e) => `e1.${e}`)])
      expect(signalReader(simulator, s)?.(), s).toSatisfy(Number.isFinite);
    for (const s of ['mode', 'causes', 'channel', 'lim'])
      expect(typeof signalReader(simulator, `e1.${s}`)?.()).toBe('string');
    for (const s of ['e2.ng', 'e1.egt', 'fuel', 'e1.', 'constructor', 'e1.constructor'])
      expect(signalReader(simulator, s)?.(), s).toBeUndefined();
  });
});

describe('chance', () => {
  test('deviates have mean 0 and spread 1, within their bounds', () => {
    const source = new NormalSource(12345);
    const values = Array.from({ length: 20_000 }, () => source.normal());
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    const spread = Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length);
    expect(Math.abs(mean)).toBeLessThan(0.03);
    expect(spread).toBeGreaterThan(0.97);
    expect(spread).toBeLessThan(1.03);
    expect(Math.max(...values.map(Math.abs))).toBeLessThanOrEqual(2 * Math.sqrt(3));
  });

  test('noise moves the readings of speed and temperature and nothing else', () => {
    const run = (noise: boolean): Float64Array => {
      const cockpit = new SimulatedCockpit(skerry, { noise, env: { oat_c: 10 } }, [], 9);
      cockpit.move({ control: 'battery', to: 1 });
      let values = cockpit.tick();
      for (let k = 0; k < 50; k++) values = cockpit.tick();
      return values.slice();
    };
    const quiet = run(false);
    const noisy = run(true);
    skerry.channels.forEach((c, i) => expect(noisy[i] === quiet[i], c.id).toBe(c.id !== 'tot.1'));
  });
});

describe('the instruments', () => {
  const lit = (cockpit: SimulatedCockpit, seconds = 1): string[] => {
    let values = cockpit.tick();
    for (let k = 0; k < seconds * 50; k++) values = cockpit.tick();
    const bits = values[channelIndex('captions')]!;
    return skerry.captions.list.filter((c) => Math.floor(bits / 2 ** c.bit) % 2 === 1).map((c) => c.id);
  };

  test('a dark panel shows nothing; a cold one shows its seven', () => {
    const cockpit = new SimulatedCockpit(skerry, {}, [], 1);
    expect(lit(cockpit)).toEqual([]);
    cockpit.move({ control: 'battery', to: 1 });
    expect(lit(cockpit)).toEqual(['generator', 'oil', 'rotor', 'gearbox', 'hydraulic-1', 'hydraulic-2', 'fuel']);
    cockpit.move({ control: 'boost', to: 1 });
    expect(lit(cockpit)).not.toContain('fuel');
  });

  test('at idle only the rotor is low; a failed pump lights its own', () => {
    const started = (faults: Record<string, number>): SimulatedCockpit => {
      const cockpit = new SimulatedCockpit(skerry, { soc: 0.9 }, [{ set: faults }], 1);
      for (const control of ['battery', 'boost', 'load.base_bus']) cockpit.move({ control, to: 1 });
      cockpit.move({ control: 'e1.mode', to: 'IDLE' });
      cockpit.move({ control: 'e1.start', to: 1, release_s: 2 });
      for (let k = 0; k < 45 * 50; k++) cockpit.tick();
      cockpit.move({ control: 'e1.gen', to: 1 });
      return cockpit;
    };
    expect(lit(started({}), 5)).toEqual(['rotor']);
    expect(lit(started({ 'fault.ac.hyd1_fail': 1 }), 5)).toEqual(['rotor', 'hydraulic-1']);
    expect(lit(started({ 'fault.e1.gen_fail': 1 }), 5)).toEqual(['generator', 'rotor']);
  });

  test('a channel that the simulator does not have is named when it is read', () => {
    const wrong = structuredClone(skerry);
    wrong.channels[0]!.simulated!.signal = 'e1.egt';
    const read = () => new SimulatedCockpit(wrong, {}, [], 1).tick();
    expect(read).toThrow(/e1\.egt/);
    wrong.channels[0]!.simulated!.signal = 'control.e7.mode';
    expect(read).toThrow(/e7/);
    wrong.channels[0]!.simulated!.signal = 'control.lever';
    expect(read).toThrow(/lever/);
  });
});
