import { isWatched, type TypeFile } from '../aircraft/index.ts';
import type { CheckSnapshot } from '../checks/index.ts';
import { featuresOf } from '../health/index.ts';
import {
  type Acceptance,
  acceptFromPilot,
  type BriefRecord,
  canonicalJson,
  chainEntries,
  chartLimitsOf,
  entriesOfRating,
  type Entry,
  type Dwell,
  type Payload,
  reduceRun,
  Runner,
  type RunState,
  samePayload,
  startAir,
} from '../procedure/index.ts';
import { RatingBooks, type RatingEvent, type RatingNow } from '../ratings/index.ts';
import { bookingOf } from '../shutdown/index.ts';
import { rowAt, rowInto, type Trace } from '../trace/index.ts';
import {
  type Corridor,
  snapshotOf,
  SOURCE_LOST_AFTER_S,
  type StartRecord,
  type StartProfile,
  Watch,
  type WatchEvent,
  type WatchSnapshot,
} from '../watch/index.ts';
import {
  type Answered,
  type Effects,
  FRAME_KEPT,
  NOTHING,
  type Stamper,
  type StartFigures,
  type Told,
} from './effects.ts';
import type { TailPast } from './past.ts';
import { isBooked, isWritten } from './written.ts';

/** items are looked at every so many frames; checks see every one */
const OBSERVE_EVERY_FRAMES = 5;
/** a second unit on a line is told again after this long */
const TELL_LINE_AGAIN_S = 60;

type Opened = Extract<Payload, { kind: 'run-opened' }>;

/** What a person sends: an entry with an id of its own, so that sending it twice writes it once. */
export interface Answer {
  id?: string;
  by: string;
  t_s: number;
  payload: Payload;
}

/** Everything that a screen shows of a run that goes on. */
export interface SessionView {
  watch: WatchSnapshot | null;
  /** the check that is being measured */
  check: CheckSnapshot | null;
  /** items that settle themselves when what is seen has lasted */
  dwells: Dwell[];
  /** what has been used of the ratings of each engine */
  ratings: RatingNow[];
}

export interface SessionOptions {
  run: string;
  past: TailPast;
  stamp: Stamper;
}

/** One run: what is fed into it becomes entries, cues and figures. Pure; the same inputs give the same effects. */
export function createSession(type: TypeFile, options: SessionOptions): RunSession {
  return new RunSession(type, options);
}

export class RunSession {
  readonly run: string;
  readonly type: TypeFile;
  entries: readonly Entry[] = [];
  state: RunState = reduceRun([]);
  /** run clock of the last frame, NaN before the first */
  lastFrame_s = NaN;
  private readonly past: TailPast;
  private readonly stamp: Stamper;
  private readonly runner: Runner;
  private watch: Watch | null = null;
  private ratings: RatingBooks;
  private readonly values: Float64Array;
  private frames = 0;
  private lineTold_s = -Infinity;
  /** what persons asked for since this process knows the run, by the id of the entry that came of it */
  private readonly asked = new Map<string, string>();
  private readonly watched: WatchEvent[] = [];
  private readonly rated: RatingEvent[] = [];
  private made: Entry[] = [];
  private starts: StartFigures[] = [];

  constructor(type: TypeFile, { run, past, stamp }: SessionOptions) {
    this.type = type;
    this.run = run;
    this.past = past;
    this.stamp = stamp;
    this.runner = new Runner(type, past.learned);
    this.ratings = new RatingBooks(type, null);
    this.values = new Float64Array(type.channels.length).fill(NaN);
  }

  /** The first entries of a new run. */
  open(by: string, opened: Omit<Opened, 'kind'>, brief: BriefRecord | null): Effects {
    this.write(by, 0, { kind: 'run-opened', ...opened });
    if (brief) this.write(by, 0, { kind: 'briefed', brief });
    this.begin();
    return this.effects(false);
  }

  /**
   * Takes a run up from what was kept of it: the frames go through a fresh watch, and what an earlier process saw but
   * could not write any more is reported, once.
   */
  restore(entries: readonly Entry[], trace: Trace): Effects {
    this.entries = entries;
    this.state = reduceRun(entries);
    this.begin();
    this.replay(trace);
    const missed = this.watched.splice(0).filter((event) => !isWritten(event, entries));
    const unbooked = this.rated.splice(0).filter((event) => !isBooked(event, entries));
    this.watched.push(...missed);
    this.rated.push(...unbooked);
    this.drain();
    return this.effects(false);
  }

