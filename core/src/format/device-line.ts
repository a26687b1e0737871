import { believable, type Channel } from '../aircraft/index.ts';

export type LineFault = 'not-json' | 'not-an-object' | 'no-time' | 'bad-value';

/** no clock of a unit has run for longer, s */
const LATEST_S = 1e10;
/** the names of a line are looked at now and then: a unit does not change them */
const NAMES_EVERY = 256;
const MOST_UNKNOWN = 20;

/** Reads one JSON Lines sentence of an engine data unit into a frame. */
export class DeviceLineReader {
  private readonly ids: readonly string[];
  private readonly least: readonly number[];
  private readonly most: readonly number[];
  /** names that the type does not know: what they say is lost */
  readonly unknown = new Set<string>();
  private lines = 0;
  /** the last good frame, in channel order; NaN where the unit says null, nothing, or what no gauge can show */
  readonly values: Float64Array;
  t_s = 0;

  constructor(channels: readonly Channel[]) {
    this.ids = channels.map((c) => c.id);
    this.least = channels.map((c) => believable(c)[0]);
    this.most = channels.map((c) => believable(c)[1]);
    this.values = new Float64Array(channels.length);
  }

  /** @returns null when the frame is in `t_s` and `values`, else what is wrong with the line; a bad line changes nothing */
  read(line: string): LineFault | null {
    let parsed: unknown;
    try {
      parsed = JSON.parse(line);
    } catch {
      return 'not-json';
    }
    if (typeof parsed !== 'object' || parsed === null || Array.isArray(parsed)) return 'not-an-object';
    const record = parsed as Record<string, unknown>;
    const t = record['t'];
    if (typeof t !== 'number' || !(Math.abs(t) < LATEST_S)) return 'no-time';
    for (const id of this.ids) {
      const v = record[id];
      if (v !== undefined && v !== null && typeof v !== 'number') return 'bad-value';
    }
    this.t_s = t;
    if (this.lines++ % NAMES_EVERY === 0) this.lookAtNames(record);
    for (let i = 0; i < this.ids.length; i++) {
      const v = record[this.ids[i]!];
      this.values[i] = typeof v === 'number' && v >= this.least[i]! && v <= this.most[i]! ? v : NaN;
    }
    return null;
  }

  private lookAtNames(record: Readonly<Record<string, unknown>>): void {
    for (const name of Object.keys(record))
      if (name !== 't' && !this.ids.includes(name) && this.unknown.size < MOST_UNKNOWN) this.unknown.add(name);
  }
}

/** One frame as a JSON Lines sentence; values are rounded to each channel's resolution, NaN is null. */
export function writeDeviceLine(t_s: number, values: ArrayLike<number>, channels: readonly Channel[]): string {
  let line = `{"t":${t_s.toFixed(3)}`;
  for (let i = 0; i < channels.length; i++) {
    const channel = channels[i]!;
    const v = values[i]!;
    const steps = 1 / channel.resolution;
    line += `,"${channel.id}":${Number.isFinite(v) ? Math.round(v * steps) / steps : 'null'}`;
  }
  return `${line}}\n`;
}
