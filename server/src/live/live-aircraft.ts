import type { TypeFile } from '@rouse/core/aircraft';
import { FRAME_HEADER, type LiveMessage, type Pace, packFrame, type SourceState } from '@rouse/core/contract';
import { DeviceReader, LineQuality } from '@rouse/core/format';
import { usualFigures } from '@rouse/core/health';
import type { BriefRecord } from '@rouse/core/procedure';
import { CORRIDOR_STARTS, createSession, pastOfTail, type RunSession, type TailPast } from '@rouse/core/session';
import type { LearnedStart } from '@rouse/core/watch';
import type pg from 'pg';
import type { Logger } from 'pino';
import { v7 as uuidv7 } from 'uuid';
import type { Clock } from '../clock.ts';
import { type AircraftRow, getType } from '../db/aircraft.ts';
import { listPassedChecks, PAST_CHECKS } from '../db/checks.ts';
import { insertEntries, listEntries } from '../db/entries.ts';
import { listGoodStarts } from '../db/features.ts';
import { holdFleet } from '../db/leases.ts';
import { asOperator, type Tx } from '../db/pool.ts';
import { findOpenRun, insertRun, type RunRow } from '../db/runs.ts';
import { getTrace } from '../db/trace.ts';
import { listWaits } from '../db/waits.ts';
import { Refusal } from '../errors.ts';
import type { Outbox } from '../outbox/outbox.ts';
import { type Acknowledges, OpenRun, type RunRecord } from './open-run.ts';
import type { Pages } from './pages.ts';
import { RunClock, type RunZeros } from './run-clock.ts';
import { UnitClock } from './unit-clock.ts';

const STATUS_EVERY_MS = 100;
/** where many pages follow, a status comes with every third tick */
const TICKS_A_STATUS = 3;
/** between two ticks, beyond which this process itself stood still */
const HELD_UP_MS = 400;
/** earlier waits that a run is forecast by */
export const PAST_WAITS = 200;
/** ids of closed runs that are remembered, to refuse one that is sent again into another run */
const MOST_IDS = 5000;

export interface LiveDeps {
  pool: pg.Pool;
  operatorId: string;
  /** of the tenure in which the fleet is ours */
  fence: number;
  acknowledges: Acknowledges;
  clock: Clock;
  zeros: RunZeros;
  log: Logger;
  pages: Pages;
  outbox: Outbox;
  /** how long the database has been away, s */
  away_s: () => number;
  /** something of a line was told to the pages, so long after it came */
  told: (after_s: number) => void;
}

/** A run that cannot be taken up: it holds its aircraft until somebody has looked. */
export interface SetAsideRun {
  runId: string;
  reason: string;
}

/**
 * One aircraft with its line of data: the watcher of record. Frames are watched, passed on and kept in the order in
 * which they come; an open run survives the program, because it is rebuilt from journal and trace.
 */
export class LiveAircraft {
  aircraft: AircraftRow;
  /** the version that flies now; an open run keeps the one that it was opened with */
  type: TypeFile;
  connected = false;
  /** a device line is laid to it */
  wired = false;
  setAside: SetAsideRun | null = null;
  private readonly deps: LiveDeps;
  private reader: DeviceReader;
  private readonly quality = new LineQuality();
  private frame: Float64Array;
  private open: OpenRun | null = null;
  /** closed, and on its way into the database */
  private closing: OpenRun | null = null;
  private heardAt_ms = -Infinity;
  private unitClock = new UnitClock();
  /** how many times faster than life the stand-in of this aircraft lives */
  pace: Pace = 1;
  private badLines = 0;
  private tickedAt_ms = Infinity;
  private ticks = 0;
  private readUntil_ms = -Infinity;
  /** the last frame before the silence that a hold-up was allowed for */
  private excused_ms = NaN;
  private readonly usedIds = new Map<string, string>();
  private readonly timer: NodeJS.Timeout;

  constructor(deps: LiveDeps, aircraft: AircraftRow, type: TypeFile) {
    this.deps = deps;
    this.aircraft = aircraft;
    this.type = type;
    this.reader = new DeviceReader(type);
    this.frame = new Float64Array(FRAME_HEADER + type.channels.length);
    this.timer = setInterval(() => this.everyTenth(), STATUS_EVERY_MS);
  }

