import type { WatchedType } from '../aircraft/index.ts';
import type { Entry } from '../procedure/index.ts';
import { createSession, type Effects, NO_PAST, type StartFigures, traceDigest } from '../session/index.ts';
import { type Trace, TraceBuilder } from '../trace/index.ts';
import { BadRow } from './bad-row.ts';
import type { CsvMapping } from './mapping.ts';
import { beganAt_ms } from './recorded-day.ts';
import { RowReader } from './rows.ts';

/** One file of a tail's past, and as what it is kept. */
export interface RecordedFile {
  /** as the file is named: it may tell the day */
  name: string;
  bytes: Uint8Array;
  mapping: CsvMapping;
  /** of its columns */
  names: readonly string[];
}

export interface KeptAs {
  run: string;
  tail: string;
  pad: string;
  /** who brings it along */
  by: string;
  /** id of an entry of that moment, wall clock in ms */
  newId: (at_ms: number) => string;
}

/** A recording as a run of its own. */
export interface KeptRecording {
  /** wall clock of its first row and of its last */
  openedAt_ms: number;
  closedAt_ms: number;
  entries: readonly Entry[];
  trace: Trace;
  starts: readonly StartFigures[];
}

const FIRST_ROWS = 4096;

/**
 * Watches a recorded file from end to end as if it were live, with nothing known of its tail, and writes down what was
 * found. Nobody was there to hear a call: the journal has no answers and no list.
 * @throws BadRow for a row that cannot be read, and for a file without rows, without a day, or without what tells of a start
 */
export function keepRecording(type: WatchedType, file: RecordedFile, kept: KeptAs): KeptRecording {
  const { trace, first_s } = read(type, file);
  const openedAt_ms = beganAt_ms(file.mapping.time, first_s, file.name);
  if (openedAt_ms === null)
    throw new BadRow(
      0,
      '',
      'neither its times nor its name tell the day; put the day into the name, such as 2026-03-14',
    );
  if (!type.startWatches.some((w) => isRead(trace, w.channels.speed) || isRead(trace, w.starter.channel)))
    throw new BadRow(0, '', 'neither the speed nor the starter of an engine is in it: no start could be looked for');
  const at_ms = (t_s: number): number => openedAt_ms + Math.round(t_s * 1000);
  const session = createSession(type, {
    run: kept.run,
    past: NO_PAST,
    stamp: (t_s) => ({ id: kept.newId(at_ms(t_s)), at_ms: at_ms(t_s) }),
  });
  const entries: Entry[] = [];
  const starts: StartFigures[] = [];
  const take = (effects: Effects): void => {
    entries.push(...effects.journal);
    starts.push(...effects.starts);
  };
  const opened = { tail: kept.tail, type: type.id, typeVersion: type.version, source: 'recording', pad: kept.pad, conditions: file.name } as const; // oxfmt-ignore
  take(session.open(kept.by, opened, null));
  const values = new Float64Array(type.channels.length);
  for (let row = 0; row < trace.t_s.length; row++) {
    for (let i = 0; i < values.length; i++) values[i] = trace.columns[i]![row]!;
    take(session.frame(trace.t_s[row]!, values));
  }
  const end_s = trace.t_s[trace.t_s.length - 1]!;
  const digest = traceDigest(trace, type.channels.map((c) => c.resolution)); // oxfmt-ignore
  take(session.seal(end_s, end_s, trace.t_s.length, digest));
  const closed = session.answer({ by: kept.by, t_s: end_s, payload: { kind: 'closed', outcome: 'recorded' } });
  if (!closed.ok) throw new Error(closed.message);
  take(closed.effects);
  return { openedAt_ms, closedAt_ms: at_ms(end_s), entries, trace, starts: lastOfEach(starts) };
}

/** Rows in the steps of their channels, as they will be stored. */
function read(type: WatchedType, { bytes, mapping, names }: RecordedFile): { trace: Trace; first_s: number } {
  const builder = new TraceBuilder(type.channels.map((c) => c.id), FIRST_ROWS); // oxfmt-ignore
  const steps = type.channels.map((c) => c.resolution);
  const stepped = new Float64Array(steps.length);
  let last_ms = -1;
  const reader = new RowReader(mapping, type.channels, names, (t_s, values) => {
    const t_ms = Math.round(t_s * 1000);
    if (t_ms <= last_ms) return;
    last_ms = t_ms;
    for (let i = 0; i < stepped.length; i++) stepped[i] = Math.round(values[i]! / steps[i]!) * steps[i]!;
    builder.push(t_ms / 1000, stepped);
  });
  reader.push(bytes);
  reader.end();
  const trace = builder.toTrace();
  if (trace.t_s.length === 0) throw new BadRow(mapping.headerRows + 1, '', 'no row of figures was found');
  return { trace, first_s: reader.firstRow_s };
}

/** Whether a channel was read at least once. */
const isRead = (trace: Trace, channel: string): boolean =>
  trace.columns[trace.channels.indexOf(channel)]?.some((v) => !Number.isNaN(v)) ?? false;

/** A stopped start is told twice: when it is stopped, and when its engine stands. The last word counts. */
function lastOfEach(starts: readonly StartFigures[]): StartFigures[] {
  return [...new Map(starts.map((s) => [`${s.watch}/${s.attempt}`, s])).values()];
}
