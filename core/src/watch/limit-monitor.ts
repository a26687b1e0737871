import type { BandMonitor, BandTable } from './band-monitor.ts';
import { numberOr } from '../quantity/index.ts';
import { cleanSeries, type MonitorError, type MonitorResult, RecordBook, tableAscends } from './record-book.ts';

/** readings further apart than this are a gap */
export const MAX_GAP_S = 2;

export interface MonitorInput {
  table?: BandTable;
  tables?: Record<string, BandTable>;
  /** [time, table name or null for not monitored], ascending */
  phases?: [number, string | null][];
  samples: [number, number | null][];
  max_gap_s?: number;
}

/**
 * The limit monitor over a whole record (calculator `limit_monitor`, docs/physics.md): the same band rules as the live
 * watch, with gaps held at their worse end and one table per phase.
 */
export function limitMonitor(input: MonitorInput): MonitorResult | MonitorError {
  if (!input.table && !input.tables) return { error: 'MISSING', field: 'table' };
  if (!input.table && !input.phases?.length) return { error: 'MISSING', field: 'phases' };
  const tables = input.table ? { '-': input.table } : (input.tables ?? {});
  for (const table of Object.values(tables)) if (!tableAscends(table)) return { error: 'BAD_TABLE', field: 'table' };
  const phases: [number, string | null][] = input.table ? [[-Infinity, '-']] : (input.phases ?? []);
  for (const [, name] of phases) if (name !== null && !(name in tables)) return { error: 'BAD_TABLE', field: 'phases' };
  const maxGap_s = numberOr(input.max_gap_s, MAX_GAP_S, 'max_gap_s', Number.MIN_VALUE);
  const samples = cleanSeries(input.samples);
  if ('error' in samples) return samples;
  return new Run(tables, phases, maxGap_s).over(samples);
}

/** One pass over a record: switches tables at phase changes and fills gaps. */
class Run {
  private readonly book = new RecordBook();
  private readonly phases: [number, string | null][];
  private readonly maxGap_s: number;
  private nextPhase = 0;
  private monitor: BandMonitor | null = null;

  constructor(tables: Record<string, BandTable>, phases: [number, string | null][], maxGap_s: number) {
    this.phases = phases;
    this.maxGap_s = maxGap_s;
    for (const [name, table] of Object.entries(tables)) this.book.open(name, table);
  }

  over(rows: [number, number][]): MonitorResult {
    const samples = this.mergeEqualTimes(rows);
    const [first] = samples;
    this.changePhases(first![0], first![1], false);
    let held = false;
    for (let i = 1; i < samples.length; i++) {
      const [t0, a] = samples[i - 1]!;
      const [t1, b] = samples[i]!;
      if (t1 - t0 > this.maxGap_s + 1e-9) {
        this.gap(t0, a, t1, b);
        held = true;
      } else {
        if (held) this.monitor?.jump(a);
        held = false;
        this.segment(t0, a, t1, b);
      }
    }
    if (held) this.monitor?.jump(samples[samples.length - 1]![1]);
    return this.book.result();
  }

  /** Two values at one time: the worse for the table that is in force. */
  private mergeEqualTimes(rows: [number, number][]): [number, number][] {
    const out: [number, number][] = [];
    for (const [t, v] of rows) {
      const last = out[out.length - 1];
      if (last && last[0] === t) last[1] = this.worse(t, last[1], v);
      else out.push([t, v]);
    }
    return out;
  }

  private worse(t_s: number, a: number, b: number): number {
    const name = this.phases.filter(([from]) => from <= t_s).at(-1)?.[1];
    const monitor = this.book.monitor(name);
    return monitor ? monitor.worse(a, b) : Math.max(a, b);
  }

  /** Enters every phase that begins at or before `t_s`, where the reading is `value`. */
  private changePhases(t_s: number, value: number, announce: boolean): void {
    while (this.nextPhase < this.phases.length && this.phases[this.nextPhase]![0] <= t_s) {
      const [, name] = this.phases[this.nextPhase++]!;
      this.monitor?.close(t_s);
      this.monitor = this.book.monitor(name);
      if (announce && name !== null) this.book.note(t_s, 'PHASE', name);
      this.monitor?.start(t_s, value);
    }
  }

  private segment(t0: number, a: number, t1: number, b: number): void {
    for (;;) {
      const change = this.phases[this.nextPhase];
      if (!change || change[0] > t1) break;
      const at = Math.max(change[0], t0);
      const value = a + ((b - a) * (at - t0)) / (t1 - t0);
      this.monitor?.line(at, value);
      this.changePhases(at, value, true);
    }
    this.monitor?.line(t1, b);
  }

  private gap(t0: number, a: number, t1: number, b: number): void {
    const level = this.monitor ? this.monitor.worse(a, b) : Math.max(a, b);
    this.monitor?.jump(level);
    const start = this.book.note(t0, 'GAP_START', 'BLIND');
    let active = this.monitor?.active ?? false;
    for (;;) {
      const change = this.phases[this.nextPhase];
      if (!change || change[0] > t1) break;
      this.monitor?.hold(change[0]);
      this.changePhases(change[0], level, true);
      active ||= this.monitor?.active ?? false;
    }
    this.monitor?.hold(t1);
    if (active) start.band = 'ESTIMATED';
    this.book.note(t1, 'GAP_END', null);
  }
}
