import type { TypeFile } from '@rouse/core/aircraft';
import { pastWaitsOf, reduceRun } from '@rouse/core/procedure';
import type { Logger } from 'pino';
import { getType } from '../db/aircraft.ts';
import { insertBooking } from '../db/bookings.ts';
import { hasEntries, insertEntries, lastSeq, listEntries } from '../db/entries.ts';
import { putFeature } from '../db/features.ts';
import type { DatabaseLock } from '../db/lock.ts';
import { holdFleet, TenureOver } from '../db/leases.ts';
import { inTransaction, type Tx } from '../db/pool.ts';
import { closeRun, hasRun } from '../db/runs.ts';
import { getTrace, insertTrace, lastStored_s } from '../db/trace.ts';
import { insertWaits } from '../db/waits.ts';
import { Refusal } from '../errors.ts';
import { storeConsequences } from './consequences.ts';
import { type Gathered, unpack } from './gathered.ts';
import { type Outbox, type Read, weightOf } from './outbox.ts';
import type { OutboxRecord, RunRef } from './record.ts';

/** frames of a run are stored in chunks of about this length */
const CHUNK_S = 10;
/** and of this where another server may have to go on from them */
const SHORT_CHUNK_S = 1;
/** without anything new for so long, what is gathered is stored as it is */
const QUIET_MS = 1500;
const FIRST_WAIT_MS = 100;
const LONGEST_WAIT_MS = 3000;
/** a record that the database refuses for what it says is tried this often before it is left in a file of its own */
const TRIES = 3;
/** so much may be read again after a kill, and for each run that has a chunk under way as much as its chunk takes */
const READ_AGAIN_BYTES = 1024 * 1024;
const CHUNK_BYTES = 100_000;

type EntriesRecord = Extract<OutboxRecord, { kind: 'entries' }>;
type FramesRecord = Extract<OutboxRecord, { kind: 'frames' }>;

export interface DrainOptions {
  outbox: Outbox;
  lock: DatabaseLock;
  log: Logger;
  monotonic: () => number;
  /** another server may have to go on from what is stored: no entry is ahead of its frames */
  several: boolean;
  /** entries of a run are in the database up to this one */
  onEntries: (runId: string, seq: number) => void;
  /** frames of a run are in the database up to here */
  onFrames: (runId: string, to_s: number) => void;
  /** a run is closed in the database, with its books */
  onClosed: (runId: string) => void;
  /** something was written in a tenure that is over */
  onTenureOver: () => void;
}

/**
 * Stores what the outbox keeps, in order and once: entries by their numbers, frames by their times. The database may be
 * away for as long as it likes. Whatever fails, it reads again from the first record that is kept: what is stored
 * already is known and passed over.
 */
export class Drain {
  private readonly options: DrainOptions;
  private readonly types = new Map<string, TypeFile>();
  private readonly gathered = new Map<string, Gathered>();
  /** up to where the frames of a run are stored */
  private readonly framesTo_s = new Map<string, number>();
  private at: OutboxPosition;
  /** the furthest that was stored: behind it nothing waits any more */
  private furthest: OutboxPosition;
  /** up to here records are taken one by one, to find the one that is refused */
  private singlyTo: OutboxPosition | null = null;
  private readonly left = new Set<string>();
  /** runs that went with their operator: what was kept of them has no place any more */
  private readonly gone = new Set<string>();
  /** tenures that are over: what was written in them is kept apart */
  private readonly over = new Set<string>();
  private tries = 0;
  private running = true;
  private wake: () => void = () => undefined;
  private waiters: (() => void)[] = [];
  private readonly done: Promise<void>;
  /** monotonic ms since when the database has not taken anything, NaN while it does */
  private awaySince_ms = NaN;

  constructor(options: DrainOptions) {
    this.options = options;
    this.at = this.furthest = { segment: options.outbox.start, end: 0 };
    options.outbox.follow(() => this.wake());
    this.done = this.run();
  }

