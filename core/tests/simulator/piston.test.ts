import { describe, expect, test } from 'vitest';
import {
  coldPistonControls,
  noPistonFaults,
  pistonScenarioSchema,
  PistonPlant,
  runPistonScenario,
} from '@rouse/core/simulator';
import file from '../fixtures/piston-scenarios.json' with { type: 'json' };
import { measurePiston, pistonOf } from './plant.ts';

const scenarios = (file.scenarios as unknown[]).map((s) => pistonScenarioSchema.parse(s));

test.each(scenarios.map((s) => [s.id, String(s['title']), s] as const))('%s: %s', (_id, _title, scenario) => {
  const { checks } = runPistonScenario(pistonOf(scenario.variant), scenario);
  expect(checks.filter((c) => c.ok !== true)).toEqual([]);
  expect(checks.length).toBeGreaterThan(0);
});

const READY = { master: 1, alt: 1, mix: 1, grip: 0.17 };
/** Warm, at idle, belts loose; and warm with the rotor joined at some speed. */
const IDLING = { Th: 100, To: 50, Tc: 42, Tb: 30, Tcb: 5, gal: 1, pm: 35_000, phi: 1.1, film: 2, Tmuff: 60, we: 130.7 };
const joined = (n: number) => ({
  ...IDLING,
  Th: 150,
  To: 75,
  Tc: 67,
  we: n * 272.271,
  wr: (n * 272.271) / 5.25,
  x: 0.97,
  tensOK: 1,
});
const FIRES = { kind: 'firstAbove', key: 'n', thr: 0.22 };

/** Seconds from the starter to firing after so many seconds of primer; null for none in eight. */
function primed(
  prime_s: number,
  rest: { env?: object; init?: object; faults?: object; grip?: number } = {},
): number | null {
  const crank_s = 3 + prime_s;
  const { grip = 0.17, ...conditions } = rest;
  return measurePiston('T2', {
    ...conditions,
    timeline: [
      [0, { ...READY, grip }],
      [1, { primer: prime_s > 0 ? 1 : 0 }],
      [1 + prime_s, { primer: 0 }],
      [crank_s, { mags: 'BOTH', starter: 1 }],
      [crank_s + 8, { starter: 0 }],
    ],
    checks: [{ ...FIRES, after: crank_s }],
    t_end: crank_s + 12,
  })[0]!;
}

describe('a carburetted start', () => {
  test('none, right and too much primer', () => {
    expect(primed(0)).toBeNull();
    expect(primed(3)!).toBeGreaterThan(1.5);
    expect(primed(3)!).toBeLessThan(4);
    expect(primed(12)).toBeNull();
  });

  test('the colder it is the more it wants, and the weak battery is late', () => {
    expect(primed(3, { env: { oat: -8 } }) ?? 99).toBeGreaterThan(primed(3)!);
    expect(primed(5, { env: { oat: 0 } })!).toBeLessThan(6);
    expect(primed(5, { env: { oat: 0 }, init: { SOC: 0.5 }, faults: { battR: 1.6 } }) ?? 99).toBeGreaterThan(6);
  });

  test('a hot engine needs none', () => {
    expect(primed(0, { env: { oat: 30 }, init: { Th: 120, To: 75, Tc: 68, Tb: 60, Tcb: 40, gal: 0.9 } })!).toBeLessThan(
      4,
    );
  });

  test('the throttle pumped three or four times primes too', () => {
    const pumps = (strokes: number): number | null =>
      measurePiston('T2', {
        timeline: [
          [0, { ...READY, grip: 0 }],
          ...Array.from({ length: strokes }, (_, i): [number, object][] => [
            [1 + 3 * i, { grip: 1 }],
            [2.5 + 3 * i, { grip: 0 }],
          ]).flat(),
          [14, { grip: 0.17 }],
          [15, { mags: 'BOTH', starter: 1 }],
          [23, { starter: 0 }],
        ],
        checks: [{ ...FIRES, after: 15 }],
        t_end: 26,
      })[0]!;
    expect(pumps(4)!).toBeLessThan(pumps(3)!);
    expect(pumps(3)!).toBeLessThan(6);
  });

  test('a grip that is open too far runs away', () => {
    const top = (grip: number): number =>
      measurePiston('T2', {
        timeline: [
          [0, { ...READY, grip }],
          [1, { primer: 1 }],
          [4, { primer: 0 }],
          [7, { mags: 'BOTH', starter: 1 }],
          [10.5, { starter: 0 }],
        ],
        checks: [{ kind: 'max', key: 'n', t0: 7, t1: 25 }],
        t_end: 25,
      })[0]!;
    const tops = [0.1, 0.17, 0.3, 0.4].map(top);
    expect(tops).toEqual(tops.toSorted((a, b) => a - b));
    expect(tops[3]!).toBeGreaterThan(1.04);
  });
});

