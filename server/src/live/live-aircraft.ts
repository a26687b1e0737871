import type { TypeFile } from '@rouse/core/aircraft';
import { FRAME_HEADER, type LiveMessage, type Pace, packFrame, type SourceState } from '@rouse/core/contract';
import { DeviceReader, LineQuality } from '@rouse/core/format';
import { featuresOf } from '@rouse/core/health';
import { type BriefRecord, entriesOfRating, type Entry, pastWaitsOf, type Payload } from '@rouse/core/procedure';
import type { RatingEvent } from '@rouse/core/ratings';
import { bookingOf } from '@rouse/core/shutdown';
import { snapshotOf, SOURCE_LOST_AFTER_S, type WatchEvent } from '@rouse/core/watch';
import { v7 as uuidv7 } from 'uuid';
import type { AircraftRow } from '../db/aircraft.ts';
import { insertBooking } from '../db/bookings.ts';
import { listEntries } from '../db/entries.ts';
import { type NewFeature, putFeature } from '../db/features.ts';
import { asOperator, type Tx } from '../db/pool.ts';
import { findOpenRun, insertRun, type RunRow } from '../db/runs.ts';
import { getTrace } from '../db/trace.ts';
import { insertWaits } from '../db/waits.ts';
import type { Journal } from './journal.ts';
import { assembleRun, type LiveDeps, type OpenRun, type Past, pastOf, ratingBooksOf } from './open-run.ts';
import { isBooked, isWritten, replayRatings } from './recovery.ts';
import { UnitClock } from './unit-clock.ts';

const OBSERVE_EVERY_FRAMES = 5;
const STATUS_EVERY_MS = 100;
/**
 * One aircraft with its line of data: the watcher of record. Frames are stored, watched and passed on in the order in
 * which they come; the open run survives the program, because it is rebuilt from journal and trace.
 */
export class LiveAircraft {
  readonly aircraft: AircraftRow;
  readonly type: TypeFile;
  connected = false;
  /** a device line is laid to it */
  wired = false;
  private readonly deps: LiveDeps;
  private readonly reader: DeviceReader;
  private readonly quality = new LineQuality();
  private readonly frame: Float64Array;
  private open: OpenRun | null = null;
  private latestAt_ms = NaN;
  private lastT_s = -Infinity;
  private readonly unitClock = new UnitClock();
  /** how many times faster than life the stand-in of this aircraft lives */
  pace: Pace = 1;
  private frames = 0;
  private badLines = 0;
  private readonly events: WatchEvent[] = [];
  private readonly ratingEvents: RatingEvent[] = [];
  private readonly listeners = {
    watched: (event: WatchEvent): void => void this.events.push(event),
    rated: (event: RatingEvent): void => void this.ratingEvents.push(event),
  };
  private readonly timer: NodeJS.Timeout;

  constructor(deps: LiveDeps, aircraft: AircraftRow, type: TypeFile) {
    this.deps = deps;
    this.aircraft = aircraft;
    this.type = type;
    this.reader = new DeviceReader(type);
    this.frame = new Float64Array(FRAME_HEADER + type.channels.length);
    this.timer = setInterval(() => this.everyTenth(), STATUS_EVERY_MS);
  }

  get openRunId(): string | null {
    return this.open?.row.runId ?? null;
  }

  /** Whether the open run lives on a simulated aircraft. */
  get simulated(): boolean {
    return this.open?.row.source === 'stand-in';
  }

  /** The open run that has this id. */
  runOf(runId: string): { journal: Journal } | null {
    return this.open?.row.runId === runId ? this.open : null;
  }

  /** The last frame while it is fresh, null when there is no data. */
  freshValues(): Float64Array | null {
    return this.source() === 'live' && this.open?.row.source !== 'by-hand' ? this.reader.values : null;
  }

  source(): SourceState {
    if (this.deps.clock.now() - this.latestAt_ms < 1000 * SOURCE_LOST_AFTER_S) return 'live';
    return this.connected || !Number.isNaN(this.latestAt_ms) ? 'lost' : 'none';
  }

