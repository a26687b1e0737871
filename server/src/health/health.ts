import { monitorEventLoopDelay } from 'node:perf_hooks';
import type pg from 'pg';
import { Gauge, Histogram, Registry } from 'prom-client';
import type { Leases } from '../leases/leases.ts';
import type { Fleets } from '../live/fleets.ts';
import type { Outbox } from '../outbox/outbox.ts';

/** What is looked at from outside. */
export interface Watched {
  pool: pg.Pool;
  outbox: Outbox;
  fleets: Fleets;
  leases: Leases;
  /** how long the database has been away, s */
  away_s: () => number;
}

/** a database that answers later than this is not there, ms */
const ANSWERS_WITHIN_MS = 2000;
const RESOLUTION_MS = 5;

const ARCHIVE = `
  SELECT extract(epoch FROM now() - coalesce(last_archived_time, stats_reset))::float8 AS failing_s
  FROM pg_stat_archiver WHERE last_failed_time > coalesce(last_archived_time, '-infinity')`;

/** How this server does, for whoever runs it: whether it can serve, and its figures as Prometheus reads them. No personal data. */
export class Health {
  private readonly watched: Watched;
  private readonly registry = new Registry();
  private readonly loop = monitorEventLoopDelay({ resolution: RESOLUTION_MS });
  private readonly cues: Histogram;

  constructor(watched: Watched) {
    this.watched = watched;
    this.loop.enable();
    this.cues = new Histogram({
      name: 'rouse_cue_seconds',
      help: 'From a line of a unit to what is said of it on the sockets of the pages',
      buckets: [0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.25, 1],
      registers: [this.registry],
    });
    this.gauge('rouse_runs_open', 'Runs that go on', () => watched.fleets.openRuns);
    this.gauge('rouse_fleets_held', 'Operators whose aircraft are watched by this server', () => watched.leases.held);
    this.gauge('rouse_outbox_waiting', 'Entries on the disk that the database does not have yet', () => watched.outbox.waiting); // oxfmt-ignore
    this.gauge('rouse_database_away_seconds', 'How long the database has been away', () => watched.away_s());
    this.gauge('rouse_memory_bytes', 'Memory that the system has given', () => process.memoryUsage.rss());
    this.poolGauge();
    this.archiveGauge();
    this.loopGauge();
    this.lineGauges();
  }

  /** Something of a line was told to the pages. */
  told(after_s: number): void {
    this.cues.observe(after_s);
  }

  /** Why this server cannot serve now; empty where it can. */
  async troubles(): Promise<string[]> {
    const { pool, outbox } = this.watched;
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<string>((resolve) => {
      timer = setTimeout(
        () => resolve(`the database does not answer within ${ANSWERS_WITHIN_MS} ms`),
        ANSWERS_WITHIN_MS,
      );
    });
    const asked = pool.query('SELECT 1').then(
      () => null,
      () => 'the database is away; an open run goes on and is kept on this machine',
    );
    const database = await Promise.race([asked, late]);
    clearTimeout(timer);
    const disk = outbox.diskTrouble === null ? null : `the disk takes nothing: ${outbox.diskTrouble}`;
    return [database, disk].filter((trouble) => trouble !== null);
  }

  /** All figures, as Prometheus text. */
  metrics(): Promise<string> {
    return this.registry.metrics();
  }

  get contentType(): string {
    return this.registry.contentType;
  }

  close(): void {
    this.loop.disable();
  }

  private gauge(name: string, help: string, read: () => number): void {
    new Gauge({ name, help, registers: [this.registry], collect() { this.set(read()); } }); // oxfmt-ignore
  }

  private poolGauge(): void {
    const { pool } = this.watched;
    new Gauge({
      name: 'rouse_database_connections',
      help: 'Connections to the database, and requests that wait for one',
      labelNames: ['state'],
      registers: [this.registry],
      collect() {
        this.set({ state: 'idle' }, pool.idleCount);
        this.set({ state: 'busy' }, pool.totalCount - pool.idleCount);
        this.set({ state: 'waited_for' }, pool.waitingCount);
      },
    });
  }

  /** A backup is only as young as what the archive has taken. */
  private archiveGauge(): void {
    const { pool } = this.watched;
    new Gauge({
      name: 'rouse_archive_failing_seconds',
      help: 'Since when the archive of the database has not taken what it was given; 0 while it does',
      registers: [this.registry],
      async collect() {
        const { rows } = await pool
          .query<{ failing_s: number }>(ARCHIVE)
          .catch(() => ({ rows: [{ failing_s: Number.NaN }] }));
        this.set(rows[0]?.failing_s ?? 0);
      },
    });
  }

  /** Delay of the event loop since it was asked last. */
  private loopGauge(): void {
    const { loop } = this;
    new Gauge({
      name: 'rouse_event_loop_delay_seconds',
      help: 'How late the event loop came, since this was asked last',
      labelNames: ['quantile'],
      registers: [this.registry],
      collect() {
        for (const quantile of [0.5, 0.99, 1]) {
          const late_ms = loop.count === 0 ? NaN : loop.percentile(100 * quantile) / 1e6 - RESOLUTION_MS;
          this.set({ quantile: String(quantile) }, Math.max(0, late_ms) / 1000);
        }
        loop.reset();
      },
    });
  }

  private lineGauges(): void {
    const { fleets } = this.watched;
    const ofLines = (
      name: string,
      help: string,
      read: (line: { frameAge_s: number; badShare: number }) => number,
    ): void => {
      new Gauge({
        name,
        help,
        labelNames: ['tail'],
        registers: [this.registry],
        collect() {
          this.reset();
          for (const aircraft of fleets.aircraft()) {
            const line = aircraft.heardLine;
            if (line) this.set({ tail: aircraft.aircraft.tail }, read(line));
          }
        },
      });
    };
    ofLines('rouse_frame_age_seconds', 'Since the last frame of a line that was heard', (line) => line.frameAge_s);
    ofLines('rouse_line_bad_share', 'Share of unreadable lines in the last ten seconds', (line) => line.badShare);
  }
}
