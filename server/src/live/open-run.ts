import type { TypeFile } from '@rouse/core/aircraft';
import type { RunDetail } from '@rouse/core/contract';
import type { Entry, Payload } from '@rouse/core/procedure';
import { type Effects, NOTHING, type RunSession, type SessionView } from '@rouse/core/session';
import type { Trace } from '@rouse/core/trace';
import type { RunRow } from '../db/runs.ts';
import { Refusal } from '../errors.ts';
import type { Outbox } from '../outbox/outbox.ts';
import type { OutboxRecord, RunRef } from '../outbox/record.ts';
import { FrameKeeper } from './frame-keeper.ts';
import type { Pages } from './pages.ts';
import type { RunClock } from './run-clock.ts';

/** frames go to the disk this often */
const KEEP_EVERY_MS = 200;
/** and are sealed by a digest in the journal this often */
const SEAL_EVERY_S = 60;
/** what cannot be acknowledged for so long is said to the person who wrote it */
const PATIENCE_MS = 4500;

/** What a page needs of a run beside its journal, as it was when the run was opened. */
export type RunRecord = Pick<RunDetail, 'past' | 'usual'>;

export interface OpenRunParts {
  row: RunRow;
  type: TypeFile;
  session: RunSession;
  clock: RunClock;
  record: RunRecord;
  operatorId: string;
  fence: number;
  outbox: Outbox;
  pages: Pages;
  now: () => number;
  /** what is acknowledged: what this machine keeps or, where another one may take the run over, what the database has */
  acknowledges: Acknowledges;
}

export type Acknowledges = 'kept' | 'stored';

/** A run that goes on: feeds its session, tells the pages at once, and keeps everything in the outbox. */
export class OpenRun {
  readonly row: RunRow;
  readonly type: TypeFile;
  readonly session: RunSession;
  readonly clock: RunClock;
  readonly record: RunRecord;
  /** run clock up to which frames are on the disk, NaN for none */
  keptTo_s = NaN;
  private readonly frames: FrameKeeper;
  private readonly ref: RunRef;
  private readonly outbox: Outbox;
  private readonly pages: Pages;
  private readonly now: () => number;
  private readonly acknowledges: Acknowledges;
  private readonly timer: NodeJS.Timeout;
  private sealed_s = 0;
  /** resolves when every entry so far is on the disk */
  private entriesKept: Promise<void> = Promise.resolve();
  private storedSeq = 0;
  private readonly storing = new Set<{ seq: number; done: () => void }>();

  constructor(parts: OpenRunParts) {
    const { row, type, operatorId, fence } = parts;
    this.row = row;
    this.type = type;
    this.session = parts.session;
    this.clock = parts.clock;
    this.record = parts.record;
    this.outbox = parts.outbox;
    this.pages = parts.pages;
    this.now = parts.now;
    this.acknowledges = parts.acknowledges;
    this.frames = new FrameKeeper(type.channels);
    this.ref = {
      operatorId,
      runId: row.runId,
      runMonth: row.runMonth,
      aircraftId: row.aircraftId,
      typeId: row.typeId,
      typeVersion: row.typeVersion,
      fence,
    };
    this.timer = setInterval(() => this.keepFrames(), KEEP_EVERY_MS);
  }

  /** Takes up frames that were stored by an earlier process. */
  takeUp(trace: Trace): void {
    const sealedTo_s = this.session.entries.findLast((e) => e.kind === 'trace-sealed')?.to_s ?? -Infinity;
    this.frames.takeUp(trace, sealedTo_s);
    this.sealed_s = this.clock.now_s();
  }

  /** One frame of the line. @returns false when it was refused for its time */
  frame(t_s: number, values: Float64Array): boolean {
    const effects = this.session.frame(t_s, values);
    if (effects.frames) this.frames.push(t_s, values);
    this.carryOut(effects);
    return effects.frames;
  }

  /** Time goes on, with or without data. */
  tick(): void {
    const t_s = this.clock.now_s();
    this.carryOut(this.session.clock(t_s));
    if (t_s - this.sealed_s >= SEAL_EVERY_S) this.carryOut(this.sealed(t_s));
  }

  secondUnit(): void {
    this.carryOut(this.session.line(this.clock.now_s()));
  }

