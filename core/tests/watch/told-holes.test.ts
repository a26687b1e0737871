import { describe, expect, test } from 'vitest';
import { SeenFor } from '../../src/watch/seen-for.ts';
import { type Reading, saidIn, since, statesIn, stopsIn, tell } from './told.ts';

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
