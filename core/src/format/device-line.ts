import type { Channel } from '../aircraft/index.ts';

export type LineFault = 'not-json' | 'not-an-object' | 'no-time' | 'bad-value';

/** no clock of a unit has run for longer, s */
const LATEST_S = 1e10;
/** no sensor reads more, in any unit */
const MOST = 1e9;

/** Reads one JSON Lines sentence of an engine data unit into a frame. */
export class DeviceLineReader {
  private readonly ids: readonly string[];
  /** the last good frame, in channel order; NaN where the unit says null or nothing */
  readonly values: Float64Array;
  t_s = 0;

  constructor(channels: readonly Channel[]) {
    this.ids = channels.map((c) => c.id);
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
    for (let i = 0; i < this.ids.length; i++) {
      const v = record[this.ids[i]!];
      this.values[i] = typeof v === 'number' && Math.abs(v) < MOST ? v : NaN;
    }
    return null;
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
