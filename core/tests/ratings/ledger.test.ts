import { expect, test } from 'vitest';
import { type LedgerConfig, type LedgerEventType, RatingLedger, ratingLedger } from '@rouse/core/ratings';
import { attempt } from '@rouse/core/quantity';
import { references } from '../reference.ts';

const oei = references.REF2.rating_ledger['oei']!;
type Samples = [number, number | null][];

/** Straight stretches at 1 Hz through these corners. */
function through(...corners: [number, number][]): Samples {
  const out: Samples = [corners[0]!];
  for (let i = 1; i < corners.length; i++) {
    const [[t0, a], [t1, b]] = [corners[i - 1]!, corners[i]!];
    for (let t = Math.floor(t0) + 1; t < t1; t++) out.push([t, a + ((b - a) * (t - t0)) / (t1 - t0)]);
    out.push([t1, b]);
  }
  return out;
}

const of = (samples: Samples, config: LedgerConfig = oei): ReturnType<typeof ratingLedger> =>
  ratingLedger(config, samples);
const rating = (report: ReturnType<typeof ratingLedger>, id: string): (typeof report.ratings)[number] =>
  report.ratings.find((r) => r.id === id)!;

test('fed sample by sample it has the same balance at every moment as the record up to there', () => {
  const record = through(
    [0, 100],
    [5, 134],
    [20, 134],
    [21, 120],
    [30, 120],
    [32, 133],
    [61, 133],
    [62, 100],
    [80, 100],
  );
  const live = new RatingLedger(oei);
  live.start(record[0]![0], record[0]![1]!);
  for (let i = 1; i < record.length; i++) {
    live.line(record[i]![0], record[i]![1]!);
    const read = of(record.slice(0, i + 1));
    for (const balance of live.balances()) {
      const same = rating(read, balance.id);
      expect(balance.total_booked_s).toBeCloseTo(same.total_booked_s, 9);
      expect([balance.periods_charged, balance.periods_remaining]).toEqual([
        same.periods_charged,
        same.periods_remaining,
      ]);
      expect(balance.remaining_s).toBeCloseTo(same.remaining_s, 9);
    }
  }
});

test('finer samples of the same line book the same time to a millisecond', () => {
  const corners: [number, number][] = [
    [0, 100],
    [2, 138],
    [29, 131.5],
    [33, 117],
    [90, 119],
    [95, 90],
  ];
  const coarse = of(through(...corners));
  const fine: Samples = [];
  for (let i = 1; i < corners.length; i++)
    for (let t = corners[i - 1]![0]; t < corners[i]![0]; t += 0.02)
      fine.push([
        t,
        corners[i - 1]![1] +
          ((corners[i]![1] - corners[i - 1]![1]) * (t - corners[i - 1]![0])) / (corners[i]![0] - corners[i - 1]![0]),
      ]);
  fine.push(corners.at(-1)!);
  for (const { id, total_booked_s, periods } of of(fine).ratings) {
    expect(Math.abs(total_booked_s - rating(coarse, id).total_booked_s)).toBeLessThan(0.001);
    expect(periods.map((p) => [p.start, p.end])).toEqual(rating(coarse, id).periods.map((p) => [p.start, p.end]));
  }
});

test('a use of 31 s of a thirty-second rating costs two, and a fourth use is one too many', () => {
  const use = (from: number, s: number): [number, number][] => [
    [from, 100],
    [from + 0.001, 134],
    [from + s, 134],
    [from + s + 0.001, 100],
  ];
  const report = of(through([0, 100], ...use(10, 31), ...use(100, 10), ...use(200, 5), [300, 100]));
  const thirty = rating(report, 'OEI_30S');
  expect(thirty.periods.map((p) => p.charged)).toEqual([2, 1, 1]);
  expect(thirty.periods_remaining).toBe(0);
  expect(thirty.remaining_s).toBe(0);
  expect(report.events.filter((e) => e.rating === 'OEI_30S').map((e) => e.type)).toEqual([
    'PERIOD_START',
    'PERIOD_EXPIRED',
    'PERIOD_END',
    'PERIOD_START',
    'PERIOD_END',
    'PERIOD_START',
    'NO_PERIODS_LEFT',
    'PERIOD_END',
  ]);
});

