import { describe, expect, test } from 'vitest';
import { RatingBooks, type RatingEvent, type RatingNow } from '@rouse/core/ratings';
import { typeOf } from '../fleet.ts';

const type = typeOf('H9');
/** nothing near a limit, the engines above their idle */
const QUIET = { 'tq.1': 60, 'tq.2': 60, 'tot.1': 500, 'tot.2': 500, 'ng.1': 90, 'ng.2': 90 };
type Reading = Partial<Record<keyof typeof QUIET, number>>;

class Flown {
  readonly events: RatingEvent[] = [];
  readonly books: RatingBooks;
  private readonly values = new Float64Array(type.channels.length).fill(NaN);

  constructor() {
    this.books = new RatingBooks(type, null, (e) => this.events.push(e));
  }

  at(t_s: number, reading: Reading = {}): this {
    for (const [id, v] of Object.entries({ ...QUIET, ...reading }))
      this.values[type.channels.findIndex((c) => c.id === id)] = v;
    this.books.step(t_s, this.values);
    return this;
  }

  /** Every second from one time to another. */
  from(t_s: number, to_s: number, reading: Reading = {}): this {
    for (let t = t_s; t <= to_s; t++) this.at(t, reading);
    return this;
  }

  now(ledger: string, engine: number, rating: string): RatingNow {
    return this.books.now().find((r) => r.ledger === ledger && r.engine === engine && r.rating === rating)!;
  }

  told(ledger: string): string[] {
    return this.events
      .filter((e) => e.ledger === ledger)
      .map((e) => `${e.t_s.toFixed(2)} ${e.engine} ${e.event} ${e.label}`);
  }
}

/** the other engine has failed */
const ALONE = { 'tq.2': 0 };

describe('one engine', () => {
  // the speed stands at 0.90 of its threshold; from there the level goes straight to the torque's 1.37: in at 1, out at 0.95
  const used = (): Flown =>
    new Flown()
      .from(0, 10, ALONE)
      .from(11, 21, { ...ALONE, 'tq.1': 120 })
      .from(22, 60, ALONE);

  test('a use as the book has it, while it lasts and after it', () => {
    const running = new Flown().from(0, 10, ALONE).from(11, 15, { ...ALONE, 'tq.1': 120 });
    expect(running.now('one-engine', 1, '2min')).toEqual({
      ledger: 'one-engine',
      engine: 1,
      rating: '2min',
      label: 'Two-minute power',
      inUse: true,
      booked_s: expect.closeTo(15 - 10.206, 2) as number,
      uses: 1,
      remaining_s: expect.closeTo(120 - (15 - 10.206), 2) as number,
      periods_remaining: 2,
      maintenance: true,
      inspection: 'Hot section looked at, oil and magnetic plugs checked, before the next flight',
      unseen_s: 0,
    });
    expect(used().now('one-engine', 1, '2min')).toMatchObject({
      inUse: false,
      booked_s: expect.closeTo(21.9 - 10.206, 2) as number,
      uses: 1,
      remaining_s: 120,
      periods_remaining: 2,
    });
    expect(used().now('one-engine', 1, '30s')).toMatchObject({
      booked_s: 0,
      uses: 0,
      maintenance: false,
      remaining_s: 30,
    });
    expect(used().now('one-engine', 2, '2min')).toMatchObject({ booked_s: 0, uses: 0 });
    expect(used().now('take-off', 1, 'take-off')).toMatchObject({
      booked_s: 0,
      inspection: null,
      periods_remaining: null,
    });
    expect(used().told('one-engine')).toEqual([
      '10.21 1 PERIOD_START Two-minute power',
      '21.90 1 PERIOD_END Two-minute power',
    ]);
    expect(used().told('take-off')).toEqual([]);
  });

  test('the higher rating takes the time to itself; above the last there is no rating at all', () => {
    const flown = new Flown().from(0, 10, ALONE).from(11, 20, { ...ALONE, 'tq.1': 135 });
    expect(flown.now('one-engine', 1, '30s')).toMatchObject({
      inUse: true,
      booked_s: expect.closeTo(20 - 10.746, 2) as number,
    });
    expect(flown.now('one-engine', 1, '2min')).toMatchObject({
      inUse: false,
      booked_s: expect.closeTo(0.68, 2) as number,
    });
    flown.from(21, 22, { ...ALONE, 'tq.1': 159.4 });
    expect(flown.told('one-engine').at(-1)).toBe('20.39 1 OVER_MAXIMUM One-engine power');
  });

  test.each([
    ['the torque', { 'tq.1': 121.9 }],
    ['the temperature', { 'tot.1': 803 }],
    ['the speed', { 'ng.1': 100.65 }],
  ])('%s alone tells of it, half of the way to the next', (_, reading) => {
    const flown = new Flown().from(0, 5, ALONE).from(6, 16, { ...ALONE, ...reading });
    // from 0.9032 to 1.5, as far as any of the three goes, it passes 1 after 0.162 s
    expect(flown.now('one-engine', 1, '2min')).toMatchObject({
      inUse: true,
      uses: 1,
      booked_s: expect.closeTo(10.838, 3) as number,
    });
    expect(flown.now('one-engine', 1, '30s').booked_s).toBe(0);
  });

  test.each([
    ['the torque', { 'tq.1': 114.4 }],
    ['the temperature', { 'tot.1': 784 }],
    ['the speed', { 'ng.1': 99.65 }],
  ])('%s at the threshold uses nothing yet', (_, reading) => {
    const flown = new Flown().from(0, 5, ALONE).from(6, 16, { ...ALONE, ...reading });
    expect(flown.now('one-engine', 1, '2min')).toMatchObject({ inUse: false, uses: 0, booked_s: 0 });
  });
});

