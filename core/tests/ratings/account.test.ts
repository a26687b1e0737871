import { describe, expect, test } from 'vitest';
import { type LedgerConfig, ratingDefinition, ratingLedger, RatingLedger } from '@rouse/core/ratings';
import { attempt } from '@rouse/core/quantity';

const low = { id: 'low', lower: 100, period_s: 60, max_periods: 2, min_charge_s: 2, maintenance: false };
const high = { id: 'high', lower: 120, period_s: 30, max_periods: 2, min_charge_s: 0, maintenance: true };
const config: LedgerConfig = { ratings: [low, high], absolute_max: 140, hysteresis: 2, rearm_s: 5, max_gap_s: 2, higher_counts_in_lower: false }; // oxfmt-ignore

class Fed {
  readonly told: string[] = [];
  readonly ledger: RatingLedger;

  constructor(first: number, over: Partial<LedgerConfig> = {}) {
    this.ledger = new RatingLedger({ ...config, ...over }, (type, t, rating) =>
      this.told.push(`${Math.round(t * 100) / 100} ${type} ${rating ?? '-'}`),
    );
    this.ledger.start(0, first);
  }

  line(...corners: readonly (readonly [number, number])[]): this {
    for (const [t, v] of corners) this.ledger.line(t, v);
    return this;
  }

  gap(t_s: number, value: number): this {
    this.ledger.gap(t_s, value);
    return this;
  }

  of(id: string) {
    return this.ledger.balances().find((b) => b.id === id)!;
  }
}

/** Up to 130 at once at a time, and down to 90 at once after so many seconds. */
const use = (from: number, s: number): [number, number][] => [
  [from, 90],
  [from, 130],
  [from + s, 130],
  [from + s, 90],
];

describe('in and out', () => {
  test('the threshold itself is not in the rating; it is left a little below', () => {
    expect(new Fed(100).line([10, 100]).of('low')).toMatchObject({ total_booked_s: 0, periods: [] });
    const fed = new Fed(110).line([10, 110], [20, 98]);
    expect(fed.ledger.inUse).toBeNull();
    expect(fed.of('low').total_booked_s).toBe(20);
    expect(new Fed(110).line([10, 110], [20, 98.1]).ledger.inUse).toBe('low');
    expect(new Fed(110).ledger.started).toBe(true);
    expect(new RatingLedger(config).started).toBe(false);
    expect(new RatingLedger(config).inUse).toBeNull();
  });

  test('time in the higher one is its own, and opens no use of the lower', () => {
    const free = { ratings: [{ ...low, min_charge_s: 0 }, high] };
    const fed = new Fed(130, free).line([10, 130]);
    expect(fed.ledger.inUse).toBe('high');
    expect(fed.of('low')).toMatchObject({ periods: [], periods_charged: 0, periods_remaining: 2 });
    fed.line([10, 110], [15, 110]);
    expect(fed.of('low')).toMatchObject({ total_booked_s: 5, periods_charged: 1 });
    expect(fed.of('high')).toMatchObject({ total_booked_s: 10, periods_charged: 1 });
    const both = new Fed(130, { ...free, higher_counts_in_lower: true }).line([10, 130]);
    expect(both.of('low').total_booked_s).toBe(10);
  });
});

