import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { attempt } from '@rouse/core/quantity';
import { rotorWindLimit, type RotorWindLimits, SIDES, type Wind, windComponents, windSide } from '@rouse/core/weather';

const wind = (
  dir_deg: number | null,
  speed_kt: number,
  gust_kt: number | null = null,
  rest: Partial<Wind> = {},
): Wind => ({
  kind: speed_kt === 0 ? 'calm' : dir_deg === null ? 'variable' : 'steady',
  dir_deg,
  from_deg: null,
  to_deg: null,
  speed_kt,
  gust_kt,
  at_least: false,
  unit: 'KT',
  ...rest,
});
const nose = (heading_deg: number) => ({ heading_deg, heading_ref: 'true' as const, wind_ref: 'true' as const });
const limits: RotorWindLimits = {
  start: { HEAD: 40, RIGHT: 30, TAIL: 20, LEFT: 25 },
  stop: { HEAD: 35, RIGHT: 25, TAIL: 15, LEFT: 20 },
  gust_spread: 15,
  caution_frac: 0.8,
};
const direction = fc.integer({ min: 0, max: 359 });

describe('components', () => {
  test('they keep the whole wind, and turn with the aircraft', () => {
    fc.assert(
      fc.property(
        direction,
        direction,
        fc.integer({ min: 1, max: 80 }),
        fc.integer({ min: -180, max: 180 }),
        (dir, heading, speed, turn) => {
          const c = windComponents({ wind_dir_deg: dir, speed_kt: speed, ...nose(heading) });
          expect(Math.hypot(c.headwind_kt, c.crosswind_kt)).toBeCloseTo(speed, 9);
          const turned = windComponents({
            wind_dir_deg: (dir + turn + 360) % 360,
            speed_kt: speed,
            ...nose((heading + turn + 360) % 360),
          });
          expect(turned.headwind_kt).toBeCloseTo(c.headwind_kt, 6);
          expect(turned.crosswind_kt).toBeCloseTo(c.crosswind_kt, 6);
        },
      ),
    );
  });

  test.each([
    [0, 10, 0],
    [90, 0, 10],
    [180, -10, 0],
    [270, 0, -10],
  ])('a wind from %i on a nose to the north', (dir, head, cross) => {
    const c = windComponents({ wind_dir_deg: dir, speed_kt: 10, ...nose(0) });
    expect(c.headwind_kt).toBeCloseTo(head, 9);
    expect(c.crosswind_kt).toBeCloseTo(cross, 9);
  });

  test('a true wind on a magnetic nose needs the variation', () => {
    const mixed = { wind_dir_deg: 27, speed_kt: 10, heading_deg: 30, heading_ref: 'mag', wind_ref: 'true' } as const;
    expect(attempt(() => windComponents(mixed))).toEqual({ error: 'MISSING', field: 'variation_E_deg' });
    expect(windComponents({ ...mixed, variation_E_deg: -3 }).crosswind_kt).toBeCloseTo(0, 9);
  });

  test('a gust below the mean is a contradiction', () => {
    expect(attempt(() => windComponents({ wind_dir_deg: 0, speed_kt: 20, gust_kt: 15, ...nose(0) }))).toMatchObject({
      error: 'INCONSISTENT',
    });
  });
});

describe('the side it comes from', () => {
  test.each([
    [wind(90, 12), 'RIGHT', true],
    [wind(270, 12), 'LEFT', true],
    [wind(2, 12), 'HEAD', true],
    [wind(180, 12), 'TAIL', true],
    [wind(90, 2), 'LIGHT', false],
    [wind(null, 12), 'VARIABLE', false],
    [wind(null, 0), 'CALM', true],
    [null, 'UNKNOWN', false],
  ])('%#', (blowing, primary, determinate) => {
    const side = windSide({ wind: blowing, ...nose(0) });
    expect(side.primary).toBe(primary);
    expect(side.determinate).toBe(determinate);
  });

  test('a range over the nose names no side', () => {
    const side = windSide({ wind: wind(350, 12, null, { from_deg: 300, to_deg: 40 }), ...nose(0) });
    expect(side).toMatchObject({ determinate: false, reason: 'BOTH_SIDES' });
    expect(side.sides).toEqual(expect.arrayContaining(['LEFT', 'HEAD', 'RIGHT']));
  });

  test('mirrored, it is the other side', () => {
    fc.assert(
      fc.property(fc.integer({ min: 16, max: 164 }), fc.integer({ min: 3, max: 60 }), (dir, speed) => {
        expect(windSide({ wind: wind(dir, speed), ...nose(0) }).primary).toBe('RIGHT');
        expect(windSide({ wind: wind(360 - dir, speed), ...nose(0) }).primary).toBe('LEFT');
      }),
    );
  });
});

describe('the rotor’s limit', () => {
  const judge = (blowing: Wind | null, phase = 'start') => rotorWindLimit({ wind: blowing, phase, limits, ...nose(0) });

  test('at the limit it is permitted, above it is not', () => {
    expect(judge(wind(0, 40)).verdict).not.toBe('EXCEEDS');
    expect(judge(wind(0, 41)).verdict).toBe('EXCEEDS');
    expect(judge(wind(0, 20, 36)).reasons).toContain('GUST_SPREAD');
    expect(judge(wind(0, 33)).verdict).toBe('CAUTION');
    expect(judge(wind(0, 20)).verdict).toBe('WITHIN');
  });

  test('on the corner the lower of two limits counts', () => {
    expect(judge(wind(45, 10)).limit_kt).toBe(30);
    expect(judge(wind(315, 10)).limit_kt).toBe(25);
  });

  test('a variable wind may come from anywhere', () => {
    expect(judge(wind(null, 21)).verdict).toBe('EXCEEDS');
    expect(judge(wind(null, 21)).quadrants).toEqual(expect.arrayContaining([...SIDES]));
  });

  test('an unknown wind is not good, and neither is one that is at least so much', () => {
    expect(judge(null).verdict).toBe('UNKNOWN');
    expect(judge(wind(0, 10, null, { at_least: true })).verdict).toBe('EXCEEDS');
  });

  test('more wind is never better', () => {
    const order = ['WITHIN', 'CAUTION', 'EXCEEDS'];
    fc.assert(
      fc.property(direction, fc.integer({ min: 1, max: 50 }), fc.constantFrom('start', 'stop'), (dir, speed, phase) => {
        const less = order.indexOf(judge(wind(dir, speed), phase).verdict);
        const more = order.indexOf(judge(wind(dir, speed + 1), phase).verdict);
        expect(more).toBeGreaterThanOrEqual(less);
      }),
    );
  });
});
