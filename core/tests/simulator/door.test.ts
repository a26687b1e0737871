import { describe, expect, test } from 'vitest';
import { isPiston, needWatched } from '@rouse/core/aircraft';
import { createSimulator } from '@rouse/core/simulator';
import { fleet } from '../fleet.ts';

describe.each(fleet.map((t) => t.id))('the one door, %s', (id) => {
  const type = needWatched(fleet.find((t) => t.id === id)!);
  const power = isPiston(type.simulator) ? 'master' : 'battery';

  /** Frames every second for ten seconds with the battery on, stepped in pieces of `piece_s`. */
  function frames(seed: number, piece_s: number): number[][] {
    const simulator = createSimulator(type, {}, seed);
    const frame = new Float64Array(type.channels.length);
    simulator.step({ [power]: 1 }, 0);
    return Array.from({ length: 10 }, () => {
      for (let k = 0; k < Math.round(1 / piece_s); k++) simulator.step({}, piece_s);
      simulator.read(frame);
      return [...frame];
    });
  }

  test('gives the same frames for the same seed, however time is cut, and others for another', () => {
    const once = frames(4, 0.02);
    expect(frames(4, 0.02)).toEqual(once);
    expect(frames(4, 0.005)).toEqual(once);
    expect(frames(4, 0.1)).toEqual(once);
    expect(frames(5, 0.02)).not.toEqual(once);
    const volts = type.channels.findIndex((c) => c.id === 'bus.volts');
    expect(once.at(-1)![volts]).toBeGreaterThan(10);
  });

  test('step takes any time and runs whole ticks', () => {
    const simulator = createSimulator(type, {}, 1);
    for (let i = 0; i < 10; i++) simulator.step({}, 0.05);
    expect(simulator.t_s).toBeCloseTo(0.5, 9);
    simulator.step({}, 0.019);
    expect(simulator.t_s).toBeCloseTo(0.5, 9);
  });

  test('refuses a name that the aircraft does not have', () => {
    expect(() => createSimulator(type, {}, 1).step({ flaps: 1 }, 0.02)).toThrow(/flaps/);
  });
});
