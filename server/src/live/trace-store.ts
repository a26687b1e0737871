import type { Channel } from '@rouse/core/aircraft';
import { rowInto, TraceBuilder } from '@rouse/core/trace';
import type pg from 'pg';
import type { RunKey } from '../db/entries.ts';
import { asOperator } from '../db/pool.ts';
import { compactChunks, insertChunk } from '../db/trace.ts';

const FLUSH_EVERY_MS = 200;
const COMPACT_EVERY_S = 10;

/** Stores the frames of one run: small chunks at once, made into longer ones every ten seconds. */
export class TraceStore {
  private readonly pool: pg.Pool;
  private readonly operatorId: string;
  private readonly run: RunKey;
  private readonly channels: readonly Channel[];
  private readonly onError: (error: unknown) => void;
  private readonly timer: NodeJS.Timeout;
  private builder: TraceBuilder;
  private writing: Promise<void> = Promise.resolve();
  private compactFrom_s = NaN;
  /** run clock up to which frames are in the database */
  storedTo_s = NaN;

  constructor(
    pool: pg.Pool,
    operatorId: string,
    run: RunKey,
    channels: readonly Channel[],
    onError: (error: unknown) => void,
  ) {
    this.pool = pool;
    this.operatorId = operatorId;
    this.run = run;
    this.channels = channels;
    this.onError = onError;
    this.builder = this.fresh();
    this.timer = setInterval(() => void this.flush().catch(this.onError), FLUSH_EVERY_MS);
  }

  push(t_s: number, values: ArrayLike<number>): void {
    this.builder.push(t_s, values);
  }

  /** Writes what has come so far. @throws what the database says; the frames are kept and tried again */
  flush(): Promise<void> {
    this.writing = this.writing.catch(() => undefined).then(() => this.write());
    return this.writing;
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    await this.flush();
  }

  private fresh(): TraceBuilder {
    return new TraceBuilder(
      this.channels.map((c) => c.id),
      64,
    );
  }

  private async write(): Promise<void> {
    if (this.builder.length === 0) return;
    const trace = this.builder.toTrace();
    const taken = this.builder;
    this.builder = this.fresh();
    const first_s = trace.t_s[0]!;
    const last_s = trace.t_s[trace.t_s.length - 1]!;
    try {
      await asOperator(this.pool, this.operatorId, (tx) => insertChunk(tx, this.run, trace, this.channels));
    } catch (error) {
      const later = this.builder.toTrace();
      this.builder = taken;
      const row = new Float64Array(this.channels.length);
      for (let i = 0; i < later.t_s.length; i++) {
        rowInto(later, i, row);
        this.builder.push(later.t_s[i]!, row);
      }
      throw error;
    }
    this.storedTo_s = last_s;
    if (Number.isNaN(this.compactFrom_s)) this.compactFrom_s = first_s;
    if (last_s - this.compactFrom_s >= COMPACT_EVERY_S) {
      const from = this.compactFrom_s;
      this.compactFrom_s = first_s; // this chunk is left for the next turn
      await asOperator(this.pool, this.operatorId, (tx) => compactChunks(tx, this.run, this.channels, from, last_s));
    }
  }
}
