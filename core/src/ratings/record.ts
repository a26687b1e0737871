import { needNumber, Refused, roundStep } from '../quantity/index.ts';
import { RatingLedger } from './ledger.ts';
import type { LedgerConfig, LedgerEventType, OverMaximum, RatingBalance } from './model.ts';

export interface LedgerReport {
  ratings: (RatingBalance & { display: { total_booked_s: number; remaining_s: number } })[];
  over: OverMaximum[];
  events: { t: number; type: LedgerEventType; rating: string | null }[];
  blind_gap_s: number;
  invalid_samples: number;
  maintenance_required: boolean;
}

const ORDER: readonly LedgerEventType[] = [
  'GAP_ESTIMATED',
  'GAP_BLIND',
  'PERIOD_END',
  'PERIOD_START',
  'NO_PERIODS_LEFT',
  'PERIOD_EXPIRED',
  'OVER_MAXIMUM',
];

/** To the millisecond, halves up. */
const ms = (t_s: number): number => Math.floor(t_s * 1000 + 0.5) / 1000;

/**
 * The ledger over a whole record (calculator `rating_ledger`).
 * @param samples [time s, power]; null is an invalid sample
 * @throws Refused BAD_CONFIG, BAD_SERIES, INSUFFICIENT_DATA
 */
export function ratingLedger(
  config: LedgerConfig,
  samples: readonly (readonly [number, number | null])[],
): LedgerReport {
  const events: LedgerReport['events'] = [];
  const ledger = new RatingLedger(config, (type, t, rating) => events.push({ t, type, rating }));
  const { rows, invalid } = validRows(samples);
  ledger.start(...rows[0]!);
  for (let i = 1; i < rows.length; i++) {
    const [t, v] = rows[i]!;
    if (t - rows[i - 1]![0] > config.max_gap_s + 1e-9) ledger.gap(t, v);
    else ledger.line(t, v);
  }
  ledger.close();
  const place = (id: string | null): number => config.ratings.findIndex((r) => r.id === id);
  return {
    ratings: ledger.balances().map((balance) => ({
      ...balance,
      periods: balance.periods.map((p) => ({
        ...p,
        start: ms(p.start),
        end: ms(p.end),
        expired_at: p.expired_at === null ? null : ms(p.expired_at),
      })),
      display: {
        total_booked_s: roundStep(balance.total_booked_s, 0.1, 'ceil'),
        remaining_s: roundStep(balance.remaining_s, 0.1, 'floor'),
      },
    })),
    over: ledger.overMaximum().map((o) => ({ ...o, start: ms(o.start), end: ms(o.end), peak_t: ms(o.peak_t) })),
    events: events
      .map((e) => ({ ...e, t: ms(e.t) }))
      .toSorted(
        (x, y) => x.t - y.t || ORDER.indexOf(x.type) - ORDER.indexOf(y.type) || place(x.rating) - place(y.rating),
      ),
    blind_gap_s: ledger.blindGap_s,
    invalid_samples: invalid,
    maintenance_required: ledger.maintenanceRequired,
  };
}

/** Valid rows, of equal times the higher value. */
function validRows(samples: readonly (readonly [number, number | null])[]): {
  rows: [number, number][];
  invalid: number;
} {
  if (!Array.isArray(samples)) throw new Refused('MISSING', 'samples');
  const rows: [number, number][] = [];
  let invalid = 0;
  for (const row of samples as readonly (readonly [number, number | null])[]) {
    if (!Array.isArray(row)) throw new Refused('BAD_SERIES', 'samples');
    if (row[1] === null) {
      invalid++;
      continue;
    }
    const t = needNumber(row[0], 'samples');
    const v = needNumber(row[1], 'samples');
    const last = rows[rows.length - 1];
    if (last && t < last[0]) throw new Refused('BAD_SERIES', 'samples');
    if (last && t === last[0]) last[1] = Math.max(last[1], v);
    else rows.push([t, v]);
  }
  if (rows.length < 2) throw new Refused('INSUFFICIENT_DATA', 'samples');
  return { rows, invalid };
}