  /** Takes up an open run that an earlier process left, replaying its trace through a fresh watch. */
  async recover(): Promise<void> {
    const { pool, operatorId } = this.deps;
    await asOperator(pool, operatorId, async (tx) => {
      const row = await findOpenRun(tx, this.aircraft.aircraftId);
      if (!row) return;
      const entries = await listEntries(tx, row);
      const trace = await getTrace(tx, row, this.type.channels);
      const open = this.assemble(row, entries, await this.past(tx, row.openedAt));
      this.events.length = 0;
      open.watch?.replay(trace);
      replayRatings(open.ratings, trace);
      const unwritten = this.ratingEvents.splice(0).filter((event) => !isBooked(event, entries));
      this.lastT_s = trace.t_s[trace.t_s.length - 1] ?? -Infinity;
      // a run that was hurried before goes on from its own clock
      open.journal.ahead_ms = Math.max(0, (this.lastT_s - open.journal.runClock()) * 1000);
      const missed = this.events.splice(0).filter((event) => !isWritten(event, entries));
      this.open = open;
      this.deps.log.info(
        { run: row.runId, entries: entries.length, frames: trace.t_s.length, missed: missed.length },
        'open run taken up',
      );
      if (missed.length) this.record(missed);
      this.ratingEvents.push(...unwritten);
      this.recordRatings(open);
    });
  }

  /** Opens a run with its brief. @throws Refusal run-is-open */
  async openRun(
    by: string,
    conditions: string,
    source: 'stand-in' | 'device' | 'by-hand',
    brief: BriefRecord,
  ): Promise<string> {
    const { pool, operatorId, clock } = this.deps;
    const runId = uuidv7();
    const { row, past } = await asOperator(pool, operatorId, async (tx) => {
      await insertRun(tx, {
        runId,
        aircraftId: this.aircraft.aircraftId,
        typeId: this.type.id,
        typeVersion: this.type.version,
        openedBy: by,
        openedAt: new Date(clock.now()),
        source,
        conditions,
      });
      const opened = await findOpenRun(tx, this.aircraft.aircraftId);
      return { row: opened!, past: await this.past(tx, new Date(clock.now())) };
    });
    const open = this.assemble(row, [], past);
    this.lastT_s = -Infinity;
    this.pace = 1;
    await open.journal.append([
      {
        by,
        t_s: 0,
        payload: {
          kind: 'run-opened',
          tail: this.aircraft.tail,
          type: this.type.id,
          typeVersion: this.type.version,
          source,
          pad: this.aircraft.pad,
          conditions,
        },
      },
      { by, t_s: 0, payload: { kind: 'briefed', brief } },
    ]);
    // the ledger of a piston takes its limits from the chart of the day
    open.ratings = ratingBooksOf(this.type, open.journal.state, this.listeners);
    this.open = open;
    return runId;
  }

  /** One line of the unit. A line that cannot be read is counted and changes nothing. */
  line(text: string): void {
    const now = this.deps.clock.now();
    const found = this.reader.read(text, now / 1000);
    this.quality.line(now / 1000, found === 'frame' || found === 'part');
    if (found === 'part') return;
    if (found !== 'frame') {
      this.badLines++;
      if (this.badLines % 100 === 1)
        this.deps.log.warn({ fault: found, badLines: this.badLines, line: text.slice(0, 120) }, 'unreadable line');
      return;
    }
    this.quality.frame(now / 1000);
    this.latestAt_ms = now;
    const at_ms = this.unitClock.at(this.reader.t_s, now + (this.open?.journal.ahead_ms ?? 0), this.pace > 1);
    const open = this.open;
    // a run by hand takes nothing from the line
    if (!open || open.row.source === 'by-hand') return;
    if (this.pace > 1) open.journal.ahead_ms = Math.max(open.journal.ahead_ms, at_ms - now);
    const t_s = Math.round(at_ms - open.row.openedAt.getTime()) / 1000;
    if (t_s <= this.lastT_s || t_s < 0) return;
    this.lastT_s = t_s;
    const { values } = this.reader;
    open.store.push(t_s, values);
    open.watch?.step(t_s, values);
    open.ratings.step(t_s, values);
    packFrame(this.frame, t_s, this.reader.t_s, values);
    this.deps.pages.sendFrame(open.row.runId, this.frame);
    if (this.events.length) this.record(this.events.splice(0));
    if (this.ratingEvents.length) this.recordRatings(open);
    if (open.runner.frame(t_s, values) || ++this.frames % OBSERVE_EVERY_FRAMES === 0) {
      this.write(open, open.runner.observe(t_s, values, open.journal.state), t_s);
    }
  }

  /** The pilot stops a start: the watch makes the abort, so that it is one thing whoever calls it. @returns false when no start is going on */
  stopStart(): boolean {
    const { open } = this;
    if (!open?.watch?.starting) return false;
    open.watch.pilotAbort(open.journal.runClock());
    this.record(this.events.splice(0));
    return true;
  }

  greeting(runId: string): LiveMessage | null {
    const { open } = this;
    if (open?.row.runId !== runId) return null;
    return { kind: 'hello', run: runId, t_s: open.journal.runClock(), entries: [...open.journal.entries] };
  }

