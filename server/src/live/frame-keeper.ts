import { createHash } from 'node:crypto';
import type { Channel } from '@rouse/core/aircraft';
import { rowsBetween, traceBytes } from '@rouse/core/session';
import { decodeChunk, encodeChunk, joinTraces, type Trace, TraceBuilder } from '@rouse/core/trace';

/** the latest frames are at hand for a page that opens, whether the database is there or not */
const LOOK_BACK_S = 180;

/** Frames as they went to the outbox: an open run has hundreds of these, and two hundred runs may be open. */
interface Part {
  last_s: number;
  bytes: Uint8Array;
}

/** The frames of an open run between the line and the database: what is not kept yet, and what is not stored yet. */
export class FrameKeeper {
  private readonly ids: readonly string[];
  private readonly resolutions: readonly number[];
  private readonly builder: TraceBuilder;
  /** kept in the outbox, the oldest first; those that are stored stay as long as they are looked back on */
  private parts: Part[] = [];
  private unsealed: Part[] = [];
  private storedTo_s = -Infinity;

  constructor(channels: readonly Channel[]) {
    this.ids = channels.map((c) => c.id);
    this.resolutions = channels.map((c) => c.resolution);
    this.builder = new TraceBuilder(this.ids, 64);
  }

  push(t_s: number, values: ArrayLike<number>): void {
    this.builder.push(t_s, values);
  }

  /** Frames since the last time, as they are written to the outbox; null when there are none. */
  take(): { first_s: number; last_s: number; data: string } | null {
    if (this.builder.length === 0) return null;
    const trace = this.builder.view();
    const [first_s, last_s] = [trace.t_s[0]!, trace.t_s[trace.t_s.length - 1]!];
    const bytes = Buffer.from(encodeChunk(trace, this.resolutions, 'plain'));
    this.builder.clear();
    this.add({ last_s, bytes });
    this.letGo(last_s);
    return { first_s, last_s, data: bytes.toString('base64') };
  }

  /** A run that is taken up: its frames are in the database, those behind the last digest are sealed with the next. */
  takeUp(trace: Trace, sealedTo_s: number): void {
    const last_s = trace.t_s[trace.t_s.length - 1] ?? -Infinity;
    this.storedTo_s = last_s;
    this.parts = this.partOf(rowsBetween(trace, last_s - LOOK_BACK_S, last_s));
    this.unsealed = this.partOf(rowsBetween(trace, sealedTo_s, last_s));
  }

  stored(to_s: number): void {
    this.storedTo_s = to_s;
  }

  /** What a digest covers next: every frame that was taken and not sealed; null when there is none. */
  seal(): { to_s: number; frames: number; digest: string } | null {
    const trace = this.whole(this.unsealed);
    this.unsealed = [];
    if (trace.t_s.length === 0) return null;
    const digest = createHash('sha256').update(traceBytes(trace, this.resolutions)).digest('hex');
    return { to_s: trace.t_s[trace.t_s.length - 1]!, frames: trace.t_s.length, digest };
  }

  /** Frames of this run that the database may not have, and the latest that it has. */
  recent(): Trace {
    return joinTraces([this.whole(this.parts), this.builder.view()], this.ids);
  }

  private add(part: Part): void {
    this.parts.push(part);
    this.unsealed.push(part);
  }

  private partOf(trace: Trace): Part[] {
    if (trace.t_s.length === 0) return [];
    return [{ last_s: trace.t_s[trace.t_s.length - 1]!, bytes: encodeChunk(trace, this.resolutions, 'plain') }];
  }

  private whole(parts: readonly Part[]): Trace {
    return joinTraces(
      parts.map(({ bytes }) => decodeChunk(bytes, this.ids)),
      this.ids,
    );
  }

  private letGo(last_s: number): void {
    const from_s = Math.min(this.storedTo_s, last_s - LOOK_BACK_S);
    while (this.parts.length > 1 && this.parts[0]!.last_s < from_s) this.parts.shift();
  }
}
