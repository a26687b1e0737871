import type { WatchedType } from '@rouse/core/aircraft';
import { FRAME_HEADER, packFrame } from '@rouse/core/contract';
import {
  type CsvMapping,
  positionBefore,
  type RecordingEvent,
  RecordingWatch,
  RowReader,
  type Scanned,
} from '@rouse/core/replay';
import type { OpenedFile } from './file-reader.ts';
import type { FromReplay } from './messages.ts';

const CHUNK_BYTES = 256 * 1024;
const BEAT_MS = 40;
/** frames that the drawings look back on */
const LOOK_BACK_S = 90;
/** how far back a watch is run silently, so that it knows the start that is going on */
const KNOW_BACK_S = 900;

/** Plays a scanned file from any moment, at any speed, reading only what it shows. */
export class Player {
  speed: number;
  private stopped = false;
  private readonly file: OpenedFile;
  private readonly type: WatchedType;
  private readonly mapping: CsvMapping;
  private readonly scanned: Scanned;
  private readonly post: (message: FromReplay) => void;
  private readonly queue: { t_s: number; values: Float64Array }[] = [];

  constructor(
    file: OpenedFile,
    type: WatchedType,
    mapping: CsvMapping,
    scanned: Scanned,
    speed: number,
    post: (message: FromReplay) => void,
  ) {
    this.file = file;
    this.type = type;
    this.mapping = mapping;
    this.scanned = scanned;
    this.speed = speed;
    this.post = post;
  }

  stop(): void {
    this.stopped = true;
  }

  async play(from_s: number): Promise<void> {
    const { type, mapping, scanned } = this;
    const reader = new RowReader(mapping, type.channels, this.file.head.names, (t_s, values) =>
      this.queue.push({ t_s, values: values.slice() }),
    );
    const place = positionBefore(scanned.places, from_s, KNOW_BACK_S);
    if (place) reader.resume(place.at);
    let events: RecordingEvent[] = [];
    const watch = new RecordingWatch(type, (event) => events.push(event));
    let at = reader.offset;
    let now_s = from_s;
    let beat_ms = performance.now();
    let jumped = true;
    while (!this.stopped) {
      while (!this.stopped && !(this.queue.length && this.queue[this.queue.length - 1]!.t_s > now_s)) {
        if (at >= this.file.bytes.size) break;
        const chunk = new Uint8Array(await this.file.bytes.slice(at, at + CHUNK_BYTES).arrayBuffer());
        at += chunk.length;
        reader.push(chunk);
        if (at >= this.file.bytes.size) reader.end();
        if (jumped) this.skip(watch, from_s);
      }
      if (jumped) events = [];
      const due = this.queue.findIndex((f) => f.t_s > now_s);
      const frames = this.queue.splice(0, due < 0 ? this.queue.length : due);
      const width = FRAME_HEADER + type.channels.length;
      const packed = new Float64Array(frames.length * width);
      frames.forEach(({ t_s, values }, i) => {
        if (!jumped || t_s > from_s - LOOK_BACK_S) watch.row(t_s, values);
        packFrame(packed.subarray(i * width, (i + 1) * width), t_s, t_s, values);
      });
      if (jumped) events = [];
      if (this.stopped) return;
      this.post({ kind: 'frames', frames: packed, t_s: now_s, watch: watch.snapshot(), events, jumped });
      events = [];
      jumped = false;
      if (at >= this.file.bytes.size && this.queue.length === 0) {
        this.post({ kind: 'ended' });
        return;
      }
      await new Promise((resolve) => setTimeout(resolve, BEAT_MS));
      const later_ms = performance.now();
      now_s += ((later_ms - beat_ms) / 1000) * this.speed;
      beat_ms = later_ms;
    }
  }

  /** What is further back than the drawings look is watched in silence and let go. */
  private skip(watch: RecordingWatch, from_s: number): void {
    const old = this.queue.findIndex((f) => f.t_s > from_s - LOOK_BACK_S);
    for (const { t_s, values } of this.queue.splice(0, old < 0 ? this.queue.length : old)) watch.row(t_s, values);
  }
}