describe('an injected start', () => {
  const hot = { Th: 108, To: 75, Tc: 70, Tb: 75.5, Tfl: 75, Tcb: 55, gal: 0.5 };
  const start = (purge_s: number): number | null =>
    measurePiston('T2i', {
      env: { oat: 30, dew: 12 },
      init: hot,
      timeline: [
        [0, { master: 1, alt: 1, grip: 0.15, boost: purge_s > 0 ? 1 : 0 }],
        [purge_s, { boost: 0 }],
        [purge_s + 5, { mags: 'BOTH', starter: 1 }],
        [purge_s + 6, { mix: 1 }],
        [purge_s + 13, { starter: 0 }],
      ],
      checks: [{ ...FIRES, after: purge_s + 5 }],
      t_end: purge_s + 16,
    })[0]!;

  test('hot fuel lines lock, and forty seconds of purge free them', () => {
    expect(start(0)).toBeNull();
    expect(start(40)!).toBeLessThan(4);
  });
});

describe('belts and rotor', () => {
  const engage = (faults: object, n = 0.48): (number | null)[] =>
    measurePiston('T2', {
      init: { ...IDLING, we: n * 272.271 },
      faults,
      timeline: [
        [0, { master: 1, alt: 1, mags: 'BOTH', mix: 1, pilotN: n, grip: 0.11 }],
        [20, { clutch: 1 }],
      ],
      checks: [
        { kind: 'join', key: 'n', after: 20 },
        { kind: 'at', key: 'light', t: 110 },
        { kind: 'max', key: 'Tblt', t0: 20, t1: 110 },
        { kind: 'max', key: 'ebelt', t0: 20, t1: 110 },
      ],
      t_end: 110,
    });

  test('they join in twenty seconds, later when slack, hotter when faster', () => {
    const [join, light, warm, heat] = engage({});
    expect(join!).toBeGreaterThan(19);
    expect(join!).toBeLessThan(25);
    expect(light).toBe(0);
    expect(engage({ tension: 0.5 })[0]!).toBeGreaterThan(join! + 4);
    const fast = engage({}, 0.9);
    expect(fast[2]!).toBeGreaterThan(warm!);
    expect(fast[3]!).toBeGreaterThan(2.5 * heat!);
  });

  const chop = (faults: object): number | null =>
    measurePiston('T2', {
      init: joined(0.78),
      faults,
      timeline: [
        [0, { master: 1, alt: 1, mags: 'BOTH', mix: 1, pilotN: 0.78, grip: 0.3, clutch: 1 }],
        [25, { pilotN: null, hold: 1, grip: 0 }],
      ],
      checks: [{ kind: 'firstBelow', key: 'split', thr: -0.03, after: 25 }],
      t_end: 29,
    })[0]!;

  test('the needles part when the throttle is chopped, unless the freewheel is seized', () => {
    expect(chop({})!).toBeLessThan(1.5);
    expect(chop({ sprag: 'seized' })).toBeNull();
    expect(chop({ sprag: 'sticking' })).toBeNull();
  });
});

