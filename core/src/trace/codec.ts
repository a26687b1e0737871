import { deflateSync, inflateSync } from 'fflate';
import type { Trace } from './columns.ts';

/**
 * The chunk codec `RTC1` (docs/formats.md): every column is rounded to its resolution, written as differences of
 * first or second order in zigzag varints, low bytes and high bytes apart, and the whole is deflated.
 */
const MAGIC = [0x52, 0x54, 0x43, 0x31];
const TIME_RESOLUTION_S = 0.001;
/** more steps than this are no reading: they could not be written, or read back, exactly */
const MOST_STEPS = 2 ** 50;
/** zigzag code 0 says: invalid sample; valid codes are shifted by one */
const INVALID = 0;

/** a place to write a number in, and read it out as bytes */
const FLOAT = ((bytes) => ({ bytes, view: new DataView(bytes.buffer) }))(new Uint8Array(8));
/** no varint of a code is longer */
const LONGEST_VARINT = 8;

/** Bytes that are written one behind the other; one of them serves every chunk, as they are written one at a time. */
class Bytes {
  private data = new Uint8Array(64 * 1024);
  private length = 0;

  begin(): void {
    this.length = 0;
  }

  byte(value: number): void {
    this.room(1);
    this.data[this.length++] = value;
  }

  varint(value: number): void {
    this.room(LONGEST_VARINT);
    this.length = writeVarint(this.data, this.length, value);
  }

  varints(values: Float64Array, count: number): void {
    this.room(count * LONGEST_VARINT);
    const { data } = this;
    let at = this.length;
    for (let i = 0; i < count; i++) {
      const value = values[i]!;
      if (value < 0x80) data[at++] = value;
      else at = writeVarint(data, at, value);
    }
    this.length = at;
  }

  f64(value: number): void {
    this.room(8);
    FLOAT.view.setFloat64(0, value, true);
    this.data.set(FLOAT.bytes, this.length);
    this.length += 8;
  }

  /** What was written, good until the next chunk is begun. */
  done(): Uint8Array {
    return this.data.subarray(0, this.length);
  }

  private room(bytes: number): void {
    if (this.length + bytes <= this.data.length) return;
    const wider = new Uint8Array(2 * (this.length + bytes));
    wider.set(this.data);
    this.data = wider;
  }
}

/** @returns the place behind it */
function writeVarint(data: Uint8Array, from: number, value: number): number {
  let at = from;
  let rest = value;
  while (rest >= 0x80) {
    data[at++] = (rest % 0x80) | 0x80;
    rest = Math.floor(rest / 0x80);
  }
  data[at++] = rest;
  return at;
}

class Reader {
  at = 0;
  private readonly data: Uint8Array;

  constructor(data: Uint8Array) {
    this.data = data;
  }

  byte(): number {
    const b = this.data[this.at++];
    if (b === undefined) throw new RangeError('the trace chunk ends too early');
    return b;
  }

  varint(): number {
    let value = 0;
    let scale = 1;
    for (;;) {
      const b = this.byte();
      value += (b & 0x7f) * scale;
      if (b < 0x80) return value;
      scale *= 0x80;
    }
  }

  f64(): number {
    for (let i = 0; i < 8; i++) FLOAT.bytes[i] = this.byte();
    return FLOAT.view.getFloat64(0, true);
  }
}

const zigzag = (n: number): number => (n >= 0 ? 2 * n : -2 * n - 1);
const unzigzag = (z: number): number => (z % 2 === 0 ? z / 2 : -(z + 1) / 2);

/** differences of first and second order of the column that is being written */
let first = new Float64Array(1024);
let second = new Float64Array(1024);

/**
 * Writes the differences of a column as shifted zigzag codes into `first` and `second`.
 * @returns the order that is shorter
 */
function difference(column: Float64Array, resolution: number): 1 | 2 {
  if (first.length < column.length) {
    first = new Float64Array(2 * column.length);
    second = new Float64Array(2 * column.length);
  }
  let last = 0;
  let slope = 0;
  let longer = 0;
  for (let i = 0; i < column.length; i++) {
    const q = Math.round(column[i]! / resolution);
    if (!(Math.abs(q) < MOST_STEPS)) {
      first[i] = second[i] = INVALID;
      continue;
    }
    const step = q - last;
    first[i] = 1 + zigzag(step);
    second[i] = 1 + zigzag(step - slope);
    longer += Math.abs(step - slope) - Math.abs(step);
    slope = step;
    last = q;
  }
  return longer < 0 ? 2 : 1;
}