  /** The aircraft flies another version, or another type, from its next run on. @throws Refusal while a run is open */
  retype(type: TypeFile): void {
    if (this.open || this.closing || this.setAside)
      throw new Refusal('run-is-open', `${this.aircraft.tail} has an open run; it keeps its version to the end.`);
    this.aircraft = { ...this.aircraft, typeId: type.id, typeVersion: type.version };
    this.type = type;
    this.reader = new DeviceReader(type);
    this.frame = new Float64Array(FRAME_HEADER + type.channels.length);
  }

  get openRunId(): string | null {
    return this.open?.row.runId ?? null;
  }

  /** The run that goes on, null where none is open. */
  get openNow(): OpenRun | null {
    return this.open;
  }

  /** What a channel reads now; null while nothing is heard, or the reading is lost. */
  reading(channel: string): number | null {
    const value =
      this.source() === 'live' ? this.reader.values[this.type.channels.findIndex((c) => c.id === channel)] : NaN;
    return value === undefined || Number.isNaN(value) ? null : value;
  }

  /** How the line of this aircraft does; null where nothing was heard on it yet. */
  get heardLine(): { frameAge_s: number; badShare: number } | null {
    if (this.heardAt_ms === -Infinity) return null;
    const now_ms = this.deps.clock.monotonic();
    return {
      frameAge_s: (now_ms - this.heardAt_ms) / 1000,
      badShare: this.quality.over(now_ms / 1000)?.bad_share ?? NaN,
    };
  }

  /** Who has the open run, null where none is open. */
  get holder(): string | null {
    return this.open?.session.state.holder?.person ?? null;
  }

  get openType(): TypeFile | null {
    return this.open?.type ?? null;
  }

  /** Whether the open run lives on a simulated aircraft. */
  get simulated(): boolean {
    return this.open?.row.source === 'stand-in';
  }

  /** The run that has this id, while it is open or on its way into the database. */
  runOf(runId: string): OpenRun | null {
    if (this.open?.row.runId === runId) return this.open;
    return this.closing?.row.runId === runId ? this.closing : null;
  }

  /** Is there data: judged by the session of the open run, by the last line that was heard where there is none. */
  source(): SourceState {
    const fresh = this.open
      ? this.open.session.freshValues(this.open.clock.now_s()) !== null
      : this.deps.clock.monotonic() - this.heardAt_ms < 1000;
    if (fresh) return 'live';
    return this.connected || this.heardAt_ms > -Infinity ? 'lost' : 'none';
  }

  /** Takes up an open run that an earlier process left. One that cannot be taken up is set aside, with its reason. */
  async recover(): Promise<void> {
    const { pool, operatorId, log } = this.deps;
    let row: RunRow | null = null;
    try {
      await asOperator(pool, operatorId, async (tx) => {
        row = await findOpenRun(tx, this.aircraft.aircraftId);
        if (row) await this.takeUp(tx, row);
      });
    } catch (error) {
      const found = row as RunRow | null;
      if (!found) throw error;
      const reason = error instanceof Error ? error.message : String(error);
      log.error({ err: error, run: found.runId }, 'an open run cannot be taken up and is set aside');
      this.open = null;
      this.setAside = { runId: found.runId, reason };
    }
  }

  private async takeUp(tx: Tx, row: RunRow): Promise<void> {
    const { clock, zeros, log } = this.deps;
    const type = await getType(tx, row.typeId, row.typeVersion);
    const entries = await listEntries(tx, row);
    const trace = await getTrace(tx, row, type.channels);
    const zero_ms = zeros.of(row.runId);
    const elapsed_s =
      ((zero_ms === null ? clock.now() : clock.monotonic()) - (zero_ms ?? row.openedAt.getTime())) / 1000;
    const runClock = new RunClock(clock, Math.max(0, elapsed_s));
    runClock.notBefore(trace.t_s[trace.t_s.length - 1] ?? 0);
    runClock.notBefore(entries[entries.length - 1]?.t ?? 0);
    zeros.put(row.runId, runClock.zero_ms);
    const open = await this.assemble(tx, row, type, runClock);
    const missed = open.session.restore(entries, trace);
    open.takeUp(trace);
    open.entriesStored(entries.length);
    this.begin(open);
    log.info({ run: row.runId, entries: entries.length, frames: trace.t_s.length, missed: missed.journal.length }, 'open run taken up'); // oxfmt-ignore
    open.carryOut(missed);
  }

