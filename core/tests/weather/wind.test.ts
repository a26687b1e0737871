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

  test.each([
    ['mag', 'mag', 7, 10],
    ['mag', 'mag', 0, 10],
    ['true', 'true', undefined, 10],
    ['mag', 'true', 3, 7],
    ['true', 'mag', 3, 13],
    [undefined, undefined, 3, 7],
  ] as const)(
    'heading %s, wind %s, variation %s: %i degrees from the nose',
    (heading_ref, wind_ref, variation_E_deg, off) => {
      const c = windComponents({
        wind_dir_deg: 40,
        speed_kt: 10,
        heading_deg: 30,
        heading_ref,
        wind_ref,
        variation_E_deg,
      });
      expect(c.relative_deg).toBeCloseTo(off, 9);
    },
  );

  test('a gust has components of its own; from behind is 180 degrees, not minus', () => {
    const c = windComponents({ wind_dir_deg: 60, speed_kt: 10, gust_kt: 20, ...nose(0) });
    expect(c.headwind_gust_kt).toBeCloseTo(10, 9);
    expect(c.crosswind_gust_kt).toBeCloseTo(17.3205, 4);
    expect(windComponents({ wind_dir_deg: 180, speed_kt: 10, ...nose(0) }).relative_deg).toBe(180);
    expect(windComponents({ wind_dir_deg: 190, speed_kt: 10, ...nose(0) }).relative_deg).toBe(-170);
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

  const all = [...SIDES];
  test.each([
    ['none', null, 'UNKNOWN', all, 'WIND_MISSING'],
    ['a missing one', wind(90, 12, null, { kind: 'missing' }), 'UNKNOWN', all, 'WIND_MISSING'],
    ['one without a speed', wind(90, 12, null, { speed_kt: null }), 'UNKNOWN', all, 'WIND_MISSING'],
    ['calm', wind(null, 0), 'CALM', [], 'CALM'],
    ['a light one', wind(90, 2), 'LIGHT', all, 'LIGHT_WIND'],
    ['a light one with a gust', wind(90, 2, 3), 'RIGHT', ['RIGHT'], 'ONE_SIDE'],
    ['a variable one', wind(null, 12), 'VARIABLE', all, 'VARIABLE_DIRECTION'],
    [
      'one without a direction',
      wind(null, 12, null, { kind: 'direction-missing' }),
      'VARIABLE',
      all,
      'DIRECTION_MISSING',
    ],
    ['one whose direction was lost', wind(null, 12, null, { kind: 'steady' }), 'VARIABLE', all, 'DIRECTION_MISSING'],
    [
      'one that may not be from there',
      wind(90, 12, null, { kind: 'direction-missing' }),
      'VARIABLE',
      all,
      'DIRECTION_MISSING',
    ],
    ['from 4', wind(4, 12), 'HEAD', ['HEAD'], 'ONE_SIDE'],
    ['from 5', wind(5, 12), 'HEAD', ['HEAD', 'RIGHT'], 'NEAR_BOUNDARY'],
    ['from 10', wind(10, 12), 'RIGHT', ['HEAD', 'RIGHT'], 'NEAR_BOUNDARY'],
    ['from 15', wind(15, 12), 'RIGHT', ['HEAD', 'RIGHT'], 'NEAR_BOUNDARY'],
    ['from 16', wind(16, 12), 'RIGHT', ['RIGHT'], 'ONE_SIDE'],
    ['from 170', wind(170, 12), 'RIGHT', ['RIGHT', 'TAIL'], 'NEAR_BOUNDARY'],
    ['from 171', wind(171, 12), 'TAIL', ['RIGHT', 'TAIL'], 'NEAR_BOUNDARY'],
    ['from 190', wind(190, 12), 'LEFT', ['TAIL', 'LEFT'], 'NEAR_BOUNDARY'],
    ['from 350', wind(350, 12), 'LEFT', ['HEAD', 'LEFT'], 'NEAR_BOUNDARY'],
    ['from 355', wind(355, 12), 'HEAD', ['HEAD', 'LEFT'], 'NEAR_BOUNDARY'],
    [
      'a range on one side, mean at its end',
      wind(100, 12, null, { from_deg: 60, to_deg: 100 }),
      'RIGHT',
      ['RIGHT'],
      'ONE_SIDE',
    ],
    [
      'a range on one side, mean at its beginning',
      wind(60, 12, null, { from_deg: 60, to_deg: 100 }),
      'RIGHT',
      ['RIGHT'],
      'ONE_SIDE',
    ],
    ['a mean before its range', wind(59, 12, null, { from_deg: 60, to_deg: 100 }), 'RIGHT', all, 'BOTH_SIDES'],
    ['a mean behind its range', wind(130, 12, null, { from_deg: 90, to_deg: 110 }), 'RIGHT', all, 'BOTH_SIDES'],
    ['half of a range', wind(59, 12, null, { from_deg: 60 }), 'RIGHT', all, 'BOTH_SIDES'],
  ] as const)('%s', (_, blowing, primary, sides, reason) => {
    const determinate = primary === 'CALM' || ['ONE_SIDE', 'NEAR_BOUNDARY'].includes(reason);
    expect(windSide({ wind: blowing, ...nose(0) })).toMatchObject({ primary, sides, reason, determinate });
  });

  test('it is turned with the nose', () => {
    expect(windSide({ wind: wind(90, 12, null, { from_deg: 60, to_deg: 100 }), ...nose(90) })).toMatchObject({
      primary: 'HEAD',
      sides: ['HEAD', 'RIGHT', 'LEFT'],
      relative_deg: 0,
    });
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

  test('the whole answer', () => {
    expect(judge(wind(0, 20, 30.5))).toEqual({
      verdict: 'WITHIN',
      quadrants: ['HEAD'],
      limit_kt: 40,
      wind_kt: 30.5,
      margin_kt: 9.5,
      reasons: [],
      display: { margin_kt: 9 },
    });
    expect(judge(null)).toEqual({
      verdict: 'UNKNOWN',
      quadrants: [],
      limit_kt: null,
      wind_kt: null,
      reasons: ['WIND_MISSING'],
    });
    for (const nothing of [wind(0, 10, null, { kind: 'missing' }), wind(0, 10, null, { speed_kt: null })])
      expect(judge(nothing)).toEqual(judge(null));
    expect(judge(wind(null, 0))).toEqual({
      verdict: 'WITHIN',
      quadrants: [],
      limit_kt: 20,
      wind_kt: 0,
      reasons: ['CALM'],
    });
  });

  test.each([
    [wind(0, 31), 'WITHIN', []],
    [wind(0, 32), 'CAUTION', ['NEAR_LIMIT']],
    [wind(0, 40), 'CAUTION', ['NEAR_LIMIT']],
    [wind(0, 41), 'EXCEEDS', ['SPEED_OVER_LIMIT']],
    [wind(0, 10, 25), 'WITHIN', []],
    [wind(0, 10, 26), 'EXCEEDS', ['GUST_SPREAD']],
    [wind(0, 33, null, { at_least: true }), 'EXCEEDS', ['AT_LEAST']],
    [wind(45, 10), 'WITHIN', ['MORE_THAN_ONE_QUADRANT']],
    [wind(0, 10, null, { from_deg: 90, to_deg: 100 }), 'WITHIN', ['MORE_THAN_ONE_QUADRANT']],
  ] as const)('%#: %s', (blowing, verdict, reasons) => {
    expect(judge(blowing)).toMatchObject({ verdict, reasons });
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