const body = new Bytes();
const LEVEL = { small: 9, quick: 1, plain: 0 } as const;

/**
 * @param resolutions one step per channel; values are kept to the nearest multiple of it
 * @param pack `small` for what is kept, `quick` for what is read once, `plain` for what is read again in a moment: the same format
 */
export function encodeChunk(
  trace: Trace,
  resolutions: readonly number[],
  pack: keyof typeof LEVEL = 'small',
): Uint8Array {
  return chunkOf(deflateSync(writeColumns(trace, resolutions), { level: LEVEL[pack] }));
}

/** What a chunk deflates, for whoever has a quicker way to do that. @param resolutions as of `encodeChunk` */
export function chunkBody(trace: Trace, resolutions: readonly number[]): Uint8Array {
  return writeColumns(trace, resolutions).slice();
}

/** A chunk of a body that somebody else has deflated, raw: without the header of zlib. */
export function chunkOf(deflated: Uint8Array): Uint8Array {
  const out = new Uint8Array(MAGIC.length + deflated.length);
  out.set(MAGIC);
  out.set(deflated, MAGIC.length);
  return out;
}

/** @returns what is good until the next chunk is written */
function writeColumns(trace: Trace, resolutions: readonly number[]): Uint8Array {
  body.begin();
  body.varint(trace.t_s.length);
  body.varint(trace.columns.length);
  const write = (column: Float64Array, resolution: number): void => {
    const order = difference(column, resolution);
    body.f64(resolution);
    body.byte(order);
    body.varints(order === 1 ? first : second, column.length);
  };
  write(trace.t_s, TIME_RESOLUTION_S);
  trace.columns.forEach((column, i) => write(column, resolutions[i]!));
  return body.done();
}

/** @throws RangeError for bytes that are not an `RTC1` chunk of these channels */
export function decodeChunk(bytes: Uint8Array, channels: readonly string[]): Trace {
  return decodeChunks([bytes], channels);
}

/** Chunks of the same channels, one behind the other, as one trace. @throws as `decodeChunk` */
export function decodeChunks(chunks: readonly Uint8Array[], channels: readonly string[]): Trace {
  const opened = chunks.map((bytes) => open(bytes, channels.length));
  const rows = opened.reduce((sum, chunk) => sum + chunk.rows, 0);
  const t_s = new Float64Array(rows);
  const columns = channels.map(() => new Float64Array(rows));
  let at = 0;
  for (const chunk of opened) {
    const end = at + chunk.rows;
    readColumn(chunk.reader, t_s, at, end);
    for (const column of columns) readColumn(chunk.reader, column, at, end);
    at = end;
  }
  return { channels, t_s, columns };
}

/** @returns how many rows it has, and a reader that stands before its first column */
function open(bytes: Uint8Array, channels: number): { rows: number; reader: Reader } {
  if (MAGIC.some((b, i) => bytes[i] !== b)) throw new RangeError('not an RTC1 trace chunk');
  let reader: Reader;
  try {
    reader = new Reader(inflateSync(bytes.subarray(MAGIC.length)));
  } catch {
    throw new RangeError('the trace chunk is damaged');
  }
  const rows = reader.varint();
  const columns = reader.varint();
  if (columns !== channels) throw new RangeError(`the chunk has ${columns} channels, ${channels} were expected`);
  return { rows, reader };
}

/** Reads the next column into the rows `from` up to `to`. */
function readColumn(reader: Reader, into: Float64Array, from: number, to: number): void {
  const resolution = reader.f64();
  const order = reader.byte();
  const decimals = 1 / resolution;
  const exact = Math.abs(decimals - Math.round(decimals)) < 1e-6 ? Math.round(decimals) : 0;
  let last = 0;
  let slope = 0;
  for (let i = from; i < to; i++) {
    const code = reader.varint();
    if (code === INVALID) {
      into[i] = NaN;
      continue;
    }
    const d = unzigzag(code - 1);
    const step = order === 1 ? d : slope + d;
    last += step;
    slope = step;
    // dividing by a whole number gives the shortest decimal back; multiplying by 0.1 would not
    into[i] = exact ? last / exact : last * resolution;
  }
}
