import { createHash } from 'node:crypto';
import type { Channel } from '@rouse/core/aircraft';
import { rowsBetween, traceBytes } from '@rouse/core/session';
import { encodeChunk, joinTraces, type Trace, TraceBuilder } from '@rouse/core/trace';

/** the latest frames are at hand for a page that opens, whether the database is there or not */
const LOOK_BACK_S = 180;

/** The frames of an open run between the line and the database: what is not kept yet, and what is not stored yet. */
export class FrameKeeper {
  private readonly ids: readonly string[];
  private readonly resolutions: readonly number[];
  private builder: TraceBuilder;
  /** kept in the outbox, the oldest first; those that are stored stay as long as they are looked back on */
  private parts: Trace[] = [];
  private unsealed: Trace[] = [];
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
    const trace = this.builder.toTrace();
    this.builder = new TraceBuilder(this.ids, 64);
    const [first_s, last_s] = [trace.t_s[0]!, trace.t_s[trace.t_s.length - 1]!];
    this.parts.push(trace);
    this.unsealed.push(trace);
    this.letGo(last_s);
    return { first_s, last_s, data: Buffer.from(encodeChunk(trace, this.resolutions, 'plain')).toString('base64') };
  }

  /** A run that is taken up: its frames are in the database, those behind the last digest are sealed with the next. */
  takeUp(trace: Trace, sealedTo_s: number): void {
    const last_s = trace.t_s[trace.t_s.length - 1] ?? -Infinity;
    this.storedTo_s = last_s;
    this.parts = [rowsBetween(trace, last_s - LOOK_BACK_S, last_s)];
    this.unsealed = [rowsBetween(trace, sealedTo_s, last_s)];
  }

  stored(to_s: number): void {
    this.storedTo_s = to_s;
  }

  /** What a digest covers next: every frame that was taken and not sealed; null when there is none. */
  seal(): { to_s: number; frames: number; digest: string } | null {
    const trace = joinTraces(this.unsealed, this.ids);
    this.unsealed = [];
    if (trace.t_s.length === 0) return null;
    const digest = createHash('sha256').update(traceBytes(trace, this.resolutions)).digest('hex');
    return { to_s: trace.t_s[trace.t_s.length - 1]!, frames: trace.t_s.length, digest };
  }

  /** Frames of this run that the database may not have, and the latest that it has. */
  recent(): Trace {
    return joinTraces([...this.parts, this.builder.toTrace()], this.ids);
  }

  private letGo(last_s: number): void {
    const from_s = Math.min(this.storedTo_s, last_s - LOOK_BACK_S);
    while (this.parts.length > 1 && this.parts[0]!.t_s[this.parts[0]!.t_s.length - 1]! < from_s) this.parts.shift();
  }
}
