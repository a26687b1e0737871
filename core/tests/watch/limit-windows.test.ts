import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Trace } from '@rouse/core/trace';
import { BandMonitor, type BandTable } from '@rouse/core/watch';
import { LimitWindows } from '../../src/watch/limit-windows.ts';

const HIGH: BandTable = {
  direction: 'high',
  hysteresis: 2,
  bands: [
    { id: 'A', limit: 100, mode: 'cumulative', allow_s: 3 },
    { id: 'B', limit: 120, mode: 'continuous', allow_s: 1 },
  ],
};
const LOW: BandTable = {
  direction: 'low',
  hysteresis: 1,
  bands: [{ id: 'min', limit: 10, mode: 'continuous', allow_s: 2 }],
};

const traceOf = (values: readonly number[], step_s = 0.125): Trace => ({
  channels: ['one'],
  t_s: Float64Array.from(values, (_, i) => (i + 1) * step_s),
  columns: [Float64Array.from(values)],
});

describe('rows in which nothing can change', () => {
  /** What is looked for in the plainest way. */
  const plainly = (values: readonly number[], low: number, high: number, from: number, to: number): number => {
    for (let i = from; i < to; i++) if (!(values[i]! > low && values[i]! < high)) return i;
    return to;
  };
  const EDGES: readonly [number, number][] = [[-Infinity, 50], [20, Infinity], [20, 50], [-Infinity, Infinity]]; // oxfmt-ignore

  test.each(EDGES)('between %d and %d end at the first that touches an edge, or is not there, wherever it stands', (low, high) => {
    for (const odd of [20, 50, 10, 60, NaN])
      for (let at = 0; at < 26; at++)
        for (const [from, to] of [[0, 26], [3, 26], [at, 26], [0, at + 1], [1, 20]] as const) {
          const values = Array.from({ length: 26 }, (_, i) => (i === at ? odd : 35));
          const windows = new LimitWindows([], [{ index: 0, low, high }]);
          windows.step(NaN, 0, Float64Array.of(35));
          expect([odd, at, from, to, windows.quietUntil(traceOf(values), from, to)]).toEqual([odd, at, from, to, plainly(values, low, high, from, to)]);
        }
  }); // oxfmt-ignore

  test('of several channels end with the first of any; before a first frame there are none', () => {
    const guards = [0, 1].map((index) => ({ index, low: 20, high: 50 }));
    const trace: Trace = { ...traceOf(Array.from({ length: 20 }, () => 35)), channels: ['one', 'two'] };
    const columns = [trace.columns[0]!, trace.columns[0]!.slice()];
    columns[0]![9] = 60;
    columns[1]![6] = 60;
    const windows = new LimitWindows([], guards);
    expect(windows.quietUntil({ ...trace, columns }, 0, 20)).toBe(0);
    windows.step(NaN, 0, Float64Array.of(35, 35));
    expect(windows.quietUntil({ ...trace, columns }, 0, 20)).toBe(6);
    expect(windows.quietUntil({ ...trace, columns }, 7, 20)).toBe(9);
  });

  test('the closest of several guards of one channel count', () => {
    const windows = new LimitWindows([], [{ index: 0, low: 10, high: 50 }, { index: 0, low: 20, high: 90 }]); // oxfmt-ignore
    windows.step(NaN, 0, Float64Array.of(35));
    expect(windows.quietUntil(traceOf([35, 15, 35]), 0, 3)).toBe(1);
    expect(windows.quietUntil(traceOf([35, 35, 51]), 0, 3)).toBe(2);
  });

  test('reach to the next edge of a band, and not beyond the time when one is used up', () => {
    const monitor = new BandMonitor(HIGH, () => undefined);
    const windows = new LimitWindows([{ index: 0, monitor }], []);
    windows.step(NaN, 0, Float64Array.of(90));
    expect(windows.quietUntil(traceOf([99, 99, 100]), 0, 3)).toBe(2);
    windows.step(0, 0.125, Float64Array.of(110));
    const stays = traceOf(Array.from({ length: 40 }, () => 110));
    // entered at 0.0625 s, used up three seconds later: rows up to 3 s may be skipped, further ones need a look
    expect(windows.quietUntil(stays, 2, 24)).toBe(24);
    expect(windows.quietUntil(stays, 2, 25)).toBe(2);
    expect(windows.quietUntil(traceOf([110, 119, 121]), 0, 3)).toBe(2);
    expect(windows.quietUntil(traceOf([110, 98.5, 98]), 0, 3)).toBe(2);
  });
});

