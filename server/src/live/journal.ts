import {
  acceptFromPilot,
  chainEntries,
  costsInspection,
  type Entry,
  type Payload,
  reduceRun,
  type RunState,
} from '@rouse/core/procedure';
import type { TypeFile } from '@rouse/core/aircraft';
import type pg from 'pg';
import { v7 as uuidv7 } from 'uuid';
import { insertCheck } from '../db/checks.ts';
import { insertEntries } from '../db/entries.ts';
import { insertExceedance } from '../db/exceedances.ts';
import { asOperator, type Tx } from '../db/pool.ts';
import { closeRun, type RunRow } from '../db/runs.ts';
import { Refusal } from '../errors.ts';

export interface Clock {
  now(): number;
}

interface Written {
  id?: string;
  by: string;
  t_s: number;
  payload: Payload;
}

/** The journal of one open run: appends in order, durably, one after the other, and tells who listens. */
export class Journal {
  readonly run: RunRow;
  readonly type: TypeFile;
  entries: readonly Entry[];
  state: RunState;
  private queue: Promise<unknown> = Promise.resolve();
  private readonly pool: pg.Pool;
  private readonly operatorId: string;
  /** how far the run clock is before the wall clock, ms */
  ahead_ms = 0;
  private readonly clock: Clock;
  private readonly onAppended: (entries: readonly Entry[]) => void;

  constructor(
    pool: pg.Pool,
    operatorId: string,
    run: RunRow,
    type: TypeFile,
    entries: readonly Entry[],
    clock: Clock,
    onAppended: (entries: readonly Entry[]) => void,
  ) {
    this.pool = pool;
    this.operatorId = operatorId;
    this.run = run;
    this.type = type;
    this.entries = entries;
    this.state = reduceRun(entries);
    this.clock = clock;
    this.onAppended = onAppended;
  }

  /** Seconds of the run clock now; a simulated aircraft that was hurried is ahead of the wall. */
  runClock(): number {
    return (this.clock.now() + this.ahead_ms - this.run.openedAt.getTime()) / 1000;
  }

  /** What the watch, or the program itself, writes; it may be nothing. `alongside` joins the same transaction. */
  append(drafts: readonly Written[], alongside?: (tx: Tx) => Promise<void>): Promise<readonly Entry[]> {
    return this.inTurn(() => this.write(drafts, alongside));
  }

  /**
   * What a person writes: idempotent by id, refused out of order, judged against the list and the latest frame.
   * @throws Refusal out-of-order with the expected number; or what `acceptFromPilot` says
   */
  appendFromPilot(
    id: string,
    seq: number,
    by: string,
    wanted: Payload,
    values: ArrayLike<number> | null,
  ): Promise<Entry> {
    return this.inTurn(async () => {
      const before = this.entries.find((e) => e.id === id);
      if (before) return before;
      const expected = this.entries.length + 1;
      if (seq !== expected)
        throw new Refusal('out-of-order', `The journal expects entry ${expected}, not ${seq}.`, { expected });
      const verdict = acceptFromPilot(this.type, this.state, wanted, values);
      if (!verdict.ok) throw new Refusal(verdict.code, verdict.message);
      const [entry] = await this.write([{ id, by, t_s: this.runClock(), payload: verdict.payload }]);
      return entry!;
    });
  }

  /** Resolves when everything that was asked for so far is written or refused. */
  async settled(): Promise<void> {
    await this.queue;
  }

  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const turn = this.queue.then(work);
    this.queue = turn.catch(() => undefined);
    return turn;
  }

  private async write(drafts: readonly Written[], alongside?: (tx: Tx) => Promise<void>): Promise<readonly Entry[]> {
    const at_ms = this.clock.now();
    const entries = chainEntries(
      this.run.runId,
      this.entries[this.entries.length - 1],
      drafts.map((draft) => ({
        id: draft.id ?? uuidv7(),
        at_ms,
        t_s: draft.t_s,
        by: draft.by,
        payload: draft.payload,
      })),
    );
    await asOperator(this.pool, this.operatorId, async (tx) => {
      if (entries.length) await insertEntries(tx, this.run.runMonth, entries);
      for (const entry of entries) {
        if (entry.kind === 'exceedance' && entry.expired && entry.severity === 'warning')
          await insertExceedance(tx, this.run.aircraftId, entry);
        if (entry.kind === 'rating' && costsInspection(this.type, entry))
          await insertExceedance(tx, this.run.aircraftId, entry);
        if (entry.kind === 'measured') await insertCheck(tx, this.run.aircraftId, new Date(entry.at), entry);
        if (entry.kind === 'closed') await closeRun(tx, this.run.runId, new Date(at_ms), entry.outcome);
      }
      await alongside?.(tx);
    });
    if (entries.length === 0) return entries;
    this.entries = [...this.entries, ...entries];
    this.state = reduceRun(this.entries);
    this.onAppended(entries);
    return entries;
  }
}