  /** Ends the present run's work when its journal says that it is closed. */
  private async finish(open: OpenRun): Promise<void> {
    this.open = null;
    await open.store.close();
    const { entries, state } = open.journal;
    await asOperator(this.deps.pool, this.deps.operatorId, async (tx) => {
      const trace = await getTrace(tx, open.row, this.type.channels);
      const waits = pastWaitsOf(this.type, entries, trace, state.brief?.oat_C ?? null);
      const now = new Date(this.deps.clock.now());
      await insertWaits(tx, open.row, now, waits);
      await insertBooking(tx, open.row, now, bookingOf(this.type, entries, open.ratings.now()));
    });
    // closed before an engine stood still: its figures are those seen so far
    const ended = (open.watch?.starts ?? [])
      .filter((s) => s.state === 'aborted')
      .map((s) => ({
        kind: 'start-ended' as const,
        t_s: this.lastT_s,
        watch: s.spec.id,
        record: s.record,
        profile: s.profile(),
      }));
    for (const feature of this.keptFeatures(open, ended)) {
      await asOperator(this.deps.pool, this.deps.operatorId, (tx) => putFeature(tx, feature));
    }
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    await this.open?.store.close().catch((error: unknown) => this.deps.log.error(error, 'last frames'));
    await this.open?.journal.settled();
  }

  private assemble(row: RunRow, entries: readonly Entry[], past: Past): OpenRun {
    const open: OpenRun = assembleRun(this.deps, this.type, row, entries, past, {
      ...this.listeners,
      closed: () => void this.finish(open).catch((error: unknown) => this.deps.log.error(error, 'closing a run')),
    });
    return open;
  }

  private past(tx: Tx, before: Date): Promise<Past> {
    return pastOf(tx, this.aircraft.aircraftId, this.type, before);
  }

  /** Writes what the watch reported, after the frames that it was seen in. */
  private record(events: WatchEvent[]): void {
    const { open } = this;
    if (!open) return;
    const drafts: { by: string; t_s: number; payload: Payload }[] = [];
    for (const event of events) {
      for (const payload of open.runner.fromWatch(event, open.journal.state))
        drafts.push({ by: 'watch', t_s: event.t_s, payload });
    }
    const stored = open.store.flush();
    const kept = this.keptFeatures(open, events);
    open.journal
      .append(drafts, async (tx) => {
        await stored;
        for (const feature of kept) await putFeature(tx, feature);
      })
      .catch((error: unknown) => this.deps.log.error(error, 'journal not written'));
  }

  /** Figures of the starts that these events complete, as they stand now. */
  private keptFeatures(open: OpenRun, events: readonly WatchEvent[]): NewFeature[] {
    const at = new Date(this.deps.clock.now());
    return events.flatMap((event) => {
      if (event.kind !== 'start-done' && event.kind !== 'abort' && event.kind !== 'start-ended') return [];
      const machine = open.watch?.starts.find((s) => s.spec.id === event.watch);
      if (!machine) return [];
      return {
        runId: open.row.runId,
        aircraftId: this.aircraft.aircraftId,
        watch: event.watch,
        attempt: machine.record.attempt,
        at,
        good: event.kind === 'start-done',
        features: featuresOf(machine.record),
        profile: machine.profile(),
      };
    });
  }

  private recordRatings(open: OpenRun): void {
    for (const event of this.ratingEvents.splice(0)) this.write(open, entriesOfRating(event), event.t_s);
  }

  private write(open: OpenRun, payloads: Payload[], t_s: number): void {
    if (payloads.length === 0) return;
    open.journal
      .append(payloads.map((payload) => ({ by: 'watch', t_s, payload })))
      .catch((error: unknown) => this.deps.log.error(error, 'journal not written'));
  }

  private everyTenth(): void {
    const { open } = this;
    if (!open) return;
    const t_s = open.journal.runClock();
    open.watch?.clock(t_s);
    if (this.events.length) this.record(this.events.splice(0));
    this.deps.pages.send(open.row.runId, {
      kind: 'status',
      t_s,
      source: this.source(),
      quality: this.quality.over(this.deps.clock.now() / 1000),
      pace: this.pace,
      storedTo_s: Number.isNaN(open.store.storedTo_s) ? null : open.store.storedTo_s,
      watch: open.watch && snapshotOf(open.watch, this.type),
      check: open.runner.check(),
      dwells: open.runner.dwells(),
      ratings: open.ratings.now(),
    });
  }
}