describe('limits that are asked only when they must be', () => {
  /** The monitors of one channel, asked at every sample. */
  const seen = (tables: readonly BandTable[]): { monitors: BandMonitor[]; events: string[] } => {
    const events: string[] = [];
    const monitors = tables.map(
      (table) =>
        new BandMonitor(table, (event, band, t_s, { peak, area }) =>
          events.push(`${t_s.toFixed(6)} ${event} ${band.id} ${peak.toFixed(6)} ${area.toFixed(6)}`),
        ),
    );
    return { monitors, events };
  };
  const value = fc.oneof(fc.double({ min: 5, max: 130, noNaN: true }), fc.constant(NaN));
  const samples = fc.array(fc.tuple(fc.constantFrom(0.125, 0.5, 1.5, 3), value), { minLength: 2, maxLength: 40 });

  test('report what they would if they were asked at every sample, holes and lost readings included', () => {
    fc.assert(
      fc.property(samples, (rows) => {
        const spared = seen([HIGH, LOW]);
        const windows = new LimitWindows(spared.monitors.map((monitor) => ({ index: 0, monitor })), []);
        const asked = seen([HIGH, LOW]);
        let t_s = 0;
        let before_s = NaN;
        let good_s = NaN;
        for (const [dt_s, v] of rows) {
          t_s += dt_s;
          windows.step(before_s, t_s, Float64Array.of(v));
          before_s = t_s;
          if (Number.isNaN(v)) continue;
          for (const monitor of asked.monitors)
            if (Number.isNaN(good_s)) monitor.start(t_s, v);
            else if (t_s - good_s > 2) {
              // the worse of both is held over a gap
              monitor.jump(monitor.worse(monitor.value, v));
              monitor.hold(t_s);
              monitor.jump(v);
            } else monitor.line(t_s, v);
          good_s = t_s;
        }
        windows.end(t_s);
        for (const { monitors } of [spared, asked]) for (const monitor of monitors) if (monitor.started) monitor.close(good_s);
        expect(spared.events).toEqual(asked.events);
      }),
      { numRuns: 400 },
    );
  }); // oxfmt-ignore

  test('know at the end of a phase the last reading that they were spared', () => {
    const { monitors, events } = seen([HIGH]);
    const windows = new LimitWindows([{ index: 0, monitor: monitors[0]! }], []);
    windows.step(NaN, 0, Float64Array.of(50));
    windows.step(0, 1, Float64Array.of(80));
    windows.step(1, 1.5, Float64Array.of(90));
    windows.end(1.5);
    expect([monitors[0]!.t_s, monitors[0]!.value]).toEqual([1.5, 90]);
    expect(events).toEqual([]);
  });

  test('rows that were skipped inside of a band count as time in it', () => {
    const { monitors } = seen([HIGH]);
    const windows = new LimitWindows([{ index: 0, monitor: monitors[0]! }], []);
    windows.step(NaN, 0, Float64Array.of(90));
    windows.step(0, 1, Float64Array.of(110));
    const trace = traceOf(Array.from({ length: 24 }, () => 110));
    windows.skip(trace, 8, 16);
    expect(monitors[0]!.usage('A').used_s).toBeCloseTo(1.5, 9); // half of the first second, and the eight rows
    windows.step(2, 2.125, Float64Array.of(90));
    expect(monitors[0]!.active).toBe(false);
  });

  test('a phase that begins anew looks at every channel once', () => {
    const { monitors, events } = seen([HIGH]);
    const windows = new LimitWindows([{ index: 0, monitor: monitors[0]! }], []);
    windows.step(NaN, 0, Float64Array.of(50));
    monitors[0]!.close(0);
    windows.begin();
    windows.step(0, 1, Float64Array.of(110));
    expect(events).toEqual(['1.000000 ENTER A 110.000000 0.000000']);
  });
});
