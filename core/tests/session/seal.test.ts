import { describe, expect, test } from 'vitest';
import type { Entry, Payload } from '@rouse/core/procedure';
import { checkSeals, rowsBetween, traceBytes, traceDigest } from '@rouse/core/session';
import { thin, type Trace } from '@rouse/core/trace';
import { journalOf } from '../skerry.ts';

const STEPS = [0.1, 1];
const trace = (t_s: number[], ...columns: number[][]): Trace => ({
  channels: ['a', 'b'],
  t_s: Float64Array.from(t_s),
  columns: columns.map((c) => Float64Array.from(c)),
});
/** a row a tenth of a second */
const whole = trace(
  Array.from({ length: 100 }, (_, i) => i / 10),
  Array.from({ length: 100 }, (_, i) => i * 0.1),
  Array.from({ length: 100 }, (_, i) => 100 - i),
);
const written = (...payloads: Payload[]): Entry[] => journalOf(payloads.map((payload) => ({ t_s: 0, by: 'watch', payload }))); // oxfmt-ignore
const sealOf = (after_s: number, to_s: number): Payload => {
  const rows = rowsBetween(whole, after_s, to_s);
  return { kind: 'trace-sealed', to_s, frames: rows.t_s.length, digest: traceDigest(rows, STEPS) };
};

describe('the bytes that are digested', () => {
  test('are milliseconds and whole steps, row by row, little-endian', () => {
    const bytes = new DataView(traceBytes(trace([0.25, 1], [1.26, -3], [7.4, 8]), STEPS).buffer);
    expect(bytes.byteLength).toBe(24);
    expect(Array.from({ length: 6 }, (_, i) => bytes.getInt32(4 * i, true))).toEqual([250, 13, 7, 1000, -30, 8]);
  });

  test('a lost reading is the least number, which no reading is; what is too large is the largest', () => {
    const bytes = new DataView(
      traceBytes(trace([0, 1, 2], [NaN, 1e12, -1e12], [Infinity, -Infinity, 0]), STEPS).buffer,
    );
    const [lost, most, least] = [-0x8000_0000, 0x7fff_ffff, -0x7fff_ffff];
    expect(Array.from({ length: 9 }, (_, i) => bytes.getInt32(4 * i, true))).toEqual([0, lost, lost, 1000, most, lost, 2000, least, 0]); // oxfmt-ignore
  });
});

test('rows between two moments: after the first, up to and with the second, to the millisecond', () => {
  const rows = rowsBetween(whole, 1, 2);
  expect([rows.t_s[0], rows.t_s.at(-1), rows.t_s.length]).toEqual([1.1, 2, 10]);
  expect([rows.columns[0]![0], rows.columns[1]!.at(-1)]).toEqual([11 * 0.1, 80]);
  expect(rowsBetween(whole, 1 - 4e-4, 2 - 4e-4).t_s).toEqual(rows.t_s);
  expect(rowsBetween(whole, 1 - 6e-4, 2 - 6e-4).t_s).toEqual(rowsBetween(whole, 0.9, 1.9).t_s);
  expect(rowsBetween(whole, -Infinity, Infinity).t_s).toEqual(whole.t_s);
});

describe('a trace is held against the digests of its journal', () => {
  const both = written(sealOf(-Infinity, 4), { kind: 'phase', phase: 'start' }, sealOf(4, 9.9));

  test('each covers what stands between it and the one before', () => {
    expect(checkSeals(both, whole, STEPS, true)).toBeNull();
    expect(checkSeals(written(sealOf(-Infinity, 4), sealOf(3.9, 9.9)), whole, STEPS, true)).toEqual({
      seq: 2,
      message: 'entry 2 seals 60 frames, the trace has 59',
    });
    const changed = { ...whole, columns: [whole.columns[0]!.map((v, i) => (i === 70 ? v + 1 : v)), whole.columns[1]!] };
    expect(checkSeals(both, changed, STEPS, true)).toEqual({
      seq: 3,
      message: 'the frames up to 9.9 s are not those that entry 3 sealed',
    });
  });

  test('frames behind the last digest are allowed while the run is open alone', () => {
    const first = written(sealOf(-Infinity, 4));
    expect(checkSeals(first, whole, STEPS, false)).toBeNull();
    expect(checkSeals(first, whole, STEPS, true)).toEqual({
      seq: 1,
      message: '59 frames stand behind the last digest of the journal',
    });
    expect(checkSeals([], trace([], [], []), STEPS, true)).toBeNull();
  });

  test('thinned once, it is held against the digest of what was left, by number and by content', () => {
    const left = thin(whole, 2, [[3, 5]]);
    const entries = [...both, ...journalOf([{ t_s: 0, by: 'watch', payload: { kind: 'trace-thinned', perSecond: 2, whole: [[3, 5]], frames: left.t_s.length, digest: traceDigest(left, STEPS) } }], both.at(-1))]; // oxfmt-ignore
    expect(left.t_s.length).toBeLessThan(whole.t_s.length);
    expect(checkSeals(entries, left, STEPS, true)).toBeNull();
    expect(checkSeals(entries, whole, STEPS, true)).toEqual({
      seq: 4,
      message: `entry 4 left ${left.t_s.length} rows of the trace, it has 100`,
    });
    const changed = { ...left, columns: [left.columns[0]!.map((v) => v + 1), left.columns[1]!] };
    expect(checkSeals(entries, changed, STEPS, true)).toEqual({
      seq: 4,
      message: 'the rows of the trace are not those that entry 4 left',
    });
  });
});