  /** Opens a run with its brief. @throws Refusal run-is-open */
  async openRun(
    by: string,
    conditions: string,
    source: 'stand-in' | 'device' | 'by-hand',
    brief: BriefRecord,
  ): Promise<string> {
    const { pool, operatorId, clock, zeros } = this.deps;
    if (this.setAside)
      throw new Refusal('run-is-open', `${this.aircraft.tail} has a run that was set aside: ${this.setAside.reason}`, {
        run: this.setAside.runId,
      });
    const runId = uuidv7();
    const { type } = this;
    const open = await asOperator(pool, operatorId, async (tx) => {
      const openedAt = new Date(clock.now());
      await holdFleet(tx, this.deps.fence);
      await insertRun(tx, {
        runId,
        aircraftId: this.aircraft.aircraftId,
        typeId: type.id,
        typeVersion: type.version,
        openedBy: by,
        openedAt,
        source,
        conditions,
      });
      const row = (await findOpenRun(tx, this.aircraft.aircraftId))!;
      const assembled = await this.assemble(tx, row, type, new RunClock(clock));
      const { tail, pad } = this.aircraft;
      const opened = { tail, type: type.id, typeVersion: type.version, source, pad, conditions };
      const { journal } = assembled.session.open(by, opened, brief);
      await insertEntries(tx, row.runMonth, journal);
      return assembled;
    });
    zeros.put(runId, open.clock.zero_ms);
    open.entriesStored(open.session.entries.length);
    this.begin(open);
    return runId;
  }

  /** One line of the unit. A line that cannot be read, or comes from before the last one, is a line lost. */
  line(text: string): void {
    const { clock, log } = this.deps;
    const now_ms = clock.monotonic();
    const found = this.reader.read(text, now_ms / 1000);
    this.quality.line(now_ms / 1000, found === 'frame' || found === 'part');
    if (found === 'part') return;
    if (found !== 'frame') {
      this.badLines++;
      if (this.badLines % 100 === 1)
        log.warn({ fault: found, badLines: this.badLines, line: text.slice(0, 120) }, 'unreadable line');
      return;
    }
    const { open } = this;
    const at_ms = this.unitClock.at(this.reader.t_s, now_ms + (open?.clock.ahead_ms ?? 0), this.pace > 1);
    // a run by hand takes nothing from the line
    if (!open || open.row.source === 'by-hand') {
      this.heard(now_ms);
      return;
    }
    if (this.pace > 1) open.clock.follow(at_ms);
    const t_s = Math.round(at_ms - open.clock.zero_ms) / 1000;
    const { values } = this.reader;
    const said = open.session.entries.length;
    if (!open.frame(t_s, values)) {
      this.quality.refused(now_ms / 1000);
      return;
    }
    this.heard(now_ms);
    packFrame(this.frame, t_s, this.reader.t_s, values);
    this.deps.pages.sendFrame(open.row.runId, this.frame);
    if (open.session.entries.length > said) this.deps.told((clock.monotonic() - now_ms) / 1000);
  }

  /** Another unit speaks on the line of this aircraft while the first is heard. */
  secondUnit(from: string): void {
    this.deps.log.warn({ tail: this.aircraft.tail, from }, 'a second unit is not listened to');
    this.open?.secondUnit();
  }

  /** What a person writes into a run of this aircraft. @throws Refusal */
  async answer(run: OpenRun, ...answer: Parameters<OpenRun['answer']>): ReturnType<OpenRun['answer']> {
    try {
      return await run.answer(...answer);
    } finally {
      if (run.session.state.status === 'closed' && run === this.open) this.closed(run);
    }
  }

  greeting(runId: string): LiveMessage | null {
    const run = this.runOf(runId);
    return run && { kind: 'hello', run: runId, t_s: run.clock.now_s(), entries: [...run.session.entries] };
  }

  /** Whether an id was used in another run of this aircraft, as far as this process knows. */
  usedElsewhere(id: string, runId: string): boolean {
    if (this.usedIds.get(id) !== undefined && this.usedIds.get(id) !== runId) return true;
    const { open } = this;
    return open !== null && open.row.runId !== runId && open.session.entries.some((e) => e.id === id);
  }

