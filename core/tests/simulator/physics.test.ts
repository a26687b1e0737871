import { expect, test } from 'vitest';
import { coldControls, setInput, Simulator, TICK_S } from '@rouse/core/simulator';
import { skerryPlant } from './plant.ts';

const parameters = skerryPlant;

/** A simulator with battery, boost and beacon on, start pressed after a second. */
function starting(simulator: Simulator): (until_s: number, each?: () => void) => void {
  const controls = coldControls(parameters);
  for (const key of ['battery', 'boost', 'load.base_bus', 'load.anticollision']) setInput(simulator, controls, key, 1);
  return (until_s, each) => {
    while (simulator.ticks * TICK_S < until_s) {
      if (simulator.ticks === 50) {
        setInput(simulator, controls, 'e1.mode', 'IDLE');
        setInput(simulator, controls, 'e1.start', 1);
      }
      if (simulator.ticks === 150) setInput(simulator, controls, 'e1.start', 0);
      if (simulator.ticks === 2000) setInput(simulator, controls, 'e1.gen', 1);
      simulator.tick(controls);
      each?.();
    }
  };
}

function peakOf(stepsPerTick: number): number {
  const simulator = new Simulator(parameters, {}, 1, stepsPerTick);
  let peak = -Infinity;
  starting(simulator)(40, () => (peak = Math.max(peak, simulator.sensors[0]!.tot_C)));
  return peak;
}

test('the kinetic energy of the gas generator is the work done on it', () => {
  const simulator = new Simulator(parameters, {}, 1, 4);
  const e = simulator.engines[0]!;
  const p = e.p;
  const run = starting(simulator);
  run(2);
  const before = p.gg_ke_ref_j * e.n ** 2;
  let work = 0;
  let last = { n: e.n, power: 0 };
  run(60, () => {
    const starter =
      e.starter_a > 0
        ? (p.starter_ksh + p.starter_kse * e.starter_a) * e.starter_a * p.starter_w_ref_rad_s * p.starter_mech_eff
        : 0;
    const generator = (simulator.bus.volts * e.gen_a) / p.gen_eff / Math.max(e.n, 0.2);
    const power = (e.q_self + starter - generator) * e.n;
    work += ((power + last.power) / 2) * TICK_S;
    last = { n: e.n, power };
  });
  const gained = p.gg_ke_ref_j * e.n ** 2 - before;
  expect(gained).toBeGreaterThan(100_000);
  expect(Math.abs(work - gained) / gained).toBeLessThan(0.01);
});

test('the bus neither makes nor loses current, and the battery keeps account of its charge', () => {
  const simulator = new Simulator(parameters, { soc: 0.7 }, 1);
  const e = simulator.engines[0]!;
  const run = starting(simulator);
  run(0.5);
  const before = simulator.bus.soc;
  let amp_s = 0;
  run(70, () => {
    const loads =
      parameters.electrical.loads_a['base_bus']! +
      parameters.electrical.loads_a['anticollision']! +
      parameters.electrical.boost_pump_a +
      (e.spark ? parameters.electrical.igniter_a : 0);
    const drawn = (simulator.bus.volts / 28) * loads + e.starter_a;
    expect(Math.abs(simulator.bus.battery_a + e.gen_a - drawn)).toBeLessThan(1e-3 * Math.max(10, drawn));
    amp_s += simulator.bus.battery_a * TICK_S;
  });
  const booked = (before - simulator.bus.soc) * 3600 * parameters.electrical.batt_cap_ah;
  expect(Math.abs(booked - amp_s)).toBeLessThan(0.02 * Math.abs(amp_s) + 5);
});

test('halving the step moves the peak temperature by less than half a percent', () => {
  const coarse = peakOf(4);
  const fine = peakOf(8);
  expect(Math.abs(fine - coarse) / coarse).toBeLessThan(0.005);
});

test('the same seed gives the same readings, another seed others', () => {
  const readings = (seed: number): number[] => {
    const simulator = new Simulator(parameters, { noise: true }, seed);
    const out: number[] = [];
    starting(simulator)(20, () => out.push(simulator.sensors[0]!.tot_C, simulator.sensors[0]!.ngA_pct));
    return out;
  };
  expect(readings(5)).toEqual(readings(5));
  expect(readings(5)).not.toEqual(readings(6));
});

test('a weaker battery cranks hotter and dips deeper, monotonically', () => {
  const figures = [
    [0.9, 1],
    [0.6, 1.4],
    [0.45, 1.8],
    [0.35, 2.2],
  ].map(([soc, batt_age]) => {
    const simulator = new Simulator(parameters, { soc: soc!, batt_age: batt_age! }, 1);
    let peak = -Infinity;
    let dip = Infinity;
    starting(simulator)(45, () => {
      peak = Math.max(peak, simulator.sensors[0]!.tot_C);
      if (simulator.ticks > 55) dip = Math.min(dip, simulator.volts);
    });
    return { peak, dip };
  });
  for (let i = 1; i < figures.length; i++) {
    expect(figures[i]!.peak).toBeGreaterThan(figures[i - 1]!.peak);
    expect(figures[i]!.dip).toBeLessThan(figures[i - 1]!.dip);
  }
  expect(figures[0]!.peak).toBeGreaterThan(630);
  expect(figures[0]!.peak).toBeLessThan(680);
});
