import type { TypeFile } from '../aircraft/index.ts';
import { chartLimit } from '../chart/index.ts';
import { attempt, isRefusal } from '../quantity/index.ts';
import type { RatingEvent } from '../ratings/index.ts';
import { chartAir } from './chart-air.ts';
import type { Entry, ExceedanceEntry, Payload } from './entries.ts';
import type { RunState } from './state.ts';

export type RatingEntry = Extract<Entry, { kind: 'rating' }>;

/** What holds the next start until an engineer has looked: a limit passed, or a rating used that costs an inspection. */
export type HeldEntry = ExceedanceEntry | RatingEntry;

/** What a rating ledger reports, as entries of the journal: the record, and for one-engine power a word to the pilot. */
export function entriesOfRating({ ledger, engine, rating, label, event }: RatingEvent): Payload[] {
  const kept: Payload = { kind: 'rating', ledger, engine, rating, label, event };
  if (ledger !== 'one-engine') return event === 'GAP_BLIND' ? [] : [kept];
  const cue = (severity: 'caution' | 'warning', text: string): Payload[] => [
    kept,
    { kind: 'cue', code: `rating-${event.toLowerCase()}`, severity, text, say: `${text}.` },
  ];
  switch (event) {
    case 'PERIOD_START':
      return cue('caution', `${label}, engine ${engine}`);
    case 'PERIOD_EXPIRED':
      return cue('warning', `${label} used up, engine ${engine}`);
    case 'NO_PERIODS_LEFT':
      return cue('warning', `${label}: no use was left, engine ${engine}`);
    case 'OVER_MAXIMUM':
      return cue('warning', `Engine ${engine} above its maximum`);
    // one-engine power is rare: a hole in which none was in use is nothing to write
    case 'GAP_BLIND':
      return [];
    default:
      return [kept];
  }
}

/** Whether this use of a rating costs an inspection before the next flight. */
function costsInspection(type: TypeFile, entry: RatingEntry): boolean {
  if (entry.ledger !== 'one-engine') return false;
  if (entry.event === 'OVER_MAXIMUM') return true;
  const spec = type.ratings?.ledgers.find((l) => l.id === entry.ledger);
  return entry.event === 'PERIOD_START' && spec?.ratings.find((r) => r.id === entry.rating)?.maintenance === true;
}

/** Whether an entry holds the next start until an engineer has released it: a limit passed beyond its allowance, or a use that costs an inspection. */
export function isHeld(type: TypeFile, entry: Entry): entry is HeldEntry {
  if (entry.kind === 'exceedance') return entry.expired && entry.severity === 'warning';
  return entry.kind === 'rating' && costsInspection(type, entry);
}

/** Continuous and take-off limit of the chart in the air of the brief; null while it does not know the air. */
export function chartLimitsOf(type: TypeFile, state: RunState): [number, number] | null {
  const { brief } = state;
  if (brief?.pa_ft == null || brief.oat_C === null) return null;
  const air = chartAir(type, { pa_ft: brief.pa_ft, oat_C: brief.oat_C });
  const { chart } = type.performance;
  const tables = { TOP: chart.TOP, MCP: chart.MCP };
  const found = attempt((): [number, number] => [
    chartLimit({ rating: 'MCP', ...air, tables }).limit,
    chartLimit({ rating: 'TOP', ...air, tables }).limit,
  ]);
  return isRefusal(found) ? null : (found as [number, number]);
}
