import type { TypeFile } from '@rouse/core/aircraft';
import type { BriefContext } from '@rouse/core/brief';
import type { BriefRecord, Entry, Payload } from '@rouse/core/procedure';
import { createSession, NO_PAST, type RunSession, type SessionView, type Stamper } from '@rouse/core/session';
import { TraceBuilder } from '@rouse/core/trace';
import { v7 as uuidv7 } from 'uuid';
import { keepOnTablet, readOnTablet, type TabletHead } from './tablet-store.ts';

/** Who opens a run, of what, on which day. */
export interface TabletOpening {
  by: { personId: string; name: string };
  context: Pick<BriefContext, 'type' | 'tail' | 'pad'>;
  aircraft: string;
  brief: BriefRecord;
  past: TabletHead['past'];
}

export type TabletAnswer = { ok: true; entries: readonly Entry[] } | { ok: false; message: string; remedy: string };

/** The clock of the tablet may be set meanwhile: it counts from when the page took the run up, and never goes back. */
class TabletClock {
  private readonly zero_ms: number;
  private readonly from_s: number;

  constructor(openedAt: string, last_s: number) {
    this.from_s = Math.max(last_s, (Date.now() - Date.parse(openedAt)) / 1000);
    this.zero_ms = performance.now();
  }

  now_s(): number {
    return this.from_s + (performance.now() - this.zero_ms) / 1000;
  }
}

/** A run that is worked by hand without a server: the same session as there, its journal chained and kept here. */
export class TabletRun {
  head: TabletHead;
  private session: RunSession;
  private readonly clock: TabletClock;
  /** one answer after the other: the next is judged when the one before is kept */
  private turn: Promise<unknown> = Promise.resolve();

  private constructor(head: TabletHead, session: RunSession) {
    this.head = head;
    this.session = session;
    this.clock = new TabletClock(head.openedAt, session.entries.at(-1)?.t ?? 0);
  }

  /** Opens a run by hand. @throws where this browser keeps nothing */
  static async open({ by, context: { type, tail, pad }, aircraft, brief, past }: TabletOpening): Promise<string> {
    const openedAt_ms = Date.now();
    const run = uuidv7({ msecs: openedAt_ms });
    const session = createSession(type, { run, past: NO_PAST, stamp: stampFrom(openedAt_ms) });
    const opened = { tail, type: type.id, typeVersion: type.version, source: 'by-hand' as const, pad, conditions: brief.words };
    const { journal } = session.open(by.personId, opened, brief);
    const head: TabletHead = {
      run, aircraft, tail, pad, past,
      usual: {},
      type: { id: type.id, version: type.version },
      openedAt: new Date(openedAt_ms).toISOString(),
      pilot: by.name,
      by: by.personId,
      source: 'by-hand',
      conditions: brief.words,
      closed: false,
      refused: null,
    };
    await keepOnTablet(head, journal);
    return run;
  } // oxfmt-ignore

  /** A run of this tablet, taken up from what was kept; null where it is none. */
  static async takeUp(run: string, typeOf: (type: TabletHead['type']) => Promise<TypeFile>): Promise<TabletRun | null> {
    const kept = await readOnTablet(run);
    if (!kept) return null;
    const { head, entries } = kept;
    const type = await typeOf(head.type);
    return new TabletRun(head, sessionOf(type, head, entries));
  }

  get entries(): readonly Entry[] {
    return this.session.entries;
  }

  get type(): TypeFile {
    return this.session.type;
  }

  now_s(): number {
    return this.clock.now_s();
  }

  view(): SessionView {
    return this.session.view();
  }

  /** What a person writes. It counts when it is kept, and not before. */
  answer(payload: Payload): Promise<TabletAnswer> {
    const answered = this.turn.then(() => this.answerNext(payload));
    this.turn = answered.catch(() => undefined);
    return answered;
  }

  private async answerNext(payload: Payload): Promise<TabletAnswer> {
    const before = this.session.entries;
    const answered = this.session.answer({ by: this.head.by, t_s: this.now_s(), payload });
    if (!answered.ok) return { ok: false, message: answered.message, remedy: '' };
    const { journal, close } = answered.effects;
    const head = { ...this.head, closed: this.head.closed || close !== null };
    try {
      await keepOnTablet(head, this.session.entries);
    } catch {
      this.session = sessionOf(this.type, head, before);
      return { ok: false, message: 'This tablet does not keep what is written', remedy: 'Make room on it, or leave the private window; then write it again.' }; // oxfmt-ignore
    }
    this.head = head;
    return { ok: true, entries: journal };
  }
}

/** The session of a run that has come so far; by hand there are no frames. */
function sessionOf(type: TypeFile, { run, openedAt }: TabletHead, entries: readonly Entry[]): RunSession {
  const session = createSession(type, { run, past: NO_PAST, stamp: stampFrom(Date.parse(openedAt)) });
  session.restore(entries, new TraceBuilder(type.channels.map((c) => c.id)).toTrace());
  return session;
}

/** Entries have their ids and times by the clock of the tablet. */
const stampFrom =
  (openedAt_ms: number): Stamper =>
  (t_s) => {
    const at_ms = Math.round(openedAt_ms + 1000 * t_s);
    return { id: uuidv7({ msecs: at_ms }), at_ms };
  };