  /** How long the database has been away, s; 0 while it is there. */
  get away_s(): number {
    return Number.isNaN(this.awaySince_ms) ? 0 : (this.options.monotonic() - this.awaySince_ms) / 1000;
  }

  /** Resolves when all that was kept so far is in the database, frames included. */
  emptied(): Promise<void> {
    return new Promise((resolve) => {
      this.waiters.push(resolve);
      this.wake();
    });
  }

  /** Stores what it still can and ends. */
  async stop(): Promise<void> {
    this.running = false;
    this.wake();
    await this.done;
  }

  private async run(): Promise<void> {
    let wait_ms = FIRST_WAIT_MS;
    let quiet = false;
    for (;;) {
      try {
        const read = await this.next();
        if (read.length > 0) await this.store(read);
        else {
          const waiters = this.waiters.splice(0);
          if (quiet || waiters.length > 0 || !this.running)
            await this.settle().finally(() => this.waiters.push(...waiters));
          for (const resolve of this.waiters.splice(0)) resolve();
          if (!this.running) return;
          quiet = await this.rest(QUIET_MS, true);
        }
        this.awaySince_ms = NaN;
        wait_ms = FIRST_WAIT_MS;
      } catch (error) {
        this.again();
        if (!this.running) return;
        if (Number.isNaN(this.awaySince_ms)) {
          this.awaySince_ms = this.options.monotonic();
          this.options.log.error({ err: error }, 'the database takes nothing; what happens is kept and tried again');
        }
        await this.rest(wait_ms, false);
        wait_ms = Math.min(2 * wait_ms, LONGEST_WAIT_MS);
      }
    }
  }

  /** @returns true when nothing came in that time */
  private rest(ms: number, wakes: boolean): Promise<boolean> {
    return new Promise((resolve) => {
      const timer = setTimeout(() => resolve(true), ms);
      this.wake = (): void => {
        if (!wakes && this.running) return;
        clearTimeout(timer);
        resolve(false);
      };
    });
  }

  private async next(): Promise<Read[]> {
    const read = await this.options.outbox.read(this.at.segment, this.at.end);
    const { singlyTo } = this;
    if (!singlyTo) return read;
    if (!isBefore(this.at, singlyTo)) this.singlyTo = null;
    return read.slice(0, 1);
  }

  /** From the first record that is kept; nothing is believed of what was gathered. */
  private again(): void {
    this.gathered.clear();
    this.framesTo_s.clear();
    this.at = { segment: this.options.outbox.start, end: 0 };
  }

  private async store(read: readonly Read[]): Promise<void> {
    const last = read[read.length - 1]!;
    try {
      for (const one of read) if (this.over.has(tenureOf(one.record.run))) await this.keepApart(one);
      await this.storeTogether(read.filter((r) => !this.left.has(keyOf(r)) && !this.gone.has(r.record.run.runId)));
    } catch (error) {
      if (!isRefusedData(error)) throw error;
      if (error instanceof TenureOver) this.ended(error);
      else if (read.length > 1) this.singlyTo = last;
      else if (await this.isGone(last)) this.gone.add(last.record.run.runId);
      else if (++this.tries >= TRIES) await this.leave(last, error);
      this.again();
      return;
    }
    this.tries = 0;
    for (const one of read) if (isBefore(this.furthest, one)) this.options.outbox.waiting -= weightOf(one.record);
    if (isBefore(this.furthest, last)) this.furthest = last;
    this.at = last;
    const readAgain = this.options.outbox.bytesTo(last.segment, last.end);
    if (this.gathered.size === 0 || readAgain > READ_AGAIN_BYTES + CHUNK_BYTES * this.gathered.size)
      await this.settle();
  }