  /** The database has this run whole. */
  stored(runId: string): void {
    if (this.closing?.row.runId === runId) this.closing = null;
  }

  /** Whether a closed run is still on its way into the database. */
  get isClosing(): boolean {
    return this.closing !== null;
  }

  /** It is watched here no more; a run that goes on goes on elsewhere. */
  close(): void {
    clearInterval(this.timer);
    for (const run of [this.open, this.closing]) if (run) this.deps.pages.leave(run.row.runId);
    this.open?.end();
  }

  private heard(now_ms: number): void {
    this.heardAt_ms = now_ms;
    this.quality.frame(now_ms / 1000);
  }

  private begin(open: OpenRun): void {
    this.open = open;
    this.pace = 1;
    this.reader = new DeviceReader(open.type);
    this.frame = new Float64Array(FRAME_HEADER + open.type.channels.length);
    this.unitClock = new UnitClock();
  }

  private closed(run: OpenRun): void {
    run.end();
    this.deps.zeros.forget(run.row.runId);
    for (const entry of run.session.entries) if (entry.by !== 'watch') this.usedIds.set(entry.id, run.row.runId);
    for (const id of this.usedIds.keys()) {
      if (this.usedIds.size <= MOST_IDS) break;
      this.usedIds.delete(id);
    }
    this.closing = run;
    this.open = null;
    this.reader = new DeviceReader(this.type);
  }

  private async assemble(tx: Tx, row: RunRow, type: TypeFile, clock: RunClock): Promise<OpenRun> {
    const { operatorId, fence, acknowledges, outbox, pages } = this.deps;
    const now = (): number => this.deps.clock.now();
    const { past, record } = await pastOf(tx, type, row);
    const session: RunSession = createSession(type, {
      run: row.runId,
      past,
      stamp: () => {
        const at_ms = now();
        return { id: uuidv7({ msecs: at_ms }), at_ms };
      },
    });
    return new OpenRun({ row, type, session, clock, record, operatorId, fence, acknowledges, outbox, pages, now });
  }

  private everyTenth(): void {
    const { open } = this;
    const { outbox, away_s, clock } = this.deps;
    const now_ms = clock.monotonic();
    // a server that was held up has frames to read before it can say that none came; once a silence, no alarm waits longer
    if (now_ms - this.tickedAt_ms > HELD_UP_MS && this.excused_ms !== this.heardAt_ms) {
      this.excused_ms = this.heardAt_ms;
      this.readUntil_ms = now_ms + HELD_UP_MS;
    }
    this.tickedAt_ms = now_ms;
    if (!open || now_ms < this.readUntil_ms) return;
    open.tick();
    const { pages } = this.deps;
    if (!pages.isFollowed(open.row.runId) || (pages.areMany && this.ticks++ % TICKS_A_STATUS !== 0)) return;
    pages.send(open.row.runId, {
      kind: 'status',
      t_s: open.clock.now_s(),
      source: this.source(),
      quality: this.quality.over(clock.monotonic() / 1000),
      unknown: this.reader.unknown,
      pace: this.pace,
      keptTo_s: Number.isNaN(open.keptTo_s) ? null : open.keptTo_s,
      outbox: { waiting: outbox.waiting, away_s: away_s(), disk: outbox.diskTrouble },
      ...open.view(),
    });
  }
}

/** What this tail did before: corridors and habits for the watch, waits and figures for the page. */
async function pastOf(tx: Tx, type: TypeFile, row: RunRow): Promise<{ past: TailPast; record: RunRecord }> {
  const starts: Record<string, LearnedStart[]> = {};
  for (const { id, kind } of type.startWatches) {
    if (kind !== 'turbine') continue;
    const good = await listGoodStarts(tx, row.aircraftId, id, row.openedAt, CORRIDOR_STARTS);
    starts[id] = good.map((s) => s.learned);
  }
  const checks = await listPassedChecks(tx, row.aircraftId, row.openedAt, PAST_CHECKS);
  return {
    past: pastOfTail(type, starts, checks),
    record: { past: await listWaits(tx, row.aircraftId, PAST_WAITS), usual: usualFigures(checks) },
  };
}