  /** One frame of data, channel order of the type, NaN where lost. A frame that does not come after the one before is refused. */
  frame(t_s: number, values: Float64Array): Effects {
    if (this.watch === null && this.state.source === 'by-hand') return NOTHING;
    if (this.state.status !== 'open' || t_s < 0 || t_s <= this.lastFrame_s) return NOTHING;
    this.lastFrame_s = t_s;
    this.values.set(values);
    this.watch?.step(t_s, values);
    this.ratings.step(t_s, values);
    const worked = this.state.source !== 'recording';
    const look = worked && (this.runner.frame(t_s, values) || ++this.frames % OBSERVE_EVERY_FRAMES === 0);
    if (this.watched.length > 0 || this.rated.length > 0) this.drain();
    if (look) for (const payload of this.runner.observe(t_s, values, this.state)) this.write('watch', t_s, payload);
    return this.made.length === 0 && this.starts.length === 0 ? FRAME_KEPT : this.effects(true);
  }

  /** What a person says or does; judged against the list and the latest frame. An id that was seen before gives what it wrote. */
  answer({ id, by, t_s, payload }: Answer): Answered {
    const before = id === undefined ? undefined : this.entries.find((e) => e.id === id);
    if (before) return this.again(before, payload);
    const verdict = this.judge(payload, t_s);
    if (!verdict.ok) return { ...verdict, effects: this.effects(false) };
    if (verdict.payload.kind === 'closed') this.writeUp(t_s);
    if (verdict.payload.kind === 'abort' && this.watch?.starting) this.stopStart(by, t_s, id);
    else this.write(by, t_s, verdict.payload, id);
    const entry = this.made.find((e) => e.id === id) ?? this.made.findLast((e) => e.by === by)!;
    this.asked.set(entry.id, canonicalJson(payload));
    return { ok: true, entry, effects: this.effects(false) };
  }

  /** Time goes on without data. */
  clock(t_s: number): Effects {
    if (this.state.status !== 'open') return NOTHING;
    this.watch?.clock(t_s);
    if (this.watched.length === 0) return NOTHING;
    this.drain();
    return this.effects(false);
  }

  /** A second unit speaks on the line of this run: it is not listened to, and that is said. */
  line(t_s: number): Effects {
    if (this.state.status !== 'open' || t_s - this.lineTold_s < TELL_LINE_AGAIN_S) return NOTHING;
    this.lineTold_s = t_s;
    const text =
      'A second unit speaks on the line of this aircraft and is not listened to. Find out which one is connected';
    this.write('watch', t_s, {
      kind: 'cue',
      code: 'second-source',
      severity: 'caution',
      text,
      say: 'Two units on the line.',
    });
    return this.effects(false);
  }

  /** The frames up to here are part of the record by this digest. */
  seal(t_s: number, to_s: number, frames: number, digest: string): Effects {
    this.write('watch', t_s, { kind: 'trace-sealed', to_s, frames, digest });
    return this.effects(false);
  }

  /** The latest readings while they are fresh, null while every reading is unknown. */
  freshValues(t_s: number): Float64Array | null {
    return t_s - this.lastFrame_s <= SOURCE_LOST_AFTER_S ? this.values : null;
  }

  /** The usual range of this tail's starts, as it was when the run was opened, by start watch. */
  get corridors(): Record<string, Corridor | null> {
    return Object.fromEntries(this.type.startWatches.map(({ id }) => [id, this.past.corridors[id] ?? null]));
  }

  view(): SessionView {
    return {
      watch: this.watch && snapshotOf(this.watch, this.type),
      check: this.runner.check(),
      dwells: this.runner.dwells(),
      ratings: this.ratings.now(),
    };
  }

  private begin(): void {
    const { type, state } = this;
    if (isWatched(type) && state.source !== 'by-hand')
      this.watch = new Watch(type, this.past.corridors, (event) => this.watched.push(event));
    this.watch?.airIs(startAir(state));
    // the ledger of a piston takes its limits from the chart of the day
    this.ratings = new RatingBooks(type, chartLimitsOf(type, state), (event) => this.rated.push(event));
  }

  /** What still stands outside its limits when a run is closed belongs to its record, and holds the next start as any other does. */
  private writeUp(t_s: number): void {
    this.watch?.finish(t_s);
    this.drain();
  }

  private judge(payload: Payload, t_s: number): Acceptance {
    const starts = this.watch ? snapshotOf(this.watch, this.type).starts : null;
    return acceptFromPilot(this.type, this.state, payload, this.freshValues(t_s), { entries: this.entries, starts });
  }

