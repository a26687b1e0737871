import { BandMonitor, type BandTable, type Excursion } from './band-monitor.ts';

export type MonitorEventType = 'GAP_START' | 'EXIT' | 'GAP_END' | 'PHASE' | 'ENTER' | 'EXPIRED';
export interface MonitorEvent {
  t: number;
  type: MonitorEventType;
  band: string | null;
}
interface MonitorRecord {
  phase: string;
  band: string;
  start: number;
  end: number;
  open: boolean;
  closed_by_phase: boolean;
  duration_s: number;
  peak: number;
  peak_t: number;
  area: number;
  estimated_s: number;
  expired_at: number | null;
}
export interface MonitorResult {
  events: MonitorEvent[];
  records: MonitorRecord[];
  budgets: Record<string, { used_s: number | null; remaining_s: number }>;
  worst: 'NONE' | 'IN_BAND' | 'EXPIRED';
}
export type MonitorError = { error: 'MISSING' | 'BAD_TABLE' | 'BAD_SERIES' | 'INSUFFICIENT_DATA'; field: string };

const EVENT_ORDER: MonitorEventType[] = ['GAP_START', 'EXIT', 'GAP_END', 'PHASE', 'ENTER', 'EXPIRED'];

/** To the millisecond, halves up. */
const ms = (t_s: number): number => Math.floor(t_s * 1000 + 0.5) / 1000;

/** Collects what band monitors report over a record and writes it up in the order and rounding of the calculators. */
export class RecordBook {
  private readonly events: (MonitorEvent & { severity: number })[] = [];
  private readonly excursions: { phase: string; severity: number; excursion: Excursion }[] = [];
  private readonly monitors = new Map<string, BandMonitor>();

  /** A monitor of this table whose events are booked under `phase`. */
  open(phase: string, table: BandTable): BandMonitor {
    const monitor = new BandMonitor(table, (type, band, t_s, excursion) => {
      const severity = table.bands.findIndex((b) => b.id === band.id);
      this.events.push({ t: t_s, type, band: band.id, severity: type === 'EXIT' ? -severity : severity });
      if (type === 'ENTER') this.excursions.push({ phase, severity, excursion });
    });
    this.monitors.set(phase, monitor);
    return monitor;
  }

  monitor(phase: string | null | undefined): BandMonitor | null {
    return phase ? (this.monitors.get(phase) ?? null) : null;
  }

  /** Books an event of the record itself. @returns the entry, so that a gap can be named when it is over */
  note(t_s: number, type: MonitorEventType, band: string | null): MonitorEvent {
    const event = { t: t_s, type, band, severity: 0 };
    this.events.push(event);
    return event;
  }

  result(): MonitorResult {
    const events = this.events
      .map((e) => ({ ...e, t: ms(e.t) }))
      .sort((x, y) => x.t - y.t || EVENT_ORDER.indexOf(x.type) - EVENT_ORDER.indexOf(y.type) || x.severity - y.severity)
      .map(({ t, type, band }) => ({ t, type, band }));
    const records = this.excursions
      .sort((x, y) => x.excursion.start_s - y.excursion.start_s || x.severity - y.severity)
      .map(({ phase, excursion }) => ({
        phase,
        band: excursion.band,
        start: ms(excursion.start_s),
        end: ms(excursion.end_s),
        open: excursion.open,
        closed_by_phase: excursion.closedByPhase,
        duration_s: excursion.duration_s,
        peak: excursion.peak,
        peak_t: ms(excursion.peakAt_s),
        area: excursion.area,
        estimated_s: excursion.estimated_s,
        expired_at: excursion.expiredAt_s === null ? null : ms(excursion.expiredAt_s),
      }));
    const budgets: MonitorResult['budgets'] = {};
    for (const [name, monitor] of this.monitors) {
      for (const band of monitor.table.bands) budgets[`${name}/${band.id}`] = monitor.usage(band.id);
    }
    const expired = records.some((r) => r.expired_at !== null);
    return { events, records, budgets, worst: expired ? 'EXPIRED' : records.length ? 'IN_BAND' : 'NONE' };
  }
}

export function tableAscends(table: BandTable): boolean {
  if (table.direction !== 'high' && table.direction !== 'low') return false;
  if (table.bands.length === 0) return false;
  const sign = table.direction === 'high' ? 1 : -1;
  return table.bands.every((b, i) => {
    const milder = table.bands[i - 1];
    return b.allow_s >= 0 && (!milder || sign * b.limit > sign * milder.limit);
  });
}

/** A series with nulls dropped; equal times stay beside each other for the caller to choose from. */
export function cleanSeries(rows: [number, number | null][]): [number, number][] | MonitorError {
  const out: [number, number][] = [];
  for (const row of rows) {
    if (!Array.isArray(row) || typeof row[0] !== 'number') return { error: 'BAD_SERIES', field: 'samples' };
    const [t, v] = row;
    if (v === null) continue;
    const last = out[out.length - 1];
    if (last && t < last[0]) return { error: 'BAD_SERIES', field: 'samples' };
    out.push([t, v]);
  }
  return new Set(out.map((s) => s[0])).size < 2 ? { error: 'INSUFFICIENT_DATA', field: 'samples' } : out;
}
