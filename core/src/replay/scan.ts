import type { WatchedType } from '../aircraft/index.ts';
import type { CsvMapping } from './mapping.ts';
import { type RecordingEvent, RecordingWatch } from './recording.ts';
import { RowReader } from './rows.ts';

/** a place to begin at again is kept this often, in a long file less often */
const PLACE_EVERY_S = 5;
/** what the overview is drawn from, however long the file */
const OVERVIEW_POINTS = 1200;
const MOST_EVENTS = 5000;

export interface FilePosition {
  t_s: number;
  /** the watch was at rest here: it can be begun anew */
  quiet: boolean;
  at: ReturnType<RowReader['place']>;
}

/** What one pass over a recorded file found. */
export interface Scanned {
  rows: number;
  repeated: number;
  /** the last row was cut off in its middle, and left out */
  cutOff: boolean;
  /** channels with figures that no gauge of theirs could show: taken as unknown, with how many */
  beyond: { channel: string; rows: number }[];
  end_s: number;
  events: RecordingEvent[];
  /** events beyond those that are kept */
  unkept: number;
  places: FilePosition[];
  /** highest speed, and highest temperature or oil pressure, in even steps of time */
  overview: { t_s: number[]; speed: (number | null)[]; second: (number | null)[] };
}

/** Watches a whole file once, as fast as it can be read, in memory that does not grow with it. */
export class Scan {
  readonly reader: RowReader;
  private readonly recording: RecordingWatch;
  private readonly found: Scanned = {
    rows: 0,
    repeated: 0,
    cutOff: false,
    beyond: [],
    end_s: 0,
    events: [],
    unkept: 0,
    places: [],
    overview: { t_s: [], speed: [], second: [] },
  };
  private readonly channels: WatchedType['channels'];
  private readonly iSpeed: number;
  private readonly iSecond: number;
  private bucket_s = 1;
  private readonly speed = new Float64Array(2 * OVERVIEW_POINTS).fill(NaN);
  private readonly second = new Float64Array(2 * OVERVIEW_POINTS).fill(NaN);
  private placeEvery_s = PLACE_EVERY_S;
  private nextPlace_s = 0;

  constructor(type: WatchedType, mapping: CsvMapping, names: readonly string[]) {
    this.channels = type.channels;
    const [spec] = type.startWatches;
    const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
    this.iSpeed = index(spec.channels.speed);
    this.iSecond = index(spec.kind === 'turbine' ? spec.channels.temperature : spec.channels.oilPressure);
    this.recording = new RecordingWatch(type, (event) => {
      if (this.found.events.length < MOST_EVENTS) this.found.events.push(event);
      else this.found.unkept++;
    });
    this.reader = new RowReader(mapping, type.channels, names, (t_s, values) => this.row(t_s, values));
  }

  get rows(): number {
    return this.found.rows;
  }

  /** The pass is over. @throws BadRow for a bad last row */
  finish(): Scanned {
    this.reader.end();
    const { found } = this;
    this.recording.finish();
    found.repeated = this.reader.repeated;
    found.cutOff = this.reader.cutOff;
    this.channels.forEach(({ id }, i) => {
      const rows = this.reader.beyond[i]!;
      if (rows > 0) found.beyond.push({ channel: id, rows });
    });
    const points = Math.min(this.speed.length, Math.floor(found.end_s / this.bucket_s) + 1);
    const orNull = (v: number): number | null => (Number.isNaN(v) ? null : v);
    for (let i = 0; i < points; i++) {
      found.overview.t_s.push(i * this.bucket_s);
      found.overview.speed.push(orNull(this.speed[i]!));
      found.overview.second.push(orNull(this.second[i]!));
    }
    return found;
  }

  private row(t_s: number, values: Float64Array): void {
    const { found } = this;
    found.rows++;
    found.end_s = t_s;
    this.recording.row(t_s, values);
    if (t_s >= this.nextPlace_s) {
      this.nextPlace_s = t_s + this.placeEvery_s;
      found.places.push({ t_s, quiet: this.recording.watch.phase === 'off', at: this.reader.place() });
      if (found.places.length > 2 * OVERVIEW_POINTS) this.thin();
    }
    while (t_s / this.bucket_s >= this.speed.length) this.halve();
    const at = Math.floor(t_s / this.bucket_s);
    const speed = values[this.iSpeed]!;
    const second = values[this.iSecond]!;
    if (!(speed <= this.speed[at]!) && !Number.isNaN(speed)) this.speed[at] = speed;
    if (!(second <= this.second[at]!) && !Number.isNaN(second)) this.second[at] = second;
  }

  /** Every second place goes, but not the last quiet one before a start; from here on they are as far apart as those that stay. */
  private thin(): void {
    const { places } = this.found;
    let kept = 0;
    for (let i = 0; i < places.length; i++) {
      const beforeStart = places[i]!.quiet && places[i + 1] && !places[i + 1]!.quiet;
      if (i % 2 === 0 || beforeStart) places[kept++] = places[i]!;
    }
    places.length = kept;
    this.placeEvery_s *= 2;
    this.nextPlace_s = places[kept - 1]!.t_s + this.placeEvery_s;
  }

  /** The overview's steps become twice as long. */
  private halve(): void {
    for (const column of [this.speed, this.second]) {
      for (let i = 0; i < column.length / 2; i++) {
        const [a, b] = [column[2 * i]!, column[2 * i + 1]!];
        column[i] = Number.isNaN(a) ? b : Number.isNaN(b) ? a : Math.max(a, b);
      }
      column.fill(NaN, column.length / 2);
    }
    this.bucket_s *= 2;
  }
}

/** Where to begin, to show `t_s` with a watch that knows what went before: the last rest of the engines, else a little earlier. */
export function positionBefore(places: readonly FilePosition[], t_s: number, lookBack_s: number): FilePosition | null {
  const before = places.filter((p) => p.t_s <= t_s);
  const quiet = before.findLast((p) => p.quiet);
  if (quiet && t_s - quiet.t_s <= lookBack_s) return quiet;
  return before.findLast((p) => p.t_s <= t_s - Math.min(30, t_s)) ?? null;
}
