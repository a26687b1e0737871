import { isWatched, type TypeFile } from '@rouse/core/aircraft';
import { learnHoverOffset, learnLoads, type PastCheck } from '@rouse/core/health';
import { chartLimitsOf, type Entry, reduceRun, Runner, type RunState } from '@rouse/core/procedure';
import { RatingBooks, type RatingEvent } from '@rouse/core/ratings';
import { type Corridors, learnCorridor, Watch, type WatchEvent } from '@rouse/core/watch';
import type pg from 'pg';
import type { Logger } from 'pino';
import { listGoodChecks, PAST_CHECKS } from '../db/checks.ts';
import { listGoodStarts } from '../db/features.ts';
import type { Tx } from '../db/pool.ts';
import type { RunRow } from '../db/runs.ts';
import { type Clock, Journal } from './journal.ts';
import type { Pages } from './pages.ts';
import { TraceStore } from './trace-store.ts';

export const CORRIDOR_STARTS = 40;

export interface LiveDeps {
  pool: pg.Pool;
  operatorId: string;
  clock: Clock;
  log: Logger;
  pages: Pages;
}

/** A run that goes on, with everything that watches it and keeps it. */
export interface OpenRun {
  row: RunRow;
  journal: Journal;
  /** null for a type that is timed by hand */
  watch: Watch | null;
  runner: Runner;
  ratings: RatingBooks;
  store: TraceStore;
}

/** What the past of a tail says to a new run. */
export interface Past {
  corridors: Corridors;
  checks: readonly PastCheck[];
}

/** What is told while a run is watched. */
export interface Listeners {
  watched: (event: WatchEvent) => void;
  rated: (event: RatingEvent) => void;
  closed: () => void;
}

/** Puts together what watches and keeps this run; an earlier journal is taken up where it ended. */
export function assembleRun(
  { pool, operatorId, clock, log, pages }: LiveDeps,
  type: TypeFile,
  row: RunRow,
  entries: readonly Entry[],
  past: Past,
  listeners: Listeners,
): OpenRun {
  return {
    row,
    journal: new Journal(pool, operatorId, row, type, entries, clock, (added) => {
      pages.send(row.runId, { kind: 'entries', entries: [...added] });
      if (added.some((e) => e.kind === 'closed')) listeners.closed();
    }),
    watch:
      isWatched(type) && row.source !== 'by-hand' ? new Watch(type, past.corridors, (e) => listeners.watched(e)) : null,
    runner: new Runner(type, {
      loads: learnLoads(type, past.checks),
      hoverOffset_pct: learnHoverOffset(past.checks),
    }),
    ratings: ratingBooksOf(type, reduceRun(entries), listeners),
    store: new TraceStore(pool, operatorId, row, type.channels, (error) =>
      log.error(error, 'frames not stored; kept and tried again'),
    ),
  };
}

/** The ledgers of a run; that of a piston takes its limits from the chart of the day, once there is a brief. */
export function ratingBooksOf(type: TypeFile, state: RunState, { rated }: Pick<Listeners, 'rated'>): RatingBooks {
  return new RatingBooks(type, chartLimitsOf(type, state), rated);
}

/** What this tail did before a moment: the corridors of its starts, and its good checks. */
export async function pastOf(tx: Tx, aircraftId: string, type: TypeFile, before: Date): Promise<Past> {
  const corridors: Record<string, ReturnType<typeof learnCorridor>> = {};
  for (const { id, kind } of type.startWatches) {
    if (kind !== 'turbine') continue;
    const starts = await listGoodStarts(tx, aircraftId, id, before, CORRIDOR_STARTS);
    corridors[id] = learnCorridor(starts.map((s) => s.learned));
  }
  return { corridors, checks: await listGoodChecks(tx, aircraftId, before, PAST_CHECKS) };
}
