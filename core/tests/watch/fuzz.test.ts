import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { needWatched, type WatchedType } from '@rouse/core/aircraft';
import { flyPractice } from '@rouse/core/drill';
import { conditionsOf } from '@rouse/core/simulator';
import type { Trace } from '@rouse/core/trace';
import { snapshotOf, Watch, type WatchEvent } from '@rouse/core/watch';
import { fleet } from '../fleet.ts';
import { tries } from '../whole.ts';

/** What a unit can do to its frames from row `at` on, for so many rows. */
type Damage = {
  at: number;
  rows: number;
  channel: number;
  kind: 'nan' | 'jump' | 'stuck' | 'drop' | 'repeat' | 'back';
  by: number;
};

type Done = Extract<WatchEvent, { kind: 'start-done' }>;

/** Every start of a whole run on a mild day, as a unit sends it. */
function flown(type: WatchedType): Trace {
  const mild = type.standIn.find((p) => p.id === 'mild')!;
  return flyPractice({ type, conditions: conditionsOf(type, mild), faults: [], corridors: {}, seed: 5, limit_s: 1200 })
    .trace;
}

/** What the watch says of the trace with damage done to it on the way. */
function watched(type: WatchedType, { t_s, columns }: Trace, damages: readonly Damage[]): WatchEvent[] {
  const events: WatchEvent[] = [];
  const watch = new Watch(type, {}, (e) => events.push(e));
  const values = new Float64Array(columns.length);
  for (let i = 0; i < t_s.length; i++) {
    for (let c = 0; c < columns.length; c++) values[c] = columns[c]![i]!;
    let times = 1;
    let back_s = 0;
    for (const d of damages) {
      if (i < d.at || i >= d.at + d.rows) continue;
      if (d.kind === 'nan') values[d.channel] = NaN;
      if (d.kind === 'jump') values[d.channel]! += d.by;
      if (d.kind === 'stuck') values[d.channel] = columns[d.channel]![d.at]!;
      if (d.kind === 'drop') times = 0;
      if (d.kind === 'repeat') times = 2;
      if (d.kind === 'back' && i === d.at) back_s = Math.abs(d.by % 5);
    }
    for (let k = 0; k < times; k++) watch.step(t_s[i]!, values);
    if (back_s > 0) watch.step(t_s[i]! - back_s, values);
    if (i % 10 === 0) snapshotOf(watch, type);
  }
  return events;
}

const done = (events: readonly WatchEvent[]): string[] =>
  events.flatMap((e) => (e.kind === 'start-done' ? [e.watch] : []));

