export interface LedgerRating {
  id: string;
  /** power above this is in the rating; equality is not */
  lower: number;
  /** longest use, s */
  period_s: number;
  /** uses in one flight, null for any number */
  max_periods: number | null;
  /** a shorter use is a ramp passing through, and costs none */
  min_charge_s: number;
  /** any use costs an inspection */
  maintenance: boolean;
}

export interface LedgerConfig {
  /** from the lowest to the highest */
  ratings: readonly LedgerRating[];
  absolute_max: number;
  hysteresis: number;
  /** two uses nearer than this are one, and what lies between is booked */
  rearm_s: number;
  /** samples further apart than this are a gap */
  max_gap_s: number;
  /** time in a higher rating counts in the lower ones too */
  higher_counts_in_lower: boolean;
}

export type LedgerEventType =
  | 'GAP_ESTIMATED'
  | 'GAP_BLIND'
  | 'PERIOD_END'
  | 'PERIOD_START'
  | 'NO_PERIODS_LEFT'
  | 'PERIOD_EXPIRED'
  | 'OVER_MAXIMUM';

export type LedgerListener = (type: LedgerEventType, t_s: number, rating: string | null) => void;

/** One use of a rating. Times are of the record, not rounded. */
export interface Period {
  start: number;
  end: number;
  open: boolean;
  started_before_record: boolean;
  booked_s: number;
  measured_s: number;
  estimated_s: number;
  /** how many re-entries it swallowed */
  merged: number;
  /** how many uses it costs */
  charged: number;
  expired_at: number | null;
}

export interface OverMaximum {
  start: number;
  end: number;
  open: boolean;
  duration_s: number;
  peak: number;
  peak_t: number;
  area: number;
}

/** What a record of power has used of its ratings, and what is left. */
export interface RatingBalance {
  id: string;
  periods: Period[];
  total_booked_s: number;
  periods_charged: number;
  /** null where any number is permitted */
  periods_remaining: number | null;
  remaining_s: number;
  maintenance_required: boolean;
}