  /**
   * What a person writes: told at once, acknowledged when it is kept or stored, refused out of order. The same id gives the
   * same entry.
   * @throws Refusal out-of-order with the expected number; what the session says; not-kept, database-away
   */
  async answer(id: string, seq: number, by: string, payload: Payload): Promise<Entry> {
    const known = this.session.entries.some((e) => e.id === id);
    const expected = this.session.entries.length + 1;
    if (!known && seq !== expected)
      throw new Refusal('out-of-order', `The journal expects entry ${expected}, not ${seq}.`, { expected });
    const t_s = this.clock.now_s();
    const answered = this.session.answer({ id, by, t_s, payload });
    const { effects } = answered;
    // a run is closed together with the digest over its last frames
    this.carryOut(effects.close ? withSeal(effects, this.sealed(t_s)) : effects);
    if (!answered.ok) throw new Refusal(answered.code, answered.message);
    await this.acknowledged(answered.entry.seq);
    return answered.entry;
  }

  /** The digest over the frames since the last one becomes an entry. */
  private sealed(t_s: number): Effects {
    this.sealed_s = t_s;
    this.keepFrames();
    const seal = this.frames.seal();
    return seal ? this.session.seal(Math.max(t_s, seal.to_s), seal.to_s, seal.frames, seal.digest) : NOTHING;
  }

  /** Tells first, then keeps. */
  carryOut({ journal, starts, close }: Effects): void {
    if (journal.length === 0 && starts.length === 0) return;
    if (journal.length > 0)
      this.pages.send(this.row.runId, { kind: 'entries', entries: [...journal], provisional: true });
    this.keepFrames();
    const record: OutboxRecord = {
      kind: 'entries',
      run: this.ref,
      at_ms: this.now(),
      entries: [...journal],
      starts: starts.map(({ watch, attempt, good, features, profile }) => ({
        watch,
        attempt,
        good,
        features,
        profile,
      })),
      booking: close?.booking ?? null,
    };
    this.entriesKept = this.outbox.append(record);
    if (journal.length === 0) return;
    const { seq } = journal[journal.length - 1]!;
    void this.safe(seq).then(() => this.pages.send(this.row.runId, { kind: 'kept', seq }));
  }

  /** The database has the entries up to this one. */
  entriesStored(seq: number): void {
    this.storedSeq = Math.max(seq, this.storedSeq);
    for (const one of this.storing) {
      if (one.seq > this.storedSeq) continue;
      this.storing.delete(one);
      one.done();
    }
  }

  stored(to_s: number): void {
    this.frames.stored(to_s);
  }

  recent(): Trace {
    return this.frames.recent();
  }

  view(): SessionView {
    return this.session.view();
  }

  /** No more frames are taken; those that came are kept. */
  end(): void {
    clearInterval(this.timer);
    this.keepFrames();
  }

  private keepFrames(): void {
    const taken = this.frames.take();
    if (!taken) return;
    void this.outbox
      .append({ kind: 'frames', run: this.ref, ...taken })
      .then(() => (this.keptTo_s = Math.max(taken.last_s, this.keptTo_s || 0)));
  }

  /** Resolves when this entry, and all before it, can be acknowledged. */
  private safe(seq: number): Promise<void> {
    if (this.acknowledges === 'kept') return this.entriesKept;
    if (seq <= this.storedSeq) return Promise.resolve();
    return new Promise((done) => this.storing.add({ seq, done }));
  }

  private async acknowledged(seq: number): Promise<void> {
    let timer: NodeJS.Timeout | undefined;
    const patience = new Promise<'late'>((resolve) => (timer = setTimeout(() => resolve('late'), PATIENCE_MS)));
    const found = await Promise.race([this.safe(seq), patience]);
    clearTimeout(timer);
    if (found !== 'late') return;
    const { diskTrouble } = this.outbox;
    if (this.acknowledges === 'stored' && diskTrouble === null)
      throw new Refusal('database-away', 'The database has not taken this yet.');
    throw new Refusal('not-kept', `The disk does not take what is written: ${diskTrouble ?? 'it is slow'}.`);
  }
}

const withSeal = (closing: Effects, seal: Effects): Effects => ({
  ...closing,
  journal: [...closing.journal, ...seal.journal],
});
