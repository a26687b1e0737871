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

class Bytes {
  data = new Uint8Array(1024);
  length = 0;

  byte(value: number): void {
    if (this.length === this.data.length) {
      const wider = new Uint8Array(this.data.length * 2);
      wider.set(this.data);
      this.data = wider;
    }
    this.data[this.length++] = value;
  }

  varint(value: number): void {
    while (value >= 0x80) {
      this.byte((value % 0x80) | 0x80);
      value = Math.floor(value / 0x80);
    }
    this.byte(value);
  }

  f64(value: number): void {
    FLOAT.view.setFloat64(0, value, true);
    for (let i = 0; i < 8; i++) this.byte(FLOAT.bytes[i]!);
  }

  done(): Uint8Array {
    return this.data.slice(0, this.length);
  }
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

/** Differences of order 1 or 2 as shifted zigzag codes. */
function codes(column: Float64Array, resolution: number, order: 1 | 2): Float64Array {
  const out = new Float64Array(column.length);
  let last = 0;
  let slope = 0;
  for (let i = 0; i < column.length; i++) {
    const v = column[i]!;
    const q = Math.round(v / resolution);
    if (!(Math.abs(q) < MOST_STEPS)) {
      out[i] = INVALID;
      continue;
    }
    const step = q - last;
    out[i] = 1 + zigzag(order === 1 ? step : step - slope);
    slope = step;
    last = q;
  }
  return out;
}

function cost(values: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += Math.log2(values[i]! + 1);
  return sum;
}

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
  const body = new Bytes();
  body.varint(trace.t_s.length);
  body.varint(trace.columns.length);
  const write = (column: Float64Array, resolution: number): void => {
    const first = codes(column, resolution, 1);
    const second = pack === 'plain' ? null : codes(column, resolution, 2);
    const chosen = second && cost(second) < cost(first) ? second : first;
    body.f64(resolution);
    body.byte(chosen === second ? 2 : 1);
    for (let i = 0; i < chosen.length; i++) body.varint(chosen[i]!);
  };
  write(trace.t_s, TIME_RESOLUTION_S);
  trace.columns.forEach((column, i) => write(column, resolutions[i]!));
  const packed = deflateSync(body.done(), { level: LEVEL[pack] });
  const out = new Uint8Array(MAGIC.length + packed.length);
  out.set(MAGIC);
  out.set(packed, MAGIC.length);
  return out;
}

/** @throws RangeError for bytes that are not an `RTC1` chunk of these channels */
export function decodeChunk(bytes: Uint8Array, channels: readonly string[]): Trace {
  if (MAGIC.some((b, i) => bytes[i] !== b)) throw new RangeError('not an RTC1 trace chunk');
  let body: Uint8Array;
  try {
    body = inflateSync(bytes.subarray(MAGIC.length));
  } catch {
    throw new RangeError('the trace chunk is damaged');
  }
  const reader = new Reader(body);
  const rows = reader.varint();
  const columns = reader.varint();
  if (columns !== channels.length)
    throw new RangeError(`the chunk has ${columns} channels, ${channels.length} were expected`);
  const read = (): Float64Array => {
    const resolution = reader.f64();
    const order = reader.byte();
    const decimals = 1 / resolution;
    const exact = Math.abs(decimals - Math.round(decimals)) < 1e-6 ? Math.round(decimals) : 0;
    const out = new Float64Array(rows);
    let last = 0;
    let slope = 0;
    for (let i = 0; i < rows; i++) {
      const code = reader.varint();
      if (code === INVALID) {
        out[i] = NaN;
        continue;
      }
      const d = unzigzag(code - 1);
      const step = order === 1 ? d : slope + d;
      last += step;
      slope = step;
      // dividing by a whole number gives the shortest decimal back; multiplying by 0.1 would not
      out[i] = exact ? last / exact : last * resolution;
    }
    return out;
  };
  const t_s = read();
  return { channels, t_s, columns: channels.map(() => read()) };
}
