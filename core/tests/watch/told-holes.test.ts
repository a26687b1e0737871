import { describe, expect, test } from 'vitest';
import { Pickup } from '../../src/watch/pickup.ts';
import { SeenFor } from '../../src/watch/seen-for.ts';
import { doneIn, type Reading, saidIn, since, statesIn, stopsIn, tell, type Told } from './told.ts';

/** The same reading, one frame in five missing. */
const poor =
  (reading?: (t_s: number, ordinary: number) => number): Reading =>
  (t_s, ordinary) =>
    Math.round(t_s * 8) % 5 === 0 ? NaN : (reading?.(t_s, ordinary) ?? ordinary);

describe('how long something was seen', () => {
  test('is not erased by a frame without it, nor lengthened', () => {
    const seen = new SeenFor();
    expect(seen.update(0.5, 1, true)).toBe(0.5);
    expect(seen.update(0.5, NaN, false)).toBe(0.5);
    expect(seen.update(0.5, NaN, false)).toBe(0.5);
    expect(seen.update(0.5, 1, true)).toBe(1);
    expect(seen.update(0.5, 1, false)).toBe(0);
  });

  test('counts no more after it was missing for more than a second', () => {
    const seen = new SeenFor();
    seen.update(5, 1, true);
    expect(seen.update(1.1, NaN, false)).toBe(5);
    expect(seen.update(0.1, NaN, false)).toBe(0);
    expect(seen.update(0.5, 1, true)).toBe(0.5);
    seen.reset();
    expect(seen.seconds).toBe(0);
  });
});

describe('a line that loses one reading in five', () => {
  test('shows an alternator that charges', () => {
    const told = tell('T2', { 'battery.amps': poor() });
    expect(statesIn(told).map((s) => s.split(' ')[1])).toEqual(['cranking', 'firing', 'running', 'oil-up', 'charging', 'idle']); // oxfmt-ignore
    expect(saidIn(told).join()).not.toMatch(/not-charging|unseen-charge/);
  });

  test('stops a start for a fire as soon as it was seen for its time', () => {
    const whole = stopsIn(tell('S7', { 'fire.1': since(20, 1) }));
    expect(whole).toEqual([expect.stringMatching(/^21\.5\d* fire: /)]);
    const [stop] = stopsIn(tell('S7', { 'fire.1': poor((t_s) => (t_s >= 20 ? 1 : 0)) }));
    expect(Number(/^[\d.]+/.exec(stop ?? '')?.[0])).toBeLessThan(22.2);
  });

  test.each([
    ['S7', 'ng.1', 20],
    ['T2', 'engine.rpm', 15.25],
  ] as const)('shows that a %s which went on against a stop stays at idle', (id, speed, stopped_s) => {
    const ignored = tell(
      id,
      { [speed]: poor() },
      { seconds: 60, before: (t_s, watch) => (t_s === stopped_s ? watch.pilotAbort(t_s) : undefined) },
    );
    expect(stopsIn(ignored)).toHaveLength(1);
    expect(statesIn(ignored).at(-1)).toMatch(/ idle$/);
  });
});

describe('a speed', () => {
  const read = (readings: readonly number[], dt_s = 0.02): number[] => {
    const pickup = new Pickup();
    return readings.map((reading) => {
      pickup.read(dt_s, reading);
      return pickup.speed_pct;
    });
  };

  test('that leaps from one frame to the next, or is gone, is not believed; one that stays there is, in time', () => {
    expect(read([40, 120, 40.2])).toEqual([40, NaN, 40.2]);
    expect(read([40, 0, 40.2])).toEqual([40, NaN, 40.2]);
    expect(read([40, 0, 0, NaN, 0], 1)).toEqual([40, NaN, NaN, NaN, NaN]);
    expect(read([40, 20, 20, 20], 0.02)).toEqual([40, NaN, 20, 20]);
    expect(read([4, 0])).toEqual([4, 0]);
    expect(read([0, 105], 0.25)).toEqual([0, 105]);
  });

  test('has a pace over the frames that were lost', () => {
    const pickup = new Pickup();
    const paces = [40, NaN, 200, 43].map((reading) => {
      pickup.read(0.02, reading);
      return pickup.rate_pct_s;
    });
    expect(paces.slice(0, 3)).toEqual([NaN, NaN, NaN]);
    expect(paces[3]).toBeCloseTo(50, 9);
    expect(pickup.step_s).toBeCloseTo(0.06, 9);
    pickup.reset();
    expect([pickup.speed_pct, pickup.rate_pct_s, pickup.step_s]).toEqual([NaN, NaN, 0]);
    pickup.read(0.02, 90);
    expect(pickup.speed_pct).toBe(90);
  });
});

describe('one wrong frame at fifty a second', () => {
  const once =
    (at_s: number, wrong: number): Reading =>
    (t_s, ordinary) =>
      Math.abs(t_s - at_s) < 0.005 ? wrong : ordinary;

  test.each([
    ['T2', 'engine.rpm', 130],
    ['T2', 'engine.rpm', 2],
    ['T2', 'magnetos', 0],
    ['S7', 'ng.1', 130],
    ['S7', 'ng.1', 3],
    ['C5', 'ng.1', 110],
  ] as const)('of a %s, %s at %d, stops no start, and makes no extreme', (id, channel, wrong) => {
    const how = { step_s: 0.02, seconds: 60 };
    const extremes = (told: Told): unknown[] =>
      doneIn(told).map(({ verdict, record: r }) => [verdict, r.peak_C, r.speedMax_pct, r.voltsMin_V, r.starterMax_A]);
    const whole = extremes(tell(id, {}, how));
    for (const at_s of [17, 22, 28]) {
      const told = tell(id, { [channel]: once(at_s, wrong) }, how);
      expect(stopsIn(told)).toEqual([]);
      expect(extremes(told)).toEqual(whole);
      expect(doneIn(told)[0]!.record.unseen_s).toBeLessThan(0.05);
    }
  });
});