describe.each(fleet.map((t) => t.id))('%s', (id) => {
  const type = needWatched(fleet.find((t) => t.id === id)!);
  let trace: Trace;
  let clean: WatchEvent[];
  beforeAll(() => {
    trace = flown(type);
    clean = watched(type, trace, []);
  });
  const rowAfter = (watch: string, state: string): number => {
    const event = clean.find((e) => e.kind === 'state' && e.watch === watch && e.state === state);
    return trace.t_s.findIndex((t) => t > event!.t_s);
  };
  const places = fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true });

  test('undamaged, every start is good', () => {
    expect(done(clean).toSorted()).toEqual(type.startWatches.map((w) => w.id).toSorted());
  });

  test('whatever a unit sends, the watch does not throw, and its words have no nonsense in them', () => {
    const damage = fc.record({
      at: places.map((part) => Math.floor(part * trace.t_s.length)),
      rows: fc.integer({ min: 1, max: 400 }),
      channel: fc.nat(type.channels.length - 1),
      kind: fc.constantFrom<Damage['kind']>('nan', 'jump', 'stuck', 'drop', 'repeat', 'back'),
      by: fc.double({ min: -1e6, max: 1e6, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(damage, { minLength: 1, maxLength: 10 }), (damages) => {
        for (const event of watched(type, trace, damages)) {
          if (event.kind !== 'cue' && event.kind !== 'abort') continue;
          expect(`${event.text} ${event.say}`).not.toMatch(/NaN|undefined|Infinity/);
        }
      }),
      { numRuns: tries(20) },
    );
  });

  test('a start that nobody could see is never called good', () => {
    for (const spec of type.startWatches) {
      const judged =
        spec.kind === 'turbine'
          ? [spec.channels.speed, spec.channels.temperature]
          : [spec.channels.speed, spec.channels.oilPressure];
      for (const channel of judged) {
        const lost: Damage = {
          at: rowAfter(spec.id, 'cranking'),
          rows: Infinity,
          channel: type.channels.findIndex((c) => c.id === channel),
          kind: 'nan',
          by: 0,
        };
        const events = watched(type, trace, [lost]);
        expect(done(events), channel).not.toContain(spec.id);
        expect(
          events.some((e) => e.kind === 'abort' || (e.kind === 'cue' && e.severity !== 'call')),
          channel,
        ).toBe(true);
      }
    }
  });

  test('a reading that is lost for one frame erases no extreme, wherever the hole is', () => {
    const column = (channel: string): number => type.channels.findIndex((c) => c.id === channel);
    for (const spec of type.startWatches) {
      const doneOf = (events: readonly WatchEvent[]): Done =>
        events.find((e): e is Done => e.kind === 'start-done' && e.watch === spec.id)!;
      const whole = doneOf(clean).record;
      const from = trace.t_s.findIndex((t) => t >= whole.starterAt_s);
      const to = trace.t_s.findIndex((t) => t >= whole.idleAt_s);
      const lowest = trace.columns[column(spec.channels.volts)]!.indexOf(whole.voltsMin_V, from);
      const hottest = trace.t_s.indexOf(whole.peakAt_s);
      // at the extreme, just before and after it, and anywhere
      const holes = [lowest, hottest].flatMap((i) => (i < 0 ? [] : [i - 1, i, i + 1]));
      for (let k = 1; k < 8; k++) holes.push(from + Math.floor((k / 8) * (to - from)));
      const highest = spec.kind === 'turbine' ? spec.channels.temperature : spec.channels.speed;
      const lost = new Set([spec.channels.volts, highest, spec.starter.channel]);
      for (const at of holes) {
        const damages = [...lost].map((c): Damage => ({ at, rows: 1, channel: column(c), kind: 'nan', by: 0 }));
        const { t_s: end_s, record } = doneOf(watched(type, trace, damages));
        const readings = (channel: string, first_s: number): number[] =>
          [...trace.columns[column(channel)]!].filter(
            (_, i) => i !== at && trace.t_s[i]! >= first_s && trace.t_s[i]! <= end_s,
          );
        expect(record.voltsMin_V).toBe(Math.min(...readings(spec.channels.volts, whole.starterAt_s)));
        const [seen, from_s] =
          spec.kind === 'turbine' ? [record.peak_C, whole.fuelAt_s] : [record.speedMax_pct, whole.starterAt_s];
        expect(seen).toBe(Math.max(...readings(highest, from_s)));
      }
    }
  });

  test('frames that come twice, or late, change nothing that was judged', () => {
    const kinds = (events: readonly WatchEvent[]): string[] =>
      events.flatMap((e) => (e.kind === 'state' ? [e.state] : e.kind === 'abort' ? [e.reason] : []));
    const again = fc.record({
      at: places.map((part) => Math.floor(part * trace.t_s.length)),
      rows: fc.integer({ min: 1, max: 50 }),
      channel: fc.constant(0),
      kind: fc.constantFrom<Damage['kind']>('repeat', 'back'),
      by: fc.constant(0.02),
    });
    fc.assert(
      fc.property(fc.array(again, { minLength: 1, maxLength: 8 }), (damages) => {
        expect(kinds(watched(type, trace, damages))).toEqual(kinds(clean));
      }),
      { numRuns: tries(10) },
    );
  });
});