describe('one use or two', () => {
  test('what is taken up again within five seconds is the same use, and the time between is booked', () => {
    const fed = new Fed(90).line(...use(10, 5), ...use(19.9, 5));
    expect(fed.of('high')).toMatchObject({ periods_charged: 1, total_booked_s: expect.closeTo(14.9, 9) as number });
    expect(fed.of('high').periods).toMatchObject([{ start: 10, end: 24.9, merged: 1, open: false }]);
    expect(fed.told).toEqual(['10 PERIOD_START high']);
  });

  test('while it is taken up again, what is left of it runs', () => {
    const fed = new Fed(90).line(...use(10, 5), [18, 90], [18, 130], [20, 130]);
    expect(fed.of('high')).toMatchObject({ remaining_s: 20, periods: [{ open: true, booked_s: 10 }] });
  });

  test('after five seconds it is over, and is said to be, whether another follows or not', () => {
    const over = new Fed(90).line(...use(10, 5), [20, 90]);
    expect(over.told).toEqual(['10 PERIOD_START high', '15 PERIOD_END high']);
    expect(new Fed(90).line(...use(10, 5), [19.9, 90]).told).toEqual(['10 PERIOD_START high']);
    const again = over.line(...use(20, 5), [30, 90]);
    expect(again.told.slice(2)).toEqual(['20 PERIOD_START high', '25 PERIOD_END high']);
    expect(again.of('high')).toMatchObject({ periods_charged: 2, total_booked_s: 10 });
    expect(new Fed(90).line(...use(10, 5), ...use(20, 5)).of('high').periods).toHaveLength(2);
  });

  test('a ramp that passes through costs nothing, two seconds do', () => {
    const through = (s: number) =>
      new Fed(90).line([10, 90], [10, 110], [10 + s, 110], [10 + s, 90], [30, 90]).of('low');
    expect(through(1.9)).toMatchObject({ periods_charged: 0, periods_remaining: 2, remaining_s: 60 });
    expect(through(2)).toMatchObject({ periods_charged: 1, periods_remaining: 1, total_booked_s: 2 });
  });
});

test('two uses are permitted: the second runs, a third has nothing left', () => {
  const fed = new Fed(90).line(...use(10, 5), [100, 90], [100, 130], [110, 130]);
  expect(fed.of('high')).toMatchObject({ periods_remaining: 0, remaining_s: 20 });
  fed.line([110, 90], [200, 90]);
  expect(fed.of('high')).toMatchObject({ periods_remaining: 0, remaining_s: 0 });
  fed.line([200, 130], [201, 130]);
  expect(fed.of('high')).toMatchObject({ periods_charged: 3, periods_remaining: 0, remaining_s: 0 });
  expect(fed.told.filter((t) => t.includes('NO_PERIODS'))).toEqual(['200 NO_PERIODS_LEFT high']);
});

describe('holes', () => {
  test('the higher side is held, and what is behind it counts from its end', () => {
    const down = new Fed(130).gap(10, 90);
    expect(down.ledger.inUse).toBe('high');
    expect(down.line([11, 90]).ledger.inUse).toBeNull();
    expect(down.of('high')).toMatchObject({
      total_booked_s: 10,
      periods: [{ end: 10, estimated_s: 10, measured_s: 0 }],
    });
    expect(down.told[0]).toBe('0 GAP_ESTIMATED -');
    const up = new Fed(90).gap(10, 130);
    expect(up.ledger.inUse).toBe('high');
    expect(up.of('high')).toMatchObject({ total_booked_s: 10 });
    expect(up.ledger.blindGap_s).toBe(0);
  });

  test('one that is left to the lower rating goes on in it; within the hysteresis it goes on as it was', () => {
    const lower = new Fed(130).gap(10, 110).line([20, 110]);
    expect(lower.ledger.inUse).toBe('low');
    expect([lower.of('low').total_booked_s, lower.of('high').total_booked_s]).toEqual([10, 10]);
    expect(new Fed(130).gap(10, 118).line([11, 118]).ledger.inUse).toBe('low');
    expect(new Fed(130).gap(10, 118.1).line([11, 118.1]).ledger.inUse).toBe('high');
  });

  test('at the threshold nobody has seen a use', () => {
    const fed = new Fed(90).gap(10, 100);
    expect(fed.told).toEqual(['0 GAP_BLIND -']);
    expect(fed.ledger.blindGap_s).toBe(10);
  });
});

test('an inspection is due after a rating that costs one, or the maximum; never for less', () => {
  const due = (fed: Fed): boolean => fed.ledger.maintenanceRequired;
  expect(due(new Fed(110).line([10, 110]))).toBe(false);
  expect(due(new Fed(90).line(...use(10, 1)))).toBe(true);
  const mild = { ratings: [low, { ...high, maintenance: false }] };
  expect(due(new Fed(90, mild).line(...use(10, 1)))).toBe(false);
  const over = new Fed(130, mild).line([10, 130], [11, 150], [20, 150], [21, 130], [40, 130]);
  expect(due(over)).toBe(true);
  expect(over.ledger.overMaximum()).toHaveLength(1);
  expect(over.told.filter((t) => t.includes('OVER'))).toEqual(['10.5 OVER_MAXIMUM -']);
});