describe('magnetos, heat and governor', () => {
  const drop = (faults: object, select: string, n = 0.78): number =>
    measurePiston('T2', {
      init: joined(n),
      faults,
      timeline: [
        [0, { master: 1, alt: 1, mags: 'BOTH', mix: 1, pilotN: n, grip: 0.3, clutch: 1 }],
        [30, { pilotN: null, hold: 1, grip: 'HOLD' }],
        [33, { mags: select }],
      ],
      checks: [{ kind: 'diff', key: 'n', t0: 32.9, t1: 37 }],
      t_end: 38,
    })[0]!;

  test('one magneto drops a little, a fouled plug much, an open ground nothing', () => {
    expect(drop({}, 'L')).toBeGreaterThan(0.005);
    expect(drop({}, 'L')).toBeLessThan(0.04);
    expect(drop({ plugs: [1, 0.15, 1, 1, 1, 1, 1, 1] }, 'L')).toBeGreaterThan(0.04);
    expect(drop({ groundL: 1 }, 'R')).toBeLessThan(0.002);
    expect(drop({ retardL: 10 }, 'L')).toBeGreaterThan(drop({}, 'L') + 0.01);
    expect(drop({ magR: 0 }, 'R')).toBeGreaterThan(0.3);
  });

  test('carburettor heat takes speed and warms the throat, unless it has failed', () => {
    const heat = (faults: object): (number | null)[] =>
      measurePiston('T2', {
        env: { oat: 15, dew: -10 },
        init: joined(0.78),
        faults,
        timeline: [
          [0, { master: 1, alt: 1, mags: 'BOTH', mix: 1, pilotN: 0.78, grip: 0.3, clutch: 1 }],
          [30, { pilotN: null, hold: 1, grip: 'HOLD' }],
          [35, { carbHeat: 1 }],
        ],
        checks: [
          { kind: 'diff', key: 'n', t0: 34.9, t1: 45 },
          { kind: 'diff', key: 'carbT', t0: 47, t1: 34.9 },
        ],
        t_end: 48,
      });
    const [fall, rise] = heat({});
    expect(fall!).toBeGreaterThan(0.02);
    expect(rise!).toBeGreaterThan(12);
    const [none, cold] = heat({ carbHeatFail: 1 });
    expect(Math.abs(none!)).toBeLessThan(0.002);
    expect(cold!).toBeLessThan(2);
  });

  test('ice grows in moist cool air and not in warm or dry', () => {
    const ice = (oat: number, dew: number): number =>
      measurePiston('T2', {
        env: { oat, dew },
        init: joined(0.62),
        timeline: [[0, { master: 1, alt: 1, mags: 'BOTH', mix: 1, pilotN: 0.62, grip: 0.3, clutch: 1 }]],
        checks: [{ kind: 'at', key: 'ice', t: 300 }],
        t_end: 300,
      })[0]!;
    expect(ice(12, 10)).toBeGreaterThan(8);
    expect(ice(28, 24)).toBeLessThan(0.5);
    expect(ice(15, -10)).toBeLessThan(0.5);
  });

  test('the governor holds what the collective takes, and without it the speed droops', () => {
    const least = (gov: number): number =>
      measurePiston('T2', {
        init: joined(0.95),
        timeline: [
          [0, { master: 1, alt: 1, mags: 'BOTH', mix: 1, pilotN: 0.998, grip: 0.4, clutch: 1, gov: 1 }],
          [30, { pilotN: null, hold: gov ? 0 : 1, grip: 'HOLD', gov }],
          [35, { col: ['ramp', 0.35, 4] }],
        ],
        checks: [{ kind: 'at', key: 'n', t: 60 }],
        t_end: 60,
      })[0]!;
    expect(least(1)).toBeGreaterThan(0.985);
    expect(least(0)).toBeLessThan(0.965);
  });
});

describe('the plant', () => {
  test('a rotor with a brake stops sooner, and the brake gets warm', () => {
    const coast = (brake: number): (number | null)[] =>
      measurePiston('T2', {
        init: { wr: 16 },
        timeline: [[0, { master: 1, brake }]],
        checks: [
          { kind: 'firstBelow', key: 'nr', thr: 0.01, after: 0 },
          { kind: 'max', key: 'Tbrk', t0: 0, t1: 120 },
        ],
        t_end: 120,
      });
    const [free, held] = [coast(0), coast(0.6)];
    expect(held[0]!).toBeLessThan(0.6 * free[0]!);
    expect(held[1]!).toBeGreaterThan(free[1]! + 5);
  });

  test('steps of 10 and of 20 ms agree, and the same hands give the same numbers', () => {
    const fly = (dt_s: number): number[] => {
      const plant = new PistonPlant(pistonOf('T2'));
      const controls = { ...coldPistonControls(), ...READY, primer: 1 };
      const faults = noPistonFaults();
      for (let t = 0; t < 40; t += dt_s) {
        if (t > 3) controls.primer = 0;
        if (t > 6) Object.assign(controls, { mags: 'BOTH', starter: t < 11 ? 1 : 0 });
        plant.step(controls, faults, dt_s);
      }
      return [plant.we, plant.Th, plant.To, plant.V, plant.SOC];
    };
    expect(fly(0.01)).toEqual(fly(0.01));
    const [fine, coarse] = [fly(0.01), fly(0.02)];
    expect(fine[0]!).toBeGreaterThan(100);
    fine.forEach((v, i) => expect(Math.abs(coarse[i]! / v - 1)).toBeLessThan(0.02));
  });

  test('what there is not is named', () => {
    const bare = { timeline: [], checks: [], t_end: 1 };
    expect(() => measurePiston('T2', { ...bare, timeline: [[0, { rudder: 1 }]] })).toThrow(/rudder/);
    expect(() => measurePiston('T2', { ...bare, faults: { rudder: 1 } })).toThrow(/rudder/);
    expect(() => measurePiston('T2', { ...bare, init: { rudder: 1 } })).toThrow(/rudder/);
    expect(() => measurePiston('T2', { ...bare, checks: [{ kind: 'at', key: 'rudder', t: 1 }] })).toThrow(/rudder/);
  });
});