test('exactly the whole period is permitted; what passes inside a swallowed dip is stamped at the re-entry', () => {
  // a gap is held at its higher side, so this use lasts the thirty seconds to the instant
  const exact = of([
    [0, 134],
    [30, 100],
  ]);
  expect(rating(exact, 'OEI_30S').periods[0]).toMatchObject({ booked_s: 30, estimated_s: 30, charged: 1 });
  expect(rating(exact, 'OEI_30S').periods[0]!.expired_at).toBeNull();
  const dip = of(
    [
      [0, 134],
      [28, 134],
      [28, 134],
      [28.001, 100],
      [31.999, 100],
      [32, 134],
      [33, 134],
    ],
    { ...oei, max_gap_s: 60 },
  );
  const [period] = rating(dip, 'OEI_30S').periods;
  expect(period).toMatchObject({ merged: 1, charged: 2 });
  expect(period!.expired_at).toBeCloseTo(32, 2);
});

test('power above the maximum is reported with its peak and area, and costs an inspection for good', () => {
  const report = of(through([0, 120], [10, 120], [11, 142], [13, 142], [14, 120], [20, 120]));
  expect(report.over).toHaveLength(1);
  expect(report.over[0]).toMatchObject({ peak: 142, open: false });
  expect(report.over[0]!.area).toBeCloseTo(4 * 2 + 4 * (4 / 22), 6);
  expect(report.events.filter((e) => e.type === 'OVER_MAXIMUM')).toHaveLength(1);
  expect(report.maintenance_required).toBe(true);
});

test('two gaps that meet at one sample hold from level to level, and the lone sample resets no clock', () => {
  const report = of([
    [0, 100],
    [1, 134],
    [10, 134],
    [16, 118],
    [22, 133],
    [23, 133],
    [24, 100],
    [30, 100],
  ]);
  const [period] = rating(report, 'OEI_30S').periods;
  expect(rating(report, 'OEI_30S').periods).toHaveLength(1);
  expect(period!.estimated_s).toBeGreaterThan(20);
});

test('a gap nobody can tell about is blind and booked nowhere; its length is said', () => {
  const report = of([
    [0, 80],
    [1, 80],
    [40, 82],
    [41, 82],
  ]);
  expect(report.blind_gap_s).toBe(39);
  expect(report.ratings.every((r) => r.total_booked_s === 0)).toBe(true);
});

test.each<[string, LedgerConfig, Samples, string]>([
  [
    'thresholds that fall',
    { ...oei, ratings: oei.ratings.toReversed() },
    [
      [0, 1],
      [1, 1],
    ],
    'BAD_CONFIG',
  ],
  [
    'a maximum below a threshold',
    { ...oei, absolute_max: 120 },
    [
      [0, 1],
      [1, 1],
    ],
    'BAD_CONFIG',
  ],
  [
    'time that goes back',
    oei,
    [
      [0, 1],
      [2, 1],
      [1, 1],
    ],
    'BAD_SERIES',
  ],
  [
    'one valid sample',
    oei,
    [
      [0, 1],
      [1, null],
    ],
    'INSUFFICIENT_DATA',
  ],
])('%s is refused', (_what, config, samples, code) => {
  expect(attempt(() => ratingLedger(config, samples))).toMatchObject({ error: code });
});

test('events come once each and in the order of their times', () => {
  const seen: [LedgerEventType, number][] = [];
  const ledger = new RatingLedger(oei, (type, t) => seen.push([type, t]));
  ledger.start(0, 100);
  for (let t = 1; t <= 200; t++) ledger.line(t, t % 60 < 40 ? 134 : 90);
  ledger.close();
  const report = of(
    Array.from({ length: 201 }, (_, t) => [t, t === 0 ? 100 : t % 60 < 40 ? 134 : 90] as [number, number]),
  );
  expect(seen.map(([type]) => type).toSorted()).toEqual(report.events.map((e) => e.type).toSorted());
  expect(report.events.map((e) => e.t)).toEqual(report.events.map((e) => e.t).toSorted((a, b) => a - b));
});
