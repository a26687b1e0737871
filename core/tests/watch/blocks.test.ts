import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { needWatched, type WatchedType } from '@rouse/core/aircraft';
import { flyPractice } from '@rouse/core/drill';
import { conditionsOf } from '@rouse/core/simulator';
import type { Trace } from '@rouse/core/trace';
import { Watch, type WatchEvent } from '@rouse/core/watch';
import { fleet } from '../fleet.ts';
import { tries } from '../whole.ts';

/** A whole run: every start, the run-up, the hover where it is flown, the way back to a quiet aircraft. */
function passage(type: WatchedType): Trace {
  const mild = type.standIn.find((p) => p.id === 'mild')!;
  return flyPractice({
    type,
    conditions: conditionsOf(type, mild),
    faults: [],
    corridors: {},
    seed: 8,
    limit_s: 2400,
    through: 'shut-down',
  }).trace;
}

function inBlocks(type: WatchedType, trace: Trace): WatchEvent[] {
  const events: WatchEvent[] = [];
  const watch = new Watch(type, {}, (e) => events.push(e));
  watch.replay(trace);
  watch.finish(trace.t_s.at(-1)!);
  return events;
}

function byFrames(type: WatchedType, { t_s, columns }: Trace): WatchEvent[] {
  const events: WatchEvent[] = [];
  const watch = new Watch(type, {}, (e) => events.push(e));
  const values = new Float64Array(columns.length);
  for (let i = 0; i < t_s.length; i++) {
    for (let c = 0; c < columns.length; c++) values[c] = columns[c]![i]!;
    watch.step(t_s[i]!, values);
  }
  watch.finish(t_s.at(-1)!);
  return events;
}

const HARM = fc.constantFrom('lost', 'jumps', 'stands', 'ramps');
interface Harm {
  at: number;
  rows: number;
  channel: number;
  how: 'lost' | 'jumps' | 'stands' | 'ramps';
  by: number;
}

/** The trace as a poor line brings it: readings that are lost, leap, stand or drift, and rows that never came. */
function harmed(trace: Trace, harms: readonly Harm[], dropped: readonly [number, number][]): Trace {
  const columns = trace.columns.map((c) => c.slice());
  for (const { at, rows, channel, how, by } of harms) {
    const column = columns[channel]!;
    for (let i = at; i < Math.min(at + rows, column.length); i++) {
      if (how === 'lost') column[i] = NaN;
      else if (how === 'jumps') column[i]! += by;
      else if (how === 'stands') column[i] = column[at]!;
      else column[i]! += (by * (i - at)) / rows;
    }
  }
  const gone = new Uint8Array(trace.t_s.length);
  for (const [from, n] of dropped) gone.fill(1, from, from + n);
  const keep = [...trace.t_s.keys()].filter((i) => gone[i] === 0);
  return {
    ...trace,
    t_s: Float64Array.from(keep, (i) => trace.t_s[i]!),
    columns: columns.map((column) => Float64Array.from(keep, (i) => column[i]!)),
  };
}

describe.each(fleet.map((t) => t.id))('%s in blocks and frame by frame', (id) => {
  const type = needWatched(fleet.find((t) => t.id === id)!);
  const trace = passage(type);
  const row = fc
    .double({ min: 0, max: 1, maxExcluded: true, noNaN: true })
    .map((p) => Math.floor(p * trace.t_s.length));
  const harms = fc.array(
    fc.record({
      at: row,
      rows: fc.integer({ min: 1, max: 3000 }),
      channel: fc.nat(type.channels.length - 1),
      how: HARM,
      by: fc.double({ min: -400, max: 400, noNaN: true }),
    }),
    { maxLength: 8 },
  );
  const dropped = fc.array(fc.tuple(row, fc.integer({ min: 1, max: 2000 })), { maxLength: 4 });

  test('the whole passage says something, and the same', () => {
    const events = byFrames(type, trace);
    expect(events.filter((e) => e.kind === 'start-done')).toHaveLength(type.startWatches.length);
    expect(inBlocks(type, trace)).toEqual(events);
  });

  test('with readings that are lost, leap, stand or drift, and rows that never came: the same, event by event', () => {
    fc.assert(
      fc.property(harms, dropped, (h, d) => {
        const poor = harmed(trace, h, d);
        expect(inBlocks(type, poor)).toEqual(byFrames(type, poor));
      }),
      { numRuns: tries(12) },
    );
  });

  test('after a restart, wherever the record begins again', () => {
    fc.assert(
      fc.property(row, harms, (from, h) => {
        const poor = harmed(trace, h, [[0, from]]);
        fc.pre(poor.t_s.length > 0);
        expect(inBlocks(type, poor)).toEqual(byFrames(type, poor));
      }),
      { numRuns: tries(8) },
    );
  });
});