describe('what is no ledger', () => {
  test.each<[string, Partial<LedgerConfig> | Record<string, unknown>, string]>([
    ['no ratings', { ratings: [] }, 'ratings'],
    ['ratings that are none', { ratings: 'all' }, 'ratings'],
    ['a rating that is none', { ratings: [null] }, 'ratings.0'],
    ['a threshold that is none', { ratings: [{ ...low, lower: NaN }] }, 'ratings.0'],
    ['a use without a length', { ratings: [low, { ...high, period_s: 0 }] }, 'ratings.1'],
    ['two at one threshold', { ratings: [low, { ...high, lower: 100 }] }, 'ratings.1.lower'],
    ['a maximum at a threshold', { absolute_max: 120 }, 'absolute_max'],
    ['a hysteresis below nothing', { hysteresis: -1 }, 'hysteresis'],
    ['a rest that is none', { rearm_s: NaN }, 'rearm_s'],
    ['a gap below nothing', { max_gap_s: -0.1 }, 'max_gap_s'],
  ])('%s', (_, over, field) => {
    expect(attempt(() => new RatingLedger({ ...config, ...over } as LedgerConfig))).toEqual({ error: 'BAD_CONFIG', field }); // oxfmt-ignore
  });

  test('nothing of it may be nought but the rests', () => {
    expect(new RatingLedger({ ...config, hysteresis: 0, rearm_s: 0, max_gap_s: 0 }).started).toBe(false);
  });

  test.each([
    [undefined, 'MISSING'],
    ['none', 'MISSING'],
    [[[0, 1], 7, [2, 1]], 'BAD_SERIES'],
    [[[0, 1], [1, 'x']], 'NOT_A_NUMBER'],
  ])('samples %j', (samples, code) => {
    expect(attempt(() => ratingLedger(config, samples as never))).toEqual({ error: code, field: 'samples' });
  }); // oxfmt-ignore

  test('of two samples at one time the higher one counts', () => {
    const two = (a: number, b: number) => ratingLedger(config, [[0, 90], [1, 90], [1, a], [1, b], [2, 90]]).ratings; // oxfmt-ignore
    expect(two(130, 95)).toEqual(two(95, 130));
    expect(two(130, 95)[1]!.total_booked_s).toBeGreaterThan(0);
  });

  test('a record that ends with a hole ends the uses that are over behind it', () => {
    const read = (v: number) => ratingLedger(config, [[0, 130], [10, v]]); // oxfmt-ignore
    expect(read(90).ratings[1]!.periods).toMatchObject([{ end: 10, open: false, charged: 1 }]);
    expect(read(90).events.map((e) => e.type)).toEqual(['GAP_ESTIMATED', 'PERIOD_START', 'PERIOD_END']);
    expect(read(118.5).ratings[1]!.periods).toMatchObject([{ open: true }]);
    expect(read(118).ratings[1]!.periods).toMatchObject([{ open: false }]);
  });

  test('samples as far apart as they may be are a line', () => {
    const far = (s: number) => ratingLedger(config, [[0, 130], [s, 130]]).ratings[1]!.periods[0]; // oxfmt-ignore
    expect(far(2)).toMatchObject({ measured_s: 2, estimated_s: 0 });
    expect(far(2.1)).toMatchObject({ measured_s: 0, estimated_s: 2.1 });
  });
});

test('a rating by the regulation, or a word that is none', () => {
  expect(ratingDefinition('OEI_30S')).toEqual({ period_s: 30, max_periods_per_flight: 3, oei: true, mandatory_inspection: true }); // oxfmt-ignore
  for (const none of [undefined, null])
    expect(attempt(() => ratingDefinition(none as never))).toEqual({ error: 'MISSING', field: 'rating' });
  for (const none of ['OEI_45S', 'toString', ''])
    expect(attempt(() => ratingDefinition(none))).toEqual({ error: 'UNKNOWN_RATING', field: 'rating' });
});