  /** Everything that was read is stored, and need not be kept. */
  private async settle(): Promise<void> {
    for (const held of Array.from(this.gathered.values())) {
      const after: (() => void)[] = [];
      try {
        await inTransaction(await this.options.lock.client(), held.run.operatorId, async (tx) => {
          await holdFleet(tx, held.run.fence);
          await this.storeFrames(tx, held, after);
        });
      } catch (error) {
        if (!(error instanceof TenureOver)) throw error;
        this.ended(error);
        return this.again();
      }
      for (const act of after) act();
    }
    await this.options.outbox.stored(this.at.segment, this.at.end);
  }

  private async storeTogether(read: readonly Read[]): Promise<void> {
    for (const [operatorId, records] of byOperator(read)) {
      const after: (() => void)[] = [];
      await inTransaction(await this.options.lock.client(), operatorId, async (tx) => {
        for (const fence of new Set(records.map((r) => r.run.fence))) await holdFleet(tx, fence);
        for (const record of records) {
          if (record.kind === 'frames') await this.gather(tx, record, after);
          else await this.storeEntries(tx, record, after);
        }
      });
      for (const act of after) act();
    }
  }

  private async gather(tx: Tx, record: FramesRecord, after: (() => void)[]): Promise<void> {
    const { run, first_s, last_s } = record;
    const held = this.gathered.get(run.runId);
    const after_s = held?.to_s ?? (await this.storedTo(tx, run));
    if (last_s <= after_s) return;
    const next = held ?? { run, chunks: [], after_s, from_s: Math.max(first_s, after_s), to_s: -Infinity };
    next.chunks.push(Buffer.from(record.data, 'base64'));
    next.to_s = last_s;
    this.gathered.set(run.runId, next);
    if (next.to_s - next.from_s >= (this.options.several ? SHORT_CHUNK_S : CHUNK_S))
      await this.storeFrames(tx, next, after);
  }

  /** Entries with all that follows from them, in one transaction; a run is closed together with its books. */
  private async storeEntries(tx: Tx, record: EntriesRecord, after: (() => void)[]): Promise<void> {
    const { run, starts, booking } = record;
    const at = new Date(record.at_ms);
    const type = await this.typeOf(tx, run);
    const stored = await lastSeq(tx, run);
    const entries = record.entries.filter((e) => e.seq > stored);
    const held = this.gathered.get(run.runId);
    if (held && (this.options.several || booking)) await this.storeFrames(tx, held, after);
    if (entries.length > 0) {
      await insertEntries(tx, run.runMonth, entries);
      await storeConsequences(tx, type, run.aircraftId, entries);
    }
    const newest = record.entries[record.entries.length - 1]?.seq;
    if (newest !== undefined) after.push(() => this.options.onEntries(run.runId, newest));
    for (const start of starts) await putFeature(tx, { ...start, runId: run.runId, aircraftId: run.aircraftId, at });
    if (!booking) return;
    after.push(() => this.options.onClosed(run.runId));
    const closed = entries.find((e) => e.kind === 'closed');
    if (!closed) return;
    const journal = await listEntries(tx, run);
    const trace = await getTrace(tx, run, type.channels);
    await insertWaits(tx, run, at, pastWaitsOf(type, journal, trace, reduceRun(journal).brief?.oat_C ?? null));
    await insertBooking(tx, run, at, booking);
    await closeRun(tx, run.runId, new Date(closed.at), closed.outcome);
  }

  private async storeFrames(tx: Tx, held: Gathered, after: (() => void)[]): Promise<void> {
    const { run, to_s } = held;
    const { channels } = await this.typeOf(tx, run);
    const { frames, unreadable } = unpack(
      held,
      channels.map((c) => c.id),
    );
    for (const chunk of unreadable) await this.setApart(held, chunk);
    await insertTrace(tx, run, frames, channels);
    this.gathered.delete(run.runId);
    this.framesTo_s.set(run.runId, to_s);
    after.push(() => this.options.onFrames(run.runId, to_s));
  }

