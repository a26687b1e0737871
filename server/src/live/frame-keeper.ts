import { createHash } from 'node:crypto';
import type { Channel } from '@rouse/core/aircraft';
import { rowsBetween, traceBytes } from '@rouse/core/session';
import { decodeChunks, encodeChunk, joinTraces, type Trace, TraceBuilder } from '@rouse/core/trace';
import { KeptChunks } from './kept-chunks.ts';

/** the latest frames are at hand for a page that opens, whether the database is there or not */
const LOOK_BACK_S = 180;

/** The frames of an open run between the line and the database: what is not kept yet, and what is not stored yet. */
export class FrameKeeper {
  private readonly ids: readonly string[];
  private readonly resolutions: readonly number[];
  private readonly builder: TraceBuilder;
  /** kept in the outbox; those that are stored and sealed stay as long as they are looked back on */
  private readonly kept = new KeptChunks();
  private keptTo_s = -Infinity;
  private storedTo_s = -Infinity;
  private sealedTo_s = -Infinity;

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
    const chunk = this.keep(trace);
    this.builder.clear();
    this.kept.letGo(Math.min(this.storedTo_s, this.sealedTo_s, last_s - LOOK_BACK_S));
    return { first_s, last_s, data: chunk.toString('base64') };
  }

  /** A run that is taken up: its frames are in the database, those behind the last digest are sealed with the next. */
  takeUp(trace: Trace, sealedTo_s: number): void {
    const last_s = trace.t_s[trace.t_s.length - 1] ?? -Infinity;
    this.storedTo_s = last_s;
    this.sealedTo_s = sealedTo_s;
    for (const [after_s, to_s] of [
      [last_s - LOOK_BACK_S, sealedTo_s],
      [sealedTo_s, last_s],
    ] as const) {
      const part = rowsBetween(trace, after_s, to_s);
      if (part.t_s.length > 0) this.keep(part);
    }
  }

  stored(to_s: number): void {
    this.storedTo_s = to_s;
  }

  /** What a digest covers next: every frame that was taken and not sealed; null when there is none. */
  seal(): { to_s: number; frames: number; digest: string } | null {
    const trace = decodeChunks(this.kept.after(this.sealedTo_s), this.ids);
    if (trace.t_s.length === 0) return null;
    this.sealedTo_s = this.keptTo_s;
    const digest = createHash('sha256').update(traceBytes(trace, this.resolutions)).digest('hex');
    return { to_s: trace.t_s[trace.t_s.length - 1]!, frames: trace.t_s.length, digest };
  }

  /** Frames of this run that the database may not have, and the latest that it has. */
  recent(): Trace {
    return joinTraces([decodeChunks(this.kept.after(-Infinity), this.ids), this.builder.view()], this.ids);
  }

  private keep(trace: Trace): Buffer {
    this.keptTo_s = trace.t_s[trace.t_s.length - 1]!;
    return this.kept.add(encodeChunk(trace, this.resolutions, 'plain'), this.keptTo_s);
  }
}
