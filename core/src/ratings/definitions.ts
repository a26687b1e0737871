import { Refused } from '../quantity/index.ts';

/** What a rating is by the regulation's definitions, in own words (docs/calculations.md, rating ledger). */
export interface RatingDefinition {
  /** the longest that one use may last, s; null without a limit */
  period_s: number | null;
  /** uses in one flight; null where the number is not limited */
  max_periods_per_flight: number | null;
  oei: boolean;
  /** a use costs an inspection before the next flight */
  mandatory_inspection: boolean;
}

const DEFINITIONS: Readonly<Record<string, RatingDefinition>> = {
  TAKEOFF_5MIN: { period_s: 300, max_periods_per_flight: null, oei: false, mandatory_inspection: false },
  OEI_30S: { period_s: 30, max_periods_per_flight: 3, oei: true, mandatory_inspection: true },
  OEI_2MIN: { period_s: 120, max_periods_per_flight: 3, oei: true, mandatory_inspection: true },
  OEI_2_5MIN: { period_s: 150, max_periods_per_flight: null, oei: true, mandatory_inspection: false },
  OEI_30MIN: { period_s: 1800, max_periods_per_flight: null, oei: true, mandatory_inspection: false },
  OEI_CONT: { period_s: null, max_periods_per_flight: null, oei: true, mandatory_inspection: false },
};

/** @throws Refused MISSING, UNKNOWN_RATING */
export function ratingDefinition(rating: string): RatingDefinition {
  const found = Object.hasOwn(DEFINITIONS, rating) ? DEFINITIONS[rating] : undefined;
  if (!found) throw new Refused(rating === undefined || rating === null ? 'MISSING' : 'UNKNOWN_RATING', 'rating');
  return found;
}