describe('take-off power', () => {
  test('both engines have it, each in its own book', () => {
    const flown = new Flown().from(0, 10).from(11, 41, { 'tq.1': 85.4, 'tq.2': 85.4 });
    for (const engine of [1, 2])
      expect(flown.now('take-off', engine, 'take-off')).toMatchObject({
        inUse: true,
        booked_s: expect.closeTo(41 - 10.128, 1) as number,
        remaining_s: expect.closeTo(300 - (41 - 10.128), 1) as number,
        maintenance: false,
      });
    expect(flown.told('take-off')).toEqual([
      '10.13 1 PERIOD_START Take-off power',
      '10.13 2 PERIOD_START Take-off power',
    ]);
    expect(flown.now('one-engine', 1, '2min').booked_s).toBe(0);
  });

  test('it ends when the other engine gives nothing, and not before', () => {
    const weak = new Flown().from(0, 5, { 'tq.1': 85.4 }).from(6, 20, { 'tq.1': 85.4, 'tq.2': 3 });
    expect(weak.now('take-off', 1, 'take-off')).toMatchObject({ inUse: true, booked_s: 20 });
    const lost = new Flown().from(0, 5, { 'tq.1': 85.4 }).from(6, 20, { 'tq.1': 85.4, 'tq.2': 2.9 });
    expect(lost.now('take-off', 1, 'take-off')).toMatchObject({
      inUse: false,
      booked_s: expect.closeTo(6, 1) as number,
    });
  });

  test('an engine below its idle uses nothing, whatever its gauges show', () => {
    const [idle_pct] = type.startWatches.find((w) => w.engine === 1)!.idle_pct;
    const flown = (ng: number): RatingNow =>
      new Flown().from(0, 20, { 'tq.1': 85.4, 'ng.1': ng }).now('take-off', 1, 'take-off');
    expect(flown(0.9 * idle_pct - 0.1)).toMatchObject({ inUse: false, booked_s: 0 });
    expect(flown(0.9 * idle_pct)).toMatchObject({ inUse: true, booked_s: 20 });
  });
});

describe('what is not there', () => {
  test('two seconds without a frame are a line, more are a hole in which the higher side is held', () => {
    const at = (next_s: number): Flown =>
      new Flown()
        .at(0, ALONE)
        .at(1, ALONE)
        .at(next_s, { ...ALONE, 'tq.1': 121.9 });
    expect(at(3).told('one-engine')).toEqual(['1.32 1 PERIOD_START Two-minute power']);
    expect(at(3.5).told('one-engine')).toEqual([
      '1.00 1 GAP_ESTIMATED One-engine power',
      '1.00 1 PERIOD_START Two-minute power',
      '1.00 2 GAP_BLIND One-engine power',
    ]);
    expect(at(3.5).now('one-engine', 1, '2min').booked_s).toBe(2.5);
    expect(at(3.5).now('one-engine', 2, '2min').unseen_s).toBe(2.5);
  });

  test('time with a lost reading is in doubt, but for an engine that is slow and one that is over everything', () => {
    const unseen = (reading: Reading, engine = 1): number =>
      new Flown().from(0, 10).from(11, 20, reading).now('one-engine', engine, '2min').unseen_s;
    expect(unseen({ 'tot.1': NaN })).toBe(10);
    expect(unseen({ 'tot.1': NaN }, 2)).toBe(0);
    expect(unseen({ 'tot.1': NaN, 'ng.1': 30 })).toBe(0);
    expect(unseen({ 'tot.1': NaN, 'tq.1': 159.4 })).toBe(0);
    expect(unseen({ 'tot.1': NaN, 'tq.1': 144.4 })).toBe(10);
    // nothing tells of the engine: a hole, as long as it lasts
    const blind = new Flown().from(0, 10).from(11, 20, { 'tq.1': NaN, 'tot.1': NaN, 'ng.1': NaN }).at(21);
    expect(blind.now('one-engine', 1, '2min').unseen_s).toBe(11);
    expect(blind.told('one-engine')).toEqual(['10.00 1 GAP_BLIND One-engine power']);
  });

  test('a lost reading does not hide what another one tells', () => {
    for (const lost of ['tq.1', 'ng.1'] as const) {
      const flown = new Flown().from(0, 5, ALONE).from(6, 16, { ...ALONE, [lost]: NaN, 'tot.1': 803 });
      expect(flown.now('one-engine', 1, '2min')).toMatchObject({ inUse: true, uses: 1 });
    }
  });

  test('limits that come from the chart of the day are in no book until there is one', () => {
    const piston = typeOf('T2');
    expect(new RatingBooks(piston, null).now()).toEqual([]);
    const pressure = piston.channels.findIndex((c) => c.id === piston.ratings!.ledgers[0]!.measures[0]!.channels[0]);
    const booked = (inHg: number): number => {
      const books = new RatingBooks(piston, [24, 26]);
      const values = new Float64Array(piston.channels.length).fill(NaN);
      values[piston.channels.findIndex((c) => c.id === piston.startWatches[0]!.channels.speed)] = 100;
      values[pressure] = inHg;
      for (let t = 0; t <= 60; t++) books.step(t, values);
      return books.now()[0]!.booked_s;
    };
    expect(booked(24)).toBe(0);
    expect(booked(25)).toBe(60);
  });
});