  /** A chunk that nobody can read is kept as it is, with the stretch that it lies in. */
  private async setApart({ run, after_s, to_s }: Gathered, chunk: Uint8Array): Promise<void> {
    const data = Buffer.from(chunk).toString('base64');
    await this.options.outbox.setAside({ kind: 'frames', run, first_s: after_s, last_s: to_s, data });
    this.options.log.error({ run: run.runId, after_s, to_s }, 'frames of the outbox cannot be read; they are kept in refused.log of the outbox folder'); // oxfmt-ignore
  }

  private async storedTo(tx: Tx, run: RunRef): Promise<number> {
    const to_s = this.framesTo_s.get(run.runId) ?? (await lastStored_s(tx, run));
    this.framesTo_s.set(run.runId, to_s);
    return to_s;
  }

  private async typeOf(tx: Tx, { operatorId, typeId, typeVersion }: RunRef): Promise<TypeFile> {
    // two operators may call different types the same
    const key = `${operatorId}/${typeId}/${typeVersion}`;
    const type = this.types.get(key) ?? (await getType(tx, typeId, typeVersion));
    this.types.set(key, type);
    return type;
  }

  private async isGone({ record: { run } }: Read): Promise<boolean> {
    const known = await inTransaction(await this.options.lock.client(), run.operatorId, (tx) => hasRun(tx, run.runId));
    if (!known) this.options.log.warn({ run: run.runId }, 'this run was deleted with its operator; what was kept of it is dropped'); // oxfmt-ignore
    return !known;
  }

  /** Another server has the fleet: nothing of this tenure is stored any more. */
  private ended(tenure: TenureOver): void {
    this.over.add(tenureOf(tenure));
    this.options.log.warn(
      { operator: tenure.operatorId },
      'another server has taken this fleet over; what only this one knows is kept in refused.log of the outbox folder',
    );
    this.options.onTenureOver();
  }

  /** What was written in a tenure that is over, and is not in the database. */
  private async keepApart(read: Read): Promise<void> {
    const { record } = read;
    const { run } = record;
    const known = await inTransaction(await this.options.lock.client(), run.operatorId, (tx) =>
      record.kind === 'entries'
        ? hasEntries(tx, run, record.entries.map((e) => e.id))
        : lastStored_s(tx, run).then((to_s) => record.last_s <= to_s),
    ); // oxfmt-ignore
    if (known) this.left.add(keyOf(read));
    else await this.leave(read);
  }

  /** A record that cannot be stored holds nothing else up: it is written to a file of its own, and said where it is a surprise. */
  private async leave(read: Read, error?: unknown): Promise<void> {
    if (this.left.has(keyOf(read))) return;
    await this.options.outbox.setAside(read.record);
    this.left.add(keyOf(read));
    this.tries = 0;
    if (error === undefined) return;
    const { run, kind } = read.record;
    this.options.log.error(
      { err: error, run: run.runId, kind },
      'the database refuses this record; it is kept in refused.log of the outbox folder',
    );
  }
}

interface OutboxPosition {
  segment: number;
  end: number;
}

const isBefore = (a: OutboxPosition, b: OutboxPosition): boolean =>
  a.segment < b.segment || (a.segment === b.segment && a.end < b.end);
const keyOf = ({ segment, end }: OutboxPosition): string => `${segment}/${end}`;

/** Data exceptions, broken constraints, and what is not there any more: another try would say the same. */
function isRefusedData(error: unknown): boolean {
  if (error instanceof Refusal) return true;
  const code = typeof error === 'object' && error !== null && 'code' in error ? String(error.code) : '';
  return /^(22|23)/.test(code);
}

const tenureOf = ({ operatorId, fence }: Pick<RunRef, 'operatorId' | 'fence'>): string => `${operatorId}/${fence}`;

function byOperator(read: readonly Read[]): Map<string, OutboxRecord[]> {
  const out = new Map<string, OutboxRecord[]>();
  for (const { record } of read) {
    const { operatorId } = record.run;
    out.set(operatorId, [...(out.get(operatorId) ?? []), record]);
  }
  return out;
}