  private again(before: Entry, payload: Payload): Answered {
    const asked = this.asked.get(before.id);
    return (asked === undefined ? samePayload(before, payload) : asked === canonicalJson(payload))
      ? { ok: true, entry: before, effects: NOTHING }
      : {
          ok: false,
          code: 'id-used',
          message: 'This id was used for another entry of this run; send the new one with an id of its own.',
          effects: NOTHING,
        };
  }

  /** The watch makes the abort, so that it is one thing whoever calls it; the entry is the pilot's. */
  private stopStart(by: string, t_s: number, id: string | undefined): void {
    this.watch!.pilotAbort(t_s);
    for (const event of this.watched.splice(0)) {
      const mine = event.kind === 'abort';
      for (const payload of this.runner.fromWatch(event, this.state))
        this.write(mine ? by : 'watch', t_s, payload, mine ? id : undefined);
      this.figures(event);
    }
  }

  /** What the watch and the ledgers reported becomes entries and figures. */
  private drain(): void {
    for (let i = 0; i < this.watched.length; i++) {
      const event = this.watched[i]!;
      for (const payload of this.runner.fromWatch(event, this.state)) this.write('watch', event.t_s, payload);
      this.figures(event);
    }
    this.watched.length = 0;
    for (let i = 0; i < this.rated.length; i++) {
      const event = this.rated[i]!;
      for (const payload of entriesOfRating(event)) this.write('watch', event.t_s, payload);
    }
    this.rated.length = 0;
  }

  private figures(event: WatchEvent): void {
    if (event.kind === 'start-done') this.keep(event.watch, event.record, event.profile, event.verdict === 'good');
    else if (event.kind === 'start-ended') this.keep(event.watch, event.record, event.profile, false);
    else if (event.kind === 'abort') {
      const machine = this.watch?.starts.find((s) => s.spec.id === event.watch);
      if (machine) this.keep(event.watch, machine.record, machine.profile(), false);
    }
  }

  private keep(watch: string, record: StartRecord, profile: StartProfile, good: boolean): void {
    this.starts.push({
      watch,
      attempt: record.attempt,
      good,
      record: { ...record },
      features: featuresOf(record),
      profile,
    });
  }

  private write(by: string, t_s: number, payload: Payload, id?: string): void {
    const stamp = this.stamp(t_s);
    const draft = { id: id ?? stamp.id, at_ms: stamp.at_ms, t_s, by, payload };
    const [entry] = chainEntries(this.run, this.entries[this.entries.length - 1], [draft]);
    this.made.push(entry!);
    this.entries = [...this.entries, entry!];
    this.state = reduceRun(this.entries);
    // closed before an engine stood still: its figures are those seen so far
    if (payload.kind !== 'closed') return;
    for (const machine of this.watch?.starts ?? [])
      if (machine.state === 'aborted') this.keep(machine.spec.id, machine.record, machine.profile(), false);
  }

  private effects(frames: boolean): Effects {
    const journal = this.made;
    const { starts } = this;
    if (journal.length === 0 && starts.length === 0) return frames ? FRAME_KEPT : NOTHING;
    this.made = [];
    this.starts = [];
    const closed = journal.find((e) => e.kind === 'closed');
    return {
      tell: journal.filter((e): e is Told => e.kind === 'cue' || e.kind === 'abort'),
      journal,
      frames,
      starts,
      close: closed
        ? { outcome: closed.outcome, booking: bookingOf(this.type, this.entries, this.ratings.now()) }
        : null,
    };
  }

  /** Feeds what was recorded, and tells the watch where a person stopped a start. */
  private replay(trace: Trace): void {
    const { watch, ratings } = this;
    let from = 0;
    for (const entry of this.entries) {
      if (entry.kind !== 'abort' || entry.reason !== 'pilot') continue;
      const to = rowAt(trace, entry.t);
      watch?.replay(rows(trace, from, to));
      watch?.pilotAbort(entry.t);
      from = to;
    }
    watch?.replay(rows(trace, from, trace.t_s.length));
    for (let i = 0; i < trace.t_s.length; i++) {
      rowInto(trace, i, this.values);
      ratings.step(trace.t_s[i]!, this.values);
    }
    this.lastFrame_s = trace.t_s[trace.t_s.length - 1] ?? NaN;
  }
}

const rows = (trace: Trace, from: number, to: number): Trace => ({
  channels: trace.channels,
  t_s: trace.t_s.subarray(from, to),
  columns: trace.columns.map((c) => c.subarray(from, to)),
});
