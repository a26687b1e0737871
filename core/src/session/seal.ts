import { digestOfBytes, type Entry } from '../procedure/index.ts';
import { joinTraces, rowAt, type Trace } from '../trace/index.ts';

const TIME_STEP_S = 0.001;
const LOST = -0x8000_0000;
const GREATEST = 0x7fff_ffff;
const HOST_IS_LITTLE_ENDIAN = new Uint8Array(Uint32Array.of(1).buffer)[0] === 1;

/** SHA-256 of recorded frames, hex; see `traceBytes`. */
export function traceDigest(trace: Trace, resolutions: readonly number[]): string {
  return digestOfBytes(traceBytes(trace, resolutions));
}

/**
 * Recorded frames as the bytes that are digested, the same before and after they went through the codec: every figure as
 * a whole number of its channel's steps, little-endian 32 bit, row by row with the milliseconds first; a lost reading is
 * the least number.
 * @param resolutions one step per channel
 */
export function traceBytes(trace: Trace, resolutions: readonly number[]): Uint8Array {
  const rows = trace.t_s.length;
  const columns = [trace.t_s, ...trace.columns];
  const width = columns.length;
  const numbers = new Int32Array(rows * width);
  for (let k = 0; k < width; k++) {
    const column = columns[k]!;
    const step = k === 0 ? TIME_STEP_S : resolutions[k - 1]!;
    for (let i = 0, at = k; i < rows; i++, at += width) {
      const v = column[i]!;
      numbers[at] = Number.isFinite(v) ? saturated(Math.round(v / step)) : LOST;
    }
  }
  return littleEndian(numbers);
}

const saturated = (q: number): number => (q > GREATEST ? GREATEST : q < -GREATEST ? -GREATEST : q);

function littleEndian(numbers: Int32Array): Uint8Array {
  const bytes = new Uint8Array(numbers.buffer);
  if (HOST_IS_LITTLE_ENDIAN) return bytes;
  const view = new DataView(numbers.buffer);
  numbers.forEach((n, i) => view.setInt32(4 * i, n, true));
  return bytes;
}

/** The rows of a trace after `after_s` and up to `to_s`. */
export function rowsBetween(trace: Trace, after_s: number, to_s: number): Trace {
  const [from, to] = [rowAt(trace, after_s + TIME_STEP_S / 2), rowAt(trace, to_s + TIME_STEP_S / 2)];
  return joinTraces(
    [
      {
        channels: trace.channels,
        t_s: trace.t_s.subarray(from, to),
        columns: trace.columns.map((c) => c.subarray(from, to)),
      },
    ],
    trace.channels,
  );
}

function checkThinned(
  { seq, frames, digest }: Extract<Entry, { kind: 'trace-thinned' }>,
  trace: Trace,
  resolutions: readonly number[],
): { seq: number; message: string } | null {
  if (trace.t_s.length !== frames)
    return { seq, message: `entry ${seq} left ${frames} rows of the trace, it has ${trace.t_s.length}` };
  return traceDigest(trace, resolutions) === digest
    ? null
    : { seq, message: `the rows of the trace are not those that entry ${seq} left` };
}

/**
 * Holds a trace against the digests in its journal: those under which it was recorded, or the one under which it was thinned.
 * @param closed a run that is closed has no frames behind its last digest
 * @returns what does not agree, or null
 */
export function checkSeals(
  entries: readonly Entry[],
  trace: Trace,
  resolutions: readonly number[],
  closed: boolean,
): { seq: number; message: string } | null {
  const thinned = entries.findLast((e) => e.kind === 'trace-thinned');
  if (thinned) return checkThinned(thinned, trace, resolutions);
  let after_s = -Infinity;
  for (const entry of entries) {
    if (entry.kind !== 'trace-sealed') continue;
    const rows = rowsBetween(trace, after_s, entry.to_s);
    if (rows.t_s.length !== entry.frames)
      return {
        seq: entry.seq,
        message: `entry ${entry.seq} seals ${entry.frames} frames, the trace has ${rows.t_s.length}`,
      };
    if (traceDigest(rows, resolutions) !== entry.digest)
      return {
        seq: entry.seq,
        message: `the frames up to ${entry.to_s} s are not those that entry ${entry.seq} sealed`,
      };
    after_s = entry.to_s;
  }
  const behind = trace.t_s.length - rowAt(trace, after_s + TIME_STEP_S / 2);
  return closed && behind > 0
    ? { seq: entries.length, message: `${behind} frames stand behind the last digest of the journal` }
    : null;
}
