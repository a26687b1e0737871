import { deflateRawSync } from 'node:zlib';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  chunkBody,
  chunkOf,
  decimate,
  decodeChunk,
  decodeChunks,
  encodeChunk,
  joinTraces,
  rowAt,
  type Trace,
} from '@rouse/core/trace';
import { flyPreset, skerry } from '../skerry.ts';

const resolutions = [0.01, 0.1, 1, 0.05, 0.2];
const channels = resolutions.map((_, i) => `c${i}`);

const traces = fc
  .array(
    fc.tuple(
      fc.integer({ min: 1, max: 5000 }),
      ...resolutions.map(() => fc.oneof(fc.integer({ min: -100_000, max: 100_000 }), fc.constant(null))),
    ),
    { maxLength: 60 },
  )
  .map((rows): Trace => {
    let ms = 0;
    return {
      channels,
      t_s: Float64Array.from(rows, ([dt]) => (ms += dt) / 1000),
      columns: resolutions.map((r, c) =>
        Float64Array.from(rows, (row) => (row[c + 1] == null ? NaN : row[c + 1]! / (1 / r))),
      ),
    };
  });

test('what was encoded is decoded, to the last invalid sample', () => {
  fc.assert(
    fc.property(traces, fc.constantFrom('small', 'quick', 'plain'), (trace, pack) => {
      const back = decodeChunk(encodeChunk(trace, resolutions, pack), channels);
      expect([...back.t_s]).toEqual([...trace.t_s]);
      trace.columns.forEach((column, c) => {
        column.forEach((v, i) => {
          const found = back.columns[c]![i]!;
          const room = resolutions[c]! * 1e-6 + Math.abs(v) * 1e-12;
          expect(Number.isNaN(v) ? Number.isNaN(found) : Math.abs(found - v) < room).toBe(true);
        });
      });
    }),
  );
});

test('chunks that follow each other are one trace, whoever deflated them', () => {
  fc.assert(
    fc.property(traces, fc.nat(), (trace, place) => {
      const cut = place % (trace.t_s.length + 1);
      const part = (from: number, to?: number): Trace => ({
        channels,
        t_s: trace.t_s.slice(from, to),
        columns: trace.columns.map((column) => column.slice(from, to)),
      });
      const [first, second] = [part(0, cut), part(cut)];
      const chunks = [
        encodeChunk(first, resolutions, 'plain'),
        chunkOf(deflateRawSync(chunkBody(second, resolutions))),
      ];
      expect(decodeChunks(chunks, channels)).toEqual(decodeChunk(encodeChunk(trace, resolutions), channels));
    }),
  );
  expect(decodeChunks([], channels).t_s).toHaveLength(0);
});

test('a whole flown run survives the codec exactly', () => {
  const { trace } = flyPreset('mild');
  const back = decodeChunk(
    encodeChunk(
      trace,
      skerry.channels.map((c) => c.resolution),
    ),
    trace.channels,
  );
  expect(back.t_s).toEqual(trace.t_s);
  trace.columns.forEach((column, c) => expect(back.columns[c]!.every((v, i) => v === column[i])).toBe(true));
});

test('damaged or foreign bytes are refused', () => {
  const bytes = encodeChunk(
    { channels, t_s: new Float64Array([1]), columns: channels.map(() => new Float64Array([1])) },
    resolutions,
  );
  expect(() => decodeChunk(bytes.slice(0, 8), channels)).toThrow(RangeError);
  expect(() => decodeChunk(new Uint8Array([1, 2, 3, 4, 5]), channels)).toThrow(/RTC1/);
  expect(() => decodeChunk(bytes, ['only-one'])).toThrow(/1 were expected/);
});

test('thinning keeps every extreme and the order of time', () => {
  const rows = 5000;
  const column = Float64Array.from({ length: rows }, (_, i) => Math.sin(i / 37) * 100);
  column[1234] = 777;
  column[4321] = -555;
  const trace: Trace = {
    channels: ['c'],
    t_s: Float64Array.from({ length: rows }, (_, i) => i / 50),
    columns: [column],
  };
  const thin = decimate(trace, 200);
  expect(thin.t_s.length).toBeLessThanOrEqual(200);
  expect(Math.max(...thin.columns[0]!)).toBe(777);
  expect(Math.min(...thin.columns[0]!)).toBe(-555);
  expect(thin.t_s.every((t, i) => i === 0 || t >= thin.t_s[i - 1]!)).toBe(true);
});

test('parts join in order, and a time finds its row', () => {
  const part = (from: number): Trace => ({
    channels: ['c'],
    t_s: new Float64Array([from, from + 1]),
    columns: [new Float64Array([from * 10, from * 10 + 1])],
  });
  const whole = joinTraces([part(0), part(2)], ['c']);
  expect([...whole.t_s]).toEqual([0, 1, 2, 3]);
  expect([...whole.columns[0]!]).toEqual([0, 1, 20, 21]);
  expect(rowAt(whole, 1.5)).toBe(2);
  expect(rowAt(whole, 9)).toBe(4);
});
